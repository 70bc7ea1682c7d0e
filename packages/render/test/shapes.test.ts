import { defaultSettings, type Format, readTree, type Seen, type TreeNode } from '@tolvik/core';
import { rasterise, renderFile } from '../src';
import { outlineHere } from '../src/outlines/outliner';
import { withStrokeOutlines } from '../src/outlines/stroke-outlines';
import { thinPlaces } from '../src/outlines/thin';
import { withUnitedColours } from '../src/outlines/united';
import { randomLogo } from './support/random-logo';

const drawing = (inner: string, side = 48) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}" viewBox="0 0 ${side} ${side}">${inner}</svg>`;

function made(svg: string, settings: object, format: Format = 'svg', sidePx = 48) {
  return renderFile({
    svg,
    settings: { ...defaultSettings(format), ...settings } as never,
    widthPx: sidePx,
    heightPx: sidePx,
    dpi: 96,
    ground: null,
  });
}

/** The share of px, at 8 times its size, that differ by more than half in any channel on a white or a black ground. */
function shareOff(one: string, other: string, side: number, times = 8): number {
  const px = Math.round(side * times);
  const sized = (svg: string) => {
    const root = (_: string, attrs: string) =>
      `<svg${attrs.replace(/ (?:width|height)="[^"]*"/g, '')} width="${px}" height="${px}">`;
    return rasterise(svg.replace(/^<svg([^>]*)>/, root), px, px).data;
  };
  const [a, b] = [sized(one), sized(other)];
  let off = 0;
  for (let i = 0; i < a.length; i += 4)
    if ([0, 1, 2, 3].some((channel) => Math.abs(a[i + channel] - b[i + channel]) > 127)) off++;
  return off / (a.length / 4);
}

const all = (svg: string): TreeNode[] => {
  const nodes: TreeNode[] = [];
  const visit = (node: TreeNode) => {
    nodes.push(node);
    node.children.forEach(visit);
  };
  visit(readTree(svg).root);
  return nodes;
};
const hasStroke = (svg: string) => all(svg).some(({ attrs }) => (attrs.stroke ?? 'none') !== 'none');

/** A drawing in colours: a random logo whose black is yellow, without half transparent parts. */
function coloured(seed: number): { svg: string; side: number } {
  const { defs, body, width } = randomLogo(seed);
  const flat = body
    .replace(/#000000/g, '#e0a82e')
    .replace(/#ffffff/g, seed % 2 ? '#0c6a53' : '#b4602a')
    .replace(/ (?:fill-|stroke-)?opacity="[^"]*"/g, '');
  return { svg: drawing(defs + flat, width), side: width };
}

test('strokes of random drawings become outlines that show the same, and what stays a stroke is counted', async () => {
  let outlined = 0;
  for (let seed = 1; seed <= 40; seed++) {
    const { svg, side } = coloured(seed);
    const result = await withStrokeOutlines(svg, outlineHere);
    expect([seed, hasStroke(result.svg)]).toEqual([seed, result.strokes > 0]);
    if (result.strokes === 0) outlined++;
    expect([seed, shareOff(svg, result.svg, side, Math.min(8, 800 / side)) < 0.002]).toEqual([seed, true]);
  }
  expect(outlined).toBeGreaterThanOrEqual(36);
});

test('random drawings united by colour show the same, one path for each colour, nothing over anything', async () => {
  let united = 0;
  for (let seed = 1; seed <= 40; seed++) {
    const { svg, side } = coloured(seed);
    const result = await withUnitedColours(svg, outlineHere);
    if (result === null) continue;
    united++;
    const paths = all(result).filter(({ tag }) => tag !== 'svg');
    const colours = paths.map(({ attrs }) => attrs.fill);
    expect(new Set(colours).size).toBe(colours.length);
    expect(paths.every(({ tag, attrs }) => tag === 'path' && Object.keys(attrs).sort().join() === 'd,fill')).toBe(true);
    expect([seed, shareOff(svg, result, side, Math.min(8, 800 / side)) < 0.002]).toEqual([seed, true]);
    // Drawn the other way round, it is the same picture: no path lies over another.
    const { root } = readTree(result);
    const turned = drawing(
      [...root.children]
        .reverse()
        .map(({ attrs }) => `<path fill="${attrs.fill}" d="${attrs.d}"/>`)
        .join(''),
      side,
    );
    expect([seed, shareOff(turned, result, side, Math.min(8, 800 / side)) < 0.002]).toEqual([seed, true]);
  }
  expect(united).toBeGreaterThanOrEqual(30);
});

test('a stroke keeps its place, its name and what is around it; a circle has a ring of arcs', async () => {
  const svg = drawing(
    '<g id="mark" stroke="#0c6a53" stroke-width="2" fill="none" opacity=".5"><path id="stem" d="M24 8v32"/><circle id="ring" cx="24" cy="8" r="4" fill="#e0a82e"/></g>',
  );
  const { bytes } = await made(svg, { shapes: 'outlined', ids: 'kept' });
  const text = bytes.toString();
  expect(hasStroke(text)).toBe(false);
  expect(text.match(/ id="([^"]*)"/g)?.map((id) => id.replace(/.*?(\w+)"$/, '$1'))).toEqual(['mark', 'stem', 'ring']);
  expect(text).toMatch(/a5 5 0 1 1/);
  expect(text).not.toMatch(/stroke/);
  expect(shareOff(svg, text, 48)).toBeLessThan(0.0005);
});

