import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, icon, pieceRow, saved, test } from './app';

/** A folder that the server may write to. */
const root = mkdtempSync(join(tmpdir(), 'tolvik-taken-'));
test.use({ folders: root });
test.afterAll(() => rmSync(root, { recursive: true, force: true }));

const ICONS = { 'anchor.svg': icon('<circle cx="12" cy="12" r="8"/>'), 'boat.svg': icon('<path d="M2 2h9v9z"/>') };

test('a folder takes every export: by keyboard it is made, fed, and told what is left over and in the way', async ({
  page,
  openProject,
}) => {
  await openProject('Handed over', ICONS);
  await page.keyboard.press('Alt+3');
  const receivers = page.getByRole('region', { name: 'Receivers' });
  await receivers.getByRole('button', { name: 'New…' }).press('Enter');
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox', { name: 'Name' }).fill('App build');
  await dialog.getByRole('textbox', { name: 'Within it' }).fill('../out');
  await page.keyboard.press('Enter');
  await expect(dialog.getByRole('alert')).toBeVisible();
  await dialog.getByRole('textbox', { name: 'Within it' }).fill('app/icons');
  await page.keyboard.press('Enter');
  await expect(receivers.getByRole('button', { name: /App build/ })).toContainText('takes the next export');

  await page.keyboard.press('Control+Enter');
  await expect(receivers.getByRole('button', { name: /App build/ })).toContainText('in step since');
  const at = join(root, 'app', 'icons');
  const receipt = JSON.parse(readFileSync(join(at, 'delivery.json'), 'utf8')) as {
    files: { path: string; sha256: string }[];
  };
  expect(receipt.files).toHaveLength(6);
  for (const { path, sha256 } of receipt.files)
    expect(
      createHash('sha256')
        .update(readFileSync(join(at, path)))
        .digest('hex'),
    ).toBe(sha256);

  // A month later: one renamed, and somebody else was here.
  writeFileSync(join(at, 'anchor.png'), 'of somebody else');
  await page.keyboard.press('Alt+1');
  await pieceRow(page, 'boat').dblclick();
  await page.getByRole('textbox', { name: 'Name of boat' }).fill('ferry');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.keyboard.press('Alt+3');
  await expect(receivers.getByRole('button', { name: /App build/ })).toContainText('edited since');
  await page.keyboard.press('Control+Enter');
  const row = receivers.getByRole('button', { name: /App build/ });
  await expect(row).toContainText('has No. 2; 1 file of somebody else, 3 files left over');
  expect(readFileSync(join(at, 'anchor.png'), 'utf8')).toBe('of somebody else');

  await row.press('Enter');
  const steps = dialog.getByRole('list', { name: 'What will be done' });
  await expect(steps).toContainText('boat.png, boat.svg, boat@2x.png');
  await expect(dialog.getByRole('button', { name: 'Nothing to write' })).toBeDisabled();
  await dialog.getByRole('checkbox', { name: /^Take away what is left over/ }).press('Space');
  await dialog.getByRole('checkbox', { name: /^Replace what is of somebody else/ }).press('Space');
  await dialog.getByRole('button', { name: 'Write 1 file, take 3 away' }).press('Enter');
  await expect(dialog.getByRole('button', { name: 'Nothing to write' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(row).toContainText('in step since');
  expect(readdirSync(at).sort()).toEqual([
    'anchor.png',
    'anchor.svg',
    'anchor@2x.png',
    'delivery.json',
    'ferry.png',
    'ferry.svg',
    'ferry@2x.png',
  ]);
});

test('trouble is told where one works, and the export itself is whole', async ({ page, openProject }) => {
  await openProject('Trouble', ICONS);
  await page.keyboard.press('Alt+3');
  const receivers = page.getByRole('region', { name: 'Receivers' });
  await receivers.getByRole('button', { name: 'New…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox', { name: 'Name' }).fill('Gone');
  await dialog.getByRole('textbox', { name: 'Within it' }).fill('gone');
  await page.keyboard.press('Enter');
  await expect(receivers.getByRole('button', { name: /Gone/ })).toBeVisible();
  // A file takes the place of the folder.
  writeFileSync(join(root, 'gone'), '');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Delivery 1 is written and measured' })).toBeVisible();
  await expect(receivers.getByRole('button', { name: /Gone/ })).toContainText('is no folder');
  await receivers.getByRole('button', { name: /Gone/ }).click();
  await expect(dialog.getByRole('alert').first()).toContainText('is no folder');
  rmSync(join(root, 'gone'));
  await page.keyboard.press('Escape');
  await receivers.getByRole('button', { name: /Gone/ }).click();
  await dialog.getByRole('button', { name: 'Write 6 files' }).click();
  await expect(dialog.getByRole('button', { name: 'Nothing to write' })).toBeVisible();
  expect(readdirSync(join(root, 'gone'))).toHaveLength(7);
});

test('rules of a receiver: chosen, changed, opened from a file; told on the Proof with a mend, and not written', async ({
  page,
  openProject,
}) => {
  await openProject('By rules', { 'Anchor.svg': ICONS['anchor.svg'], 'boat.svg': ICONS['boat.svg'] });
  await page.keyboard.press('Alt+3');
  const receivers = page.getByRole('region', { name: 'Receivers' });
  const dialog = page.getByRole('dialog');
  await receivers.getByRole('button', { name: 'New…' }).click();
  await dialog.getByRole('textbox', { name: 'Name' }).fill('Web page');
  await dialog.getByRole('textbox', { name: 'Within it' }).fill('ruled');
  await page.keyboard.press('Enter');
  await receivers.getByRole('button', { name: /Web page/ }).click();
  // Nothing was exported yet: rules can be given all the same.
  await dialog.getByRole('combobox', { name: 'Rules' }).selectOption({ label: 'as a web page does' });
  await expect(dialog.getByRole('radio', { name: 'small' })).toBeChecked();
  await dialog.getByRole('checkbox', { name: 'SVG' }).click();
  await expect(dialog.getByRole('combobox', { name: 'Rules' })).toHaveValue('own');
  // A file that is none changes nothing; a good one is taken.
  const open = (text: string) =>
    dialog
      .getByLabel('File of rules')
      .setInputFiles({ name: 'rules.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await open('{"version":1,"name":"x","formats":["exe"]}');
  await expect(dialog.getByRole('alert').filter({ hasText: 'These are no rules: formats.0' })).toBeVisible();
  await open(JSON.stringify({ version: 1, name: 'Page build', names: { letters: 'small' }, formats: ['png'] }));
  await expect(dialog.getByRole('textbox', { name: 'Name of the rules' })).toHaveValue('Page build');
  await expect(dialog.getByRole('checkbox', { name: 'SVG' })).not.toBeChecked();
  await page.keyboard.press('Escape');

  await page.keyboard.press('Alt+2');
  await page.getByRole('radio', { name: /^Needs a look/ }).click();
  await expect(page.getByText('Page build takes names in small letters').first()).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(receivers.getByRole('button', { name: /Web page/ })).toContainText('refused 4');
  expect(readdirSync(join(root, 'ruled')).sort()).toEqual(['boat.png', 'boat@2x.png', 'delivery.json']);
  await receivers.getByRole('button', { name: /Web page/ }).click();
  const steps = dialog.getByRole('list', { name: 'What will be done' });
  await expect(steps).toContainText('Anchor.png: it takes names in small letters');
  await expect(steps).toContainText('boat.svg: it takes PNG, no SVG');
  await page.keyboard.press('Escape');
  // One mend, and the next export has it.
  await page.keyboard.press('Alt+1');
  await pieceRow(page, 'Anchor').click();
  await page.getByRole('button', { name: 'Small letters' }).first().click();
  await saved(page);
  await page.keyboard.press('Control+Enter');
  await expect(receivers.getByRole('button', { name: /Web page/ })).toContainText('has No. 2; refused 2');
  expect(readdirSync(join(root, 'ruled'))).toContain('anchor@2x.png');
});

test('a folder of this computer: picked, fed by every export, kept over a reload, and nothing of others touched', async ({
  page,
  openProject,
}) => {
  // The dialog of the system cannot be driven; what it would answer is a folder by the same standard.
  await page.addInitScript(() => {
    Object.assign(window, {
      showDirectoryPicker: async () =>
        (await navigator.storage.getDirectory()).getDirectoryHandle('build', { create: true }),
    });
  });
  const there = () =>
    page.evaluate(async () => {
      const found: Record<string, string> = {};
      const walk = async (at: FileSystemDirectoryHandle, path: string): Promise<void> => {
        for await (const [name, handle] of at as unknown as AsyncIterable<[string, FileSystemHandle]>) {
          if (handle.kind === 'directory') await walk(handle as FileSystemDirectoryHandle, `${path}${name}/`);
          else found[path + name] = await (await (handle as FileSystemFileHandle).getFile()).text();
        }
      };
      await walk(await (await navigator.storage.getDirectory()).getDirectoryHandle('build'), '');
      return found;
    });
  const id = await openProject('On this computer', ICONS);
  await page.reload();
  await page.getByRole('link', { name: /^Deliveries/ }).click();
  const receivers = page.getByRole('region', { name: 'Receivers' });
  const dialog = page.getByRole('dialog');
  await receivers.getByRole('button', { name: 'New…' }).click();
  await dialog.getByRole('button', { name: 'Pick a folder…' }).click();
  const row = receivers.getByRole('button', { name: /build/ });
  await expect(row).toContainText('takes the next export');
  await page.keyboard.press('Control+Enter');
  await expect(row).toContainText('in step since');
  const first = await there();
  expect(Object.keys(first).sort()).toEqual(
    ['anchor.png', 'anchor.svg', 'anchor@2x.png', 'boat.png', 'boat.svg', 'boat@2x.png', 'delivery.json'].sort(),
  );
  // Byte for byte what the server says it made.
  const { deliveries } = await (await page.request.get(`/api/projects/${id}/deliveries`)).json();
  const receipt = await (await page.request.get(`/api/deliveries/${deliveries[0].id}/receipt.json`)).json();
  const byPath = (files: { path: string }[]) => [...files].sort((a, b) => (a.path < b.path ? -1 : 1));
  expect(byPath(JSON.parse(first['delivery.json']).files)).toEqual(byPath(receipt.files));
  const svg = receipt.files.find(({ path }: { path: string }) => path === 'anchor.svg');
  expect(createHash('sha256').update(first['anchor.svg']).digest('hex')).toBe(svg.sha256);

  // Somebody else changes a file and puts one there; one piece is renamed.
  await page.evaluate(async () => {
    const build = await (await navigator.storage.getDirectory()).getDirectoryHandle('build');
    for (const name of ['anchor.svg', 'notes.txt']) {
      const out = await (await build.getFileHandle(name, { create: true })).createWritable();
      await out.write('of somebody else');
      await out.close();
    }
  });
  await page.keyboard.press('Alt+1');
  await pieceRow(page, 'boat').dblclick();
  await page.getByRole('textbox', { name: 'Name of boat' }).fill('ferry');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.reload();
  await page.getByRole('link', { name: /^Deliveries/ }).click();
  await expect(row).toContainText('has No. 1, edited since');
  await page.keyboard.press('Control+Enter');
  await expect(row).toContainText('has No. 2; 1 file of somebody else, 3 files left over');
  const second = await there();
  expect([second['anchor.svg'], second['notes.txt']]).toEqual(['of somebody else', 'of somebody else']);
  expect(second['ferry.svg']).toBeTruthy();
  await row.click();
  await dialog.getByRole('checkbox', { name: /^Take away what is left over/ }).click();
  await dialog.getByRole('checkbox', { name: /^Replace what is of somebody else/ }).click();
  await dialog.getByRole('button', { name: 'Write 1 file, take 3 away' }).click();
  await expect(dialog.getByRole('button', { name: 'Nothing to write' })).toBeVisible();
  const third = await there();
  expect(Object.keys(third)).not.toContain('boat.png');
  expect([third['anchor.svg'], third['notes.txt']]).toEqual([first['anchor.svg'], 'of somebody else']);

  // It follows the project: what is renamed on the Bench is written with nobody asking, and there alone.
  await dialog.getByRole('checkbox', { name: /^Follow the project/ }).click();
  await dialog.getByRole('button', { name: 'Close' }).first().click();
  await page.keyboard.press('Alt+1');
  await pieceRow(page, 'anchor').dblclick();
  await page.getByRole('textbox', { name: 'Name of anchor' }).fill('kedge');
  await page.keyboard.press('Enter');
  const names = async () => Object.keys(await there()).filter((name) => name.endsWith('.svg'));
  await expect.poll(names).toEqual(expect.arrayContaining(['kedge.svg', 'ferry.svg']));
  await expect.poll(names).toHaveLength(2);
  await expect(page.getByRole('link', { name: /^Deliveries\s*in step/ })).toBeVisible();
  await page.getByRole('link', { name: /^Deliveries/ }).click();
  await expect(row).toContainText('follows the project: in step since');
  await row.click();
  await dialog.getByRole('button', { name: 'Remove receiver' }).click();
  await expect(row).toBeHidden();
  expect(Object.keys(await there())).toContain('ferry.svg');
});
