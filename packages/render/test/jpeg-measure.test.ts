import fc from 'fast-check';
import sharp, { type JpegOptions } from 'sharp';
import { runs } from '../../core/test/properties';
import { measureJpeg } from '../src';

const jpegOf = (width: number, height: number, channels: 1 | 3, seed: number, options: JpegOptions) => {
  const pixels = Buffer.alloc(width * height * channels);
  // Flats with some noise in them: runs of zeros and large values.
  for (let i = 0, x = seed | 1; i < pixels.length; i++) {
    x = (x * 1103515245 + 12345) & 0x7fffffff;
    pixels[i] = x % 7 === 0 ? x >> 16 : (i >> 5) * 9;
  }
  const image = sharp(pixels, { raw: { width, height, channels } });
  return (channels === 1 ? image.toColourspace('b-w') : image).jpeg(options).toBuffer();
};

const some = fc.record({
  width: fc.integer({ min: 1, max: 90 }),
  height: fc.integer({ min: 1, max: 70 }),
  channels: fc.constantFrom(1 as const, 3 as const),
  seed: fc.nat(),
  quality: fc.integer({ min: 1, max: 100 }),
  chromaSubsampling: fc.constantFrom('4:4:4', '4:2:0'),
  optimiseCoding: fc.boolean(),
});

test('size and channels are what another decoder says, whatever the pixels and settings', () =>
  fc.assert(
    fc.asyncProperty(some, async ({ width, height, channels, seed, ...options }) => {
      const bytes = await jpegOf(width, height, channels, seed, options);
      const told = await sharp(bytes).metadata();
      // Another decoder reads every px of it.
      await sharp(bytes, { failOn: 'warning' }).raw().toBuffer();
      expect(measureJpeg(bytes)).toMatchObject({ widthPx: told.width, heightPx: told.height, channels: told.channels });
    }),
    runs(80),
  ));

test('a file that was cut off anywhere, or has more than it needs, is damaged', () =>
  fc.assert(
    fc.asyncProperty(
      some,
      fc.double({ min: 0, max: 0.999, noNaN: true }),
      async ({ width, height, channels, seed, ...options }, share) => {
        const bytes = await jpegOf(width, height, channels, seed, options);
        expect(() => measureJpeg(bytes.subarray(0, Math.floor(bytes.length * share)))).toThrow();
        const scan = bytes.indexOf(Buffer.from([0xff, 0xda]));
        const longer = Buffer.concat([bytes.subarray(0, -2), Buffer.from([1, 2, 3]), bytes.subarray(-2)]);
        expect(scan).toBeGreaterThan(0);
        expect(() => measureJpeg(longer)).toThrow();
      },
    ),
    runs(60),
  ));

test('any damage in its coded data is found or changes nothing of what is measured, and nothing else is thrown than words', () =>
  fc.assert(
    fc.asyncProperty(
      some,
      fc.nat(),
      fc.integer({ min: 1, max: 255 }),
      async ({ width, height, channels, seed, ...options }, where, by) => {
        const bytes = Buffer.from(await jpegOf(width, height, channels, seed, options));
        bytes[2 + (where % (bytes.length - 2))] ^= by;
        try {
          measureJpeg(bytes);
        } catch (error) {
          expect((error as Error).message).toMatch(/^(it|its|a table) /);
        }
      },
    ),
    runs(200),
  ));

test('a progressive file is for another decoder', async () => {
  expect(measureJpeg(await jpegOf(40, 30, 3, 5, { progressive: true }))).toBeNull();
});

test('its density is that of the JFIF header', async () => {
  const bytes = await jpegOf(8, 8, 3, 1, {});
  const header = Buffer.from([0xff, 0xe0, 0, 16, 0x4a, 0x46, 0x49, 0x46, 0, 1, 2, 2, 0, 118, 0, 118, 0, 0]);
  expect(measureJpeg(Buffer.concat([bytes.subarray(0, 2), header, bytes.subarray(2)]))?.dpi).toBeCloseTo(299.72, 2);
});
