import {
  artworkIndex,
  crispestShift,
  crispFinder,
  crispness,
  edgesIn,
  movedLayer,
  type ProjectDocument,
  planFiles,
} from '../src';
import { layersOn } from '../src/arrange/move';
import { project, svg } from './fixtures';

const edges = (doc: ProjectDocument) => edgesIn(doc, artworkIndex(doc).leaves);
const grid = (side: number, drawn = 24) => ({
  view: { x: 0, y: 0, width: drawn, height: drawn },
  widthPx: side,
  heightPx: side,
});
/** The drawing at 0, 0 of the plane. */
const drawn = (inner: string) => project({ icon: svg(inner) }).doc;
const share = (inner: string, side = 24) => crispness(edges(drawn(inner)), grid(side)).share;

test.each([
  ['a bar on the grid', '<rect x="3" y="4" width="18" height="2"/>', 1],
  ['a bar between pixels', '<rect x="3.37" y="4.3" width="17.3" height="2.2"/>', 0],
  ['its long sides alone', '<rect x="3.5" y="4" width="17" height="2"/>', 34 / 38],
  ['a line of 2 px on a boundary', '<path d="M4 12H20" stroke="#000" stroke-width="2" fill="none"/>', 1],
  ['a line of 1 px on a boundary', '<path d="M4 12H20" stroke="#000" fill="none"/>', 2 / 34],
  ['a line of 1 px in the middle of pixels', '<path d="M4 12.5H20" stroke="#000" fill="none"/>', 1],
  ['a square cap', '<path d="M4 12H20" stroke="#000" stroke-width="2" stroke-linecap="square" fill="none"/>', 1],
  ['a diamond', '<path d="M12 3L21 12L12 21L3 12Z"/>', null],
  ['an edge that leans by a thousandth', '<path d="M4 4L20 20L4 20.001Z"/>', 1],
  ['a turned bar', '<rect x="3" y="4" width="18" height="2" transform="rotate(30 12 12)"/>', null],
  ['a bar turned by 90°', '<rect x="3" y="4" width="18" height="2" transform="rotate(90 12 12)"/>', 1],
  ['a bar grown with its stroke', '<g transform="scale(2)"><path d="M2 3H10" stroke="#000" fill="none"/></g>', 1],
  ['letters', '<text x="3" y="12">Hi</text>', null],
  ['nothing', '<g/>', null],
])('%s', (_, inner, expected) => {
  const found = share(inner);
  if (expected === null) expect(found).toBeNull();
  else expect(found).toBeCloseTo(expected, 1);
});

test('curves count as long as they are flat: a disc by its four extremes, the sides of a ring by theirs', () => {
  expect(share('<circle cx="12" cy="12" r="9"/>')).toBe(1);
  expect(share('<circle cx="12" cy="12" r="9.4"/>')).toBe(0);
  // Half-circles leave their edge by 0.05 px after √(2 · 9 · 0.05) px.
  const { lengthPx } = crispness(edges(drawn('<circle cx="12" cy="12" r="9"/>')), grid(24));
  expect(lengthPx).toBeCloseTo(8 * Math.sqrt(2 * 9 * 0.05), 1);
  const ring = crispness(
    edges(drawn('<circle cx="12" cy="12" r="8" stroke="#000" stroke-width="2" fill="none"/>')),
    grid(24),
  );
  expect(ring.share).toBe(1);
  expect(ring.lengthPx).toBeCloseTo(8 * (Math.sqrt(2 * 9 * 0.05) + Math.sqrt(2 * 7 * 0.05)), 0);
  expect(share('<path d="M9 6l6 6-6 6" stroke="#000" stroke-width="2" stroke-linejoin="round" fill="none"/>')).toBe(1);
});

test('sizes have pixels of their own', () => {
  const bar = '<rect x="3" y="6" width="18" height="3"/>';
  expect(share(bar, 24)).toBe(1);
  expect(share(bar, 16)).toBe(1);
  expect(share(bar, 20)).toBeLessThan(0.5);
});

