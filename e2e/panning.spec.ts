import type { Page } from '@playwright/test';
import { expect, icon, pieceRow, test } from './app';

const COLOURS = ['#0c6a53', '#d2452a', '#12343b', '#8f5c06', '#3355aa'];
const MANY = Object.fromEntries(
  Array.from({ length: 60 }, (_, i) => [
    `mark ${i}.svg`,
    icon(
      `<path d="M${2 + (i % 5)} 3h16v${10 + (i % 8)}z" fill="${COLOURS[i % 5]}"/><circle cx="6" cy="19" r="${1 + (i % 4)}"/>`,
    ),
  ]),
);

/** Pans by the wheel, a step a frame; the shares of px that differ strongly between the last frame in motion and the same at rest, and between before and after. */
const pan = (page: Page, dx: number, dy: number) =>
  page.evaluate(
    async ([deltaX, deltaY]) => {
      const canvas = document.querySelector<HTMLCanvasElement>('canvas[tabindex]') as HTMLCanvasElement;
      const box = canvas.getBoundingClientRect();
      const shot = () =>
        (canvas.getContext('2d') as CanvasRenderingContext2D).getImageData(0, 0, canvas.width, canvas.height).data;
      const frame = () => new Promise(requestAnimationFrame);
      const apart = (one: Uint8ClampedArray, other: Uint8ClampedArray) => {
        let count = 0;
        for (let i = 0; i < one.length; i += 4)
          if (
            Math.max(
              Math.abs(one[i] - other[i]),
              Math.abs(one[i + 1] - other[i + 1]),
              Math.abs(one[i + 2] - other[i + 2]),
            ) > 64
          )
            count++;
        return count / (one.length / 4);
      };
      const before = shot();
      for (let step = 0; step < 7; step++) {
        canvas.dispatchEvent(
          new WheelEvent('wheel', {
            deltaX,
            deltaY,
            clientX: box.left + 300,
            clientY: box.top + 200,
            bubbles: true,
            cancelable: true,
          }),
        );
        await frame();
        await frame();
      }
      const moving = shot();
      // At rest is when nothing more comes, however long that takes.
      let still = shot();
      for (let same = 0; same < 3; ) {
        await new Promise((resolve) => setTimeout(resolve, 200));
        const now = shot();
        same = apart(still, now) === 0 ? same + 1 : 0;
        still = now;
      }
      return { wrong: apart(moving, still), moved: apart(before, still) };
    },
    [dx, dy],
  );

/** Pans there and back first, so that what comes into view has been drawn before, however slow the machine is. */
async function panAgain(page: Page, dx: number, dy: number) {
  await pan(page, dx, dy);
  await pan(page, -dx, -dy);
  return pan(page, dx, dy);
}

// Between device px, lines that are rounded to CSS px may come out a device px aside.
for (const { density, most } of [
  { density: 1, most: 0.004 },
  { density: 1.5, most: 0.02 },
]) {
  test.describe(`panned, at a density of ${density}`, () => {
    test.use({ deviceScaleFactor: density });

    test('what is seen in motion is what is there at rest', async ({ page, openProject }) => {
      await openProject('Panning', MANY);
      await pieceRow(page, 'mark 7').click();
      await page.locator('canvas[tabindex]').focus();
      await page.keyboard.press('.');
      for (let i = 0; i < 3; i++) await page.keyboard.press('-');
      for (const [dx, dy] of [
        [19, 0],
        [-23, 11],
        [0, -31],
        [40, 26],
      ]) {
        const { wrong, moved } = await panAgain(page, dx, dy);
        expect(moved).toBeGreaterThan(0.01);
        expect(wrong).toBeLessThan(most);
      }
      await page.getByRole('button', { name: 'Wireframe' }).click();
      const { wrong, moved } = await panAgain(page, -29, 17);
      expect(moved).toBeGreaterThan(0.001);
      expect(wrong).toBeLessThan(most);
    });
  });
}

test('the server hears of a gesture, at most once a second', async ({ page, openProject }) => {
  await openProject('Told', MANY);
  const told: { status: number; at: number }[] = [];
  page.on('response', (response) => {
    if (response.url().endsWith('/gesture'))
      told.push({ status: response.status(), at: response.request().timing().startTime });
  });
  // Goes on for as long as it takes to tell three times.
  while (told.length < 3)
    await page.evaluate(async () => {
      const canvas = document.querySelector('canvas[tabindex]') as HTMLCanvasElement;
      canvas.dispatchEvent(new WheelEvent('wheel', { deltaX: 3, bubbles: true, cancelable: true }));
      await new Promise(requestAnimationFrame);
    });
  expect(told.map(({ status }) => status)).toEqual([204, 204, 204]);
  expect(Math.min(told[1].at - told[0].at, told[2].at - told[1].at)).toBeGreaterThan(900);
});
