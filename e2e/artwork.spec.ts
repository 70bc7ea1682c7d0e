import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { pathToFileURL } from 'node:url';
import type { Page } from '@playwright/test';
import type { Layer, ProjectRecord } from '@tolvik/core';
import sharp from 'sharp';
import { type App, dropFiles, expect, icon, pieceRow, pieceRows, saved, test } from './app';

const records = async (app: App, id: string) =>
  (await app.api<{ records: ProjectRecord[] }>(`/projects/${id}/records`)).records;
const layers = async (app: App, id: string) =>
  (await records(app, id)).filter((record): record is Layer => record.kind === 'layer');
const plane = (page: Page) => page.getByLabel(/^Plane with/);
const treeRow = (page: Page, name: string) =>
  page.getByRole('treegrid', { name: 'Layers' }).getByRole('row').filter({ hasText: name }).first();
const number = async (page: Page, name: string, value: string) => {
  await page.getByRole('textbox', { name, exact: true }).fill(value);
  await page.keyboard.press('Enter');
};
/** Where a point of the plane is in the window, when one piece fills the view. */
const middle = async (page: Page) => {
  const box = await plane(page).boundingBox();
  if (!box) throw new Error('no plane');
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
};
const deepClick = async (page: Page) => {
  const { x, y } = await middle(page);
  await page.keyboard.down('Control');
  await page.mouse.click(x, y);
  await page.keyboard.up('Control');
};
/** The colour of one pixel of the plane, as hex. */
const pixel = async (page: Page, x: number, y: number) => {
  const png = await page.screenshot({ clip: { x: Math.round(x), y: Math.round(y), width: 1, height: 1 } });
  const { data } = await sharp(png).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  return `#${data.subarray(0, 3).toString('hex')}`;
};

const SQUARE = icon('<rect id="block" x="8" y="8" width="8" height="8" fill="#d2452a"/>');

test('exact numbers, a turn, a mirror and the handle of a side; one undo each', async ({ page, app, openProject }) => {
  const id = await openProject('Numbers', { 'square.svg': SQUARE });
  await pieceRow(page, 'square').click();
  await page.keyboard.press('.');
  await deepClick(page);
  await expect(page.getByRole('heading', { name: 'Layer' })).toBeVisible();
  await page.getByRole('radio', { name: 'Reference point c' }).click();
  await number(page, 'width', '12');
  const block = async () => (await layers(app, id)).find((layer) => layer.name === 'block');
  await saved(page);
  expect((await block())?.attrs).toMatchObject({ x: '6', y: '8', width: '12', height: '8' });
  await page.getByRole('button', { name: /^Turn by 90° clockwise/ }).click();
  await expect(page.getByRole('textbox', { name: 'width', exact: true })).toHaveValue('8');
  await page.getByRole('button', { name: /^Undo: turn block by 90°/ }).click();
  await expect(page.getByRole('textbox', { name: 'width', exact: true })).toHaveValue('12');
  // The right side is pulled two px of the plane to the right.
  const { x, y } = await middle(page);
  const scale = 16;
  await page.mouse.move(x + 6 * scale, y);
  await page.mouse.down();
  await page.mouse.move(x + 7 * scale, y, { steps: 3 });
  await page.mouse.move(x + 8 * scale, y, { steps: 3 });
  await page.mouse.up();
  await expect(page.getByRole('textbox', { name: 'width', exact: true })).toHaveValue('14');
  await number(page, 'width', '0');
  await expect(page.getByRole('alert').or(page.getByText('is no size').first())).toBeVisible();
  await page.keyboard.press('Escape');
  await saved(page);
  expect((await block())?.attrs.width).toBe('14');
});

test('an edge that is dragged near an edge meets it', async ({ page, app, openProject }) => {
  const id = await openProject('Snapping', { 'square.svg': SQUARE });
  await pieceRow(page, 'square').click();
  await page.keyboard.press('.');
  await deepClick(page);
  const { x, y } = await middle(page);
  const drag = async (dx: number) => {
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + dx / 2, y, { steps: 3 });
    await page.mouse.move(x + dx, y, { steps: 3 });
    await page.mouse.up();
    await saved(page);
    return (await layers(app, id)).find((layer) => layer.name === 'block')?.transform?.[4];
  };
  // Eight px to the artboard's edge at 1600 %: let go three screen px before it.
  expect(await drag(8 * 16 - 3)).toBe(8);
});

