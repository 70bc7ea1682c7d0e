import fc from 'fast-check';
import { contrast, PLAIN_CONTRAST, type Rgba, standsOut } from '../src';

const channel = fc.integer({ min: 0, max: 255 });
const colour = fc.record({ r: channel, g: channel, b: channel, a: fc.constant(1) });
const pixelsOf = (colours: readonly Rgba[]) => Uint8Array.from(colours.flatMap(({ r, g, b }) => [r, g, b, 255]));

test('a picture of its ground alone does not stand out', () => {
  fc.assert(fc.property(colour, fc.integer({ min: 0, max: 40 }), (ground, count) => void expect(standsOut(pixelsOf(Array(count).fill(ground)), ground)).toBe(1)));
});

test('it stands out as far as its plainest pixel, wherever that lies, and no further than is looked for', () => {
  fc.assert(
    fc.property(colour, fc.array(colour, { maxLength: 30 }), (ground, colours) => {
      const most = Math.max(1, ...colours.map((each) => contrast(each, ground)));
      expect(standsOut(pixelsOf(colours), ground)).toBeCloseTo(Math.min(most, PLAIN_CONTRAST), 10);
    }),
  );
});

test('bytes that end within a pixel are not read past', () => {
  expect(standsOut(Uint8Array.from([255, 255, 255, 255, 0, 0]), { r: 255, g: 255, b: 255, a: 1 })).toBe(1);
});
