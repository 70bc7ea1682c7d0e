import type { Page } from '@playwright/test';
import { PNG } from 'pngjs';
import { command, expect, holdCode, icon, pieceRow, pieceRows, tabTo, test } from './app';
import { delivered, Hand } from './hand';

const designs = (n: number) =>
  Object.fromEntries(
    Array.from({ length: n }, (_, i) => [
      `design-${i + 1}.svg`,
      icon(`<path d="M4 4h${12 + i}v16H4z" fill="#0c6a53"/>`),
    ]),
  );

test('three designs in seven sizes of PNG, a JPEG on a colour, SVG and PDF: thirty files in at most 7 actions', async ({
  page,
}) => {
  await page.goto('/');
  const hand = new Hand(page);
  await hand.drop(designs(3));
  await hand.press('o');
  await hand.type(
    page.getByRole('textbox', { name: 'Which files?' }),
    'png 16 32 64 128 256 512 1024, jpeg 512 on #0c6a53, svg, pdf',
  );
  await expect(page.getByRole('list', { name: 'Outputs that are made' }).getByRole('listitem')).toHaveCount(10);
  await hand.press('Control+Shift+Enter');
  const files = await delivered(page);
  expect(files.size).toBe(30);
  const small = PNG.sync.read(files.get('design-2-16.png') ?? Buffer.alloc(0));
  expect([small.width, small.height]).toEqual([16, 16]);
  expect(PNG.sync.read(files.get('design-3-1024.png') ?? Buffer.alloc(0)).width).toBe(1024);
  expect([...files.keys()].filter((path) => path.endsWith('.jpg'))).toHaveLength(3);
  expect(hand.actions).toBeLessThanOrEqual(7);
});

test('four icons in two formats at 300 dpi in at most 4 actions', async ({ page }) => {
  await page.goto('/');
  const hand = new Hand(page);
  await hand.drop(designs(4));
  await hand.press('o');
  await hand.type(page.getByRole('textbox', { name: 'Which files?' }), 'png jpeg 300dpi');
  await hand.press('Control+Shift+Enter');
  const files = await delivered(page);
  expect(files.size).toBe(8);
  for (const [path, bytes] of files) {
    // pHYs of PNG in px a metre, density of JFIF in px an inch.
    if (path.endsWith('.png')) expect(bytes.readUInt32BE(bytes.indexOf('pHYs') + 4)).toBe(11_811);
    else expect(bytes.readUInt16BE(bytes.indexOf('JFIF') + 8)).toBe(300);
  }
  expect(hand.actions).toBeLessThanOrEqual(4);
});

test('one asset in three densities, a folder for each, and a PDF in at most 5 actions', async ({ page }) => {
  await page.goto('/');
  const hand = new Hand(page);
  await hand.drop({ 'buoy.svg': icon('<text x="2" y="18" font-size="16">B</text>') });
  await hand.press('o');
  await hand.type(
    page.getByRole('textbox', { name: 'Which files?' }),
    'png 1x in normal, png 2x in double, png 3x in triple, pdf',
  );
  await hand.press('Control+Shift+Enter');
  const files = await delivered(page);
  expect([...files.keys()].sort()).toEqual(['buoy.pdf', 'double/buoy@2x.png', 'normal/buoy.png', 'triple/buoy@3x.png']);
  // Outlines, not letters in a font.
  expect(files.get('buoy.pdf')?.includes('/Font')).toBe(false);
  expect(hand.actions).toBeLessThanOrEqual(5);
});

test('four icons as groups of one SVG: an artboard each, square and equal, in rows, four formats in folders, in at most 9 actions', async ({
  page,
}) => {
  await page.goto('/');
  const hand = new Hand(page);
  const groups = ['sun', 'rain', 'wind', 'snow']
    .map((name, i) => `<g id="${name}"><path d="M${3 + i * 24} 4h${9 + i * 3}v12h-5z" fill="#0c6a53"/></g>`)
    .join('');
  await hand.drop({
    'weather.svg': `<svg xmlns="http://www.w3.org/2000/svg" width="96" height="24" viewBox="0 0 96 24">${groups}</svg>`,
  });
  await hand.click(pieceRow(page, 'weather'));
  await hand.click(page.getByRole('button', { name: '4 artboards for its groups…' }));
  await hand.click(page.getByRole('checkbox', { name: 'Square' }));
  await hand.click(page.getByRole('checkbox', { name: 'All equal' }));
  await hand.click(page.getByRole('button', { name: 'Make 4 artboards' }));
  await hand.press('o');
  await hand.type(page.getByRole('textbox', { name: 'Which files?' }), 'svg, pdf, png, jpeg on #ffffff in folders');
  await hand.press('Control+Shift+Enter');
  const files = await delivered(page);
  expect([...files.keys()].sort()).toEqual(
    ['jpeg/', 'pdf/', 'png/', 'svg/'].flatMap((folder) =>
      ['rain', 'snow', 'sun', 'wind'].map((name) => `${folder}${name}.${folder.slice(0, -1).replace('jpeg', 'jpg')}`),
    ),
  );
  for (const name of ['sun', 'rain', 'wind', 'snow']) {
    const { width, height } = PNG.sync.read(files.get(`png/${name}.png`) ?? Buffer.alloc(0));
    expect([width, height]).toEqual([18, 18]);
  }
  expect(hand.actions).toBeLessThanOrEqual(9);
});

