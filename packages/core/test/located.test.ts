import fc from 'fast-check';
import { type Bounds, Located, touches } from '../src';
import { runs } from './properties';

const box = fc
  .tuple(
    fc.integer({ min: -50, max: 50 }),
    fc.integer({ min: -50, max: 50 }),
    fc.integer({ min: 0, max: 20 }),
    fc.integer({ min: 0, max: 20 }),
  )
  .map(([x, y, width, height]): Bounds => ({ minX: x, minY: y, maxX: x + width, maxY: y + height }));

test('what is found by place is what looking through all finds, in the same order', () => {
  fc.assert(
    fc.property(fc.array(box, { maxLength: 200 }), fc.array(box, { minLength: 1, maxLength: 5 }), (boxes, asked) => {
      const things = boxes.map((at, number) => ({ at, number }));
      const located = new Located(things, ({ at }) => at);
      for (const each of asked)
        expect(located.in(each).map(({ number }) => number)).toEqual(
          things.filter(({ at }) => touches(at, each)).map(({ number }) => number),
        );
      const also = new Set(things.filter(({ number }) => number % 7 === 3));
      for (const each of asked)
        expect(located.in(each, also).map(({ number }) => number)).toEqual(
          things.filter((one) => touches(one.at, each) || also.has(one)).map(({ number }) => number),
        );
    }),
    runs(150),
  );
});

test('a box around everything finds everything, and none finds nothing', () => {
  const located = new Located([1, 2, 3], (n) => ({ minX: n, minY: 0, maxX: n, maxY: 0 }));
  expect(located.in({ minX: -9, minY: -9, maxX: 9, maxY: 9 })).toBe(located.all);
  expect(located.in({ minX: 4, minY: 0, maxX: 9, maxY: 9 })).toEqual([]);
  expect(
    new Located([], () => ({ minX: 0, minY: 0, maxX: 0, maxY: 0 })).in({ minX: 0, minY: 0, maxX: 1, maxY: 1 }),
  ).toEqual([]);
});
