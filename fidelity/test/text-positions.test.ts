import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { type Browser, chromium, type Page } from '@playwright/test';
import { readSvg } from '@tolvik/core';
import { fontFileName, SHIPPED_FACES, shippedFonts } from '@tolvik/render';
import { layOut } from '../../packages/core/src/artwork/text/layout';
import { browserPath } from '../../scripts/parts/machine.mjs';
import { mulberry } from '../../torture/kills';

/** How many random texts are held against the browser. */
const TEXTS = Number(process.env.TEXT_TIMES ?? 300);
const ORIGIN = 'http://texts.invalid';
const FONTS = shippedFonts(__filename);

let browser: Browser;
let page: Page;
beforeAll(async () => {
  browser = await chromium.launch({
    executablePath: browserPath(),
    args: ['--no-sandbox', '--disable-gpu', '--font-render-hinting=none'],
  });
  page = await browser.newPage();
  await page.route('**/*', (route) => {
    const face = SHIPPED_FACES[Number(/\/font\/(\d+)$/.exec(route.request().url())?.[1])];
    if (!face) return route.fulfill({ contentType: 'text/html', body: '<!doctype html><body>' });
    const folder = dirname(require.resolve(`${face.package}/package.json`));
    return route.fulfill({
      contentType: 'font/woff2',
      body: readFileSync(join(folder, 'files', fontFileName(face))),
      headers: { 'access-control-allow-origin': '*' },
    });
  });
  await page.goto(ORIGIN);
  await page.evaluate(
    (faces) =>
      Promise.all(
        faces.map(async ({ family, weight, italic }, i) =>
          document.fonts.add(
            await new FontFace(family, `url(/font/${i})`, {
              weight: String(weight),
              style: italic ? 'italic' : 'normal',
            }).load(),
          ),
        ),
      ),
    [...SHIPPED_FACES],
  );
});
afterAll(() => browser?.close());

type Random = () => number;
const pick = <T>(random: Random, of: readonly T[]): T => of[Math.floor(random() * of.length)];
const WORDS = ['Vela', 'AVA To', 'build', 'passing', 'x', '  two  words ', 'Ä', 'fi', '1.0', 'W.A.', ' ', 'ij\n', 'To'];

/** A text as programs and people write it: positions, lengths, spacing and anchors on it and on parts of it. */
function randomText(random: Random): string {
  const number = (most: number) => String(Math.round((random() - 0.3) * most * 2) / 2);
  const list = (most: number) => Array.from({ length: 1 + Math.floor(random() * 3) }, () => number(most)).join(' ');
  const maybe = (share: number, text: () => string) => (random() < share ? ` ${text()}` : '');
  const said = (share: number, stretches = true) =>
    maybe(share, () => `x="${random() < 0.7 ? number(100) : list(100)}"`) +
    maybe(share, () => `y="${random() < 0.7 ? number(100) : list(100)}"`) +
    maybe(share / 2, () => `dx="${list(20)}"`) +
    maybe(share / 2, () => `dy="${list(20)}"`) +
    maybe(share / 4, () => `rotate="${list(90)}"`) +
    maybe(stretches ? share / 2 : 0, () => `textLength="${20 + Math.floor(random() * 200)}"`) +
    maybe(share / 4, () => `lengthAdjust="${pick(random, ['spacing', 'spacingAndGlyphs'])}"`) +
    maybe(share / 2, () => `text-anchor="${pick(random, ['start', 'middle', 'end'])}"`) +
    maybe(share / 3, () => `letter-spacing="${number(6)}"`) +
    maybe(share / 3, () => `word-spacing="${number(10)}"`) +
    maybe(share / 4, () => `font-weight="bold"`) +
    maybe(share / 4, () => `font-size="${20 + Math.floor(random() * 40)}"`);
  const inner = (depth: number, stretches: boolean): string =>
    Array.from({ length: 1 + Math.floor(random() * 3) }, () => {
      if (depth >= 2 || random() < 0.6) return pick(random, WORDS);
      const attributes = said(0.3, stretches);
      return `<tspan${attributes}>${inner(depth + 1, stretches && !attributes.includes('textLength'))}</tspan>`;
    }).join('');
  const outer = said(0.6);
  const text = `<text font-family="${SHIPPED_FACES[0].family}"${outer}>${inner(0, !outer.includes('textLength'))}</text>`;
  // Where a ligature lies in front of what moves its own inner letters, browsers anchor it by them.
  return /textLength|dx="[^"]*-/.test(text) ? text.replaceAll('fi', 'fn') : text;
}

type Place = { x: number; y: number; end: number; turn: number };

/** Where each letter stands that is the first of what is placed as one, by its number in the text. */
function ours(text: string): Map<number, Place> {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400" font-size="40">${text}</svg>`;
  const layer = readSvg(svg, 'text.svg').layers.find(({ tag }) => tag === 'text');
  if (!layer) return new Map();
  const { letters } = layOut(layer, { 'font-size': '40', ...layer.attrs }, FONTS);
  return new Map(letters.map(({ index, x, y, turn, advance }) => [index, { x, y, turn, end: x + advance }]));
}

const TURN = (degrees: number) => ((degrees % 360) + 360) % 360;

test('letters stand where a browser has them', async () => {
  const random = mulberry(Number(process.env.PROPERTY_SEED ?? 11));
  const texts = Array.from({ length: TEXTS }, () => randomText(random));
  const theirs = await page.evaluate(
    (all) =>
      all.map((text) => {
        document.body.innerHTML = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400" style="text-rendering:geometricPrecision" font-size="40">${text}</svg>`;
        const element = document.querySelector('text') as SVGTextElement;
        return Array.from({ length: element.getNumberOfChars() }, (_, i) => {
          const { x, y } = element.getStartPositionOfChar(i);
          return { x, y, end: element.getEndPositionOfChar(i).x, turn: element.getRotationOfChar(i) };
        });
      }),
    texts,
  );
  const wrong: { text: string; at: number; by: string }[] = [];
  let letters = 0;
  texts.forEach((text, t) => {
    for (const [index, place] of ours(text)) {
      letters++;
      const other = theirs[t][index];
      const off = other && [place.x - other.x, place.y - other.y, TURN(place.turn - other.turn + 180) - 180];
      if (off?.every((by) => Math.abs(by) < 0.4)) continue;
      wrong.push({ text, at: index, by: String(off?.map((by) => by.toFixed(2))) });
      break;
    }
  });
  wrong.sort((a, b) => a.text.length - b.text.length);
  expect({ wrong: wrong.length, smallest: wrong.slice(0, 12) }).toEqual({ wrong: 0, smallest: [] });
  expect(letters).toBeGreaterThan(TEXTS * 4);
}, 300_000);