test('what is cut off by the artboard or by a clip is no edge', () => {
  expect(share('<rect x="-5" y="3.3" width="34" height="4"/>')).toBe(0);
  const clip = '<clipPath id="c"><rect x="4" y="4" width="6" height="6"/></clipPath>';
  const { off } = crispness(
    edges(drawn(`${clip}<rect x="2.5" y="5" width="12.2" height="3" clip-path="url(#c)"/>`)),
    grid(24),
  );
  expect(off).toHaveLength(0);
});

test('moving the drawing makes the most edges crisp, by at most half a px, and never fewer', () => {
  let seed = 7;
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
  let better = 0;
  for (let i = 0; i < 60; i++) {
    const offset = [random(), random()];
    const bars = Array.from({ length: 1 + Math.floor(random() * 4) }, () => {
      const [x, y, w, h] = [2, 2, 1, 1].map((least) => least + Math.floor(random() * 8));
      const loose = random() < 0.3 ? random() : 0;
      return `<rect x="${x + offset[0] + loose}" y="${y + offset[1]}" width="${w}" height="${h}"/>`;
    });
    const made = project({ icon: svg(bars.join('')) });
    const { doc } = made;
    const size = grid(24);
    const before = crispness(edges(doc), size).share as number;
    const shift = crispestShift(edges(doc), size);
    if (!shift) continue;
    better++;
    expect(Math.max(Math.abs(shift.dx), Math.abs(shift.dy))).toBeLessThanOrEqual(0.5);
    const moved = layersOn(doc, made.artboard('icon')).map((layer) => movedLayer(doc, layer, shift.dx, shift.dy));
    doc.apply({ puts: moved, removes: [] });
    const after = crispness(edges(doc), size).share as number;
    expect(after).toBeGreaterThan(before);
    expect(after).toBeCloseTo(shift.share, 6);
    // There is nothing left to win.
    expect(crispestShift(edges(doc), size)).toBeNull();
  }
  expect(better).toBeGreaterThan(40);
});

test('what is remembered of pictures is what a fresh look gives, after edits of a drawing, an artboard and an output', () => {
  const bar = (x: number) => svg(`<rect id="bar" x="${x}" y="4" width="9" height="3"/>`);
  const { doc, artboard, outputs } = project({ one: bar(3), two: bar(3.4) });
  const find = crispFinder();
  const looked = () => {
    const plan = planFiles(doc, 'p');
    const found = find(doc, plan);
    expect(found).toEqual(crispFinder()(doc, plan));
    return [...found.values()];
  };
  expect(Math.min(...looked())).toBeLessThan(Math.max(...looked()));
  const [layer] = layersOn(doc, artboard('one'));
  doc.apply({ puts: [movedLayer(doc, layer, 0.3, 0.3)], removes: [] });
  expect(Math.max(...looked())).toBeLessThan(1);
  doc.apply({ puts: [{ ...artboard('one'), x: artboard('one').x + 0.3, y: artboard('one').y + 0.3 }], removes: [] });
  expect(Math.max(...looked())).toBe(1);
  const before = looked().length;
  doc.apply({ puts: outputs.map((output) => ({ ...output, size: { kind: 'width', widthPx: 20 } })), removes: [] });
  expect(looked()).toHaveLength(before);
  doc.apply({ puts: outputs.map((output) => ({ ...output, size: { kind: 'width', widthPx: 200 } })), removes: [] });
  expect(looked()).toEqual([]);
});

test('hostile drawings: flattened by a matrix, of no size, of more edges than anybody draws', () => {
  expect(share('<g transform="scale(1 0)"><path d="M4 12H20V15" stroke="#000" fill="none"/></g>')).not.toBeNaN();
  expect(
    share('<g transform="matrix(1 1 1 1 0 0)"><rect x="3" y="3" width="9" height="9" stroke="#000"/></g>'),
  ).not.toBeNaN();
  expect(share('<path d="M4 4"/><rect width="0" height="9"/><circle r="0" stroke="#000"/>')).toBeNull();
  const teeth = Array.from({ length: 20_000 }, (_, i) => `v${(i % 7) / 7 + 0.1}h${(i % 13) / 1300}`).join('');
  const doc = drawn(`<path d="M0.123 0${teeth}"/>`);
  const before = crispness(edges(doc), grid(24, 24)).share as number;
  expect(crispestShift(edges(doc), grid(24, 24))?.share).toBeGreaterThan(before);
});