test('copied once, pasted onto each selected artboard and in place; text of it is SVG', async ({
  page,
  context,
  app,
  openProject,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const id = await openProject('Copies', { 'one.svg': SQUARE, 'two.svg': icon(), 'three.svg': icon() });
  await pieceRow(page, 'one').click();
  await page.keyboard.press('.');
  await deepClick(page);
  await page.keyboard.press('Control+c');
  await expect(page.getByText('block copied.').first()).toBeVisible();
  const text = await page.evaluate(() => navigator.clipboard.readText());
  expect(text).toMatch(/^<svg xmlns=.*data-name="block".*<\/svg>$/s);
  // Found by their own names: what a check says in a row may name another piece.
  const row = (name: string) => pieceRows(page).filter({ has: page.getByLabel(`${name} becomes files`) });
  await row('two').click();
  await expect(row('two')).toHaveAttribute('aria-selected', 'true');
  await row('three').click({ modifiers: ['Control'] });
  await expect(row('three')).toHaveAttribute('aria-selected', 'true');
  await plane(page).focus();
  await page.keyboard.press('Control+v');
  await expect(page.getByText('Pasted onto 2 artboards.').first()).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('v');
  await saved(page);
  const blocks = (await layers(app, id)).filter((layer) => layer.name === 'block');
  expect(blocks).toHaveLength(4);
  // The third artboard stands in the second row.
  const places = blocks.map(
    ({ attrs, transform }) => `${Number(attrs.x) + (transform?.[4] ?? 0)},${Number(attrs.y) + (transform?.[5] ?? 0)}`,
  );
  expect(places.sort()).toEqual(['48,8', '8,48', '8,8', '8,8']);
});

test('SVG text from elsewhere is pasted as artwork; other text is answered in words', async ({
  page,
  context,
  app,
  openProject,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const id = await openProject('Pasting', { 'one.svg': icon() });
  const paste = async (text: string) => {
    await page.evaluate((words) => navigator.clipboard.writeText(words), text);
    await plane(page).focus();
    await page.keyboard.press('Control+v');
  };
  await paste(icon('<g id="from-elsewhere"><path d="M2 2h9v9z" onclick="steal()"/></g>'));
  await expect(page.getByText('1 file brought in').first()).toBeVisible();
  await paste('a shopping list');
  await expect(page.getByText('The clipboard holds text, but no SVG.').first()).toBeVisible();
  await paste('<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0"');
  await expect(page.getByText(/pasted\.svg/).first()).toBeVisible();
  await paste(icon(`<path d="M0 0${'l1 1'.repeat(2_500_000)}"/>`));
  await expect(page.getByText(/attribute/).first()).toBeVisible();
  await saved(page);
  const made = await layers(app, id);
  expect(made.some((layer) => layer.name === 'from-elsewhere')).toBe(true);
  expect(JSON.stringify(made)).not.toContain('steal');
  expect((await records(app, id)).filter((record) => record.kind === 'artboard')).toHaveLength(1);
});

test('what is pasted before the code for it is here is pasted when it comes', async ({
  page,
  context,
  openProject,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  let letCome = () => {};
  const isAsked = new Promise<void>((resolve) => {
    void page.route(/\/clipboard-[^/]*\.js$/, async (route) => {
      resolve();
      await new Promise<void>((come) => (letCome = come));
      await route.continue();
    });
  });
  await openProject('Pasted early', { 'one.svg': icon() });
  await page.evaluate((text) => navigator.clipboard.writeText(text), icon('<path id="early" d="M2 2h9v9z"/>'));
  await plane(page).focus();
  await page.keyboard.press('Control+v');
  await isAsked;
  letCome();
  await expect(page.getByText('1 file brought in').first()).toBeVisible();
});

test('a shape and two lines of text are drawn, set in a font of one’s own, and made outlines', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Drawing', { 'one.svg': icon('', 'width="200" height="120"') });
  await page.keyboard.press(',');
  const { x, y } = await middle(page);
  await page.keyboard.press('4');
  await page.getByRole('radio', { name: 'polygon' }).click();
  await page.mouse.move(x - 60, y - 60);
  await page.mouse.down();
  await page.mouse.move(x + 20, y, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('treegrid', { name: 'Layers' })).toContainText('polygon');
  await page.keyboard.press('5');
  await page.mouse.click(x - 100, y + 40);
  await expect(page.getByRole('textbox', { name: 'Words, a line each' })).toBeFocused();
  await page.keyboard.type('Kelp\nBay');
  await page.getByRole('textbox', { name: 'size of the text' }).click();
  const require = createRequire(import.meta.url);
  await page.getByTestId('add-font').setInputFiles({
    name: 'tidal.woff2',
    mimeType: 'font/woff2',
    buffer: readFileSync(require.resolve('@fontsource/spline-sans-mono/files/spline-sans-mono-latin-700-normal.woff2')),
  });
  await expect(page.getByText('tidal.woff2 was added').first()).toBeVisible();
  await page
    .getByTestId('add-font')
    .setInputFiles({ name: 'words.ttf', mimeType: 'font/ttf', buffer: Buffer.from('no font') });
  await expect(page.getByText('words.ttf is not a font').first()).toBeVisible();
  await page.getByRole('combobox', { name: 'Font' }).selectOption('Spline Sans Mono');
  await saved(page);
  const text = (await layers(app, id)).find((layer) => layer.tag === 'text');
  expect(text).toMatchObject({ name: 'Kelp', attrs: { 'font-family': 'Spline Sans Mono' } });
  expect(text?.text?.map((run) => run.text)).toEqual(['Kelp', 'Bay']);
  await page.getByRole('button', { name: 'To outlines' }).click();
  await expect(page.getByRole('textbox', { name: 'Words, a line each' })).toBeHidden();
  await saved(page);
  const outlined = (await layers(app, id)).find((layer) => layer.id === text?.id);
  expect(outlined?.tag).toBe('g');
  expect((await layers(app, id)).filter((layer) => layer.parentId === text?.id && layer.tag === 'path')).toHaveLength(
    2,
  );
});

test('text is seen on the plane while it is typed; any key that leaves the field keeps it, and one undo takes it back', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Typing', { 'one.svg': icon('', 'width="200" height="120"') });
  await page.keyboard.press(',');
  const { x, y } = await middle(page);
  await page.keyboard.press('5');
  await page.mouse.click(x - 100, y);
  const field = page.getByRole('textbox', { name: 'Words, a line each' });
  await expect(field).toBeFocused();
  const first = await field.inputValue();
  const clip = { x: x - 110, y: y - 60, width: 330, height: 120 };
  const plane = async () => (await page.screenshot({ clip })).toString('base64');
  let before = await plane();
  // Its words are chosen, so that the first letter takes their place; each letter is drawn before the field is left.
  for (const letter of 'Kel') {
    await page.keyboard.type(letter);
    await expect.poll(plane).not.toBe(before);
    before = await plane();
  }
  await page.keyboard.press('Enter');
  await page.keyboard.type(' p');
  await expect(field).toHaveValue('Kel\n p');
  await page.keyboard.press('Escape');
  await expect(field).not.toBeFocused();
  await expect(field).toHaveValue('Kel\n p');
  await saved(page);
  const text = async () => (await layers(app, id)).find((layer) => layer.tag === 'text')?.text?.map((run) => run.text);
  expect(await text()).toEqual(['Kel', ' p']);
  await page.keyboard.press('Control+z');
  await expect(field).toHaveValue(first);
  await page.keyboard.press('Control+Shift+z');
  await expect(field).toHaveValue('Kel\n p');
  // Without any words it would be nowhere: the last ones stay.
  await field.fill('  ');
  await page.keyboard.press('Tab');
  await expect(field).toHaveValue('Kel\n p');
});

test('a layer is dragged into a group of the tree and out again by keys; it keeps its place', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Tree', {
    'set.svg': icon(
      '<g id="bed" transform="translate(2 2)"><rect id="kelp" width="4" height="4"/></g><rect id="stray" x="14" y="14" width="6" height="6"/>',
    ),
  });
  await page.getByRole('tab', { name: 'Layers' }).click();
  await treeRow(page, 'set').click();
  await page.keyboard.press('ArrowRight');
  const [from, to] = [await treeRow(page, 'stray').boundingBox(), await treeRow(page, 'bed').boundingBox()];
  if (!from || !to) throw new Error('no rows');
  await page.mouse.move(from.x + 120, from.y + 14);
  await page.mouse.down();
  await page.mouse.move(from.x + 120, from.y + 24, { steps: 4 });
  await page.mouse.move(to.x + 120, to.y + 14, { steps: 4 });
  await page.mouse.up();
  const parentOf = async (name: string) => {
    await saved(page);
    const all = await layers(app, id);
    const layer = all.find((each) => each.name === name);
    return { parent: all.find((each) => each.id === layer?.parentId)?.name, at: layer?.transform };
  };
  expect(await parentOf('stray')).toEqual({ parent: 'bed', at: [1, 0, 0, 1, -2, -2] });
  await treeRow(page, 'stray').click();
  await page.keyboard.press('Alt+ArrowLeft');
  expect(await parentOf('stray')).toEqual({ parent: 'set', at: undefined });
});

