import type { Page } from '@playwright/test';
import { expect, icon, pieceRow, saved, test } from './app';

/** What has the focus, as a person would name it; "nothing" where keys fall to the page. */
const focused = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const { activeElement: here } = document;
    if (!here || here === document.body) return 'nothing';
    const label =
      here.getAttribute('aria-label') ?? (here as HTMLInputElement).labels?.[0]?.textContent ?? here.textContent;
    return `${here.getAttribute('role') ?? here.tagName.toLowerCase()} ${label?.trim().slice(0, 60)}`;
  });
/** Whether it is in the dialog that is open, and not the dialog itself. */
const inDialog = (page: Page): Promise<boolean> =>
  page.evaluate(() => {
    const dialog = document.activeElement?.parentElement?.closest('[role="dialog"]');
    return dialog !== null && dialog !== undefined;
  });
const SIX = Object.fromEntries(['a', 'b', 'c', 'd', 'e', 'f'].map((name) => [`${name}.svg`, icon()]));

/** Where artboards and layers are, and what there is: what no key may change unseen. */
async function placed(page: Page, id: string): Promise<string> {
  await saved(page);
  const { records } = await (await page.request.get(`/api/projects/${id}/records`)).json();
  const told = records
    .filter(({ kind }: { kind: string }) => ['artboard', 'layer', 'slice', 'output'].includes(kind))
    .map((record: Record<string, unknown>) =>
      [record.id, record.x, record.y, record.matrix, record.order, record.on].join(' '),
    );
  return JSON.stringify(told.sort());
}

test('names are typed down the list: Tab goes on, Enter ends, and arrows go through the list and move nothing', async ({
  page,
  openProject,
}) => {
  const id = await openProject('Names', SIX);
  const before = await placed(page, id);
  await pieceRow(page, 'a').click();
  await page.keyboard.press('F2');
  await page.keyboard.type('anchor');
  await page.keyboard.press('Enter');
  expect(await focused(page)).toBe('grid Pieces');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('F2');
  for (const name of ['boat', 'crate', 'dock']) {
    await page.keyboard.type(name);
    await page.keyboard.press('Tab');
  }
  await page.keyboard.press('Shift+Tab');
  await page.keyboard.type('davit');
  await page.keyboard.press('Enter');
  for (const key of ['ArrowUp', 'ArrowUp', 'ArrowDown']) await page.keyboard.press(key);
  const rows = page.getByRole('grid', { name: 'Pieces' }).getByRole('row');
  await expect(rows).toHaveText([/anchor/, /boat/, /crate/, /davit/, /e/, /f/]);
  await expect(rows.nth(2)).toHaveAttribute('aria-selected', 'true');
  expect(await placed(page, id)).toBe(before);
  // The last name ends the typing: what comes next is meant for the list, where a letter means what it does on the plane.
  await page.keyboard.press('End');
  await page.keyboard.press('F2');
  await page.keyboard.press('Tab');
  expect(await focused(page)).toBe('grid Pieces');
});

test('where nothing has the focus yet, arrows are for the plane; after a list had it, not', async ({
  page,
  openProject,
}) => {
  const id = await openProject('First keys', SIX);
  const before = await placed(page, id);
  await page.keyboard.press('Control+a');
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => placed(page, id)).not.toBe(before);
  await page.keyboard.press('Control+z');
  await expect.poll(() => placed(page, id)).toBe(before);
  await pieceRow(page, 'b').click();
  // Empty ground, which takes no focus.
  await page.getByRole('status').filter({ hasText: 'Saved' }).click();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  expect(await focused(page)).toBe('grid Pieces');
  expect(await placed(page, id)).toBe(before);
});