test('a whole sheet as one file beside each artboard in at most 3 actions', async ({ page }) => {
  await page.goto('/');
  const hand = new Hand(page);
  await hand.drop(designs(3));
  await hand.click(page.getByRole('button', { name: 'Whole sheet' }));
  await hand.press('Control+Enter');
  const files = await delivered(page);
  const sheet = PNG.sync.read(files.get('sheet.png') ?? Buffer.alloc(0));
  const one = PNG.sync.read(files.get('design-1.png') ?? Buffer.alloc(0));
  // At the outer edges of the artboards, two rows of two with 16 px between, beyond the artwork on them.
  expect([sheet.width, sheet.height]).toEqual([2 * one.width + 16, 2 * one.height + 16]);
  expect(hand.actions).toBeLessThanOrEqual(3);
});

test('three artboards with another format for each in at most 6 actions', async ({ page }) => {
  await page.goto('/');
  const hand = new Hand(page);
  await hand.drop(designs(3));
  await hand.press('o');
  await hand.type(page.getByRole('textbox', { name: 'Which files?' }), '1: png 256; 2: svg; 3: pdf');
  await expect(page.getByRole('list', { name: 'Outputs of 1' }).getByRole('listitem')).toHaveCount(1);
  await hand.press('Control+Enter');
  const files = await delivered(page);
  expect([...files.keys()].sort()).toEqual(['design-1.png', 'design-2.svg', 'design-3.pdf']);
  expect(PNG.sync.read(files.get('design-1.png') ?? Buffer.alloc(0)).width).toBe(256);
  expect(hand.actions).toBeLessThanOrEqual(6);
});

test('several slices of one design, each named, some in PNG twice, some in SVG, one in PDF, two off, in at most 14 actions', async ({
  page,
}) => {
  const parts = ['sail', 'hull', 'mast', 'flag', 'oar', 'rope', 'crew'];
  await page.goto('/');
  const hand = new Hand(page);
  await hand.drop({
    'boat.svg': icon(
      parts.map((name, i) => `<g id="${name}"><rect x="${i * 30}" width="20" height="${9 + i}"/></g>`).join(''),
      'width="210" height="24" viewBox="0 0 210 24"',
    ),
  });
  await hand.click(page.getByRole('tab', { name: 'Layers' }));
  const tree = page.getByRole('treegrid', { name: 'Layers' });
  await hand.click(tree.getByRole('row').first());
  await tree.focus();
  await hand.press('ArrowRight');
  await hand.click(tree.getByRole('row').nth(1));
  await hand.click(tree.getByRole('row').nth(parts.length), { modifiers: ['Shift'] });
  await hand.click(page.getByRole('button', { name: '7 slices, one each' }));
  await hand.press('o');
  await hand.type(
    page.getByRole('textbox', { name: 'Which files?' }),
    'sail: png 1x 2x; hull: png 1x 2x; mast: svg; flag: svg; oar: pdf; none',
  );
  await hand.press('Control+Enter');
  const files = await delivered(page);
  expect([...files.keys()].sort()).toEqual([
    'flag.svg',
    'hull.png',
    'hull@2x.png',
    'mast.svg',
    'oar.pdf',
    'sail.png',
    'sail@2x.png',
  ]);
  expect(PNG.sync.read(files.get('hull@2x.png') ?? Buffer.alloc(0)).width).toBe(40);
  expect(hand.actions).toBeLessThanOrEqual(14);
});

