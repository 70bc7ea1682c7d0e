import fc from 'fast-check';
import { contrast, INVISIBLE, PLAIN_CONTRAST, type Rgba, standsOut } from '../src';

const channel = fc.integer({ min: 0, max: 255 });
const colour = fc.record({ r: channel, g: channel, b: channel, a: fc.constant(1) });
const pixelsOf = (colours: readonly Rgba[]) => Uint8Array.from(colours.flatMap(({ r, g, b }) => [r, g, b, 255]));
const WHITE: Rgba = { r: 255, g: 255, b: 255, a: 1 };
const INK: Rgba = { r: 23, g: 27, b: 28, a: 1 };

test('a picture of its ground alone does not stand out', () => {
  fc.assert(
    fc.property(
      colour,
      fc.integer({ min: 0, max: 40 }),
      (ground, count) =>
        void expect(standsOut(pixelsOf(Array(count).fill(ground)), 5, ground)).toEqual({ contrast: 1, box: null }),
    ),
  );
});

test('it stands out as far as its plainest pixel, wherever that lies', () => {
  fc.assert(
    fc.property(colour, fc.array(colour, { minLength: 1, maxLength: 30 }), (ground, colours) => {
      const most = Math.max(1, ...colours.map((each) => contrast(each, ground)));
      expect(standsOut(pixelsOf(colours), colours.length, ground).contrast).toBeCloseTo(
        Math.min(most, PLAIN_CONTRAST),
        2,
      );
    }),
  );
});

test('the box is around every pixel that can be told from the ground, and no other', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 12 }),
      fc.array(fc.constantFrom(WHITE, INK, { r: 250, g: 250, b: 250, a: 1 }), { minLength: 1, maxLength: 90 }),
      (width, list) => {
        const colours = list.slice(0, Math.floor(list.length / width) * width);
        const height = colours.length / width;
        const at = colours.flatMap((each, i) =>
          contrast(each, WHITE) >= INVISIBLE ? [[i % width, Math.floor(i / width)]] : [],
        );
        const { box } = standsOut(pixelsOf(colours), width, WHITE);
        if (at.length === 0) return void expect(box).toBeNull();
        const [xs, ys] = [at.map(([x]) => x), at.map(([, y]) => y)];
        const expected = [
          Math.min(...xs) / width,
          Math.min(...ys) / height,
          (Math.max(...xs) + 1) / width,
          (Math.max(...ys) + 1) / height,
        ];
        box?.forEach((value, i) => void expect(value).toBeCloseTo(expected[i], 3));
      },
    ),
  );
});

test('bytes that end within a row are not read past', () => {
  expect(standsOut(Uint8Array.from([255, 255, 255, 255, 0, 0]), 1, WHITE)).toEqual({ contrast: 1, box: null });
});
