import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { expect, icon, saved, test } from './app';

const proof = async (page: Page) => {
  await page.getByRole('link', { name: /^Proof/ }).click();
  await expect(page.getByRole('grid', { name: 'Files' })).toBeVisible();
};
const LOGO = (fill: string) =>
  icon(
    `<path d="M20 60c20-50 100-50 120 0z" fill="${fill}"/><circle cx="80" cy="50" r="18" fill="#fff"/>`,
    'width="160" height="80" viewBox="0 0 160 80"',
  );
const cell = (page: Page, name: string) => page.getByRole('gridcell', { name, exact: true });

test('three logo pieces become the whole handover in a few actions, and every file is in the zip', async ({
  page,
  openProject,
  app,
}) => {
  const id = await openProject('Logo', {
    'emblem.svg': LOGO('#0c6a53'),
    'wide.svg': LOGO('#12343b'),
    'stacked.svg': LOGO('#d2452a'),
  });
  await proof(page);
  // 1 to 3: away with what came of itself, on with the handover, done.
  await page.getByRole('button', { name: 'Specs…' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Remove', exact: true }).first().click();
  await page.getByRole('button', { name: /^Logo handover/ }).click();
  await page.getByRole('button', { name: 'Done' }).click();
  // 4 to 6: one output more, as one PDF of all.
  await page.getByRole('button', { name: 'Change output PDF vector' }).click();
  await page
    .getByRole('dialog', { name: /^Output PDF/ })
    .getByRole('button', { name: 'Duplicate' })
    .click();
  // The copy has a name of its own and is what one goes on with.
  await expect(page.getByRole('textbox', { name: 'Suffix' })).toHaveValue('-2');
  await page.getByRole('combobox', { name: 'Pages' }).selectOption('together');
  await page.keyboard.press('Escape');
  // 9 outputs for 3 pieces, and one book.
  await expect(page.getByRole('button', { name: 'Export 28 files' })).toBeVisible();
  await expect(cell(page, 'page 2 of vector/Logo-2.pdf')).toBeVisible();
  await page.getByRole('button', { name: 'Export 28 files' }).click();
  await expect(page.getByRole('heading', { name: 'Delivery 1 is written and measured' })).toBeVisible({
    timeout: 120_000,
  });
  const [delivery] = (await app.api<{ deliveries: { id: string; total: number }[] }>(`/projects/${id}/deliveries`))
    .deliveries;
  expect(delivery.total).toBe(28);
  const { files } = await app.api<{ files: { path: string; now: { position: number } }[] }>(
    `/deliveries/${delivery.id}`,
  );
  const book = files.find((file) => file.path === 'vector/Logo-2.pdf');
  const pdf = Buffer.from(
    await (await fetch(`${app.url}/api/deliveries/${delivery.id}/files/${book?.now.position}`)).arrayBuffer(),
  );
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-book-'));
  try {
    writeFileSync(join(folder, 'a.pdf'), pdf);
    expect(execFileSync('pdfinfo', [join(folder, 'a.pdf')], { encoding: 'utf8' })).toMatch(/Pages: +3/);
    execFileSync('pdftohtml', ['-xml', '-i', '-q', join(folder, 'a.pdf'), join(folder, 'out')]);
    expect(
      execFileSync('grep', ['-o', '<item page=.*</item>', join(folder, 'out.xml')], { encoding: 'utf8' }).match(
        /emblem|wide|stacked/g,
      ),
    ).toEqual(['emblem', 'wide', 'stacked']);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test('cells, rows, columns and blocks are switched by keys; a row is moved by keys', async ({ page, openProject }) => {
  await openProject('Switching', { 'a.svg': icon(), 'b.svg': icon(), 'c.svg': icon() });
  await proof(page);
  const files = page.getByRole('button', { name: /^Export \d+ files?$/ });
  await page.getByRole('grid', { name: 'Files' }).focus();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Space');
  await expect(files).toHaveText('Export 5 files');
  await page.keyboard.press('Space');
  await expect(files).toHaveText('Export 9 files');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+Space');
  await expect(files).toHaveText('Export 6 files');
  await page.keyboard.press('Control+Space');
  await expect(files).toHaveText('Export 7 files');
  await page.keyboard.press('Control+Space');
  await expect(files).toHaveText('Export 4 files');
  await page.keyboard.press('Alt+ArrowUp');
  await saved(page);
  const rows = page.getByRole('grid', { name: 'Files' }).getByRole('rowheader');
  await expect(rows.nth(1)).toContainText('c');
  await page.getByRole('combobox', { name: 'Order of the rows' }).selectOption('name');
  await expect(rows.nth(1)).toContainText('b');
});

test('only what is selected is exported, from where one stands', async ({ page, openProject }) => {
  await openProject('Some', { 'a.svg': icon(), 'b.svg': icon() });
  await proof(page);
  await cell(page, 'a.png').click();
  await page.getByRole('button', { name: 'Export only the 3 files of the selected piece' }).click();
  await expect(page.getByText('3 of 3 files came out at the size that was asked.')).toBeVisible();
});

test('compared by keyboard: other settings tried, watched, used', async ({ page, openProject, app }) => {
  const id = await openProject('Compare', {
    'leaf.svg': icon('<path d="M2.345 3.456c7.3 1.21 9.77 4.98 17.65 14.44l-9 1.1z" fill="#0c6a53"/>'),
  });
  await proof(page);
  await page.getByRole('grid', { name: 'Files' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'leaf, leaf.svg' })).toBeVisible();
  await page.keyboard.press('b');
  await expect(page.getByText('2 decimals')).toBeVisible();
  const tried = page.getByRole('slider', { name: 'Decimals tried' });
  await tried.focus();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByText('0 decimals')).toBeVisible();
  await expect(page.getByText(/pixels? moves?/)).toBeVisible();
  await page.getByRole('group', { name: /^Files compared/ }).focus();
  await page.keyboard.press('m');
  await expect(page.getByRole('slider', { name: 'Where the second file begins' })).toBeVisible();
  await page.keyboard.press('m');
  await expect(page.getByRole('img', { name: /^Where they differ/ })).toBeVisible();
  await page.getByRole('button', { name: 'Use this' }).click();
  await expect(page.getByText('0 decimals')).toBeHidden();
  await saved(page);
  await page.getByRole('group', { name: /^Files compared/ }).focus();
  await page.keyboard.press('Escape');
  const { records } = await app.api<{ records: { kind: string; settings?: { format: string; decimals?: number } }[] }>(
    `/projects/${id}/records`,
  );
  expect(records.find((record) => record.settings?.format === 'svg')?.settings?.decimals).toBe(0);
});

test('white on white is found and mended; what is meant is accepted with a reason and stays so', async ({
  page,
  openProject,
}) => {
  await openProject('Looking', {
    'ghost.svg': icon('<path d="M3 3h18v18z" fill="#fff"/>'),
    'poke.svg': icon('<rect x="4" y="10" width="9" height="16"/>'),
  });
  await proof(page);
  await page.getByRole('button', { name: 'Change output PNG 1×' }).click();
  await page.getByRole('button', { name: 'Also as JPEG' }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('radio', { name: /^Needs a look/ }).click();
  const found = page.getByRole('list', { name: 'What was found' });
  await expect(found).toContainText('White on white');
  await found.getByRole('button', { name: 'Leave that file out' }).click();
  await expect(found).not.toContainText('White on white');
  await found.getByRole('listitem').filter({ hasText: 'pokes' }).getByRole('button', { name: 'Accept…' }).click();
  await page.getByRole('textbox', { name: /^Why is it all right/ }).fill('bleeds on purpose');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Nothing needs a look any more.')).toBeVisible();
  await page.reload();
  await page.getByRole('link', { name: /^Bench/ }).click();
  await page.getByRole('grid', { name: 'Pieces' }).getByRole('row').filter({ hasText: 'poke' }).click();
  await expect(page.getByText('accepted: bleeds on purpose')).toBeVisible();
  await page.getByRole('button', { name: 'Look again' }).click();
  await expect(page.getByText('accepted: bleeds on purpose')).toBeHidden();
});

test('different pieces follow different specs: one for itself, some together, and what a piece does not make is not there', async ({
  page,
  openProject,
  app,
}) => {
  const id = await openProject('Two kinds', {
    'mark.svg': LOGO('#0c6a53'),
    'tile.svg': LOGO('#12343b'),
    'banner.svg': LOGO('#d2452a'),
  });
  await proof(page);
  const head = (name: string) => page.getByRole('rowheader').filter({ hasText: name });
  // The mark alone becomes a favicon, too.
  await head('mark').click();
  await page.getByRole('button', { name: 'Specs…' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('for the 1 selected');
  await page.getByRole('button', { name: /^Favicon sizes/ }).click();
  await expect(dialog).toContainText('6 outputs, followed by 1 of 3');
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('button', { name: 'Export 15 files' })).toBeVisible();
  await expect(page.getByRole('gridcell', { name: 'tile does not follow this spec' })).toHaveCount(6);
  await expect(page.getByRole('gridcell', { name: 'mark does not follow this spec' })).toHaveCount(0);
  // Tile and banner stop making what the web spec says; nothing else does.
  await head('tile').click();
  await head('banner').click({ modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'Specs…' }).click();
  await dialog.getByRole('button', { name: 'Stop using for 2 selected' }).first().click();
  await expect(dialog).toContainText('3 outputs, followed by 1 of 3');
  await dialog.getByRole('button', { name: 'Use for 2 selected' }).nth(1).click();
  await expect(dialog).toContainText('6 outputs, followed by 3 of 3');
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('button', { name: 'Export 21 files' })).toBeVisible();
  await saved(page);
  const { files } = await app.api<{ files: { path: string }[] }>(`/projects/${id}/plan`);
  const made = (name: string) => files.filter(({ path }) => path.split('/').at(-1)?.startsWith(name)).length;
  expect([made('mark'), made('tile'), made('banner')]).toEqual([9, 6, 6]);
  // All of it is one undo after the other.
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Export 9 files' })).toBeVisible();
});

test('a picture that vanishes on its ground is found on the rendered file', async ({ page, openProject }) => {
  const shade = async (background: string) =>
    (
      await sharp({ create: { width: 24, height: 24, channels: 3, background } })
        .png()
        .toBuffer()
    ).toString('base64');
  const picture = async (colour: string) =>
    icon(`<image width="24" height="24" href="data:image/png;base64,${await shade(colour)}"/>`);
  await openProject('Pictures', { 'mist.svg': await picture('#fbfbfb'), 'rock.svg': await picture('#333333') });
  await proof(page);
  await page.getByRole('button', { name: 'Change output PNG 1×' }).click();
  await page.getByRole('button', { name: 'Also as JPEG' }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('radio', { name: /^Needs a look/ }).click();
  const found = page.getByRole('list', { name: 'What was found' });
  await expect(found).toContainText('nothing in it stands out from its ground');
  await expect(page.getByRole('gridcell', { name: /mist.*jpg$/ })).toHaveAttribute(
    'title',
    'nothing in it stands out from its ground',
  );
  await expect(page.getByRole('gridcell', { name: /rock.*jpg$/ })).not.toHaveAttribute('title', /stands out/);
  await found.getByRole('button', { name: 'Leave that file out', exact: true }).click();
  await expect(found).not.toContainText('stands out');
});

test('a spec is kept for other projects, saved as a file, and a broken file is answered in words', async ({
  page,
  openProject,
}) => {
  await openProject('Keeping', { 'a.svg': icon() });
  await proof(page);
  await page.getByRole('button', { name: 'Specs…' }).click();
  await page.getByRole('textbox', { name: 'Name of the spec' }).fill('Studio web');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Keep for other projects' }).click();
  await expect(page.getByText('Studio web is kept for all projects.').first()).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file' }).click();
  const path = await (await download).path();
  await openProject('Other', { 'b.svg': icon() });
  await proof(page);
  await page.getByRole('button', { name: 'Specs…' }).click();
  await page.getByRole('button', { name: /^Studio web.*Kept here/ }).click();
  await expect(page.getByRole('dialog')).toContainText('followed by 1 of 1');
  await page.getByTestId('import-spec').setInputFiles(path);
  await page.getByTestId('import-spec').setInputFiles({
    name: 'broken.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"tolvik":"spec","version":7}'),
  });
  await expect(page.getByText(/broken.json was saved by a newer Tolvik/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Done' }).click();
  // The kept one went in the place of what the project began with; the one from the file came beside it.
  await expect(page.getByRole('button', { name: 'Export 6 files' })).toBeVisible();
});

test('more files than the first screen are told one after the other, and in the end all of them are weighed', async ({
  page,
  app,
  openProject,
}) => {
  const icons = Array.from({ length: 30 }, (_, i): [string, string] => [
    `icon-${i}.svg`,
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24"><path d="M${i % 12} 4h9v16H4z"/></svg>`,
  ]);
  const id = await openProject('Ninety', Object.fromEntries(icons));
  await page.goto(`${app.url}/projects/${id}/proof`);
  await expect(page.getByText(/^90 files$/).first()).toBeVisible();
  await expect(page.getByText(/measuring/)).toHaveCount(0);
  // Opened again, its first pictures come with the answer that names them, and its last are told soon after.
  await page.reload();
  await expect(page.getByRole('gridcell').locator('img[src^="data:image/"]').first()).toBeVisible();
  await expect(page.getByText(/measuring/)).toHaveCount(0);
  await page.getByRole('grid', { name: 'Files' }).press('Control+End');
  await expect(page.getByRole('gridcell', { name: 'icon-29@2x.png' }).locator('img[data-here]')).toBeVisible();
});
