import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { dropFiles, expect, icon, pieceRow, pieceRows, saved, test } from './app';

/** A record as the API gives it, as far as is looked at here. */
type Stored = { kind: string; name: string; parentId?: string; x: number; width: number; transform?: number[] };

const ICONS = {
  'anchor.svg': icon('<circle cx="12" cy="12" r="8"/>'),
  'boat.svg': icon('<path d="M3 3h18v9z"/>'),
  'crate.svg': icon(),
};

test('from files dropped on the window to a zip whose files are what was shown', async ({ page, app }, info) => {
  await page.goto('/');
  await dropFiles(page, ICONS, 'header');
  await expect(page).toHaveURL(/\/bench$/);
  await expect(pieceRows(page)).toHaveCount(3);

  // Name one in the list.
  await pieceRow(page, 'boat').dblclick();
  await page.getByRole('textbox', { name: 'Name of boat' }).fill('sail boat');
  await page.keyboard.press('Enter');
  await expect(pieceRow(page, 'sail boat')).toBeVisible();
  await saved(page);

  // Decide outputs: one more, as JPEG at 64 px on dark.
  await page.getByRole('link', { name: /^Proof/ }).click();
  await page.getByRole('button', { name: '+ Output' }).click();
  await page.getByRole('button', { name: 'Set one by hand' }).click();
  await page.getByRole('button', { name: 'Change output PNG 3×' }).click();
  await page.getByLabel('Format').selectOption('jpeg');
  await page.getByLabel('Kind of size').selectOption('width');
  await page.getByLabel('Width in px').fill('64');
  await page.keyboard.press('Enter');
  await page.getByLabel('Suffix').fill('-card');
  await page.keyboard.press('Enter');
  await page.getByLabel('Background', { exact: true }).selectOption('colour');
  await page.keyboard.press('Escape');
  await saved(page);

  // Every cell shows its file at its true size, with its weight.
  const cell = page.getByRole('gridcell', { name: 'anchor-card.jpg' });
  const picture = cell.getByRole('img');
  await expect(picture).toBeVisible();
  // Until the file is made anew, the cell shows what it was.
  await expect
    .poll(() =>
      picture.evaluate((image: HTMLImageElement) =>
        image.decode().then(
          () => [image.naturalWidth, image.naturalHeight],
          // Another took its place meanwhile.
          () => null,
        ),
      ),
    )
    .toEqual([64, 64]);
  await expect(cell).toContainText(/\d+ B|\d+\.\d KB/);
  await expect(page.getByText('12 files', { exact: true }).first()).toBeVisible();

  // One off, by its tick.
  await page.getByRole('gridcell', { name: 'crate@2x.png' }).hover();
  await page.getByRole('checkbox', { name: 'Make crate@2x.png' }).click();
  await expect(page.getByRole('button', { name: 'Export 11 files' })).toBeVisible();
  await saved(page);

  await page.getByRole('button', { name: 'Export 11 files' }).click();
  await expect(page.getByRole('heading', { name: 'Delivery 1 is written and measured' })).toBeVisible();
  await expect(page.getByText('11 of 11 files came out at the size that was asked.')).toBeVisible();

  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Download .zip' }).click(),
  ]);
  const zip = info.outputPath('out.zip');
  await download.saveAs(zip);
  const out = info.outputPath('out');
  execFileSync('python3', ['-m', 'zipfile', '-e', zip, out]);
  const list = execFileSync('python3', ['-m', 'zipfile', '-l', zip]).toString();
  expect(list.trim().split('\n')).toHaveLength(12);
  expect(await sharp(join(out, 'sail boat-card.jpg')).metadata()).toMatchObject({
    format: 'jpeg',
    width: 64,
    height: 64,
  });
  expect(await sharp(join(out, 'anchor@2x.png')).metadata()).toMatchObject({
    format: 'png',
    width: 48,
    height: 48,
    hasAlpha: true,
  });
  expect(readFileSync(join(out, 'anchor.svg'), 'utf8')).toContain('<circle cx="12" cy="12" r="8"/>');

  // What the Proof showed is what the archive holds.
  const id = /projects\/([^/]+)/.exec(page.url())?.[1];
  const { files } = await app.api<{ files: { path: string; pieceId: string; outputId: string }[] }>(
    `/projects/${id}/plan`,
  );
  for (const file of files) {
    const shown = Buffer.from(
      await (await fetch(`${app.url}/api/projects/${id}/files/${file.pieceId}/${file.outputId}`)).arrayBuffer(),
    );
    expect(shown.equals(readFileSync(join(out, file.path)))).toBe(true);
  }
});