test('what cannot be an outline stays as it is drawn, and is told', async () => {
  const cases: [string, Seen | undefined][] = [
    [
      '<linearGradient id="g"><stop stop-color="#f00"/><stop offset="1" stop-color="#00f"/></linearGradient><path d="M4 4l40 9" stroke="url(#g)" stroke-width="3"/>',
      { strokes: 1 },
    ],
    [
      '<filter id="f"><feGaussianBlur stdDeviation="2"/></filter><g filter="url(#f)"><path d="M4 4h40" stroke="#f00"/></g>',
      { strokes: 1 },
    ],
    ['<path d="M4 4h40v9z"/>', undefined],
    ['<path d="M4 4h40" stroke="#f00" stroke-width="0"/>', undefined],
  ];
  for (const [inner, told] of cases) {
    const { measured } = await made(drawing(inner.replace(/^(<(\w+)[^>]* id=.*?<\/\2>)/, '<defs>$1</defs>')), {
      shapes: 'outlined',
    });
    expect(measured.seen).toEqual(told);
  }
  const half = await made(
    drawing('<rect width="9" height="9"/><rect x="4" width="9" height="9" fill="#f00" opacity=".5"/>'),
    { shapes: 'united' },
  );
  expect(half.measured.seen).toEqual({ apart: true });
});

test('a gradient is one of the colours, where it was', async () => {
  const svg = drawing(
    '<defs><linearGradient id="g"><stop stop-color="#f00"/><stop offset="1" stop-color="#00f"/></linearGradient></defs><g transform="translate(4 4) rotate(10)"><rect width="30" height="30" fill="url(#g)"/></g><circle cx="24" cy="24" r="8" fill="#ffffff"/>',
  );
  const { bytes, measured } = await made(svg, { shapes: 'united' });
  expect(measured.seen?.cut?.inks).toBe(2);
  expect(shareOff(svg, bytes.toString(), 48)).toBeLessThan(0.002);
});

test('what is empty, all of one colour, all outside, or too much comes out as it should', async () => {
  const united = async (inner: string) => await made(drawing(inner), { shapes: 'united' });
  expect((await united('')).bytes.toString()).not.toMatch(/<path/);
  expect((await united('<rect x="90" width="9" height="9"/>')).bytes.toString()).not.toMatch(/<path/);
  const one = await united(
    '<rect width="20" height="20"/><circle cx="20" cy="20" r="9"/><path d="M4 4l30 9" stroke="#000"/>',
  );
  expect(one.measured.seen?.cut?.inks).toBe(1);
  // A shape that others cover completely leaves no path.
  const covered = await united('<rect x="9" y="9" width="9" height="9" fill="#f00"/><rect width="48" height="48"/>');
  expect(covered.measured.seen?.cut?.inks).toBe(1);
  const many = Array.from(
    { length: 5000 },
    (_, i) => `<rect x="${i % 48}" y="${(i * 7) % 48}" width="3" height="3" fill="#00${(i % 9) + 10}ff"/>`,
  );
  expect((await united(many.join(''))).measured.seen).toEqual({ apart: true });
  const long = `<path d="M0 0${Array.from({ length: 30_000 }, (_, i) => `L${i % 48} ${(i * 7) % 48}`).join('')}Z"/>`;
  expect((await united(long)).measured.seen).toEqual({ apart: true });
});

