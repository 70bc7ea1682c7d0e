import { shippedFonts } from '../../render/src/shipped-fonts';
import {
  fontSet,
  type Layer,
  layerRecord,
  layerReferences,
  layersAsSvg,
  outlineText,
  ProjectDocument,
  readFont,
  readSvg,
  type TextRun,
  weightOf,
  withLayerReferences,
} from '../src';
import { definitionsUsed } from '../src/arrange/definitions';
import { paintInBox } from '../src/compose/paint-in-box';
import { pathBounds, pathSegments } from '../src/geometry/path-geometry';
import { refusalOf } from './fixtures';

const fonts = shippedFonts(__filename);
const layer = (text: TextRun[], attrs: Record<string, string> = {}) =>
  layerRecord.parse({
    id: 't',
    kind: 'layer',
    parentId: 'root',
    order: 'a0',
    tag: 'text',
    attrs: { 'font-family': 'Schibsted Grotesk', 'font-size': '20', x: '50', y: '40', ...attrs },
    text,
  });
const boxOf = (text: TextRun[], attrs: Record<string, string> = {}) => {
  const { runs } = outlineText(layer(text, attrs), {}, fonts);
  const box = pathBounds(pathSegments(runs.map((run) => run.d).join('')), null);
  if (!box) throw new Error('nothing drawn');
  return box;
};
const plain = [{ text: 'kelp', attrs: {} }];

test('anchors: from x, around x, up to x', () => {
  const [start, middle, end] = ['start', 'middle', 'end'].map((anchor) => boxOf(plain, { 'text-anchor': anchor }));
  expect(start.minX).toBeGreaterThan(50);
  expect((middle.minX + middle.maxX) / 2).toBeCloseTo(50, 0);
  expect(end.maxX).toBeLessThanOrEqual(50.5);
  expect(start.maxX - start.minX).toBeCloseTo(end.maxX - end.minX, 3);
});

test('letters stand on the baseline, and size scales them', () => {
  const small = boxOf([{ text: 'n', attrs: {} }]);
  const large = boxOf([{ text: 'n', attrs: {} }], { 'font-size': '40' });
  expect(small.maxY).toBeCloseTo(40, 1);
  expect((large.maxY - large.minY) / (small.maxY - small.minY)).toBeCloseTo(2, 1);
});

test('runs follow each other; a position starts anew; dx and dy shift', () => {
  const two = boxOf([
    { text: 'ke', attrs: {} },
    { text: 'lp', attrs: { 'font-weight': '400' } },
  ]);
  expect(two.maxX).toBeCloseTo(boxOf(plain).maxX, 0);
  expect(
    boxOf([
      { text: 'k', attrs: {} },
      { text: 'p', attrs: { x: '100' } },
    ]).maxX,
  ).toBeGreaterThan(100);
  expect(boxOf([{ text: 'n', attrs: { dx: '7', dy: '5' } }]).minX - boxOf([{ text: 'n', attrs: {} }]).minX).toBeCloseTo(
    7,
    3,
  );
  expect(boxOf([{ text: 'n', attrs: { dx: '7', dy: '5' } }]).maxY).toBeCloseTo(45, 1);
});

test('letter spacing widens, bold is another face', () => {
  expect(boxOf(plain, { 'letter-spacing': '4' }).maxX - boxOf(plain).maxX).toBeCloseTo(12, 3);
  const bold = boxOf(plain, { 'font-weight': '800' });
  expect(bold.maxX - bold.minX).toBeGreaterThan(boxOf(plain).maxX - boxOf(plain).minX);
});

test('a list of x places letter by letter', () => {
  const { runs } = outlineText(layer([{ text: 'ab', attrs: {} }], { x: '0 100' }), {}, fonts);
  const box = pathBounds(pathSegments(runs[0].d), null);
  expect(box?.minX).toBeLessThan(5);
  expect(box?.maxX).toBeGreaterThan(100);
});

test('families: the first that is here, else a stand-in that is told', () => {
  expect(fonts.find('Nowhere, "Spline Sans Mono"', 400, false)).toMatchObject({
    exact: true,
    face: { family: 'Spline Sans Mono' },
  });
  expect(fonts.find('Courier New, monospace', 400, false)).toMatchObject({
    exact: false,
    face: { family: 'Spline Sans Mono' },
  });
  expect(outlineText(layer(plain, { 'font-family': 'Harbourmaster, serif' }), {}, fonts).missing).toEqual([
    'Harbourmaster',
  ]);
  expect(fontSet([]).find('Any', 400, false)).toBeNull();
});

test('weights', () => {
  expect(['bold', 'normal', '650', '0', undefined].map(weightOf)).toEqual([700, 400, 650, 400, 400]);
  expect(fonts.find('Schibsted Grotesk', 640, true)?.face).toMatchObject({ weight: 600, italic: true });
});