test('a name on the plane and one in the Files grid: the same', async ({ page, openProject }) => {
  const id = await openProject('Names elsewhere', SIX);
  const before = await placed(page, id);
  await pieceRow(page, 'a').click();
  await page.locator('canvas[tabindex="0"]').focus();
  await page.keyboard.press('F2');
  await page.keyboard.type('anchor');
  await page.keyboard.press('Tab');
  await page.keyboard.type('boat');
  await page.keyboard.press('Enter');
  expect(await focused(page)).toContain('canvas Plane');
  await expect(pieceRow(page, 'boat')).toBeVisible();
  expect(await placed(page, id)).toBe(before);
  await page.keyboard.press('Alt+2');
  const files = page.getByRole('grid', { name: 'Files' });
  await files.getByRole('rowheader').filter({ hasText: 'boat' }).dblclick();
  await page.keyboard.type('barge');
  await page.keyboard.press('Tab');
  await page.keyboard.type('crate');
  await page.keyboard.press('Enter');
  expect(await focused(page)).toBe('grid Files');
  await expect(files.getByRole('rowheader')).toContainText([/anchor/, /barge/, /crate/]);
});

test('every field beside the plane: Enter, Escape and Tab lose nothing, and arrows in it move nothing', async ({
  page,
  openProject,
}) => {
  const id = await openProject('Fields', SIX);
  await pieceRow(page, 'a').click();
  const before = await placed(page, id);
  const fields = page.getByRole('complementary').last().locator('input:visible:not([type=checkbox])');
  await expect(fields.nth(4)).toBeVisible();
  for (let i = 0; i < (await fields.count()); i++)
    for (const key of ['Enter', 'Tab', 'Shift+Tab', 'Escape']) {
      await fields.nth(i).focus();
      const name = await focused(page);
      await page.keyboard.press(key);
      await expect.poll(() => focused(page), `${key} in ${name}`).not.toBe('nothing');
      // What is worked on stays what it was.
      await expect(pieceRow(page, 'a')).toHaveAttribute('aria-selected', 'true');
    }
  expect(await placed(page, id)).toBe(before);
});

/** Sheets by their commands, and how many artboards each is for. */
const SHEETS: readonly [string, number][] = [
  ['Lay out in rows…', 3],
  ['An artboard for each group in it…', 1],
  ['Pieces by rule…', 1],
  ['Names side by side…', 3],
  ['Cut into tiles…', 1],
  ['Variants…', 1],
  ['Lockups of an emblem and a wordmark…', 2],
  ['Editions from a table or combinations…', 1],
  ['Colours of this project…', 1],
  ['Which files…', 1],
];

test('every sheet: what is typed is in its field, Tab goes to the next, and nothing falls to the page when it closes', async ({
  page,
  openProject,
}) => {
  await openProject('Sheets', SIX);
  for (const [title, selected] of SHEETS) {
    await pieceRow(page, 'a').click();
    for (const name of ['b', 'c'].slice(0, selected - 1)) await pieceRow(page, name).click({ modifiers: ['Control'] });
    await page.keyboard.press('Control+k');
    await page.keyboard.type(title);
    await page.keyboard.press('Enter');
    const dialog = page.getByRole('dialog').filter({ hasNot: page.getByLabel('Every command') });
    await expect(dialog).toHaveCount(1);
    const seen = new Set<string>();
    for (let i = 0; i < 24; i++) {
      expect([title, await focused(page), await inDialog(page)]).toEqual([title, expect.anything(), true]);
      const at = await page.evaluate(() => {
        const here = document.activeElement as HTMLInputElement;
        const isField = here.tagName === 'INPUT' && !/checkbox|radio|range|file|color/.test(here.type);
        if (isField) here.select();
        return isField && !here.readOnly;
      });
      const name = `${i} ${await focused(page)}`;
      if (at && !seen.has(name)) {
        await page.keyboard.type('12');
        const value = await page.evaluate(() => (document.activeElement as HTMLInputElement).value);
        expect([title, name, value]).toEqual([title, name, '12']);
      }
      seen.add(name);
      await page.keyboard.press(i % 6 === 5 ? 'Shift+Tab' : 'Tab');
    }
    // The first Escape may take back what was typed.
    await expect(async () => {
      if ((await dialog.count()) > 0) await page.keyboard.press('Escape');
      expect(await dialog.count()).toBe(0);
    }).toPass();
    await expect.poll(() => focused(page), title).not.toBe('nothing');
    await page.keyboard.press('Escape');
  }
});
