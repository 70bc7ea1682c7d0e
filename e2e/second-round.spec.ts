import { type App, dropFiles, expect, pieceRow, saved, test } from './app';

type Rec = {
  id: string;
  kind: string;
  name: string;
  specIds: string[];
  overrides: Record<string, { words?: string; was?: string }>;
};
const records = async (app: App, id: string) => (await app.api<{ records: Rec[] }>(`/projects/${id}/records`)).records;

const banner = (lines: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="120" height="60" viewBox="0 0 120 60"><rect id="ground" width="120" height="60" fill="#dfe8e2"/>${lines}</svg>`;
const LINES =
  '<text id="season" x="8" y="18" font-size="11">Summer</text><text id="place" x="8" y="34" font-size="11">Harbour</text><text id="time" x="8" y="50" font-size="9">all day</text>';

/** A banner with twelve editions that say other words in each of its lines. */
async function withEditions(app: App, id: string): Promise<void> {
  const all = await records(app, id);
  const board = all.find(({ kind }) => kind === 'artboard');
  const layer = (name: string) => all.find((record) => record.kind === 'layer' && record.name === name)?.id ?? '';
  const puts = Array.from({ length: 12 }, (_, i) => ({
    id: `edition${i}`,
    kind: 'edition',
    artboardId: board?.id,
    order: `a${i.toString(36)}`,
    name: `banner-${i + 1}`,
    specIds: board?.specIds,
    overrides: {
      [layer('season')]: { words: `Season ${i + 1}` },
      [layer('place')]: { words: `Pier ${i + 1}` },
      [layer('time')]: { words: `${i + 1} o’clock` },
    },
  }));
  const { version } = await app.api<{ version: number }>(`/projects/${id}`);
  await app.api(`/projects/${id}/edits`, { id: 'twelve', baseVersion: version, puts, removes: [] });
}
const wordsOf = async (app: App, id: string) => {
  const all = await records(app, id);
  const names = new Map(all.map((record) => [record.id, record.name]));
  return all
    .filter(({ kind }) => kind === 'edition')
    .map(({ overrides }) => Object.entries(overrides).map(([layer, { words }]) => [names.get(layer) ?? 'gone', words]));
};

test('a changed banner comes back, and all twelve editions are right without a question', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Second round', { 'banner.svg': banner(LINES) });
  await withEditions(app, id);
  const before = await wordsOf(app, id);
  // Moved, recoloured, in another order, one of them renamed, and with something new.
  const changed = banner(
    `<circle id="sun" cx="100" cy="14" r="8" fill="#e8b93a"/>${LINES.replace(
      /(<text id="season".*?<\/text>)(.*)/,
      '$2$1',
    )
      .replace('x="8" y="34"', 'x="20" y="36" fill="#1d5fa8"')
      .replace('id="time"', 'id="Text_3"')}`,
  );
  await dropFiles(page, { 'banner.svg': changed }, 'main');
  await page.getByRole('dialog').getByRole('button', { name: 'Replace 1 artwork' }).click();
  await expect(page.getByText('1 file brought in.', { exact: true })).toBeVisible();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await saved(page);
  const sorted = (rows: Awaited<ReturnType<typeof wordsOf>>) => rows.map((row) => [...row].sort());
  expect(sorted(await wordsOf(app, id))).toEqual(sorted(before));
  const { files } = await app.api<{ files: { path: string; problem?: string }[] }>(`/projects/${id}/plan`);
  expect(files.filter(({ problem }) => problem)).toEqual([]);
});

test('what would come loose is asked of before, with a guess; left loose it holds the export until it is settled', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Loose ends', { 'banner.svg': banner(LINES) });
  await withEditions(app, id);
  const other = banner(
    `${LINES.replace(/<text id="time".*?<\/text>/, '')}<text id="hours" x="70" y="20" font-size="9" font-family="Spline Sans Mono">9 to 5, and later</text>`,
  );
  await dropFiles(page, { 'banner.svg': other }, 'main');
  await page.getByRole('dialog').getByRole('button', { name: 'Replace 1 artwork' }).click();
  const dialog = page.getByRole('dialog', { name: /Something hangs on 1 layer/ });
  await expect(dialog).toContainText('12 editions hang on it: banner-1, banner-2, banner-3 and 9 more');
  await expect(dialog.getByRole('combobox', { name: 'In place of time' }).locator('option:checked')).toHaveText(
    'goes on with hours (likely)',
  );
  // Nothing has happened yet.
  expect((await records(app, id)).some(({ name }) => name === 'hours')).toBe(false);

  await dialog.getByRole('combobox', { name: 'In place of time' }).selectOption({ label: 'leave it loose' });
  await dialog.getByRole('button', { name: 'Replace, leave 1 loose' }).click();
  // What is replaced is selected then: a click before that would be for nothing.
  await expect.poll(async () => (await records(app, id)).some(({ name }) => name === 'hours')).toBe(true);
  await expect(page.getByRole('button', { name: /^Export/ })).toHaveAttribute('aria-disabled', 'true');
  await pieceRow(page, 'banner-1').click();
  await expect(page.getByText('time is gone.')).toBeVisible();
  await page.getByRole('combobox', { name: 'Layer in place of time' }).selectOption({ label: 'hours' });
  await expect(page.getByText('time is gone.')).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^Export/ })).toHaveAttribute('aria-disabled', 'false');
  await saved(page);
  expect((await wordsOf(app, id)).every((row) => row.some(([name]) => name === 'hours'))).toBe(true);
});

test('the guess taken, the new layer is the old one, and one undo takes all back', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Guessed', { 'banner.svg': banner(LINES) });
  await withEditions(app, id);
  const before = await wordsOf(app, id);
  const other = banner(
    `${LINES.replace(/<text id="time".*?<\/text>/, '')}<text id="hours" x="70" y="20" font-size="9" font-family="Spline Sans Mono">9 to 5, and later</text>`,
  );
  await dropFiles(page, { 'banner.svg': other }, 'main');
  await page.getByRole('dialog').getByRole('button', { name: 'Replace 1 artwork' }).click();
  await page
    .getByRole('dialog', { name: /Something hangs/ })
    .getByRole('button', { name: 'Replace' })
    .click();
  await expect(page.getByText('1 file brought in.', { exact: true })).toBeVisible();
  await saved(page);
  // It is called as its drawing calls it now, and says in each edition what it said.
  const renamed = before.map((row) => row.map(([name, words]) => [name === 'time' ? 'hours' : name, words]));
  expect(await wordsOf(app, id)).toEqual(renamed);
  await page.getByLabel(/^Plane with/).focus();
  await page.keyboard.press('Control+z');
  await saved(page);
  const texts = (await records(app, id)).filter((record) => record.kind === 'layer');
  expect(JSON.stringify(texts)).toContain('all day');
  expect(JSON.stringify(texts)).not.toContain('9 to 5');
});

test('undo goes on after a reload, in the window it was done in and in no copy of it', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Reloaded', { 'banner.svg': banner(LINES) });
  const plane = page.getByLabel(/^Plane with/);
  const words = async () => JSON.stringify((await records(app, id)).filter(({ kind }) => kind === 'layer'));
  await dropFiles(page, { 'banner.svg': banner(LINES.replace('all day', '9 to 5')) }, 'main');
  await page.getByRole('dialog').getByRole('button', { name: 'Replace 1 artwork' }).click();
  await expect(page.getByText('1 file brought in.', { exact: true })).toBeVisible();
  await saved(page);
  const undo = (of: typeof page) => of.getByRole('button', { name: /^Undo/ });
  await expect(undo(page)).toBeEnabled();
  await page.reload();
  await expect(undo(page)).toBeEnabled();

  const [copy] = await Promise.all([page.waitForEvent('popup'), page.evaluate(() => void window.open(location.href))]);
  await expect(copy.getByLabel(/^Plane with/)).toBeVisible();
  await expect(undo(copy)).toBeDisabled();
  await copy.close();

  await plane.focus();
  await page.keyboard.press('Control+z');
  await saved(page);
  expect(await words()).toContain('all day');
  await page.reload();
  await plane.focus();
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(words).toContain('9 to 5');
});
