import { mkdirSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { check } from './accessibility';
import { expect, icon, pieceRow, pieceRows, test } from './app';

const root = mkdtempSync(join(tmpdir(), 'tolvik-in-step-'));
const [drawings, build] = [join(root, 'drawings'), join(root, 'build')];
for (const folder of [drawings, join(drawings, 'icons'), build]) mkdirSync(folder, { recursive: true });
test.use({ folders: build, sources: drawings });
test.afterAll(() => rmSync(root, { recursive: true, force: true }));

const draw = (name: string, inner: string) => writeFileSync(join(drawings, 'icons', `${name}.svg`), icon(inner));
const written = (path: string) => readFileSync(join(build, 'app', path), 'utf8');

test('saving in a drawing program is an export: the drawing comes in by itself, one undo takes it back, and the build has exactly what changed', async ({
  page,
  openProject,
}) => {
  draw('anchor', '<path d="M2 2h9v9z"/>');
  draw('boat', '<path d="M2 2h8v8z"/>');
  await openProject('In step');
  await page.keyboard.press('Alt+3');
  // By keyboard: a folder that feeds the project, refused first.
  const source = page.getByRole('region', { name: 'Linked source' });
  await source.getByRole('button', { name: 'Link…' }).press('Enter');
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox', { name: 'Within it' }).fill('nowhere');
  await page.keyboard.press('Enter');
  await expect(dialog.getByRole('alert')).toContainText('is not there');
  await dialog.getByRole('textbox', { name: 'Within it' }).fill('icons');
  await page.keyboard.press('Enter');
  await expect(source.getByRole('button', { name: /icons/ })).toContainText('2 drawings, read');
  await check(page);

  // A receiver that follows.
  const receivers = page.getByRole('region', { name: 'Receivers' });
  await receivers.getByRole('button', { name: 'New…' }).press('Enter');
  await dialog.getByRole('textbox', { name: 'Name' }).fill('App build');
  await dialog.getByRole('textbox', { name: 'Within it' }).fill('app');
  await page.keyboard.press('Enter');
  const row = receivers.getByRole('button', { name: /App build/ });
  await row.press('Enter');
  await dialog.getByRole('checkbox', { name: 'Follow the project' }).press('Space');
  await check(page);
  await page.keyboard.press('Escape');
  await expect(row).toContainText('follows the project: in step since');
  await expect(page.getByRole('link', { name: /^Deliveries/ })).toContainText('in step');
  await expect(page.getByRole('link', { name: /No. 1/ })).toContainText('made by edits');

  const before = statSync(join(build, 'app', 'anchor.png')).mtimeMs;
  draw('boat', '<path d="M2 2h12v12z"/>');
  await expect.poll(() => written('boat.svg')).toContain('M2 2h12v12z');
  expect(statSync(join(build, 'app', 'anchor.png')).mtimeMs).toBe(before);
  draw('crane', '<path d="M3 3h6v6z"/>');
  await page.keyboard.press('Alt+1');
  await expect(pieceRows(page)).toHaveCount(3);
  await expect(pieceRow(page, 'crane')).toBeVisible();

  // One undo takes back what came by itself, and the build follows.
  await page.getByLabel(/^Plane with/).focus();
  await page.keyboard.press('Control+z');
  await expect(pieceRows(page)).toHaveCount(2);
  await page.keyboard.press('Control+z');
  await expect.poll(() => written('boat.svg')).toContain('M2 2h8v8z');
});

test('a drawing that cannot be read is told where one works, and the artwork stays', async ({ page, openProject }) => {
  draw('anchor', '<path d="M2 2h9v9z"/>');
  await openProject('Trouble');
  await page.keyboard.press('Alt+3');
  const source = page.getByRole('region', { name: 'Linked source' });
  await source.getByRole('button', { name: 'Link…' }).click();
  await page.getByRole('textbox', { name: 'Within it' }).fill('icons');
  await page.getByRole('button', { name: 'Link this folder' }).click();
  const row = source.getByRole('button', { name: /icons/ });
  await expect(row).toContainText(/\d drawings?, read/);
  writeFileSync(join(drawings, 'icons', 'anchor.svg'), '<svg xmlns="http://www.w3.org/2000/svg"><path d="M2');
  await expect(row).toContainText('1 could not be read');
  // Another folder feeds the project beside it.
  mkdirSync(join(drawings, 'logos'), { recursive: true });
  writeFileSync(join(drawings, 'logos', 'mark.svg'), icon('<path d="M2 2h4v4z"/>'));
  await source.getByRole('button', { name: 'Link…' }).click();
  await page.getByRole('textbox', { name: 'Within it' }).fill('icons');
  await page.getByRole('button', { name: 'Link this folder' }).click();
  await expect(page.getByRole('alert')).toContainText('feeds this project already');
  await page.getByRole('textbox', { name: 'Within it' }).fill('logos');
  await page.getByRole('button', { name: 'Link this folder' }).click();
  const other = source.getByRole('button', { name: /logos/ });
  await expect(other).toContainText('1 drawing, read');
  await row.click();
  await expect(page.getByRole('dialog')).toContainText('anchor.svg: ');
  await check(page);
  await page.getByRole('button', { name: 'Unlink the folder' }).click();
  await expect(row).toHaveCount(0);
  await expect(other).toBeVisible();
  await page.keyboard.press('Alt+1');
  await expect(pieceRow(page, 'anchor')).toBeVisible();
  await expect(pieceRow(page, 'mark')).toBeVisible();
});

test('a receiver gets the files that are meant for it, a contact sheet among them, and an earlier delivery again', async ({
  page,
  openProject,
}) => {
  await openProject('Meant', {
    'anchor.svg': icon('<path d="M2 2h9v9z"/>'),
    'boat.svg': icon('<path d="M2 2h8v8z"/>'),
  });
  await page.keyboard.press('Alt+2');
  await page.getByText('Every picture here').click();
  await page.keyboard.press('o');
  await page.getByRole('textbox', { name: 'Which files?' }).fill('svg, sheet');
  await page.getByRole('button', { name: /^Only these/ }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('gridcell', { name: 'page 1 of Meant-sheet.pdf' })).toHaveCount(2);
  await page.getByRole('button', { name: 'Change output PDF sheet' }).click();
  await page.getByRole('combobox', { name: 'Paper' }).selectOption('Letter, across');
  await expect(page.getByRole('combobox', { name: 'Kind of size' })).toHaveCount(0);
  await check(page);
  await page.keyboard.press('Escape');

  await page.keyboard.press('Alt+3');
  const receivers = page.getByRole('region', { name: 'Receivers' });
  await receivers.getByRole('button', { name: 'New…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox', { name: 'Name' }).fill('Press');
  await dialog.getByRole('textbox', { name: 'Within it' }).fill('press');
  await page.keyboard.press('Enter');
  const row = receivers.getByRole('button', { name: /Press/ });
  await row.click();
  await dialog.getByRole('textbox', { name: 'Pieces it gets' }).fill('ancho');
  await page.keyboard.press('Enter');
  await expect(dialog).toContainText('Only 1 piece: anchor');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+Enter');
  await expect(row).toContainText('in step since');
  const at = (path: string) => join(build, 'press', path);
  // The sheet is of all pieces, so it stands with the first of them.
  const receipt = JSON.parse(readFileSync(at('delivery.json'), 'utf8')) as { files: { path: string }[] };
  expect(receipt.files.map(({ path }) => path)).toEqual(['Meant-sheet.pdf', 'anchor.svg']);
  expect(readFileSync(at('Meant-sheet.pdf')).subarray(0, 5).toString()).toBe('%PDF-');

  const first = readFileSync(at('anchor.svg'), 'utf8');
  await page.keyboard.press('Alt+1');
  await pieceRow(page, 'anchor').dblclick();
  await page.getByRole('textbox', { name: 'Name of anchor' }).fill('hook');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+Enter');
  await expect(row).toContainText('1 file left over');
  await page.getByRole('link', { name: /No. 1/ }).click();
  await page.getByRole('button', { name: 'Hand over again' }).click();
  await expect(row).toContainText('has No. 1; No. 2 is newer');
  expect(readFileSync(at('anchor.svg'), 'utf8')).toBe(first);
});

test('names given in a drawing say what is exported: groups become pieces by rule, and again when the drawing changes', async ({
  page,
  openProject,
}) => {
  const group = (name: string, inner: string) => `<g id="${name}" fill="#0c6a53">${inner}</g>`;
  const ANCHOR = group('icon-anchor', '<rect width="6" height="6"/>');
  const BOAT = group('icon-boat', '<rect x="8" width="6" height="6"/>');
  const CRANE = group('icon-crane', '<circle cx="6" cy="18" r="4"/>');
  const NOTES = group('notes', '<rect x="16" width="6" height="6"/>');
  mkdirSync(join(drawings, 'sheets'));
  const save = (...groups: string[]) => writeFileSync(join(drawings, 'sheets', 'sheet.svg'), icon(groups.join('')));
  save(ANCHOR, BOAT, NOTES);
  const id = await openProject('By rule', { 'sheet.svg': icon([ANCHOR, BOAT, NOTES].join('')) });
  const command = async () => {
    await page.getByLabel(/^Plane with/).focus();
    await page.keyboard.press('Control+k');
    await page.keyboard.type('pieces by rule');
    await page.keyboard.press('Enter');
  };
  await command();
  const dialog = page.getByRole('dialog', { name: 'Pieces by rule' });
  const rule = dialog.getByRole('listitem', { name: 'Rule 1' });
  await expect(rule).toContainText('3 layers now');
  await rule.getByRole('combobox', { name: 'What it means' }).selectOption('Groups and layers named like');
  await rule.getByRole('textbox', { name: 'Names like' }).fill('icon-*');
  await expect(dialog).toContainText('2 pieces are made or changed');
  await rule.getByRole('combobox', { name: 'What becomes of each' }).selectOption('becomes an artboard around it');
  await rule.getByLabel('Margin in px').fill('1');
  await dialog.getByRole('button', { name: 'Another rule' }).press('Enter');
  await expect(dialog).toContainText('3 pieces are made or changed');
  await check(page);
  await dialog.getByRole('button', { name: 'Save 2 rules' }).press('Enter');
  await expect(pieceRow(page, 'icon-anchor')).toBeVisible();
  await expect(pieceRow(page, 'icon-anchor')).toContainText('8 × 8');
  await expect(pieceRows(page)).toHaveCount(4);

  // The drawing comes back with another icon and without one.
  const api = page.request;
  await api.post(`/api/projects/${id}/sources`, { data: { root: drawings, folder: 'sheets' } });
  await expect(pieceRow(page, 'icon-boat')).toBeVisible();
  save(ANCHOR, CRANE, NOTES);
  await expect(pieceRow(page, 'icon-crane')).toBeVisible();
  await expect(pieceRow(page, 'icon-boat')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(pieceRow(page, 'icon-boat')).toBeVisible();
  await expect(pieceRow(page, 'icon-crane')).toHaveCount(0);
});
