import { readFile } from 'node:fs/promises';
import { type App, expect, icon, pieceRow, pieceRows, saved, test } from './app';

test('one thing is changed only in an edition, listed, and taken back; the base changes all', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Editions', {
    'card.svg': icon(
      '<rect id="ground" width="24" height="24" fill="#eeeeee"/><circle id="sun" cx="12" cy="12" r="5" fill="#f0a000"/>',
    ),
  });
  const { records, version } = await app.api<{
    records: { id: string; kind: string; name: string; specIds: string[] }[];
    version: number;
  }>(`/projects/${id}/records`);
  const board = records.find((record) => record.kind === 'artboard');
  const puts = ['spring', 'winter'].map((name, i) => ({
    id: `edition${name}`,
    kind: 'edition',
    artboardId: board?.id,
    order: `a${i}`,
    name,
    specIds: board?.specIds,
    overrides: {},
  }));
  await app.api(`/projects/${id}/edits`, { id: 'makeeditions', baseVersion: version, puts, removes: [] });
  const svgOf = async (name: string) => {
    const { files } = await app.api<{ files: { path: string; pieceId: string; outputId: string }[] }>(
      `/projects/${id}/plan`,
    );
    const file = files.find((each) => each.path === `${name}.svg`);
    return (await fetch(`${app.url}/api/projects/${id}/files/${file?.pieceId}/${file?.outputId}`)).text();
  };

  await pieceRow(page, 'winter').click();
  const strip = page.getByRole('region', { name: 'Editions of card' });
  await expect(strip.getByRole('radio', { name: 'only winter' })).toHaveAttribute('aria-checked', 'true');
  await page.getByRole('tab', { name: 'Layers' }).click();
  const tree = page.getByRole('treegrid', { name: 'Layers' });
  await page.getByRole('searchbox', { name: 'Find layers by name' }).fill('sun');
  await tree.getByRole('button', { name: 'Hide sun' }).click();
  await expect(tree).toContainText('hidden here');
  await saved(page);
  expect(await svgOf('winter')).not.toContain('circle');
  expect(await svgOf('spring')).toContain('circle');

  await page.getByRole('tab', { name: 'Pieces' }).click();
  await pieceRow(page, 'winter').click();
  await expect(page.getByText('What it changes from the base')).toBeVisible();
  await page.getByRole('button', { name: 'Take back' }).click();
  await expect(page.getByText('Nothing: it is the same as the base.')).toBeVisible();
  await saved(page);
  expect(await svgOf('winter')).toContain('circle');

  // By keys: back to the edition before, then let a change go to the base.
  await page.getByLabel(/^Plane with/).focus();
  await page.keyboard.press('[');
  await expect(strip.getByRole('radio', { name: 'only spring' })).toBeVisible();
  await strip.getByRole('radio', { name: 'the base' }).click();
  await page.getByRole('tab', { name: 'Layers' }).click();
  await page.getByRole('searchbox', { name: 'Find layers by name' }).fill('sun');
  await tree.getByRole('button', { name: 'Hide sun' }).click();
  await saved(page);
  for (const name of ['card', 'spring', 'winter']) expect(await svgOf(name)).not.toContain('circle');
});

const CARD = icon(
  '<rect id="ground" width="120" height="60" fill="#dfe8e2"/><g id="season"><circle id="summer" cx="100" cy="16" r="9" fill="#f0a000"/><circle id="winter" cx="100" cy="16" r="9" fill="#7aa5d8" display="none"/></g><text id="word" x="8" y="40" font-size="18" font-family="Schibsted Grotesk" fill="#12343b">Harbour</text>',
  'width="120" height="60" viewBox="0 0 120 60"',
);
const svgs = async (app: App, id: string) => {
  const { files } = await app.api<{ files: { path: string; pieceId: string; outputId: string; widthPx: number }[] }>(
    `/projects/${id}/plan`,
  );
  const all = new Map<string, string>();
  for (const { path, pieceId, outputId } of files)
    if (path.endsWith('.svg'))
      all.set(path, await (await fetch(`${app.url}/api/projects/${id}/files/${pieceId}/${outputId}`)).text());
  return { all, widths: new Set(files.filter((file) => file.path.endsWith('.svg')).map((file) => file.widthPx)) };
};

