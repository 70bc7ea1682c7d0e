import { boundsOf, layerRecord, layerTitle, ProjectDocument } from '@tolvik/core';
import fc from 'fast-check';
import { layerRows } from '../src/bench/layers/layer-rows';
import { fitting, MAX_SCALE, MIN_SCALE, snapped, toPlane, toScreen, zoomed } from '../src/bench/plane/camera';
import { resizedRect } from '../src/bench/plane/resized-rect';

const camera = fc.record({
  x: fc.double({ min: -5000, max: 5000, noNaN: true }),
  y: fc.double({ min: -5000, max: 5000, noNaN: true }),
  scale: fc.double({ min: 0.02, max: 60, noNaN: true }),
});

describe('camera', () => {
  test('to the screen and back is the same place', () => {
    fc.assert(
      fc.property(camera, fc.integer({ min: -999, max: 999 }), fc.integer({ min: -999, max: 999 }), (c, x, y) => {
        const [px, py] = toPlane(c, ...toScreen(c, x, y));
        expect(px).toBeCloseTo(x, 6);
        expect(py).toBeCloseTo(y, 6);
      }),
    );
  });

  test('zooming keeps the point under the pointer, within the limits', () => {
    fc.assert(
      fc.property(camera, fc.double({ min: 0.01, max: 100, noNaN: true }), (c, factor) => {
        const after = zoomed(c, factor, 300, 200);
        expect(after.scale).toBeGreaterThanOrEqual(MIN_SCALE);
        expect(after.scale).toBeLessThanOrEqual(MAX_SCALE);
        const [x, y] = toPlane(c, 300, 200);
        const [sx, sy] = toScreen(after, x, y);
        expect(sx).toBeCloseTo(300, 4);
        expect(sy).toBeCloseTo(200, 4);
      }),
    );
  });

  test('fitting shows all of a box', () => {
    const box = boundsOf({ x: -40, y: 10, width: 900, height: 120 });
    const c = fitting(box, 800, 600);
    const [x0, y0] = toScreen(c, box.minX, box.minY);
    const [x1, y1] = toScreen(c, box.maxX, box.maxY);
    expect(Math.min(x0, y0, 800 - x1, 600 - y1)).toBeGreaterThanOrEqual(55);
  });

  test('snapped, plane px and device px stay in step', () => {
    const c = snapped({ x: 1.2345, y: -7.654, scale: 3 }, 2);
    expect((c.x * 6) % 1).toBeCloseTo(0, 9);
    expect(Math.abs(c.x - 1.2345)).toBeLessThan(1 / 6);
  });
});

describe('resizing by a side', () => {
  const from = { x: 10, y: 20, width: 30, height: 40 };
  test.each([
    ['e', 5, 9, { x: 10, y: 20, width: 35, height: 40 }],
    ['w', 5, 9, { x: 15, y: 20, width: 25, height: 40 }],
    ['n', 5, -9, { x: 10, y: 11, width: 30, height: 49 }],
    ['se', 4, 6, { x: 10, y: 20, width: 34, height: 46 }],
    ['nw', -4, -6, { x: 6, y: 14, width: 34, height: 46 }],
    ['e', -100, 0, { x: 10, y: 20, width: 1, height: 40 }],
  ] as const)('%s by %d, %d', (side, dx, dy, rect) => expect(resizedRect(from, side, dx, dy, false)).toEqual(rect));

  test('with even sides the ratio stays, and the opposite corner too', () => {
    const rect = resizedRect(from, 'nw', -30, 0, true);
    expect(rect.width / rect.height).toBeCloseTo(0.75, 1);
    expect([rect.x + rect.width, rect.y + rect.height]).toEqual([40, 60]);
  });

  test('always whole px, from wherever it starts', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -90, max: 90, noNaN: true }),
        fc.double({ min: -90, max: 90, noNaN: true }),
        fc.constantFrom('nw' as const, 'se' as const, 'ne' as const),
        (dx, dy, side) => {
          const rect = resizedRect(from, side, dx, dy, false);
          expect(Object.values(rect).every(Number.isInteger)).toBe(true);
          expect(rect.width).toBeGreaterThanOrEqual(1);
        },
      ),
    );
  });
});

describe('the tree of layers', () => {
  const layer = (id: string, parentId: string, order: string, fields = {}) =>
    layerRecord.parse({ id, kind: 'layer', parentId, order, tag: 'g', name: id, ...fields });
  const doc = new ProjectDocument([
    layer('back', 'root', 'a0'),
    layer('front', 'root', 'a1'),
    layer('inner', 'front', 'a0'),
    layer('leaf', 'inner', 'a0', { tag: 'path', name: '' }),
  ]);

  test('front first, folded until it is unfolded', () => {
    expect(layerRows(doc, new Set(), '').map((row) => row.layer.id)).toEqual(['front', 'back']);
    expect(layerRows(doc, new Set(['front', 'inner']), '').map((row) => [row.layer.id, row.depth])).toEqual([
      ['front', 0],
      ['inner', 1],
      ['leaf', 2],
      ['back', 0],
    ]);
  });

  test('a query finds at any depth, by name or by what it is', () => {
    expect(layerRows(doc, new Set(), 'INN').map((row) => row.layer.id)).toEqual(['inner']);
    expect(layerRows(doc, new Set(), 'path').map((row) => row.layer.id)).toEqual(['leaf']);
    const leaf = doc.find('layer', 'leaf');
    expect(leaf && layerTitle(leaf)).toBe('path');
  });
});
