import type { Page } from '@playwright/test';
import { command, expect, holdCode, icon, pieceRow, pieceRows, saved, test } from './app';
import { delivered, Hand } from './hand';

const shape = (i: number) => icon(`<path d="M${2 + (i % 7)} ${2 + (i % 5)}h9v9h-9z"/>`);
const numbered = (n: number) =>
  Object.fromEntries(Array.from({ length: n }, (_, i) => [`Artboard ${i + 1}.svg`, shape(i)]));
const field = (page: Page, name: string) => page.getByRole('textbox', { name: `Name of ${name}`, exact: true });
test('forty icons from a pasted list in at most 4 actions, and one undo takes it back', async ({
  page,
  context,
  openProject,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await openProject('Forty', numbered(40));
  await expect(pieceRows(page).first()).toBeVisible();
  await page.evaluate(
    (text) => navigator.clipboard.writeText(text),
    Array.from({ length: 40 }, (_, i) => `tide-${i + 1}\tcolumn two`).join('\r\n'),
  );
  await page.getByLabel(/^Plane with/).focus();
  const hand = new Hand(page);
  await hand.press('Control+a');
  await hand.press('F2');
  const dialog = page.getByRole('dialog', { name: 'Names of 40 pieces' });
  await expect(field(page, 'Artboard 1')).toBeFocused();
  await hand.press('Control+v');
  await expect(dialog.getByRole('status')).toHaveText('40 names pasted');
  // Behind the last name the hand is on the button; Enter does it.
  await expect(dialog.getByRole('button', { name: 'Rename 40' })).toBeFocused();
  await hand.press('Enter');
  await expect(dialog).toBeHidden();
  expect(hand.actions).toBeLessThanOrEqual(4);
  await saved(page);
  await expect(pieceRow(page, 'tide-1').first()).toBeVisible();
  await expect(page.getByText('Artboard 1', { exact: true })).toHaveCount(0);
  await page.getByLabel(/^Plane with/).focus();
  await page.keyboard.press('Control+z');
  await expect(pieceRow(page, 'Artboard 1').first()).toBeVisible();
});

test('typed down the list: Enter, Tab and the arrows go on, Shift back; a clash is said while it is typed', async ({
  page,
  openProject,
}) => {
  await openProject('Typed', numbered(4));
  await expect(pieceRows(page)).toHaveCount(4);
  await page.getByLabel(/^Plane with/).focus();
  // With fewer than two selected it is about all.
  await command(page, 'names side by side');
  const dialog = page.getByRole('dialog', { name: 'Names of 4 pieces' });
  // Typed at once, also while the sheet is on its way.
  await page.keyboard.type('bell');
  await page.keyboard.press('Enter');
  await expect(dialog.getByText('says nothing of what it shows')).toHaveCount(3);
  await page.keyboard.type('anchor');
  await page.keyboard.press('Tab');
  await page.keyboard.type('Bell');
  await expect(dialog.getByRole('status')).toHaveText('! 2 names would be taken twice');
  await expect(field(page, 'Artboard 3')).toHaveAttribute('aria-invalid', 'true');
  await page.keyboard.press('Shift+Tab');
  await expect(field(page, 'Artboard 2')).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.type('boat');
  await expect(dialog.getByText('boat.svg', { exact: true })).toBeVisible();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Delete');
  await expect(dialog.getByRole('status')).toHaveText('! 1 name would be empty');
  await page.keyboard.press('Control+Enter');
  await expect(dialog).toBeVisible();
  await page.keyboard.type('crab');
  await page.keyboard.press('Control+Enter');
  await expect(dialog).toBeHidden();
  for (const name of ['bell', 'anchor', 'boat', 'crab']) await expect(pieceRow(page, name).first()).toBeVisible();
});

for (const held of ['EveryCommand', 'also', 'NamesSheet'])
  test(`names typed on and on while their table is asked for go into its rows in the order in which they were typed: ${held} comes late`, async ({
    page,
    openProject,
  }) => {
    const names = ['anchor', 'bell', 'crab', 'dune', 'eel', 'fog'];
    const arrive = await holdCode(page, held);
    await openProject('Going on', numbered(names.length));
    await expect(pieceRows(page)).toHaveCount(names.length);
    await page.getByLabel(/^Plane with/).focus();
    await command(page, 'names side by side');
    // The hand does not wait: somewhere among these the table is here.
    for (const [i, name] of names.entries()) {
      if (i === 1) arrive();
      await page.keyboard.type(name.slice(0, -1));
      await page.keyboard.type('xy');
      await page.keyboard.press('Backspace');
      await page.keyboard.press('Backspace');
      await page.keyboard.type(name.slice(-1));
      await page.keyboard.press(['Enter', 'Tab', 'ArrowDown'][i % 3]);
    }
    await expect(page.getByRole('button', { name: `Rename ${names.length}` })).toBeVisible();
    for (const [i, name] of names.entries()) await expect(field(page, `Artboard ${i + 1}`)).toHaveValue(name);
  });

test('Tab and Space pressed while a dialog is on its way reach what they would have reached, round its end too', async ({
  page,
  openProject,
}) => {
  const arrive = await holdCode(page, 'GroupsSheet');
  const groups = [3, 27].map((x) => `<g id="at-${x}"><path d="M${x} 4h9v12h-5z"/></g>`).join('');
  await openProject('Early Tab', { 'skies.svg': icon(groups) });
  await page.getByLabel(/^Plane with/).focus();
  await command(page, 'pick all artboards');
  await page.getByRole('button', { name: '2 artboards for its groups…' }).press('Enter');
  const dialog = page.getByRole('dialog', { name: 'An artboard for each of 2 groups' });
  const [square, equal] = ['Square', 'All equal'].map((name) => dialog.getByRole('checkbox', { name }));
  for (const key of ['Tab', 'Space', 'Tab', 'Tab', 'Shift+Tab', 'Space', 'Shift+Tab', 'Shift+Tab'])
    await page.keyboard.press(key);
  arrive();
  await expect(square).toBeChecked();
  await expect(equal).toBeChecked();
  await expect(dialog.getByLabel('margin in px')).toBeFocused();
  // Before its first field stands its end.
  for (let i = 0; i < 2; i++) await page.keyboard.press('Shift+Tab');
  await expect(dialog.getByRole('button', { name: 'Make 2 artboards' })).toBeFocused();
});

test('a command asked for while the words of the list are on their way comes in its turn, and what it opens has what is typed', async ({
  page,
  openProject,
}) => {
  const arrive = await holdCode(page, 'also');
  await openProject('In its turn', numbered(3));
  await expect(pieceRows(page)).toHaveCount(3);
  await page.getByLabel(/^Plane with/).focus();
  await command(page, 'pick all artboards');
  await command(page, 'names side by side');
  await page.keyboard.type('anchor');
  await page.keyboard.press('Enter');
  await page.keyboard.type('bell');
  arrive();
  await expect(field(page, 'Artboard 1')).toHaveValue('anchor');
  await expect(field(page, 'Artboard 2')).toHaveValue('bell');
});

test('who goes back while a command is on its way takes back all that was pressed for it', async ({
  page,
  openProject,
}) => {
  await page.route(/\/also-.*js/, () => {});
  await openProject('Taken back', numbered(3));
  await expect(pieceRows(page)).toHaveCount(3);
  await page.getByLabel(/^Plane with/).focus();
  await command(page, 'pick all artboards');
  await page.keyboard.type('w');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  // What is pressed now acts as ever: the rulers go, and the drawing is as it was.
  await page.keyboard.press('r');
  await expect(page.getByRole('button', { name: /^Rulers/ })).toHaveAttribute('aria-pressed', 'false');
  await expect(page.getByRole('button', { name: /^Wireframe/ })).toHaveAttribute('aria-pressed', 'false');
});

test('a command asked for right behind another one is that command, on a slow machine too', async ({
  page,
  openProject,
}) => {
  await openProject('One behind the other', numbered(3));
  await expect(pieceRows(page)).toHaveCount(3);
  await page.getByLabel(/^Plane with/).focus();
  const slow = await page.context().newCDPSession(page);
  await slow.send('Emulation.setCPUThrottlingRate', { rate: 6 });
  for (let round = 0; round < 2; round++) {
    await command(page, 'pick all artboards');
    await command(page, 'names side by side');
    await expect(page.getByRole('dialog', { name: 'Names of 3 pieces' })).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
  }
});

test('a shortcut pressed right behind a command that opens nothing acts as ever', async ({ page, openProject }) => {
  await openProject('Behind', numbered(2));
  await expect(pieceRows(page)).toHaveCount(2);
  await page.getByLabel(/^Plane with/).focus();
  await command(page, 'pick all artboards');
  await page.keyboard.press('w');
  await expect(page.getByRole('button', { name: /^Wireframe/ })).toHaveAttribute('aria-pressed', 'true');
});

test('names from layers and from the texts beside them; a rule goes on top', async ({ page, openProject }) => {
  const cell = (at: number, name: string) =>
    `<g id="g${at}"><rect x="${at * 60}" width="24" height="24"/></g><text x="${at * 60}" y="36" font-size="8">${name}</text>`;
  await openProject('Beside', {
    'sheet.svg': icon(
      `${cell(0, 'Bell buoy')}${cell(1, 'Anchor')}${cell(2, 'Boat')}`,
      'width="200" height="60" viewBox="0 0 200 60"',
    ),
  });
  await pieceRow(page, 'sheet').click();
  await command(page, 'an artboard for each group in it');
  const sheet = page.getByRole('dialog');
  await sheet.getByRole('checkbox', { name: 'In rows, where there is room' }).click();
  await page.getByRole('button', { name: 'Make 3 artboards' }).click();
  await command(page, 'names side by side');
  const dialog = page.getByRole('dialog', { name: /^Names of/ });
  await dialog.getByRole('button', { name: 'Take from texts beside them' }).click();
  await expect(field(page, 'g0')).toHaveValue('Bell buoy');
  await dialog.getByRole('radio', { name: 'Letters' }).click();
  await dialog.getByRole('button', { name: 'Rename 3' }).click();
  for (const name of ['bell-buoy', 'anchor', 'boat']) await expect(pieceRow(page, name).first()).toBeVisible();
});

test('some of the pieces, from the Bench: which files they make, and these alone exported, in at most 6 actions', async ({
  page,
  openProject,
}) => {
  await openProject('Some', { 'a.svg': shape(1), 'b.svg': shape(2), 'c.svg': shape(3) });
  await expect(pieceRows(page)).toHaveCount(3);
  const hand = new Hand(page);
  await hand.click(pieceRow(page, 'a'));
  await hand.click(pieceRow(page, 'c'), { modifiers: ['Control'] });
  await hand.click(page.getByRole('button', { name: 'Which files…' }));
  const words = page.getByRole('textbox', { name: 'Which files?' });
  await expect(words).toHaveValue('1, 3: ');
  await words.press('End');
  await words.pressSequentially('png 48, in shore');
  await expect(page.getByText(/^Instead of the \d+ files that these pieces make now\.$/)).toBeVisible();
  await hand.press('Enter');
  await expect(page.getByRole('dialog')).toBeHidden();
  await hand.press('Control+Shift+Enter');
  const files = await delivered(page);
  expect([...files.keys()].sort()).toEqual(['shore/a.png', 'shore/c.png']);
  expect(hand.actions).toBeLessThanOrEqual(6);
});
