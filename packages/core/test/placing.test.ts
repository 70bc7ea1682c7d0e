import fc from 'fast-check';
import { type Artboard, editionRecord, layerBounds, oneSizeFor, type ProjectDocument, performRequest } from '../src';
import { layerNamed, project, svg } from './fixtures';
import { runs } from './properties';

const sized = (width: number, height = width) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}"/></svg>`;
const brought = (sizes: readonly (readonly [number, number])[]) =>
  project(Object.fromEntries(sizes.map(([w, h], i) => [`n${String(i).padStart(3, '0')}`, sized(w, h)]))).doc;

const meet = (a: Artboard, b: Artboard) =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
const overlaps = (doc: ProjectDocument) => {
  const list = doc.list('artboard');
  return list.flatMap((a, i) => list.slice(i + 1).filter((b) => meet(a, b)));
};

test('files of all sizes stand apart, on whole px, in their order', () => {
  const side = fc.oneof(fc.integer({ min: 1, max: 64 }), fc.integer({ min: 65, max: 9000 }));
  fc.assert(
    fc.property(fc.array(fc.tuple(side, side), { minLength: 1, maxLength: 40 }), (sizes) => {
      const doc = brought(sizes);
      expect(overlaps(doc)).toEqual([]);
      expect(doc.list('artboard').map(({ width, height }) => [width, height])).toEqual(sizes);
      for (const { x, y } of doc.list('artboard')) expect([x, y]).toEqual([Math.round(x), Math.round(y)]);
    }),
    runs(60),
  );
});

test('hundreds of icons beside a large drawing stand by themselves, about as wide as high', () => {
  const doc = brought([[9000, 6000], ...Array.from({ length: 300 }, () => [16, 16] as const), [48, 48]]);
  const [drawing, ...icons] = doc.list('artboard');
  const right = Math.max(...icons.map(({ x, width }) => x + width));
  const bottom = Math.max(...icons.map(({ y, height }) => y + height));
  expect(right / bottom).toBeGreaterThan(0.8);
  expect(right / bottom).toBeLessThan(2.4);
  expect(right).toBeLessThan(900);
  expect(drawing.y).toBeGreaterThan(bottom);
});

describe('brought to one size', () => {
  const made = () =>
    brought([
      [16, 16],
      [24, 12],
      [900, 1200],
      [10, 40],
    ]);

  test('the longer side of each is that, what lies on them is scaled along, and they stand in rows', () => {
    const doc = made();
    const ids = doc.list('artboard').map(({ id }) => id);
    doc.apply(performRequest(doc, 'bring-to-size', { ids, settings: { longestPx: 48 } }));
    const boards = doc.list('artboard');
    expect(boards.map(({ width, height }) => [width, height])).toEqual([
      [48, 48],
      [48, 24],
      [36, 48],
      [12, 48],
    ]);
    expect(overlaps(doc)).toEqual([]);
    for (const board of boards) {
      const box = layerBounds(doc, layerNamed(doc, board.name).id);
      expect(box?.minX).toBeCloseTo(board.x, 6);
      expect(box?.minY).toBeCloseTo(board.y, 6);
      expect(box?.maxX).toBeCloseTo(board.x + board.width, 6);
      expect(box?.maxY).toBeCloseTo(board.y + board.height, 6);
    }
  });

  test('alone it stays where it is, and differences of place in its editions grow with it', () => {
    const { doc, artboard } = project({ mark: svg('<rect id="a" x="4" y="4" width="8" height="8"/>') });
    const board = artboard('mark');
    const top = layerNamed(doc, 'mark').id;
    doc.apply({
      puts: [
        editionRecord.parse({
          id: 'night',
          kind: 'edition',
          artboardId: board.id,
          order: 'a0',
          name: 'night',
          overrides: { [top]: { offset: { x: 1, y: -2 } } },
        }),
      ],
      removes: [],
    });
    doc.apply(performRequest(doc, 'bring-to-size', { ids: [board.id], settings: { longestPx: 72 } }));
    expect(artboard('mark')).toMatchObject({ x: board.x, y: board.y, width: 72, height: 72 });
    expect(doc.find('edition', 'night')?.overrides[top].offset).toEqual({ x: 3, y: -6 });
  });
});

test.each<[string, [number, number][], number | null]>([
  [
    'the size that most have',
    [
      [16, 16],
      [16, 12],
      [900, 400],
    ],
    16,
  ],
  [
    'the smaller of two that as many have',
    [
      [16, 16],
      [900, 400],
    ],
    16,
  ],
  [
    'nothing where they are not very different',
    [
      [16, 16],
      [64, 20],
    ],
    null,
  ],
  ['nothing for one', [[16, 16]], null],
])('one size for some artboards: %s', (_, sides, size) => {
  expect(oneSizeFor(sides.map(([width, height]) => ({ width, height })))).toBe(size);
});
