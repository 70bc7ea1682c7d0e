import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { type Browser, chromium, type Page } from '@playwright/test';
import { fontFileName, SHIPPED_FACES } from '@tolvik/render';
import { PNG } from 'pngjs';
import { browserPath } from '../scripts/parts/machine.mjs';
import { saysSize } from './chain';
import { type Picture, shrunk } from './compare';

/** An SVG file to be drawn: its bytes, its own size, and how many px its picture has. */
export type Drawing = { bytes: Uint8Array; width: number; height: number; pxWide: number; pxHigh: number };

const ORIGIN = 'http://fidelity.invalid';
const COLUMNS = 8;
const ROWS = 6;
/** Two px for each of the page: at that density letters are not moved onto the grid. */
const DENSITY = 2;

/** The page on which so many drawings of `side` px fit, in its own px. */
const viewportOf = (side: number, columns: number, rows: number) => ({
  width: (side * columns) / DENSITY,
  height: (side * rows) / DENSITY,
});

/**
 * Draws SVG files with headless Chromium, many to a screenshot, each in a frame of its own where no script runs and
 * from where nothing can be loaded; text in the fonts that ship with the app.
 */
export class DrawnByBrowser {
  private constructor(
    private readonly browser: Browser,
    private readonly page: Page,
    private readonly served: Map<string, Uint8Array>,
    private readonly side: number,
  ) {}

  static async start(side: number): Promise<DrawnByBrowser> {
    const browser = await chromium.launch({
      executablePath: browserPath(),
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-lcd-text'],
    });
    const page = await browser.newPage({ viewport: viewportOf(side, COLUMNS, ROWS), deviceScaleFactor: DENSITY });
    const served = new Map<string, Uint8Array>();
    const require = createRequire(import.meta.url);
    await page.route('**/*', (route) => {
      const { origin, pathname } = new URL(route.request().url());
      if (origin !== ORIGIN) return route.abort();
      if (pathname === '/')
        return route.fulfill({
          contentType: 'text/html',
          body: '<!doctype html><style>html,body{margin:0;background:transparent;overflow:hidden}</style>',
        });
      const face = SHIPPED_FACES[Number(/^\/font\/(\d+)$/.exec(pathname)?.[1])];
      if (face)
        return route.fulfill({
          contentType: 'font/woff2',
          body: readFileSync(
            join(dirname(require.resolve(`${face.package}/package.json`)), 'files', fontFileName(face)),
          ),
        });
      const bytes = served.get(pathname);
      return bytes ? route.fulfill({ contentType: 'image/svg+xml', body: Buffer.from(bytes) }) : route.abort();
    });
    await page.goto(ORIGIN);
    return new DrawnByBrowser(browser, page, served, side);
  }

  /** Pictures of files, in their order; each `pxWide` × `pxHigh` px. */
  async draw(drawings: readonly Drawing[]): Promise<Picture[]> {
    const pictures: Picture[] = [];
    for (let at = 0; at < drawings.length; at += COLUMNS * ROWS)
      pictures.push(...(await this.screen(drawings.slice(at, at + COLUMNS * ROWS))));
    return pictures;
  }

  /**
   * The same, each drawn `finer` times as large and made smaller: what the browser rounds to whole px (how high a font
   * is, how large a page) is rounded to a part of one.
   */
  async drawFiner(drawings: readonly Drawing[], finer: number): Promise<Picture[]> {
    const pictures: Picture[] = [];
    await this.page.setViewportSize(viewportOf(this.side * finer, 1, 1));
    for (const drawing of drawings) {
      const { pxWide, pxHigh } = drawing;
      const large = { ...drawing, pxWide: pxWide * finer, pxHigh: pxHigh * finer };
      pictures.push(shrunk((await this.screen([large], true))[0], finer));
    }
    await this.page.setViewportSize(viewportOf(this.side, COLUMNS, ROWS));
    return pictures;
  }

  /** Draws what fits on one screen; `zoomed`, the browser lays a drawing out as large as its picture, else it enlarges it. */
  private async screen(drawings: readonly Drawing[], zoomed = false): Promise<Picture[]> {
    const { side } = this;
    this.served.clear();
    const cells = drawings.map(({ bytes, width, height, pxWide, pxHigh }, i) => {
      this.served.set(`/${i}.svg`, bytes);
      const text = ['text', 'font', 't\0e\0x\0t'].some((each) => Buffer.from(bytes).includes(each));
      // A drawing that says no size takes that of its frame, which has whole px: where it lies between them, it gets one as
      // large as its picture.
      const fills = !saysSize(bytes) && !(Number.isInteger(width) && Number.isInteger(height));
      return {
        src: `/${i}.svg`,
        width: fills ? pxWide / DENSITY : width,
        height: fills ? pxHigh / DENSITY : height,
        pxWide,
        pxHigh,
        x: (i % COLUMNS) * side,
        y: Math.floor(i / COLUMNS) * side,
        zoom: zoomed && !fills ? pxWide / DENSITY / width : 1,
        text,
      };
    });
    const faces = SHIPPED_FACES.map(({ family, weight, italic }, i) => ({
      family,
      weight: String(weight),
      style: italic ? 'italic' : 'normal',
      src: `/font/${i}`,
    }));
    await this.page.evaluate(
      async ({ cells, faces, density }) => {
        document.body.replaceChildren();
        await Promise.all(
          cells.map(async ({ src, width, height, pxWide, pxHigh, x, y, zoom, text }) => {
            const cell = document.createElement('div');
            cell.style.cssText = `position:absolute;left:${x / density}px;top:${y / density}px;width:${pxWide / density}px;height:${pxHigh / density}px;overflow:hidden`;
            const frame = document.createElement('iframe');
            frame.setAttribute('sandbox', 'allow-same-origin');
            // A frame has whole px; the drawing in it keeps its own size.
            frame.style.cssText = `display:block;border:0;width:${Math.ceil(width * zoom)}px;height:${Math.ceil(height * zoom)}px;transform-origin:0 0;transform:scale(${pxWide / density / width / zoom},${pxHigh / density / height / zoom})`;
            cell.append(frame);
            const loaded = new Promise((resolve) => {
              frame.onload = resolve;
              frame.onerror = resolve;
            });
            frame.src = src;
            document.body.append(cell);
            await loaded;
            const inner = frame.contentDocument as Document & { fonts: { add(face: FontFace): void } };
            if (zoom !== 1) inner?.documentElement?.style?.setProperty('zoom', String(zoom));
            // What is not well-formed has no root to style.
            if (
              !text ||
              !(inner?.documentElement instanceof (frame.contentWindow as Window & typeof globalThis).SVGElement)
            )
              return;
            inner.documentElement.style.setProperty('text-rendering', 'geometricPrecision');
            await Promise.all(
              faces.map(async (face) => {
                const loadedFace = await new FontFace(face.family, `url(${face.src})`, {
                  weight: face.weight,
                  style: face.style,
                }).load();
                inner.fonts.add(loadedFace);
              }),
            );
          }),
        );
        await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
      },
      { cells, faces, density: DENSITY },
    );
    const screen = PNG.sync.read(await this.page.screenshot({ omitBackground: true }));
    return cells.map(({ x, y, pxWide, pxHigh }) => {
      const data = new Uint8Array(pxWide * pxHigh * 4);
      for (let row = 0; row < pxHigh; row++)
        data.set(
          screen.data.subarray(((y + row) * screen.width + x) * 4, ((y + row) * screen.width + x + pxWide) * 4),
          row * pxWide * 4,
        );
      return { width: pxWide, height: pxHigh, data };
    });
  }

  close = (): Promise<void> => this.browser.close();
}
