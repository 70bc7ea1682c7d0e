import fc from 'fast-check';
import {
  type Bounds,
  grow,
  IDENTITY,
  intersect,
  invert,
  largestScale,
  type Matrix,
  multiply,
  parseLength,
  parseTransform,
  printNumber,
  printTransform,
  scaling,
  transformBounds,
  translate,
  unite,
} from '../src';
import { parseViewBox, viewBoxTransform } from '../src/geometry/viewport';

const number = fc.double({ min: -50, max: 50, noNaN: true });
const matrix = fc
  .tuple(number, number, number, number, number, number)
  .filter(([a, b, c, d]) => Math.abs(a * d - b * c) > 0.5) as fc.Arbitrary<Matrix>;
const box = fc
  .tuple(number, number, fc.double({ min: 0, max: 40, noNaN: true }), fc.double({ min: 0, max: 40, noNaN: true }))
  .map(([x, y, w, h]): Bounds => ({ minX: x, minY: y, maxX: x + w, maxY: y + h }));
const apply = ([a, b, c, d, e, f]: Matrix, x: number, y: number) => [a * x + c * y + e, b * x + d * y + f];
const close = (one: readonly number[], other: readonly number[], digits = 6) =>
  one.forEach((value, i) => expect(value).toBeCloseTo(other[i], digits));

describe('matrices', () => {
  test('a product is the inner after the outer', () => {
    fc.assert(
      fc.property(matrix, matrix, number, number, (m, n, x, y) =>
        close(apply(multiply(m, n), x, y), apply(m, ...(apply(n, x, y) as [number, number])), 4),
      ),
    );
  });

  test('times its inverse is nothing', () => {
    fc.assert(fc.property(matrix, (m) => close(multiply(m, invert(m)), IDENTITY, 5)));
  });

  test('printed and parsed it does the same', () => {
    fc.assert(
      fc.property(matrix, number, number, (m, x, y) => {
        const back = parseTransform(printTransform(m) || 'none');
        if (!back) throw new Error('unreadable');
        close(apply(back, x, y), apply(m, x, y), 3);
      }),
    );
  });

  test('a transformed box holds all its corners', () => {
    fc.assert(
      fc.property(matrix, box, (m, b) => {
        const around = transformBounds(m, b);
        for (const [x, y] of [
          [b.minX, b.minY],
          [b.maxX, b.minY],
          [b.minX, b.maxY],
          [b.maxX, b.maxY],
        ]) {
          const [px, py] = apply(m, x, y);
          expect(px).toBeGreaterThanOrEqual(around.minX - 1e-6);
          expect(px).toBeLessThanOrEqual(around.maxX + 1e-6);
          expect(py).toBeGreaterThanOrEqual(around.minY - 1e-6);
          expect(py).toBeLessThanOrEqual(around.maxY + 1e-6);
        }
      }),
    );
  });

  test('no direction grows more than the largest scale', () => {
    fc.assert(
      fc.property(matrix, fc.double({ min: 0, max: 6.3, noNaN: true }), (m, turn) => {
        const [x, y] = apply([m[0], m[1], m[2], m[3], 0, 0], Math.cos(turn), Math.sin(turn));
        expect(Math.hypot(x, y)).toBeLessThanOrEqual(largestScale(m) + 1e-6);
      }),
    );
  });

  test.each([
    ['translate(3)', [1, 0, 0, 1, 3, 0]],
    ['translate(3, -4)', [1, 0, 0, 1, 3, -4]],
    ['scale(2)', [2, 0, 0, 2, 0, 0]],
    ['scale(2 3) translate(1 1)', [2, 0, 0, 3, 2, 3]],
    ['rotate(90)', [0, 1, -1, 0, 0, 0]],
    ['rotate(90 10 0)', [0, 1, -1, 0, 10, -10]],
    ['skewX(45)', [1, 0, 1, 1, 0, 0]],
    ['matrix(1 2 3 4 5 6)', [1, 2, 3, 4, 5, 6]],
    ['translate(1e1,.5)', [1, 0, 0, 1, 10, 0.5]],
    ['none', [1, 0, 0, 1, 0, 0]],
  ])('%s', (text, expected) => close(parseTransform(text) ?? [], expected));

  test.each(['spin(4)', 'matrix(1 2)', 'hello'])('%s cannot be read', (text) =>
    expect(parseTransform(text)).toBeUndefined(),
  );

  test('printed as short as it can be', () => {
    expect([IDENTITY, translate(2, 0), scaling(2), scaling(2, 3)].map(printTransform)).toEqual([
      '',
      'translate(2 0)',
      'scale(2)',
      'scale(2 3)',
    ]);
    expect([0.1 + 0.2, -0, 1e-9, 12.3456789].map((value) => printNumber(value))).toEqual([
      '0.3',
      '0',
      '0',
      '12.345679',
    ]);
  });
});

describe('boxes', () => {
  test('a union holds both, an intersection lies in both', () => {
    fc.assert(
      fc.property(box, box, (a, b) => {
        const both = unite(a, b) as Bounds;
        expect(both.minX).toBe(Math.min(a.minX, b.minX));
        expect(both.maxY).toBe(Math.max(a.maxY, b.maxY));
        const common = intersect(a, b);
        if (common) {
          expect(unite(common, a)).toEqual(a);
          expect(unite(common, b)).toEqual(b);
        }
      }),
    );
  });

  test('nothing is the neutral one', () => {
    const a = { minX: 0, minY: 0, maxX: 1, maxY: 1 };
    expect(unite(null, a)).toBe(a);
    expect(intersect(null, a)).toBeNull();
    expect(intersect(a, { minX: 2, minY: 0, maxX: 3, maxY: 1 })).toBeNull();
    expect(grow(a, 2)).toEqual({ minX: -2, minY: -2, maxX: 3, maxY: 3 });
  });
});

describe('lengths and viewBoxes', () => {
  test.each([
    ['12', 12],
    ['12px', 12],
    ['1in', 96],
    ['2.54cm', 96],
    ['25.4mm', 96],
    ['72pt', 96],
    ['6pc', 96],
    ['1em', 16],
    ['1e2', 100],
    [' .5 ', 0.5],
  ])('%s is %d px', (text, px) => expect(parseLength(text)).toBeCloseTo(px));

  test.each(['', 'px', '12furlong', '1 2', 'NaN', '50%'])('%j is no length', (text) =>
    expect(parseLength(text)).toBeUndefined(),
  );
  test('percentages need something to be of', () => expect(parseLength('50%', 80)).toBe(40));

  test.each([
    ['0 0 24 24', { x: 0, y: 0, width: 24, height: 24 }],
    ['-4,-4,8,8', { x: -4, y: -4, width: 8, height: 8 }],
    ['0 0 0 24', null],
    ['0 0 24', null],
    ['a b c d', null],
    [undefined, null],
  ])('viewBox %s', (text, expected) => expect(parseViewBox(text)).toEqual(expected));

  const view = { x: 0, y: 0, width: 10, height: 10 };
  test.each([
    ['xMidYMid meet', [2, 0, 0, 2, 10, 0]],
    ['xMinYMid meet', [2, 0, 0, 2, 0, 0]],
    ['xMaxYMid meet', [2, 0, 0, 2, 20, 0]],
    ['xMidYMid slice', [4, 0, 0, 4, 0, -10]],
    ['xMidYMin slice', [4, 0, 0, 4, 0, 0]],
    ['none', [4, 0, 0, 2, 0, 0]],
  ])('preserveAspectRatio %s', (preserve, expected) => close(viewBoxTransform(view, 40, 20, preserve), expected));
});