test('a united PDF holds path operators and colours alone', async () => {
  const { bytes } = await made(
    drawing('<rect width="40" height="40" fill="#0c6a53"/><path d="M0 24h48" stroke="#ffffff" stroke-width="4"/>'),
    { shapes: 'united' },
    'pdf',
  );
  expect(bytes.toString('latin1')).not.toMatch(/ExtGState|SMask|\/Group|XObject|Pattern/);
});

test('an SVG says its size in mm, exactly', async () => {
  const { bytes, measured } = await made(
    drawing('<rect width="40" height="40"/>'),
    { dimensions: 'mm' },
    'svg',
    85 * (96 / 25.4),
  );
  expect(bytes.toString()).toMatch(/width="85mm" height="85mm"/);
  expect(measured.widthPx).toBeCloseTo(321.26, 2);
});

test('thin parts and gaps are counted at the size of the file, corners are not', async () => {
  // 48 px are 12.7 mm: 0.5 mm are 1.89 px.
  const cutOf = async (inner: string) => (await made(drawing(inner), { shapes: 'united' })).measured.seen?.cut;
  expect(await cutOf('<rect x="4" y="4" width="40" height="40"/>')).toEqual({
    inks: 1,
    nodes: 4,
    thinParts: 0,
    thinGaps: 0,
    searched: true,
  });
  expect(await cutOf('<path d="M24 4l20 36H4z"/>')).toMatchObject({ thinParts: 0, thinGaps: 0 });
  expect(await cutOf('<path d="M4 24h40" stroke="#000" stroke-width="1.2"/>')).toMatchObject({ thinParts: 1 });
  expect(await cutOf('<path d="M4 24h40" stroke="#000" stroke-width="2.4"/>')).toMatchObject({ thinParts: 0 });
  expect(await cutOf('<circle cx="24" cy="24" r=".7"/>')).toMatchObject({ thinParts: 1 });
  const bars =
    '<rect x="4" y="4" width="12" height="40"/><rect x="17" y="4" width="12" height="40"/><rect x="34" y="4" width="10" height="40"/>';
  expect(await cutOf(bars)).toMatchObject({ thinParts: 0, thinGaps: 1 });
  // A notch is no gap, however narrow it ends; a slit that goes on is one.
  expect(await cutOf('<path d="M4 4h40v40h-12l-4-24-4 24H4z"/>')).toMatchObject({ thinGaps: 0 });
  expect(await cutOf('<path d="M4 4h40v40H24.5V20h-1v24H4z"/>')).toMatchObject({ thinGaps: 1 });
  // A hairline of another colour within a shape is a thin part of its own, and no gap.
  expect(await cutOf('<rect x="4" y="4" width="40" height="40"/><path d="M10 24h28" stroke="#f00"/>')).toMatchObject({
    inks: 2,
    thinParts: 1,
    thinGaps: 0,
  });
});

test('what is as large as a door is searched more coarsely, and as large as a house not at all, which is told', async () => {
  const cutOf = async (sidePx: number) =>
    (
      await made(
        drawing('<rect x="4" y="4" width="40" height="40"/>'),
        { shapes: 'united', dimensions: 'mm' },
        'svg',
        sidePx,
      )
    ).measured.seen?.cut;
  expect(await cutOf(600 * (96 / 25.4))).toMatchObject({ searched: false });
  expect(await cutOf(300 * (96 / 25.4))).toMatchObject({ searched: true, thinParts: 0, thinGaps: 0 });
});

test('bars of every width are thin below what is asked, and not above', () => {
  const side = 60;
  for (let width = 1; width <= 24; width++) {
    const data = new Uint8Array(side * side);
    for (let y = 10; y < 50; y++) for (let x = 20; x < 20 + width; x++) data[y * side + x] = 1;
    const expected = width >= 12 ? 0 : width < 11 ? 1 : expect.any(Number);
    expect([width, thinPlaces({ data, width: side, height: side }, 12)]).toEqual([width, expected]);
  }
});