test('every command is found by name, every key is listed', async ({ page, openProject }) => {
  await openProject('Commands', { 'a.svg': icon(), 'b.svg': icon() });
  await page.keyboard.press('Control+k');
  await page.keyboard.type('pick all artboards');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: '2 pieces' })).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('one page');
  await page.keyboard.press('Enter');
  await expect(pieceRows(page)).toHaveCount(3);
  await expect(pieceRow(page, 'a to b')).toContainText('slice of artboards');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('Wireframe');
  await page.keyboard.press('Escape');
  // Escape closed the list and nothing else.
  await expect(page.getByRole('heading', { name: 'slice' })).toBeVisible();
});

test('white on white is seen in wireframe and on a backdrop; a piece is seen in its pixels', async ({
  page,
  openProject,
}) => {
  await openProject('Seeing', { 'ghost.svg': icon('<path d="M0 0h12v24H0z" fill="#fff"/>') });
  await pieceRow(page, 'ghost').click();
  await page.keyboard.press('.');
  const { x, y } = await middle(page);
  await page.keyboard.press('x');
  const [left, row] = [x - 100, y + 4];
  await page.getByRole('radio', { name: 'Backdrop white' }).click();
  await expect.poll(() => pixel(page, left, row)).toBe('#ffffff');
  await page.getByRole('radio', { name: 'Backdrop dark' }).click();
  await expect.poll(() => pixel(page, left + 200, row)).toBe('#2a2f30');
  await expect.poll(() => pixel(page, left, row)).toBe('#ffffff');
  await page.keyboard.press('w');
  await expect.poll(() => pixel(page, left, row)).toBe('#2a2f30');
  await page.keyboard.press('w');
  await page.keyboard.press('p');
  await expect(page.getByRole('button', { name: /^Pixels 1×/ })).toHaveAttribute('aria-pressed', 'true');
  await expect.poll(() => pixel(page, left, row)).toBe('#ffffff');
});

