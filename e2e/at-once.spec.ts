import type { Page } from '@playwright/test';
import { expect, icon, pieceRow, test } from './app';

/** Presses keys in the very moment in which something comes on the screen, before anything that is put off until later. */
const keysWhenSeen = (
  page: Page,
  seen: string,
  keys: { key: string; code: string; ctrlKey?: boolean; altKey?: boolean },
) =>
  page.addInitScript(
    ({ seen, keys }) => {
      const watch = new MutationObserver(() => {
        if (!document.querySelector(seen)) return;
        watch.disconnect();
        document.body.dispatchEvent(new KeyboardEvent('keydown', { ...keys, bubbles: true, cancelable: true }));
      });
      watch.observe(document, { childList: true, subtree: true });
    },
    { seen, keys },
  );

test('keys are heard as soon as there is something to see', async ({ page, openProject }) => {
  const id = await openProject('At once', { 'anchor.svg': icon('<path d="M2 2h9v9z"/>') });
  await keysWhenSeen(page, 'button', { key: 'k', code: 'KeyK', ctrlKey: true });
  await page.goto('/');
  await expect(page.getByRole('dialog', { name: 'Every command' })).toBeVisible();

  // In a project: a stage's own keys, too.
  const other = await page.context().newPage();
  await keysWhenSeen(other, 'a[href$="/proof"]', { key: '2', code: 'Digit2', altKey: true });
  await other.goto(`/projects/${id}/bench`);
  await expect(other.getByRole('grid', { name: 'Files' })).toBeVisible();

  const bench = await page.context().newPage();
  await keysWhenSeen(bench, 'canvas[tabindex]', { key: 'a', code: 'KeyA', ctrlKey: true });
  await bench.goto(`/projects/${id}/bench`);
  await expect(bench.getByLabel(/^Plane with 1 artboard, 1 selected/)).toBeVisible();
});

test('a button that has nothing more to do keeps the focus, and does nothing', async ({ page, openProject }) => {
  await openProject('Kept focus', { 'anchor.svg': icon('<path d="M2 2h9v9z"/>') });
  const plane = page.getByLabel(/^Plane with/);
  await plane.press('Control+a');
  await plane.press('Delete');
  await expect(plane).toHaveAccessibleName(/^Plane with 0 artboards/);
  const undo = page.getByRole('button', { name: /^Undo/ });
  await undo.press('Enter');
  await expect(plane).toHaveAccessibleName(/^Plane with 1 artboard/);
  await expect(undo).toBeDisabled();
  await expect(undo).toBeFocused();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('button', { name: /^Redo: / })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(plane).toHaveAccessibleName(/^Plane with 0 artboards/);
});

test('eight windows of one browser are all answered, and hear what the others do', async ({
  page,
  context,
  openProject,
}) => {
  const first = await openProject('One of many', { 'anchor.svg': icon() });
  const windows = [page];
  for (let i = 1; i < 8; i++) {
    const window = await context.newPage();
    await window.goto(`/projects/${first}/bench`);
    windows.push(window);
  }
  for (const window of windows) await expect(pieceRow(window, 'anchor')).toBeVisible();
  await page.bringToFront();
  await pieceRow(page, 'anchor').dblclick();
  await page.getByRole('textbox', { name: 'Name of anchor' }).fill('kedge');
  await page.keyboard.press('Enter');
  for (const window of windows) await expect(pieceRow(window, 'kedge')).toBeVisible();
  // A window that goes takes nothing of the others with it.
  await windows[7].close();
  await windows[3].bringToFront();
  await pieceRow(windows[3], 'kedge').dblclick();
  await windows[3].getByRole('textbox', { name: 'Name of kedge' }).fill('grapnel');
  await windows[3].keyboard.press('Enter');
  for (const window of windows.slice(0, 7)) await expect(pieceRow(window, 'grapnel')).toBeVisible();
});