test('12 editions from a table; the base changed once, all are new; resized once, all have the new shape; by keys alone', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Cards', { 'card.svg': CARD });
  await pieceRow(page, 'card').click();
  await page.getByLabel(/^Plane with/).focus();
  const command = async (name: string) => {
    await page.keyboard.press('Control+k');
    await page.keyboard.type(name);
    await page.keyboard.press('Enter');
  };
  await command('editions from a table');
  const dialog = page.getByRole('dialog');
  const table = dialog.getByRole('textbox', { name: /^A row each/ });
  await expect(table).toHaveValue('edition\tseason\tword\ncard-1\tsummer\tHarbour\n');
  await table.focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('edition;season;moon\na;winter;x\na;;');
  await expect(dialog.getByRole('list', { name: 'What cannot be used' })).toContainText('no layer here is called moon');
  await expect(dialog.getByRole('list', { name: 'What cannot be used' })).toContainText('a is the name of row 2, too');
  const words = ['Havn', 'Hafen', 'Port', 'Puerto', 'Porto', 'Höfn'];
  const rows = words.flatMap((word) =>
    ['summer', 'winter'].map((season) => `card-${word}-${season};${season};${word}`),
  );
  await page.keyboard.press('Control+a');
  await page.keyboard.insertText(['edition;season;word', ...rows].join('\n'));
  await dialog.getByRole('button', { name: 'Make 12 editions' }).press('Enter');
  await expect(pieceRows(page)).toHaveCount(13);
  await saved(page);
  const first = await svgs(app, id);
  expect(first.all.size).toBe(12);
  expect(new Set(first.all.values()).size).toBe(12);

  // The base's text in another size: every edition has it, whatever words it says.
  await page.getByRole('tab', { name: 'Layers' }).press('Enter');
  const tree = page.getByRole('treegrid', { name: 'Layers' });
  const pick = async (name: string) => {
    await page.getByRole('searchbox', { name: 'Find layers by name' }).fill(name);
    await tree.focus();
    await page.keyboard.press('Home');
  };
  await pick('word');
  await page.getByRole('textbox', { name: 'size of the text' }).fill('20');
  await page.keyboard.press('Enter');
  await saved(page);
  const second = await svgs(app, id);
  for (const [path, svg] of second.all) expect(svg).not.toBe(first.all.get(path));

  // The seasons hold to the right edge, the ground to both; the artboard grows once.
  for (const name of ['summer', 'winter']) {
    await pick(name);
    await page.getByRole('combobox', { name: 'Keeps across to' }).selectOption('right edge');
  }
  await pick('ground');
  await page.getByRole('combobox', { name: 'Keeps across to' }).selectOption('both edges');
  await page.getByRole('tab', { name: 'Pieces' }).press('Enter');
  await pieceRow(page, 'card').first().press('Enter');
  await pieceRow(page, 'card').first().click();
  await page.getByRole('textbox', { name: 'width', exact: true }).fill('160');
  await page.keyboard.press('Enter');
  await saved(page);
  const third = await svgs(app, id);
  expect([...third.widths]).toEqual([160]);
  for (const svg of third.all.values())
    expect(svg).toMatch(/cx="140"|translate\(40|M149 16|h160|width="160" height="60"/);
});