test('an updated file replaces the artwork of the artboard of its name, in one undo', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Updated', { 'anchor.svg': SQUARE, 'boat.svg': icon() });
  const before = (await records(app, id)).find((record) => record.kind === 'artboard' && record.name === 'anchor');
  await dropFiles(
    page,
    { 'anchor.svg': icon('<circle id="ring" cx="12" cy="12" r="8"/>'), 'crab.svg': icon() },
    'main',
  );
  await expect(page.getByRole('dialog')).toContainText('1 artboard here has the name of a file');
  await page.getByRole('button', { name: 'Replace 1 artwork' }).click();
  await expect(pieceRows(page)).toHaveCount(3);
  await saved(page);
  expect((await records(app, id)).find((record) => record.kind === 'artboard' && record.name === 'anchor')).toEqual(
    before,
  );
  expect((await layers(app, id)).some((layer) => layer.name === 'block')).toBe(false);
  await plane(page).focus();
  await page.keyboard.press('Control+z');
  await expect(pieceRows(page)).toHaveCount(2);
  await saved(page);
  expect((await layers(app, id)).some((layer) => layer.name === 'block')).toBe(true);
  expect((await layers(app, id)).some((layer) => layer.name === 'ring')).toBe(false);
});

test('a slice whose layer is deleted says so and can keep its region', async ({ page, openProject }) => {
  await openProject('Loose', { 'set.svg': SQUARE });
  await page.getByRole('tab', { name: 'Layers' }).click();
  await treeRow(page, 'set').click();
  await page.keyboard.press('ArrowRight');
  await treeRow(page, 'block').click();
  await page.getByRole('button', { name: 'Slice of it' }).click();
  await treeRow(page, 'block').click();
  await page.keyboard.press('Delete');
  await page.getByRole('button', { name: 'Keep its region' }).first().click();
  await page.getByRole('tab', { name: /^Pieces/ }).click();
  await pieceRow(page, 'block').click();
  for (const side of ['width', 'height'])
    await expect(page.getByRole('textbox', { name: side, exact: true })).toHaveValue('8');
});