test('a font that is none is refused in words', () => {
  expect(refusalOf(() => readFont(new Uint8Array([1, 2, 3, 4]), 'Broken', 400))).toMatchObject({
    code: 'font.not',
    accepted: expect.stringContaining('WOFF2'),
  });
});

test('letters on a path stand with their middles on it, and those off its ends are gone', () => {
  const along = (path: string, more: Record<string, string> = {}) =>
    boxOf([{ text: 'nnnn', attrs: { path, ...more } }], { x: '0' });
  const flat = along('M100 60H300');
  expect([flat.minX, flat.maxY]).toEqual([
    expect.closeTo(boxOf([{ text: 'nnnn', attrs: {} }], { x: '100' }).minX, 2),
    expect.closeTo(60, 1),
  ]);
  expect(along('M100 60H300', { startOffset: '30' }).minX - flat.minX).toBeCloseTo(30, 3);
  // Straight down, letters lie on their side, to the right of the path.
  const down = along('M100 60V300');
  expect(down.minX).toBeCloseTo(100, 1);
  expect(down.maxY - down.minY).toBeCloseTo(flat.maxX - flat.minX, 1);
  expect(along('M100 60V300', { side: 'right' }).maxX).toBeCloseTo(100, 1);
  const half = along(`M100 60H${100 + (flat.maxX - flat.minX) / 2}`);
  expect(half.maxX - half.minX).toBeLessThan((flat.maxX - flat.minX) * 0.55);
});

test('text from top to bottom lies on its side around its line', () => {
  const line = boxOf(plain, { x: '0', y: '0' });
  const down = boxOf(plain, { 'writing-mode': 'vertical-rl', x: '50', y: '40' });
  expect(down.maxY - down.minY).toBeCloseTo(line.maxX - line.minX, 2);
  expect(down.minY - 40).toBeCloseTo(line.minX, 2);
  expect(down.minX).toBeLessThan(50);
  expect(down.maxX).toBeGreaterThan(50);
});

test('small capitals: capitals at seven tenths for what is small', () => {
  const [small, large] = [
    boxOf([{ text: 'h', attrs: {} }], { 'font-variant': 'small-caps' }),
    boxOf([{ text: 'H', attrs: {} }]),
  ];
  expect((small.maxY - small.minY) / (large.maxY - large.minY)).toBeCloseTo(0.7, 2);
});

describe('what parts of a text are painted with', () => {
  const GRADIENT =
    '<linearGradient id="g"><stop stop-color="#f00"/><stop offset="1" stop-color="#00f"/></linearGradient>';
  const artwork = readSvg(
    `<svg xmlns="http://www.w3.org/2000/svg" width="90" height="20">${GRADIENT}<text y="15">a<tspan fill="url(#g)">b</tspan></text></svg>`,
    'art.svg',
  );
  const text = artwork.layers.find(({ tag }) => tag === 'text') as Layer;
  const gradient = artwork.layers.find(({ tag }) => tag === 'linearGradient') as Layer;

  test('is the layer that it became', () => {
    expect(text.text?.[1].attrs.fill).toBe(`url(#${gradient.id})`);
    expect([...layerReferences(text)]).toEqual([['run 1 fill', gradient.id]]);
    expect([...layerReferences(withLayerReferences(text, () => 'x'))]).toEqual([['run 1 fill', 'x']]);
  });

  test('is used, so that it is copied, kept and goes along', () => {
    const doc = new ProjectDocument(artwork.layers);
    expect([...definitionsUsed(doc, [text])]).toEqual([gradient.id]);
    expect(layersAsSvg(doc, [text.id], () => undefined)).toContain(`<linearGradient id="${gradient.id}"`);
  });
});

test('gradients and patterns that measure by a box are said in user space', () => {
  const box = { minX: 10, minY: 20, maxX: 110, maxY: 70 };
  const layer = (tag: string, attrs: Record<string, string>) => ({ tag, attrs }) as unknown as Layer;
  expect(paintInBox(layer('linearGradient', { x2: '.5' }), box)?.attrs).toEqual({
    x1: '0',
    y1: '0',
    x2: '.5',
    y2: '0',
    gradientUnits: 'userSpaceOnUse',
    gradientTransform: 'matrix(100 0 0 50 10 20)',
  });
  expect(paintInBox(layer('pattern', { width: '.5', height: '1' }), box)?.attrs).toMatchObject({
    x: '10',
    y: '20',
    width: '50',
    height: '50',
    patternUnits: 'userSpaceOnUse',
  });
  expect(paintInBox(layer('linearGradient', { gradientUnits: 'userSpaceOnUse' }), box)).toBeNull();
  expect(paintInBox(layer('radialGradient', {}), { ...box, maxX: 10 })).toBeNull();
  expect(paintInBox(layer('mask', {}), box)).toBeNull();
});
