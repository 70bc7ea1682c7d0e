import sharp from 'sharp';
import { type App, command, dropFiles, expect, icon, pieceRow, pieceRows, saved, tabTo, test } from './app';

type Board = { kind: string; name: string; x: number; y: number; width: number; height: number; order: string };
const boardsOf = async (app: App, id: string) =>
  (await app.api<{ records: Board[] }>(`/projects/${id}/records`)).records
    .filter((record) => record.kind === 'artboard')
    .sort((a, b) => (a.order < b.order ? -1 : 1));

const shape = (i: number) =>
  icon(
    `<rect x="${2 + (i % 3)}.5" y="${3 + (i % 4)}" width="${6 + i}" height="${4 + (i % 5)}"/>`,
    'width="40" height="40" viewBox="0 0 40 40"',
  );

test('from 12 loose files to 12 trimmed, equal, named artboards in rows, and back by undo', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Orderly');
  await dropFiles(
    page,
    Object.fromEntries(Array.from({ length: 12 }, (_, i) => [`Icon ${i + 1}.svg`, shape(i)])),
    'main',
  );
  await expect(pieceRows(page)).toHaveCount(12);
  const boards = () => boardsOf(app, id);
  const before = await boards();

  await page.getByRole('searchbox', { name: /^Find pieces/ }).fill('1-12');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: '12 pieces' })).toBeVisible();
  await page.getByRole('button', { name: 'Trim to artwork' }).click();
  await page.getByRole('textbox', { name: 'width of all' }).fill('24');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'height of all' }).fill('24');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Centre artwork' }).click();
  await page.getByRole('button', { name: 'Lay out in rows…' }).click();
  await page.getByRole('textbox', { name: 'columns' }).fill('4');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Lay out 12' }).click();
  await page.getByRole('button', { name: 'Names…' }).click();
  await page.getByRole('radio', { name: 'Replace' }).click();
  await page.getByRole('textbox', { name: 'Find', exact: true }).fill('Icon ');
  await page.getByRole('textbox', { name: 'Replace by' }).fill('harbour-');
  await page.getByRole('button', { name: 'Rename 12' }).click();
  await saved(page);

  const after = await boards();
  expect(after.map((board) => board.name)).toEqual(Array.from({ length: 12 }, (_, i) => `harbour-${i + 1}`));
  expect(
    after.every(
      (board) => board.width === 24 && board.height === 24 && Number.isInteger(board.x) && Number.isInteger(board.y),
    ),
  ).toBe(true);
  expect(new Set(after.map((board) => board.y)).size).toBe(3);
  expect(after.slice(0, 4).map((board) => board.x - after[0].x)).toEqual([0, 40, 80, 120]);

  await page.getByLabel(/^Plane with/).focus();
  for (let i = 0; i < 6; i++) await page.keyboard.press('Control+z');
  await saved(page);
  expect(await boards()).toEqual(before);
});

test('the same by keyboard alone: commands by name, Tab and typing', async ({ page, app, openProject }) => {
  const id = await openProject(
    'By keys',
    Object.fromEntries(Array.from({ length: 6 }, (_, i) => [`Icon ${i + 1}.svg`, shape(i)])),
  );
  await expect(pieceRows(page)).toHaveCount(6);
  await page.getByLabel(/^Plane with/).focus();
  const type = async (name: string, text: string) => {
    await tabTo(page, name);
    await page.keyboard.press('Control+a');
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
  };
  await command(page, 'pick all artboards');
  await expect(page.getByRole('heading', { name: '6 pieces' })).toBeVisible();
  await command(page, 'trim to artwork');
  await type('width of all', '24');
  await type('height of all', '24');
  await command(page, 'centre artwork');
  await command(page, 'lay out in rows');
  await type('columns', '3');
  await tabTo(page, 'Lay out 6');
  await page.keyboard.press('Enter');
  await command(page, 'names side by side');
  await tabTo(page, 'As typed');
  await page.keyboard.press('ArrowRight');
  await tabTo(page, 'Find');
  await page.keyboard.type('Icon ');
  await tabTo(page, 'Replace by');
  await page.keyboard.type('harbour-');
  await tabTo(page, 'Rename 6');
  await page.keyboard.press('Enter');
  await saved(page);
  const boards = await boardsOf(app, id);
  expect(boards.map((board) => board.name)).toEqual(Array.from({ length: 6 }, (_, i) => `harbour-${i + 1}`));
  expect(boards.map(({ x, y, width, height }) => [x - boards[0].x, y - boards[0].y, width, height])).toEqual(
    [0, 1, 2, 3, 4, 5].map((i) => [(i % 3) * 40, Math.floor(i / 3) * 40, 24, 24]),
  );
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: /is written and measured/ })).toBeVisible();
});