test('one colour is changed everywhere, and what looks alike is picked', async ({ page, app, openProject }) => {
  const id = await openProject('Colours', {
    'a.svg': SQUARE,
    'b.svg': icon('<path id="leaf" d="M2 2h9v9z" fill="#d2452a"/><path id="stem" d="M2 2h9" stroke="#0c6a53"/>'),
  });
  await pieceRow(page, 'a').click();
  await page.keyboard.press('.');
  await deepClick(page);
  await page.getByRole('button', { name: 'Same fill' }).click();
  await expect(page.getByRole('heading', { name: '2 layers' })).toBeVisible();
  await page.getByRole('button', { name: 'Change everywhere…' }).click();
  await page.getByRole('radio', { name: /^#d2452a/ }).click();
  await page.getByRole('textbox', { name: 'New colour in hex' }).fill('#1234');
  await expect(page.getByRole('button', { name: /^Change 2 uses/ })).toBeDisabled();
  await page.getByRole('textbox', { name: 'New colour in hex' }).fill('#12343b');
  await page.getByRole('button', { name: 'Change 2 uses' }).click();
  await saved(page);
  expect((await layers(app, id)).filter((layer) => layer.attrs.fill === '#12343b')).toHaveLength(2);
});

test('a WebP picture is on the Bench as it is in the files', async ({ page, openProject }) => {
  const webp = await sharp({ create: { width: 24, height: 24, channels: 3, background: '#c02010' } })
    .webp({ lossless: true })
    .toBuffer();
  await openProject('WebP', {
    'photo.svg': icon(`<image width="24" height="24" href="data:image/webp;base64,${webp.toString('base64')}"/>`),
  });
  await pieceRow(page, 'photo').click();
  await page.keyboard.press('.');
  await expect
    .poll(async () => {
      const { x, y } = await middle(page);
      return pixel(page, x + 60, y + 40);
    })
    .toBe('#c02010');
});

test('a browser shows one artboard of a saved project file, as large as its window', async ({
  page,
  app,
  openProject,
}, info) => {
  const id = await openProject('Sea and land', {
    'sea.svg': icon('<rect width="24" height="24" fill="#1040c0"/>'),
    'land.svg': icon('<rect width="24" height="24" fill="#10a020"/>'),
  });
  const text = await (await fetch(`${app.url}/api/projects/${id}/project.svg`)).text();
  const path = info.outputPath('saved.svg');
  writeFileSync(path, text);
  for (const [name, colour] of [
    ['sea', '#1040c0'],
    ['land', '#10a020'],
  ]) {
    await page.goto('about:blank');
    await page.goto(`${pathToFileURL(path)}#${name}`);
    await expect.poll(() => pixel(page, 640, 400)).toBe(colour);
    await expect.poll(() => pixel(page, 300, 60)).toBe(colour);
  }
});