test('emblem and wordmark: four lockups in four colourings, files of some each, in at most 10 actions', async ({
  page,
}) => {
  await page.goto('/');
  const hand = new Hand(page);
  await hand.drop({
    'emblem.svg': icon('<circle cx="12" cy="12" r="9" fill="#0c6a53"/>'),
    'wordmark.svg': icon('<rect width="80" height="12" fill="#171b1c"/>', 'width="80" height="12" viewBox="0 0 80 12"'),
  });
  await hand.press('Control+a');
  await hand.click(page.getByRole('button', { name: 'Lockups…' }));
  const dialog = page.getByRole('dialog');
  for (const title of ['Reversed', 'Mono dark', 'Mono light'])
    await hand.click(dialog.getByRole('checkbox', { name: title }));
  await hand.click(dialog.getByRole('button', { name: 'Make 16 lockups' }));
  await expect(pieceRows(page)).toHaveCount(18);
  await hand.press('o');
  await hand.type(page.getByRole('textbox', { name: 'Which files?' }), '3-6: svg, pdf, png 512 1024; 7-18: svg; none');
  await hand.press('Control+Enter');
  const files = await delivered(page);
  expect(files.size).toBe(4 * 4 + 12);
  const widths = [...files].flatMap(([path, bytes]) => (path.endsWith('.png') ? [PNG.sync.read(bytes).width] : []));
  expect(widths.sort((a, b) => a - b)).toEqual([512, 512, 512, 512, 1024, 1024, 1024, 1024]);
  expect(hand.actions).toBeLessThanOrEqual(10);
});

test('one more edition in at most 2 actions', async ({ page, app, openProject }) => {
  const id = await openProject('Editions', { 'card.svg': icon('<circle id="sun" cx="12" cy="12" r="5"/>') });
  const { records, version } = await app.api<{ records: { id: string; kind: string }[]; version: number }>(
    `/projects/${id}/records`,
  );
  const board = records.find(({ kind }) => kind === 'artboard');
  const spring = { id: 'spring', kind: 'edition', artboardId: board?.id, order: 'a0', name: 'spring', overrides: {} };
  await app.api(`/projects/${id}/edits`, { id: 'first', baseVersion: version, puts: [spring], removes: [] });
  await pieceRow(page, 'spring').click();
  const hand = new Hand(page);
  await hand.click(page.getByTitle('New edition'));
  const name = page.getByRole('textbox', { name: 'Name', exact: true });
  await expect(name).toHaveValue('spring-copy');
  await hand.type(name, 'summer');
  await name.blur();
  await expect(pieceRow(page, 'summer')).toBeVisible();
  expect(hand.actions).toBeLessThanOrEqual(2);
});

