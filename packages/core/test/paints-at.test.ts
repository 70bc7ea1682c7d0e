import fc from 'fast-check';
import { rasterise } from '../../render/src/rasterise';
import { artworkIndex, type ProjectDocument, paintsAt } from '../src';
import { project, svg } from './fixtures';
import { runs } from './properties';

const SIDE = 48;

/** Whether any drawn element lays paint at a point of the one artboard. */
function painted(doc: ProjectDocument, x: number, y: number, near = 0): boolean {
  const [board] = doc.list('artboard');
  return artworkIndex(doc).leaves.some((leaf) => paintsAt(doc, leaf, board.x + x, board.y + y, near));
}
const drawing = (inner: string) =>
  project({ a: svg(inner, `width="${SIDE}" height="${SIDE}" viewBox="0 0 ${SIDE} ${SIDE}"`) }).doc;

test('inside of what is filled, on what is stroked, and not in a frame that is only stroked', () => {
  const doc = drawing(
    '<rect x="4" y="4" width="40" height="40" fill="none" stroke="#000" stroke-width="2"/><circle cx="24" cy="24" r="6"/>',
  );
  expect([painted(doc, 24, 24), painted(doc, 4.5, 20), painted(doc, 12, 12), painted(doc, 29, 29)]).toEqual([
    true,
    true,
    false,
    false,
  ]);
  expect(painted(doc, 7, 20)).toBe(false);
  expect(painted(doc, 7, 20, 2.5)).toBe(true);
});

test('text and pictures all over their box; what is thin, at its edge', () => {
  const doc = drawing('<text x="4" y="30" font-size="20">a</text>');
  const [leaf] = artworkIndex(doc).leaves;
  expect(paintsAt(doc, leaf, (leaf.minX + leaf.maxX) / 2, leaf.minY + 1, 0)).toBe(true);
  expect(paintsAt(doc, leaf, leaf.maxX + 5, leaf.minY, 1)).toBe(false);
  expect(painted(drawing('<rect x="4" y="4" width="40" height="0.01"/>'), 20, 4.5, 1)).toBe(true);
});

test('wherever the rasteriser lays paint, and nowhere else, for any shape', () => {
  const number = (min: number, max: number) => fc.integer({ min: min * 4, max: max * 4 }).map((value) => value / 4);
  const pair = fc.tuple(number(0, SIDE), number(0, SIDE)).map((at) => at.join(' '));
  const path = fc
    .array(fc.tuple(pair, pair, pair), { minLength: 2, maxLength: 4 })
    .map((curves) => `M${curves[0][0]}${curves.map((points) => `C${points.join(' ')}`).join('')}`);
  const shape = fc.oneof(
    fc
      .tuple(path, fc.constantFrom('nonzero', 'evenodd'), fc.constantFrom('', 'Z'))
      .map(([d, rule, end]) => `<path d="${d}${end}" fill-rule="${rule}"/>`),
    path.map(
      (d) =>
        `<path d="${d}" fill="none" stroke="#000" stroke-width="5" stroke-linejoin="round" stroke-linecap="round"/>`,
    ),
    fc
      .tuple(number(5, 40), number(5, 40), number(2, 20), number(-90, 90))
      .map(
        ([x, y, r, turn]) =>
          `<g transform="rotate(${turn} 24 24) scale(0.8)"><rect x="${x}" y="${y}" width="${r * 2}" height="${r}" rx="${r / 4}"/></g>`,
      ),
  );
  let inside = 0;
  let outside = 0;
  fc.assert(
    fc.property(shape, (inner) => {
      const doc = drawing(inner);
      const { data } = rasterise(
        svg(inner, `width="${SIDE}" height="${SIDE}" viewBox="0 0 ${SIDE} ${SIDE}"`),
        SIDE,
        SIDE,
      );
      const alpha = (x: number, y: number) => data[4 * (y * SIDE + x) + 3];
      for (let y = 2; y < SIDE - 2; y += 3) {
        for (let x = 2; x < SIDE - 2; x += 3) {
          // Near an edge either may be right.
          const around = [-1, 0, 1].flatMap((dy) => [-1, 0, 1].map((dx) => alpha(x + dx, y + dy)));
          if (around.every((value) => value === 255)) {
            inside++;
            expect(painted(doc, x + 0.5, y + 0.5)).toBe(true);
          } else if (around.every((value) => value === 0)) {
            outside++;
            expect(painted(doc, x + 0.5, y + 0.5)).toBe(false);
          }
        }
      }
    }),
    runs(60),
  );
  expect([inside, outside].every((count) => count > 500)).toBe(true);
});