test('a change undone and done again, by keys; a reload keeps everything', async ({ page, openProject }) => {
  await openProject('Undo', ICONS);
  await pieceRow(page, 'anchor').click();
  await page.getByRole('textbox', { name: 'width' }).fill('32');
  await page.keyboard.press('Enter');
  await expect(pieceRow(page, 'anchor')).toContainText('32 × 24');
  await page.getByRole('heading', { name: 'Artboard' }).click();
  await page.keyboard.press('Control+z');
  await expect(pieceRow(page, 'anchor')).toContainText('24 × 24');
  await page.keyboard.press('Control+Shift+z');
  await expect(pieceRow(page, 'anchor')).toContainText('32 × 24');
  await saved(page);
  await page.reload();
  await expect(pieceRow(page, 'anchor')).toContainText('32 × 24');
});

test('bringing in can be undone as one step', async ({ page, openProject }) => {
  await openProject('Undo bring-in', { 'a.svg': icon() });
  await dropFiles(page, ICONS, 'main');
  await expect(pieceRows(page)).toHaveCount(4);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(pieceRows(page)).toHaveCount(1);
});

test('artboards are drawn, moved with what lies on them, resized and deleted by hand', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('By hand', { 'anchor.svg': icon('<circle cx="12" cy="12" r="8"/>') });
  const plane = page.getByLabel(/^Plane with/);
  const box = (await plane.boundingBox()) as { x: number; y: number; width: number; height: number };
  await expect(pieceRows(page)).toHaveCount(1);
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  // One artboard of 24 px fills the view at 8×. A click on artwork picks it, one on empty ground the artboard.
  const ground = { x: middle.x - 80, y: middle.y - 80 };
  const selection = page.getByRole('complementary', { name: 'Selection' });
  await page.mouse.click(middle.x, middle.y);
  await expect(selection.getByRole('heading', { name: 'Layer', exact: true })).toBeVisible();
  await page.mouse.click(ground.x, ground.y);
  await expect(selection.getByRole('heading', { name: 'artboard', exact: true })).toBeVisible();
  await page.mouse.move(ground.x, ground.y);
  await page.mouse.down();
  await page.mouse.move(ground.x + 40, ground.y, { steps: 4 });
  await page.mouse.move(ground.x + 80, ground.y, { steps: 4 });
  await page.mouse.up();
  await saved(page);
  const records = async () => (await app.api<{ records: Stored[] }>(`/projects/${id}/records`)).records;
  const artboard = (await records()).find((record) => record.kind === 'artboard');
  expect(artboard?.x).toBe(10);
  expect((await records()).find((record) => record.kind === 'layer' && record.parentId === 'root')?.transform).toEqual([
    1, 0, 0, 1, 10, 0,
  ]);

  await page.keyboard.press('2');
  await page.mouse.move(box.x + 60, box.y + 60);
  await page.mouse.down();
  await page.mouse.move(box.x + 140, box.y + 124, { steps: 5 });
  await page.mouse.up();
  await page
    .getByRole('textbox', { name: /^Name of artboard/ })
    .first()
    .fill('drawn');
  await page.keyboard.press('Enter');
  // What the piece row says of it is its trouble (nothing is in it) as soon as that is found, else its size.
  await expect(pieceRow(page, 'drawn')).toBeVisible();
  for (const [side, px] of [
    ['width', '10'],
    ['height', '8'],
  ] as const)
    await expect(selection.getByRole('textbox', { name: side })).toHaveValue(px);
  await plane.focus();
  await page.keyboard.press('Delete');
  await expect(pieceRows(page)).toHaveCount(1);
});