test('what was chosen stays: words add beside outputs that somebody made', async ({ page, openProject }) => {
  await openProject('Beside', { 'design.svg': icon() });
  const exports = page.getByRole('button', { name: /^Export \d+ files?$/ });
  const begins = Number(/\d+/.exec((await exports.textContent()) ?? '')?.[0]);
  await page.keyboard.press('o');
  const field = page.getByRole('textbox', { name: 'Which files?' });
  await field.fill('png nothing');
  await expect(page.getByRole('alert')).toContainText('“nothing” is no format');
  await field.press('Enter');
  await expect(field).toBeVisible();
  // Enter adds, also to what a project begins with; what takes files away says how many.
  await field.fill('png 64');
  await expect(page.getByRole('button', { name: `Only these: ${begins} files go` })).toBeVisible();
  await field.press('Enter');
  await expect(page.getByRole('button', { name: `Export ${begins + 1} files` })).toBeVisible();
  await page.keyboard.press('o');
  await field.fill('jpeg 64');
  await field.press('Shift+Enter');
  await expect(page.getByRole('button', { name: 'Export 1 file' })).toBeVisible();
  await page.keyboard.press('o');
  // The same once more is not made twice.
  await field.fill('jpeg 64, svg');
  await field.press('Enter');
  await expect(page.getByRole('button', { name: 'Export 2 files' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Export 1 file' })).toBeVisible();
});

test('sizes with commas between make so many outputs, seen before; a menu on a column does the rest', async ({
  page,
  openProject,
}) => {
  await openProject('Sizes', { 'design.svg': icon() });
  await page.keyboard.press('o');
  await page.getByRole('textbox', { name: 'Which files?' }).fill('png 64');
  await page.keyboard.press('Shift+Enter');
  await page.keyboard.press('Alt+2');
  await page.getByRole('button', { name: 'Change output PNG 64 wide' }).click();
  const size = page.getByRole('textbox', { name: 'Width in px' });
  await size.fill('16, 32, 48');
  await expect(page.getByText('Enter makes 3 outputs of it')).toBeVisible();
  await size.press('Enter');
  await expect(page.getByRole('gridcell', { name: 'design-48.png' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('columnheader', { name: /48 wide/ }).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Also as SVG' }).click();
  await expect(page.getByRole('gridcell', { name: 'design-48.svg' })).toBeVisible();
  // By the keyboard, on the cell one is at.
  await page.getByRole('gridcell', { name: 'design-16.png' }).click();
  await page.keyboard.press('Shift+F10');
  await page.getByRole('menuitem', { name: 'Leave this file out' }).press('Enter');
  await expect(page.getByRole('button', { name: 'Export 3 files' })).toBeVisible();
});

/** Files chosen in the browser's own dialog, which a command opened. */
async function filesByCommand(page: Page, files: Record<string, string>): Promise<void> {
  const chooser = page.waitForEvent('filechooser');
  await command(page, 'new project from files');
  const payload = Object.entries(files).map(([name, text]) => ({
    name,
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(text),
  }));
  await (await chooser).setFiles(payload);
  await expect(pieceRow(page, Object.keys(files)[0].replace('.svg', ''))).toBeVisible();
}

test('from the shelf to the zip without a mouse: icons as groups of one SVG, an artboard each, four formats in folders', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'New project' })).toBeVisible();
  const groups = ['sun', 'rain', 'wind']
    .map((name, i) => `<g id="${name}"><path d="M${3 + i * 24} 4h${9 + i * 3}v12h-5z" fill="#0c6a53"/></g>`)
    .join('');
  await filesByCommand(page, {
    'skies.svg': `<svg xmlns="http://www.w3.org/2000/svg" width="72" height="24" viewBox="0 0 72 24">${groups}</svg>`,
  });
  await command(page, 'pick all artboards');
  await tabTo(page, '3 artboards for its groups…');
  await page.keyboard.press('Enter');
  await tabTo(page, 'Square');
  await page.keyboard.press('Space');
  await tabTo(page, 'All equal');
  await page.keyboard.press('Space');
  await tabTo(page, 'Make 3 artboards');
  await page.keyboard.press('Enter');
  await expect(pieceRow(page, 'rain')).toBeVisible();
  await page.keyboard.press('o');
  await page.keyboard.type('svg, pdf, png, jpeg on #ffffff in folders');
  await expect(page.getByRole('list', { name: 'Outputs that are made' }).getByRole('listitem')).toHaveCount(4);
  await page.keyboard.press('Control+Shift+Enter');
  const files = await delivered(page);
  expect(files.size).toBe(12);
  const { width, height } = PNG.sync.read(files.get('png/rain.png') ?? Buffer.alloc(0));
  expect([width, height]).toEqual([15, 15]);
});

test('from the shelf to the zip without a mouse: a whole sheet as one file beside artboards with a format each', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'New project' })).toBeVisible();
  await filesByCommand(page, designs(3));
  await page.keyboard.press('o');
  await page.keyboard.type('1: png 256; 2: svg; 3: pdf');
  await expect(page.getByRole('list', { name: 'Outputs of 1' }).getByRole('listitem')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await command(page, 'whole sheet');
  await expect(pieceRow(page, 'sheet')).toBeVisible();
  await page.keyboard.press('Control+Enter');
  const files = await delivered(page);
  expect([...files.keys()]).toEqual(
    expect.arrayContaining(['design-1.png', 'design-2.svg', 'design-3.pdf', 'sheet.png']),
  );
});

test('what is typed while a dialog is on its way is in it when it comes, Enter too', async ({ page, openProject }) => {
  const arrive = await holdCode(page, 'WhichFilesSheet');
  await openProject('Early', { 'design.svg': icon() });
  await expect(page.getByRole('button', { name: 'Export 3 files' })).toBeVisible();
  await page.keyboard.press('o');
  await expect(page.getByRole('dialog', { name: 'Opening', includeHidden: true })).toBeAttached();
  await page.keyboard.type('jpeg 64, svg');
  await page.keyboard.press('Enter');
  arrive();
  await expect(page.getByRole('button', { name: 'Export 4 files' })).toBeVisible();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.getByRole('status').filter({ hasText: /^Saved/ })).toBeVisible();
});

test('what a hand cannot guess is told where it matters, once', async ({ page, openProject }) => {
  const two = '<g id="one"><path d="M2 2h9v9z"/><path d="M3 12h9v9z"/></g>';
  await openProject('Hints', { 'anchor.svg': icon(two), 'boat.svg': icon(two) });
  const hint = (words: string) => page.getByRole('status').filter({ hasText: words });
  await page.keyboard.press(',');
  const canvas = page.getByLabel(/^Plane with/);
  const box = await canvas.boundingBox();
  const [x, y] = [(box?.x ?? 0) + (box?.width ?? 0) / 2, (box?.y ?? 0) + (box?.height ?? 0) / 2];
  await page.mouse.move(x, y);
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, -30);
  await page.keyboard.up('Control');
  await expect(hint('Hold Space and drag')).toBeVisible();
  await page.getByRole('button', { name: 'Close this hint' }).press('Enter');
  await expect(hint('Hold Space and drag')).toHaveCount(0);
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, 30);
  await page.keyboard.up('Control');
  await page.reload();
  await expect(pieceRow(page, 'boat')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Close this hint' })).toHaveCount(0);
});
