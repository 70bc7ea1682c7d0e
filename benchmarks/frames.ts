import { execFileSync } from 'node:child_process';
import type { Page } from '@playwright/test';
import { inBrowser } from './in-browser';

export type Frames = { p95: number; longest: number; longTasks: number };

const p95 = (list: readonly number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length * 0.95)] ?? 0;

/** Zooms to pan at, from everything in view to single pixels. */
const ZOOMS = [0, 0.5, 1, 4, 16];
const FRAMES_EACH = 60;

/** What the largest page of any browser on this machine holds, its workers among it, in MB. */
const pageMb = (): number =>
  Math.max(
    0,
    ...execFileSync('ps', ['-eo', 'rss,args'], { encoding: 'utf8' })
      .split('\n')
      .filter((line) => line.includes('--type=renderer'))
      .map((line) => Number(line.trim().split(' ')[0]) / 1024),
  );

/**
 * The Bench of a project in a scripted browser: how long its frames take while one pans, zooms and drags, and what the
 * page holds then; it is looked at for `settleMs` before.
 */
export async function benchFrames(
  url: string,
  projectId: string,
  settleMs = 5000,
): Promise<{ firstPicture: number; pan: Frames; zoom: Frames; all: Frames; drag: Frames; pageMb: number }> {
  return inBrowser(url, (page) => framesOn(page, url, projectId, settleMs));
}

async function framesOn(page: Page, url: string, projectId: string, settleMs: number) {
  const firstPicture = await timeToFirstPicture(page, `${url}/projects/${projectId}/bench`, settleMs);
  await page.evaluate(WATCH);
  await page.waitForTimeout(1500);

  const wheel = (frames: number, dx: number, dy: number, ctrl: boolean) =>
    page.evaluate(`__wheel(${frames}, ${dx}, ${dy}, ${ctrl})`) as Promise<Measured>;
  const pans: Measured[] = [];
  for (const zoom of ZOOMS) {
    await page.keyboard.press(zoom === 0 ? ',' : '0');
    for (let scale = 1; zoom > scale; scale *= 1.5) await page.keyboard.press('+');
    for (let scale = 1; zoom > 0 && zoom < scale; scale /= 1.5) await page.keyboard.press('-');
    await page.waitForTimeout(400);
    pans.push(await wheel(FRAMES_EACH, 23, 17, false));
  }
  await page.keyboard.press(',');
  await page.waitForTimeout(400);
  const all = await wheel(FRAMES_EACH, 9, 7, false);
  const zooms = [await wheel(FRAMES_EACH, 0, -20, true), await wheel(FRAMES_EACH, 0, 20, true)];
  await page.keyboard.press(',');
  await page.waitForTimeout(800);
  const drag = await dragOne(page);
  return {
    firstPicture,
    pan: framesOf(pans),
    zoom: framesOf(zooms),
    all: framesOf([all]),
    drag: framesOf([drag]),
    pageMb: pageMb(),
  };
}

type Measured = { frames: number[]; longTasks: number[] };

const framesOf = (list: readonly Measured[]): Frames => {
  const frames = list.flatMap((each) => each.frames);
  return {
    p95: p95(frames),
    longest: Math.max(0, ...frames),
    longTasks: list.flatMap((each) => each.longTasks).length,
  };
};

/** What runs in the page: frames are told apart by their own clock, long tasks by the browser's observer. */
const WATCH = `
  window.__longTasks = [];
  new PerformanceObserver((list) => window.__longTasks.push(...list.getEntries().map((entry) => entry.duration))).observe({ type: 'longtask' });
  window.__wheel = (frames, deltaX, deltaY, ctrlKey) => new Promise((resolve) => {
    const canvas = document.querySelector('canvas[tabindex]');
    const box = canvas.getBoundingClientRect();
    const at = { clientX: box.left + box.width / 2, clientY: box.top + box.height / 2 };
    const times = [];
    const before = window.__longTasks.length;
    let last = 0;
    const step = (now) => {
      if (last) times.push(now - last);
      last = now;
      if (times.length >= frames) return setTimeout(() => resolve({ frames: times, longTasks: window.__longTasks.slice(before) }), 60);
      canvas.dispatchEvent(new WheelEvent('wheel', { deltaX, deltaY, ctrlKey, bubbles: true, cancelable: true, ...at }));
      requestAnimationFrame(step);
    };
    requestAnimationFrame(step);
  });
  window.__drag = (frames) => new Promise((resolve) => {
    const canvas = document.querySelector('canvas[tabindex]');
    const box = canvas.getBoundingClientRect();
    const [x, y] = [box.left + box.width / 2, box.top + box.height / 2];
    const send = (type, clientX, clientY) => canvas.dispatchEvent(new PointerEvent(type, { pointerId: 1, pointerType: 'mouse', button: 0, buttons: 1, clientX, clientY, bubbles: true }));
    const times = [];
    const before = window.__longTasks.length;
    let last = 0;
    send('pointerdown', x, y);
    const step = (now) => {
      if (last) times.push(now - last);
      last = now;
      if (times.length >= frames) {
        const longTasks = window.__longTasks.slice(before);
        canvas.dispatchEvent(new PointerEvent('pointercancel', { pointerId: 1 }));
        return resolve({ frames: times, longTasks });
      }
      send('pointermove', x + Math.sin(times.length / 6) * 120, y + Math.cos(times.length / 6) * 80 - 80);
      requestAnimationFrame(step);
    };
    requestAnimationFrame(step);
  });
`;

/** One artboard is dragged to and fro by hand. */
async function dragOne(page: Page): Promise<Measured> {
  await page.getByRole('grid', { name: 'Pieces' }).getByRole('row').nth(5).click();
  await page.locator('canvas[tabindex]').focus();
  await page.keyboard.press('.');
  for (let i = 0; i < 6; i++) await page.keyboard.press('-');
  await page.waitForTimeout(600);
  return (await page.evaluate(`__drag(${FRAMES_EACH})`)) as Measured;
}

/** Seconds from the arrival of a project's records until half of what is drawn in the end is drawn. */
async function timeToFirstPicture(page: Page, address: string, settleMs: number): Promise<number> {
  await page.addInitScript(`
    window.__dark = [];
    const look = () => {
      const canvas = document.querySelector('canvas[tabindex]');
      if (canvas && canvas.width > 0) {
        const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height);
        let dark = 0;
        for (let i = 0; i < data.length; i += 16) if (data[i] < 90) dark++;
        window.__dark.push([performance.now(), dark]);
      }
      if (window.__dark.length < 600 && !window.__enough) setTimeout(look, 30);
    };
    look();
  `);
  await page.goto(address);
  await page.waitForTimeout(settleMs);
  return (await page.evaluate(`(() => {
    window.__enough = true;
    const records = performance.getEntriesByType('resource').find((entry) => entry.name.includes('/records?since=0'));
    const final = window.__dark.at(-1)[1];
    const first = window.__dark[0][1];
    const at = window.__dark.find(([, dark]) => dark >= first + (final - first) / 2);
    return (at[0] - records.responseEnd) / 1000;
  })()`)) as number;
}
