import type { Artboard } from '@tolvik/core';
import { type App, expect, icon, pieceRow, pieceRows, saved, test } from './app';

const EMBLEM = icon('<circle id="leaf" cx="12" cy="12" r="9" fill="#0c6a53"/>');
const WORDMARK = icon(
  '<rect id="letters" width="80" height="12" fill="#171b1c"/>',
  'width="80" height="12" viewBox="0 0 80 12"',
);
const artboards = async (app: App, id: string) =>
  (await app.api<{ records: (Artboard | { kind: string })[] }>(`/projects/${id}/records`)).records.filter(
    (record): record is Artboard => record.kind === 'artboard',
  );

test('from an emblem and a wordmark to 4 lockups in 4 colourings and their files; one curve changed, exactly its files are new', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Handover in full', { 'emblem.svg': EMBLEM, 'wordmark.svg': WORDMARK });
  await pieceRow(page, 'emblem').click();
  await pieceRow(page, 'wordmark').click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Lockups…' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('img', { name: 'Stacked' })).toBeVisible();
  for (const title of ['Reversed', 'Mono dark', 'Mono light'])
    await dialog.getByRole('checkbox', { name: title }).click();
  await dialog.getByRole('button', { name: 'Make 16 lockups' }).click();
  await expect(pieceRows(page)).toHaveCount(18);
  await saved(page);
  await page.keyboard.press('Control+Enter');
  // 8 actions so far.
  await expect(page.getByRole('heading', { name: 'Delivery 1 is written and measured' })).toBeVisible();

  const made = await artboards(app, id);
  expect(made.filter((board) => board.follows?.lockup)).toHaveLength(16);
  expect(new Set(made.map((board) => board.follows?.artboardId).filter(Boolean)).size).toBe(1);
  const { files } = await app.api<{ files: { pieceId: string }[] }>(`/projects/${id}/plan`);
  const touched = new Set(
    made
      .filter((board) => board.name === 'emblem' || (board.follows && board.follows.lockup?.arrangement !== 'wordmark'))
      .map((board) => board.id),
  );
  const changed = files.filter((file) => touched.has(file.pieceId)).length;

  await page.getByRole('link', { name: /^Bench/ }).click();
  await page.getByRole('tab', { name: 'Layers' }).click();
  await page.getByRole('searchbox', { name: 'Find layers by name' }).fill('leaf');
  await page.getByRole('treegrid', { name: 'Layers' }).getByRole('row').first().click();
  await page.getByRole('textbox', { name: 'width', exact: true }).fill('16');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Delivery 2 is written and measured' })).toBeVisible();
  await expect(page.getByRole('button', { name: `${changed} changed` })).toBeVisible();
  await expect(page.getByRole('button', { name: `${files.length - changed} the same` })).toBeVisible();
});

test('a variant: another rule, colour by colour, stopped, followed again; a source deleted keeps what follows', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Following', {
    'emblem.svg': EMBLEM,
    'other.svg': icon('<path d="M3 3h9v9z" fill="#d2452a"/>'),
  });
  await pieceRow(page, 'other').click();
  const follow = page.getByRole('combobox', { name: 'Follow another artboard' });
  await follow.selectOption('emblem');
  const follows = page.getByRole('region', { name: 'What it follows' });
  await follows.getByRole('combobox', { name: 'Colours' }).selectOption('colour by colour');
  await follows.getByRole('button', { name: /^#0c6a53 becomes/ }).click();
  await page.getByRole('textbox', { name: '#0c6a53 becomes in hex' }).fill('#98630f');
  await page.keyboard.press('Enter');
  await saved(page);
  const other = async () => (await artboards(app, id)).find((board) => board.name === 'other');
  expect((await other())?.follows?.rule).toEqual({ kind: 'map', colours: [{ from: '#0c6a53', to: '#98630f' }] });
  await follows.getByRole('button', { name: 'Stop following' }).click();
  await saved(page);
  expect((await other())?.follows).toBeUndefined();
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await other())?.follows?.artboardId).toBeTruthy();

  // What is followed is deleted: the question names who follows; kept, it is artwork.
  await pieceRow(page, 'emblem').click();
  await page.getByRole('button', { name: 'Delete with artwork' }).click();
  await expect(page.getByRole('dialog')).toContainText('1 artboard follows what you delete');
  await page.getByRole('button', { name: 'Keep it as artwork' }).click();
  await expect(pieceRows(page)).toHaveCount(1);
  await saved(page);
  expect((await other())?.follows).toBeUndefined();
  const { files } = await app.api<{ files: { path: string; pieceId: string; outputId: string }[] }>(
    `/projects/${id}/plan`,
  );
  const svg = files.find((file) => file.path === 'other.svg');
  expect(await (await fetch(`${app.url}/api/projects/${id}/files/${svg?.pieceId}/${svg?.outputId}`)).text()).toContain(
    '#98630f',
  );
});

test('a chain is refused in words', async ({ page, openProject }) => {
  await openProject('Chain', { 'a.svg': EMBLEM, 'b.svg': EMBLEM, 'c.svg': EMBLEM });
  await pieceRow(page, 'b').click();
  await page.getByRole('combobox', { name: 'Follow another artboard' }).selectOption('a');
  await pieceRow(page, 'a').click();
  await page.getByRole('combobox', { name: 'Follow another artboard' }).selectOption('c');
  await expect(page.getByText('a is followed by b.').first()).toBeVisible();
});
