import { defaultSettings, outputRecord } from '@tolvik/core';
import fc from 'fast-check';
import { difference, differenceWords } from '../src/pictures/difference';
import { LARGEST_SCALE, LEAST_SCALE, lighter, paneTitle, zoomedView } from '../src/proof/compare/panes';

class Pixels {
  constructor(
    readonly width: number,
    readonly height: number,
    readonly data = new Uint8ClampedArray(width * height * 4),
  ) {}
}
beforeAll(() => {
  (globalThis as { ImageData?: unknown }).ImageData = Pixels;
});
const picture = (pixels: number[][]) =>
  new Pixels(pixels.length, 1, Uint8ClampedArray.from(pixels.flat())) as unknown as ImageData;

describe('difference', () => {
  test('counts what the eye could tell, shows where', () => {
    const one = picture([
      [10, 20, 30, 255],
      [10, 20, 30, 255],
      [0, 0, 0, 0],
    ]);
    const other = picture([
      [11, 20, 30, 255],
      [90, 20, 30, 255],
      [255, 0, 0, 0],
    ]);
    const { moved, of, image } = difference(one, other);
    // One level is nothing; what is clear has no colour.
    expect([moved, of]).toEqual([1, 3]);
    expect([...image.data.slice(4, 7)]).toEqual([210, 69, 42]);
  });
  test('a picture against itself is nothing, and the order does not matter', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255), fc.nat(255)), { minLength: 1, maxLength: 20 }),
        fc.infiniteStream(fc.nat(255)),
        (pixels, noise) => {
          const one = picture(pixels);
          const other = picture(pixels.map((pixel) => pixel.map(() => noise.next().value as number)));
          expect(difference(one, one).moved).toBe(0);
          expect(difference(one, other).moved).toBe(difference(other, one).moved);
        },
      ),
    );
  });
  test.each([
    [0, 'no pixel moves'],
    [1, '1 pixel moves (< 0.1 %)'],
    [214, '214 pixels move (2.1 %)'],
  ])('%i in words', (moved, words) => expect(differenceWords({ moved, of: 10_000 })).toBe(words));
});

test('zooming keeps the point under the pointer, within limits', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.05, max: 30, noNaN: true }),
      fc.double({ min: 0.1, max: 10, noNaN: true }),
      fc.integer({ min: -400, max: 400 }),
      (scale, factor, at) => {
        const before = { x: 12, y: 30, scale };
        const after = zoomedView(before, factor, at, -at);
        expect(after.x + at / after.scale).toBeCloseTo(before.x + at / scale, 6);
        expect(after.scale).toBeGreaterThanOrEqual(LEAST_SCALE);
        expect(after.scale).toBeLessThanOrEqual(LARGEST_SCALE);
      },
    ),
  );
});

describe('settings tried', () => {
  const output = (format: 'svg' | 'jpeg' | 'png' | 'pdf') =>
    outputRecord.parse({
      id: 'o',
      kind: 'output',
      specId: 's',
      order: 'a0',
      size: { kind: 'factor', factor: 1 },
      settings: { format },
    });
  test('a step lighter each time, never below what may be', () => {
    let settings = defaultSettings('jpeg');
    for (let i = 0; i < 9; i++) settings = lighter(settings) ?? settings;
    expect(settings).toMatchObject({ quality: 1 });
    expect(lighter(defaultSettings('svg'))).toMatchObject({ decimals: 2 });
    expect(lighter(defaultSettings('pdf'))).toBeNull();
  });
  test('are called by what differs', () => {
    expect(paneTitle(output('svg'), { widthPx: 1, heightPx: 1 })).toBe('3 decimals');
    expect(
      paneTitle(output('jpeg'), { widthPx: 1, heightPx: 1 }, { ...defaultSettings('jpeg'), quality: 40 } as never),
    ).toBe('quality 40');
  });
});
