import type { Page } from '@playwright/test';
import { expect, icon, pieceRow, test } from './app';

/**
 * Controls that cannot be reached: outside of the window with nothing around them that scrolls to them, or under another
 * control (WCAG 2.2, success criterion 1.4.10).
 */
const outOfReach = (page: Page) =>
  page.evaluate(() => {
    const controls = [...document.querySelectorAll<HTMLElement>('button, a[href], input, select, [role="tab"]')];
    const scrolls = (at: Element, way: 'X' | 'Y') => /auto|scroll/.test(getComputedStyle(at)[`overflow${way}`]);
    return controls.flatMap((control) => {
      const box = control.getBoundingClientRect();
      if (box.width === 0 || control.closest('[aria-hidden="true"], [hidden], [inert]')) return [];
      for (const way of ['X', 'Y'] as const) {
        const [from, to, end] = way === 'X' ? [box.left, box.right, innerWidth] : [box.top, box.bottom, innerHeight];
        if (from >= -1 && to <= end + 1) continue;
        let at = control.parentElement;
        while (at && !scrolls(at, way)) at = at.parentElement;
        if (!at)
          return [
            `${control.getAttribute('aria-label') || control.textContent}: ${Math.round(from)} to ${Math.round(to)}`,
          ];
      }
      return [];
    });
  });

for (const [width, height] of [
  [640, 400],
  [1024, 700],
] as const)
  test(`at ${width} × ${height} every control of every stage is in reach`, async ({ page, openProject }) => {
    await page.setViewportSize({ width, height });
    await openProject('Narrow', { 'anchor of the harbour.svg': icon(), 'boat.svg': icon() });
    await pieceRow(page, 'boat').click();
    await expect(page.getByRole('button', { name: 'Duplicate' })).toBeAttached();
    expect(await outOfReach(page)).toEqual([]);
    await page.keyboard.press('Alt+2');
    await expect(page.getByRole('grid', { name: 'Files' })).toBeVisible();
    expect(await outOfReach(page)).toEqual([]);
    await page.keyboard.press('Alt+3');
    await expect(page.getByRole('heading').first()).toBeVisible();
    expect(await outOfReach(page)).toEqual([]);
    await page.goto('/');
    await expect(page.getByRole('button', { name: 'New project' })).toBeVisible();
    expect(await outOfReach(page)).toEqual([]);
  });