test('two windows see each other, and a clash loses neither side', async ({ page, context, openProject }) => {
  const id = await openProject('Two windows', ICONS);
  const other = await context.newPage();
  await other.goto(`/projects/${id}/bench`);
  await pieceRow(page, 'anchor').dblclick();
  await page.getByRole('textbox', { name: 'Name of anchor' }).fill('kedge');
  await page.keyboard.press('Enter');
  await expect(pieceRow(other, 'kedge')).toBeVisible();

  // Offline, both change the same artboard in different fields.
  await context.route('**/edits', (route) => route.abort());
  await pieceRow(page, 'kedge').click();
  await page.getByRole('textbox', { name: 'width' }).fill('40');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Not saved yet')).toBeVisible();
  await other.bringToFront();
  await pieceRow(other, 'kedge').click();
  await other.getByRole('textbox', { name: 'height' }).fill('50');
  await other.keyboard.press('Enter');
  await context.unroute('**/edits');
  for (const each of [page, other]) await expect(pieceRow(each, 'kedge')).toContainText('40 × 50');
});

test('a server gone for a while loses nothing: edits wait in the browser and are sent once', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Gone', ICONS);
  await app.stopServer('SIGKILL');
  await pieceRow(page, 'boat').click();
  await page.getByRole('textbox', { name: 'width' }).fill('36');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Not saved yet')).toBeVisible();
  await app.startServer();
  await saved(page);
  const { records, version } = await app.api<{ records: Stored[]; version: number }>(`/projects/${id}/records`);
  expect(records.find((record) => record.name === 'boat' && record.kind === 'artboard')?.width).toBe(36);
  expect(version).toBe(2);
});

test('a server killed in the middle of an export: it goes on and finishes', async ({ page, app, openProject }) => {
  const many = Object.fromEntries(
    Array.from({ length: 150 }, (_, i) => [`icon-${i}.svg`, icon(`<circle cx="12" cy="12" r="${(i % 9) + 1}.${i}"/>`)]),
  );
  await openProject('Killed', many);
  await expect(page.getByRole('button', { name: 'Export 450 files' })).toBeVisible();
  await page.getByRole('button', { name: 'Export 450 files' }).click();
  await expect(page.getByRole('heading', { name: /Delivery 1/ })).toBeVisible();
  await app.stopServer('SIGKILL');
  await app.startServer();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Delivery 1 is written and measured' })).toBeVisible({
    timeout: 120_000,
  });
  await expect(page.getByText('450 of 450 files came out at the size that was asked.')).toBeVisible();
});

test('two files for one path are told before, and hold the export', async ({ page, openProject }) => {
  await openProject('Clash', ICONS);
  await pieceRow(page, 'boat').dblclick();
  await page.getByRole('textbox', { name: 'Name of boat' }).fill('Anchor');
  await page.keyboard.press('Enter');
  await expect(pieceRow(page, 'Anchor')).toContainText('its name is taken');
  await page.getByRole('link', { name: /^Proof/ }).click();
  await expect(page.getByText('6 files cannot be made as planned')).toBeVisible();
  await page.getByRole('button', { name: 'Export 9 files' }).click({ force: true });
  await expect(page.getByText('cannot be made as planned; the Proof shows which').first()).toBeVisible();
});

test('a refused file is named with its place, and the others come in', async ({ page, openProject }) => {
  await openProject('Bad input');
  await dropFiles(
    page,
    { 'good.svg': icon(), 'broken.svg': '<svg xmlns="http://www.w3.org/2000/svg">\n<path>\n</svg>' },
    'main',
  );
  await expect(
    page.getByText(/1 file brought in. broken.svg is not well-formed at line 3, column \d+/).first(),
  ).toBeVisible();
  await expect(pieceRows(page)).toHaveCount(1);
});

test('numbers that cannot be are answered at the field, and nothing changes', async ({ page, openProject }) => {
  await openProject('Numbers', ICONS);
  await pieceRow(page, 'anchor').click();
  const width = page.getByRole('textbox', { name: 'width' });
  for (const [typed, words] of [
    ['tall', 'needs a number'],
    ['0', 'needs 0.01 to 1000000'],
    ['-4', 'needs 0.01 to 1000000'],
    ['2000000', 'needs 0.01 to 1000000'],
  ]) {
    await width.fill(typed);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert')).toHaveText(words);
  }
  await page.getByRole('textbox', { name: 'x', exact: true }).fill('1000001');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toHaveText('needs -1000000 to 1000000');
  await page.keyboard.press('Escape');
  await width.fill('12*4');
  await page.keyboard.press('Enter');
  await expect(pieceRow(page, 'anchor')).toContainText('48 × 24');
});
