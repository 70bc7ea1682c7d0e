import type { Page } from '@playwright/test';
import { expect, icon, pieceRow, pieceRows, test } from './app';

/** Everything a canvas draws as the rasteriser does: gradients, a clip, dashes, opacity, a turned group. */
const EMBLEM = icon(
  '<defs><linearGradient id="g" x2="0.3" y2="1"><stop stop-color="#0c6a53"/><stop offset="1" stop-color="#e8b04a"/></linearGradient><clipPath id="c"><circle cx="30" cy="30" r="26"/></clipPath></defs>' +
    '<g id="emblem" clip-path="url(#c)"><rect width="60" height="60" fill="url(#g)"/><g transform="rotate(30 30 30)"><path d="M10 20h40M10 30h40M10 40h40" stroke="#12343b" stroke-width="4" stroke-dasharray="9 3" stroke-linecap="round" fill="none"/></g><circle cx="40" cy="18" r="7" fill="#d2452a" fill-opacity="0.8"/></g>',
  'width="60" height="60" viewBox="0 0 60 60"',
);
/** A mask is for the rasteriser alone. */
const MASKED = EMBLEM.replace(
  '<g id="emblem" clip-path="url(#c)">',
  '<mask id="m"><rect width="60" height="30" fill="#fff"/></mask><g id="emblem" mask="url(#m)">',
);

/**
 * Presses an arrow on the plane: how far the first frame after it is from the picture at rest, and how far that is from
 * the one before. Each by the block of 12 × 12 px in which it differs most, as the mean of its channels, 0 to 255.
 */
const press = (page: Page, key: string) =>
  page.evaluate(async (arrow) => {
    const canvas = document.querySelector<HTMLCanvasElement>('canvas[tabindex]') as HTMLCanvasElement;
    const look = () =>
      (canvas.getContext('2d') as CanvasRenderingContext2D).getImageData(24, 24, canvas.width - 24, canvas.height - 24);
    const apart = (one: ImageData, other: ImageData) => {
      let most = 0;
      for (let y0 = 0; y0 + 12 <= one.height; y0 += 12) {
        for (let x0 = 0; x0 + 12 <= one.width; x0 += 12) {
          let sum = 0;
          for (let y = y0; y < y0 + 12; y++)
            for (let i = 4 * (y * one.width + x0); i < 4 * (y * one.width + x0 + 12); i++)
              sum += Math.abs(one.data[i] - other.data[i]);
          most = Math.max(most, sum / (12 * 12 * 4));
        }
      }
      return most;
    };
    const before = look();
    canvas.dispatchEvent(
      new KeyboardEvent('keydown', { key: arrow, code: arrow, shiftKey: true, bubbles: true, cancelable: true }),
    );
    const first = await new Promise<ImageData>((resolve) => requestAnimationFrame(() => resolve(look())));
    await new Promise((resolve) => setTimeout(resolve, 900));
    const still = look();
    return { wrong: apart(first, still), moved: apart(before, still) };
  }, key);

async function withVariants(page: Page): Promise<void> {
  await pieceRow(page, 'emblem').click();
  await page.getByRole('button', { name: 'Variants…' }).click();
  await page.getByRole('dialog').getByRole('checkbox', { name: 'Make Grey' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Make 4 variants' }).click();
  await expect(pieceRows(page)).toHaveCount(5);
  await page.keyboard.press('Control+a');
  await page.locator('canvas[tabindex]').focus();
  await page.keyboard.press('.');
  await page.getByRole('tab', { name: 'Layers' }).click();
  await page.getByRole('treegrid', { name: 'Layers' }).getByRole('row').first().click();
  // Selected layers have a frame, which moves along in every picture; away from the plane nothing else does.
  await page.mouse.move(5, 300);
  await page.waitForTimeout(1500);
}

/** Block means by which the page's drawing and the rasteriser's may differ, and a ticket that has got a flag; what is moved by 10 px differs by seven times as much. */
const SAME = 20;

const PRESSES = 10;

test('the source moved, all that follow are right in the first frame after it', async ({ page, openProject }) => {
  await openProject('First frame', { 'emblem.svg': EMBLEM });
  await withVariants(page);
  const seen: { wrong: number; moved: number }[] = [];
  for (let i = 0; i < PRESSES; i++) seen.push(await press(page, i % 2 ? 'ArrowLeft' : 'ArrowRight'));
  expect(Math.min(...seen.map(({ moved }) => moved))).toBeGreaterThan(5 * SAME);
  // A machine that is busy elsewhere may leave the page no time for a frame now and then; not for most of them.
  expect(seen.filter(({ wrong }) => wrong < SAME).length).toBeGreaterThan(PRESSES / 2);
});

test('what a canvas cannot draw stays as it was until it is painted, and is never half right', async ({
  page,
  openProject,
}) => {
  await openProject('First frame, masked', { 'emblem.svg': MASKED });
  await withVariants(page);
  const { moved } = await press(page, 'ArrowRight');
  expect(moved).toBeGreaterThan(5 * SAME);
  const again = await press(page, 'ArrowLeft');
  // Either the painter was done, or what was there before is still there: nothing in between.
  expect([again.wrong < SAME, Math.abs(again.wrong - again.moved) < SAME]).toContain(true);
});