test('a picture into 24 tiles that meet exactly', async ({ page, app, openProject }) => {
  const picture = await sharp({ create: { width: 120, height: 80, channels: 3, background: '#0c6a53' } })
    .png()
    .toBuffer();
  const id = await openProject('Tiles', { 'shore.png': picture });
  await pieceRow(page, 'shore').click();
  await page.getByRole('button', { name: 'Cut into tiles…' }).click();
  await page.getByRole('textbox', { name: 'columns' }).fill('6');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'rows' }).fill('4');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Cut into 24 tiles' }).click();
  await expect(pieceRow(page, 'shore-b3')).toBeVisible();
  await saved(page);
  const { files } = await app.api<{ files: { path: string; widthPx: number; pieceId: string; outputId: string }[] }>(
    `/projects/${id}/plan`,
  );
  expect(files.filter((file) => file.path.endsWith('.png') && file.widthPx === 20)).toHaveLength(24);
  const tile = files.find((file) => file.path === 'shore-b3.png');
  const bytes = await (
    await fetch(`${app.url}/api/projects/${id}/files/${tile?.pieceId}/${tile?.outputId}`)
  ).arrayBuffer();
  expect((await sharp(Buffer.from(bytes)).stats()).dominant).toEqual({ r: 8, g: 104, b: 88 });

  // Cut again: 18 go on at their places, 6 go.
  await pieceRow(page, 'shore').click();
  await page.getByRole('button', { name: 'Cut into tiles…' }).click();
  await page.getByRole('textbox', { name: 'columns' }).fill('6');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toContainText('18 keep their names, specs and switches, 6 go.');
  await page.getByRole('button', { name: 'Cut into 18 tiles' }).click();
  await expect(pieceRows(page)).toHaveCount(19);
  await saved(page);
  const again = await app.api<{ files: { path: string; pieceId: string }[] }>(`/projects/${id}/plan`);
  expect(again.files.find((file) => file.path === 'shore-b3.png')?.pieceId).toBe(tile?.pieceId);
  expect(again.files.some((file) => file.path === 'shore-d1.png')).toBe(false);
});

test('a group and a layer in it both become pieces, by the tree and the keyboard alone', async ({
  page,
  openProject,
}) => {
  await openProject('Parent and child', {
    'boat.svg': icon(
      '<g id="hull"><rect id="plank" x="4" y="14" width="16" height="4"/></g><path id="sail" d="M12 3v9h8z"/>',
    ),
  });
  await page.getByRole('tab', { name: 'Layers' }).focus();
  await page.keyboard.press('Enter');
  const tree = page.getByRole('treegrid', { name: 'Layers' });
  await tree.focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowRight');
  await expect(tree.getByRole('row')).toHaveCount(3);
  await page.keyboard.press('End');
  await page.keyboard.press('ArrowRight');
  await expect(tree.getByRole('row').filter({ hasText: 'hull' })).toHaveAttribute('aria-selected', 'true');
  await page.getByRole('button', { name: 'Artboard around it' }).press('Enter');
  await page.getByRole('tab', { name: 'Pieces' }).press('Enter');
  await expect(pieceRow(page, 'hull')).toContainText('16 × 4');
  await page.getByRole('tab', { name: 'Layers' }).press('Enter');
  await page.getByRole('searchbox', { name: 'Find layers by name' }).fill('plank');
  await tree.focus();
  await page.keyboard.press('Home');
  await page.getByRole('button', { name: 'Slice of it' }).press('Enter');
  await page.getByRole('tab', { name: 'Pieces' }).press('Enter');
  await expect(pieceRow(page, 'plank')).toContainText('slice of a layer');
});

