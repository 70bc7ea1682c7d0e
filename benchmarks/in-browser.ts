import { chromium, type Page } from '@playwright/test';
import { browserPath } from '../scripts/parts/machine.mjs';

/** Real headless Chromium with a page as large as a small laptop's; closed when the work is done. */
export async function inBrowser<T>(url: string, work: (page: Page) => Promise<T>): Promise<T> {
  const browser = await chromium.launch({
    executablePath: browserPath(),
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    // Once for the app's own files, as on any later visit.
    await page.goto(url);
    await page.waitForLoadState('networkidle');
    return await work(page);
  } finally {
    await browser.close();
  }
}

/** Waits until every cell in view has its true picture. */
const cellsAreTrue = (page: Page) =>
  page.waitForFunction(
    () => {
      const cells = [...document.querySelectorAll<HTMLElement>('[role="gridcell"]')].filter(
        (cell) => cell.getBoundingClientRect().top < innerHeight && cell.getBoundingClientRect().left < innerWidth,
      );
      return (
        cells.length >= 20 &&
        cells.every((cell) =>
          [...cell.querySelectorAll('img')].some((image) => image.complete && image.naturalWidth > 0),
        )
      );
      // Looking takes time from what is looked at, so it is not done at every frame.
    },
    undefined,
    { polling: 25 },
  );

/** Opens the Proof of a project; seconds until the first screen of cells has its pictures. */
export const proofFirstScreen = (url: string, projectId: string): Promise<number> =>
  inBrowser(url, async (page) => {
    const from = performance.now();
    await page.goto(`${url}/projects/${projectId}/proof`);
    await cellsAreTrue(page);
    return (performance.now() - from) / 1000;
  });

/** Scrolls the matrix down and up again by the frame; the frames' 95th percentile in ms. */
export const proofScroll = (url: string, projectId: string): Promise<number> =>
  inBrowser(url, async (page) => {
    await page.goto(`${url}/projects/${projectId}/proof`);
    await cellsAreTrue(page);
    await page.waitForTimeout(1500);
    const frames = (await page.evaluate(`new Promise((resolve) => {
      const scroller = document.querySelector('[role="grid"][aria-label="Files"]').parentElement;
      const times = [];
      let last = 0;
      const step = (now) => {
        if (last) times.push(now - last);
        last = now;
        if (times.length >= 240) return resolve(times);
        scroller.scrollTop += times.length < 120 ? 40 : -40;
        requestAnimationFrame(step);
      };
      requestAnimationFrame(step);
    })`)) as number[];
    return frames.sort((a, b) => a - b)[Math.floor(frames.length * 0.95)];
  });
