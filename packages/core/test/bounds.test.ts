import fc from 'fast-check';
import { shippedFonts } from '../../render/src/shipped-fonts';
import { artworkIndex, layerBounds, measureTextWith, ProjectDocument, readSvg } from '../src';
import { svg } from './fixtures';
import { runs } from './properties';

/** The box of the only artwork in a file, as [minX, minY, maxX, maxY]. */
function boxOf(inner: string, withFonts = false): number[] {
  const artwork = readSvg(svg(inner, 'viewBox="0 0 100 100" overflow="visible"'), 'art.svg');
  const doc = new ProjectDocument(artwork.layers);
  if (withFonts) measureTextWith(doc, shippedFonts(__filename));
  const box = layerBounds(doc, artwork.rootId);
  return box ? [box.minX, box.minY, box.maxX, box.maxY] : [];
}

test.each([
  ['a rectangle', '<rect x="1" y="2" width="3" height="4"/>', [1, 2, 4, 6]],
  [
    'a stroke, half on each side',
    '<rect x="10" y="10" width="10" height="10" stroke="#000" stroke-width="4"/>',
    [8, 8, 22, 22],
  ],
  ['an inherited stroke', '<g stroke="#000" stroke-width="2"><circle cx="10" cy="10" r="5"/></g>', [4, 4, 16, 16]],
  ['a curve by its extremes, not its handles', '<path d="M0 0C0 10 10 10 10 0"/>', [0, 0, 10, 7.5]],
  ['a quadratic curve', '<path d="M0 0Q5 10 10 0"/>', [0, 0, 10, 5]],
  ['an arc', '<path d="M0 10A10 10 0 0 1 20 10"/>', [0, 0, 20, 10]],
  [
    'a rotation',
    '<rect x="-5" y="-5" width="10" height="10" transform="rotate(45)"/>',
    [-7.0711, -7.0711, 7.0711, 7.0711],
  ],
  [
    'nested transforms',
    '<g transform="translate(10 0)"><g transform="scale(2)"><rect width="3" height="3"/></g></g>',
    [10, 0, 16, 6],
  ],
  ['a mitre', '<path d="M0 10L10 10L10 0" fill="none" stroke="#000" stroke-width="2"/>', [-1, -1, 11, 11]],
  [
    'a mitre beyond its limit is bevelled',
    '<path d="M0 0L100 1L0 2" fill="none" stroke="#000" stroke-width="2" stroke-linecap="butt"/>',
    [-1, -1, 101, 3],
  ],
  [
    'a clip',
    '<clipPath id="c"><rect width="5" height="5"/></clipPath><rect width="50" height="50" clip-path="url(#c)"/>',
    [0, 0, 5, 5],
  ],
  ['a polygon', '<polygon points="0,0 10,0 5,8"/>', [0, 0, 10, 8]],
  ['nothing that shows', '<g display="none"><rect width="9" height="9"/></g>', []],
  ['a shape of no size', '<rect width="0" height="9"/>', []],
])('%s', (_, inner, box) => {
  const measured = boxOf(inner);
  expect(measured).toHaveLength(box.length);
  measured.forEach((value, i) => expect(value).toBeCloseTo(box[i], 2));
});

test('a blur reaches beyond its object', () => {
  const [minX] = boxOf(
    '<filter id="f"><feGaussianBlur stdDeviation="2"/></filter><rect x="20" y="20" width="10" height="10" filter="url(#f)"/>',
  );
  expect(minX).toBeLessThanOrEqual(14);
});

test('text is measured by its glyphs once fonts are there, and guessed generously before', () => {
  const text = '<text x="50" y="40" font-family="Schibsted Grotesk" font-size="20" text-anchor="middle">kelp</text>';
  const [guessMin, , guessMax] = boxOf(text);
  const [minX, , maxX] = boxOf(text, true);
  expect(guessMin).toBeLessThan(minX);
  expect(guessMax).toBeGreaterThan(maxX);
  expect((minX + maxX) / 2).toBeCloseTo(50, 0);
});

test('the index finds exactly what a walk finds', () => {
  const rect = fc.record({
    x: fc.integer({ min: 0, max: 90 }),
    y: fc.integer({ min: 0, max: 90 }),
    w: fc.integer({ min: 1, max: 30 }),
    h: fc.integer({ min: 1, max: 30 }),
  });
  fc.assert(
    fc.property(fc.array(rect, { minLength: 1, maxLength: 40 }), rect, (rects, q) => {
      const text = svg(
        rects.map(({ x, y, w, h }) => `<rect x="${x}" y="${y}" width="${w}" height="${h}"/>`).join(''),
        'viewBox="0 0 100 100" overflow="visible"',
      );
      const doc = new ProjectDocument(readSvg(text, 'a.svg').layers);
      const index = artworkIndex(doc);
      const found = index.search({ minX: q.x, minY: q.y, maxX: q.x + q.w, maxY: q.y + q.h }).length;
      expect(found).toBe(
        rects.filter((r) => r.x <= q.x + q.w && r.x + r.w >= q.x && r.y <= q.y + q.h && r.y + r.h >= q.y).length,
      );
    }),
    runs(60),
  );
});