test('hidden and bench-only layers stay out of files; a layer moved by hand moves in its files', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Marks', {
    'a.svg': icon(
      '<rect id="keep" x="2" y="2" width="6" height="6"/><rect id="guide" x="12" y="12" width="6" height="6" fill="#f00"/>',
    ),
  });
  const svgOf = async () => {
    const { files } = await app.api<{ files: { path: string; pieceId: string; outputId: string }[] }>(
      `/projects/${id}/plan`,
    );
    const file = files.find((each) => each.path === 'a.svg');
    return (await fetch(`${app.url}/api/projects/${id}/files/${file?.pieceId}/${file?.outputId}`)).text();
  };
  expect(await svgOf()).toContain('red');
  await page.getByRole('tab', { name: 'Layers' }).click();
  const tree = page.getByRole('treegrid', { name: 'Layers' });
  await tree.getByRole('row').first().click();
  await page.keyboard.press('ArrowRight');
  await tree.getByRole('row').filter({ hasText: 'guide' }).click();
  await page.getByRole('checkbox', { name: 'In no file' }).click();
  await expect(tree.getByRole('row').filter({ hasText: 'guide' })).toContainText('in no file');
  await saved(page);
  expect(await svgOf()).not.toContain('red');
  await tree.getByRole('row').filter({ hasText: 'keep' }).click();
  await page.getByLabel(/^Plane with/).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await saved(page);
  expect(await svgOf()).toMatch(/M12 2h6v6h-6z|translate\(10/);
});

test('the right button asks what can be done: with artwork, a piece, the empty ground; the keyboard does, too', async ({
  page,
  openProject,
}) => {
  await openProject('Menus', { 'mark.svg': icon('<rect id="block" x="4" y="4" width="16" height="16"/>') });
  const menu = page.getByRole('menu', { name: 'What can be done here' });
  await pieceRow(page, 'mark').click({ button: 'right' });
  await expect(menu.getByRole('menuitem', { name: /^Variants…/ })).toBeVisible();
  await menu.getByRole('menuitem', { name: /^Duplicate/ }).click();
  await expect(menu).toHaveCount(0);
  await expect(pieceRows(page)).toHaveCount(2);
  // A layer in the tree has what layers can have.
  await page.getByRole('tab', { name: 'Layers' }).click();
  await page.getByRole('treegrid', { name: 'Layers' }).getByRole('row').first().click({ button: 'right' });
  await expect(menu.getByRole('menuitem', { name: /^To the front/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(menu).toHaveCount(0);
  // Keys are the menu's while it is open: nothing behind it is deleted.
  const plane = page.locator('canvas[tabindex]');
  await plane.click({ button: 'right', position: { x: 40, y: 400 } });
  await expect(menu.getByRole('menuitem', { name: /^Fit everything/ })).toBeVisible();
  await page.keyboard.press('Delete');
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'Pieces' }).click();
  await expect(pieceRows(page)).toHaveCount(2);
  await pieceRow(page, 'mark').first().click();
  await plane.focus();
  await page.keyboard.press('Shift+F10');
  await menu.getByRole('menuitem', { name: /^Make no files of the selected/ }).press('Enter');
  await expect(pieceRows(page).first()).toContainText('off');
});

test('commands are found by what people call them, on the shelf, too', async ({ page, openProject }) => {
  await openProject('Words', { 'mark.svg': icon() });
  for (const [typed, found] of [
    ['import', 'Bring in files…'],
    ['crop', 'Trim to artwork'],
    ['color', 'Colours of this project…'],
    ['dpi', 'Which files…'],
    ['whole', 'Slice'],
    ['help', 'All keys'],
    ['save', 'Save as a project file'],
    ['zip', 'To the Deliveries'],
    ['folder', 'To the Deliveries'],
    ['size', 'Which files…'],
    ['jpg', 'Which files…'],
    ['undo', 'Undo'],
  ]) {
    await page.keyboard.press('Control+k');
    await page.keyboard.type(typed);
    await expect(page.getByRole('option', { name: found }).first()).toBeVisible();
    await page.keyboard.press('Escape');
  }
  await page.goto('/');
  await page.getByRole('button', { name: 'Help: keys and commands' }).click();
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('Find a project');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('create');
  await expect(page.getByRole('option', { name: 'New project' })).toBeVisible();
});

test('files of very different sizes: all are brought to one size where it is told that they came in', async ({
  page,
  openProject,
}) => {
  await openProject('Sizes');
  const square = (side: number) =>
    `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}"><rect width="${side}" height="${side}" fill="#0c6a53"/></svg>`;
  await page.setInputFiles(
    '[data-testid="bring-in"]',
    Object.entries({ 'a.svg': 24, 'b.svg': 24, 'poster.svg': 900 }).map(([name, side]) => ({
      name,
      mimeType: 'image/svg+xml',
      buffer: Buffer.from(square(side)),
    })),
  );
  await expect(pieceRow(page, 'poster')).toContainText('900 × 900');
  await page.getByRole('button', { name: 'Bring all to 24 px' }).click();
  await expect(pieceRow(page, 'poster')).toContainText('24 × 24');
});