test('an edition says other words; the difference is given to others, and combinations are counted before', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Words', { 'card.svg': CARD });
  await pieceRow(page, 'card').click();
  await page.getByRole('button', { name: 'Editions…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('radio', { name: 'All combinations' }).click();
  await expect(dialog.getByRole('checkbox', { name: 'Combine season' })).toBeChecked();
  await dialog.getByRole('textbox', { name: /^Names/ }).fill('{base}-{season}');
  await dialog.getByRole('button', { name: 'Make 2 editions' }).click();
  await pieceRow(page, 'card-winter').click();
  await page.getByRole('tab', { name: 'Layers' }).click();
  await page.getByRole('searchbox', { name: 'Find layers by name' }).fill('word');
  await page.getByRole('treegrid', { name: 'Layers' }).getByRole('row').first().click();
  await expect(page.getByRole('heading', { name: 'Words in card-winter only' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Words, a line each' }).fill('Vinter');
  await page.keyboard.press('Control+Enter');
  await page.getByRole('tab', { name: 'Pieces' }).click();
  await pieceRow(page, 'card-winter').click();
  await expect(page.getByText('says "Vinter"')).toBeVisible();
  await page
    .getByRole('listitem')
    .filter({ hasText: 'says "Vinter"' })
    .getByRole('button', { name: 'To others…' })
    .click();
  await page.getByRole('button', { name: 'All', exact: true }).click();
  await page.getByRole('button', { name: 'Give to 1 edition' }).click();
  await saved(page);
  const { records } = await app.api<{
    records: { kind: string; name: string; overrides?: Record<string, { words?: string }> }[];
  }>(`/projects/${id}/records`);
  const said = records
    .filter((record) => record.kind === 'edition')
    .map((record) => Object.values(record.overrides ?? {}).find((override) => override.words)?.words);
  expect(said).toEqual(['Vinter', 'Vinter']);
  // Escape goes back to the base first.
  await page.getByLabel(/^Plane with/).focus();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('heading', { name: 'Artboard' })).toBeVisible();
});

test('on the Bench an edition is worked on as it is shown: clicked, moved and aligned where one sees it', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('In an edition', { 'card.svg': CARD });
  const { records, version } = await app.api<{
    records: { id: string; kind: string; name: string; x: number; y: number; specIds: string[] }[];
    version: number;
  }>(`/projects/${id}/records`);
  const board = records.find((record) => record.kind === 'artboard');
  const layer = (name: string) =>
    records.find((record) => record.kind === 'layer' && record.name === name)?.id as string;
  const overrides = {
    [layer('summer')]: { shown: false },
    [layer('winter')]: { shown: true, offset: { x: 0, y: 36 } },
  };
  await app.api(`/projects/${id}/edits`, {
    id: 'makeedition1',
    baseVersion: version,
    puts: [
      {
        id: 'editionwin',
        kind: 'edition',
        artboardId: board?.id,
        order: 'a0',
        name: 'cold',
        specIds: board?.specIds,
        overrides,
      },
    ],
    removes: [],
  });
  const overrideNow = async () => {
    const now = await app.api<{ records: { id: string; overrides?: Record<string, unknown> }[] }>(
      `/projects/${id}/records`,
    );
    return now.records.find((record) => record.id === 'editionwin')?.overrides?.[layer('winter')];
  };
  await pieceRow(page, 'cold').click();
  const canvas = page.getByLabel(/^Plane with/);
  await canvas.focus();
  await page.keyboard.press(',');
  await page.waitForTimeout(600);
  // Everything fits with a margin of 56 px, in the middle of the plane.
  const box = await canvas.boundingBox();
  if (!box) throw new Error('no plane');
  const scale = Math.min(8, (box.width - 112) / 120, (box.height - 112) / 60);
  const at = (x: number, y: number) => ({
    position: { x: box.width / 2 + (x - 60) * scale, y: box.height / 2 + (y - 30) * scale },
  });
  const name = page.getByLabel('Selection').getByRole('textbox', { name: 'Name' });
  // A click on the artboard leaves the edition as it is; each double click goes deeper: the card, its season, the sun.
  await canvas.click(at(100, 54));
  await expect(page.getByRole('radio', { name: 'only cold' })).toBeVisible();
  for (let depth = 0; depth < 3; depth++) await canvas.dblclick(at(100, 54));
  await expect(name).toHaveValue('winter');
  await expect(page.getByRole('textbox', { name: 'x', exact: true })).toHaveValue(String((board?.x ?? 0) + 91));
  await canvas.focus();
  await page.keyboard.press('ArrowRight');
  await saved(page);
  expect(await overrideNow()).toEqual({ shown: true, offset: { x: 1, y: 36 } });
  // Showing and fading go where the switch says, too.
  await page.getByRole('textbox', { name: "opacity in cold, in percent of the base's" }).fill('40');
  await page.keyboard.press('Enter');
  await page.getByLabel('Selection').getByRole('checkbox', { name: 'Shown' }).click();
  await saved(page);
  expect(await overrideNow()).toEqual({ offset: { x: 1, y: 36 }, opacity: 0.4 });
  await canvas.focus();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await page
    .getByRole('button', { name: /^Align.*left/i })
    .first()
    .click();
  await saved(page);
  expect(await overrideNow()).toEqual({ shown: true, offset: { x: -91, y: 36 } });
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await saved(page);
  expect(await overrideNow()).toEqual({ shown: true, offset: { x: 0, y: 36 } });
});

test('200 editions: the strip holds those in view, and stepping brings the next one there', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Many editions', { 'card.svg': CARD });
  const { records, version } = await app.api<{
    records: { id: string; kind: string; specIds: string[] }[];
    version: number;
  }>(`/projects/${id}/records`);
  const board = records.find((record) => record.kind === 'artboard');
  const three = (i: number) => String(i).padStart(3, '0');
  const puts = Array.from({ length: 200 }, (_, i) => ({
    id: `edition${three(i + 1)}`,
    kind: 'edition',
    artboardId: board?.id,
    order: `a${three(i)}1`,
    name: `card-${three(i + 1)}`,
    specIds: board?.specIds,
    overrides: {},
  }));
  await app.api(`/projects/${id}/edits`, { id: 'make200', baseVersion: version, puts, removes: [] });
  await pieceRow(page, 'card').click();
  const strip = page.getByRole('region', { name: 'Editions of card' });
  const shown = (name: string) => strip.getByRole('button', { name: `Show ${name}`, exact: true });
  await expect(shown('card-001')).toBeInViewport();
  expect(await strip.getByRole('listitem').count()).toBeLessThan(30);
  await expect(strip.getByRole('listitem').first()).toHaveAttribute('aria-setsize', '200');
  await page.getByLabel(/^Plane with/).focus();
  // Round the base: the one before the base is the last.
  await page.keyboard.press('[');
  await expect(shown('card-200')).toBeInViewport();
  await expect(shown('card-200')).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press(']');
  await page.keyboard.press(']');
  await expect(shown('card-001')).toBeInViewport();
  await expect(strip.getByRole('radio', { name: 'only card-001' })).toHaveAttribute('aria-checked', 'true');
});

test('a table is saved, edited elsewhere and opened again: what it says is seen before it is done, and one undo takes it back', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Cards elsewhere', { 'card.svg': CARD });
  type Rec = { id: string; kind: string; name: string; overrides: Record<string, { words?: string }> };
  const held = async () => {
    const { records } = await app.api<{ records: Rec[] }>(`/projects/${id}/records`);
    const word = records.find(({ kind, name }) => kind === 'layer' && name === 'word')?.id ?? '';
    return records
      .filter(({ kind }) => kind === 'edition')
      .map(({ name, overrides }) => `${name}: ${overrides[word]?.words ?? 'as the base'}`)
      .sort();
  };
  await pieceRow(page, 'card').click();
  await page.getByRole('button', { name: 'Editions…' }).click();
  const dialog = page.getByRole('dialog');
  const table = dialog.getByRole('textbox', { name: /^A row each/ });
  await table.fill('edition;season;word\nde;winter;Hafen\nfr;;Port\nsv;;Harbour');
  await expect(dialog).toContainText('1 cell says what the base says, so it follows the base.');
  await dialog.getByRole('button', { name: 'Make 3 editions' }).click();
  await saved(page);
  expect(await held()).toEqual(['de: Hafen', 'fr: Port', 'sv: as the base']);

  await pieceRow(page, 'card').first().click();
  await page.getByRole('button', { name: 'Editions…' }).click();
  await expect(dialog.getByRole('button', { name: 'Nothing to change' })).toBeDisabled();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    dialog.getByRole('button', { name: 'Save as a file' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('card editions.tsv');
  const text = await readFile(await download.path(), 'utf8');
  expect(text).toBe('\uFEFFedition\tseason\tword\nde\twinter\tHafen\nfr\t\tPort\nsv\t\t\n');
  // As a spreadsheet in another place writes it.
  const edited = 'edition;season;word\r\nde;winter;"Der ""alte"" Hafen"\r\nsv;;Hamn\r\nnl;winter;Haven\r\n';
  await dialog
    .getByTestId('edition-table-file')
    .setInputFiles({ name: 'cards.csv', mimeType: 'text/csv', buffer: Buffer.from(`\uFEFF${edited}`, 'utf16le') });
  await expect(dialog).toContainText('1 new, 2 changed, 1 without a row');
  await dialog.getByRole('checkbox', { name: 'Take out 1 edition without a row' }).click();
  await dialog.getByRole('button', { name: 'Make 1 edition, change 2, take out 1' }).click();
  await saved(page);
  expect(await held()).toEqual(['de: Der "alte" Hafen', 'nl: Haven', 'sv: Hamn']);
  await page.getByLabel(/^Plane with/).focus();
  await page.keyboard.press('Control+z');
  await saved(page);
  await expect.poll(held).toEqual(['de: Hafen', 'fr: Port', 'sv: as the base']);
});
