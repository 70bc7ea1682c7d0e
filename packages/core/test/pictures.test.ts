import { randomBytes } from 'node:crypto';
import fc from 'fast-check';
import sharp from 'sharp';
import { blobFromDataUri, fromBase64, pictureFacts, sha256Hex, toBase64 } from '../src';
import { TINY_PNG } from './fixtures';

test('base64 there and back, as Node does it', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
      expect(toBase64(bytes)).toBe(Buffer.from(bytes).toString('base64'));
      expect(Buffer.from(fromBase64(toBase64(bytes))).equals(Buffer.from(bytes))).toBe(true);
    }),
  );
});

test('hashes are SHA-256', () => {
  expect(sha256Hex('abc')).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
  expect(sha256Hex(new Uint8Array())).toBe('e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855');
});

test.each(['png', 'jpeg', 'webp', 'gif'] as const)('type and size of a real %s', async (format) => {
  const bytes = await sharp({ create: { width: 37, height: 23, channels: 3, background: '#0c6a53' } })
    .toFormat(format)
    .toBuffer();
  expect(pictureFacts(bytes)).toEqual({ mediaType: `image/${format}`, width: 37, height: 23 });
});

test('a lossless WebP and one with alpha', async () => {
  const image = sharp({ create: { width: 300, height: 5, channels: 4, background: { r: 1, g: 2, b: 3, alpha: 0.5 } } });
  expect(pictureFacts(await image.clone().webp({ lossless: true }).toBuffer())).toMatchObject({
    width: 300,
    height: 5,
  });
  expect(pictureFacts(await image.clone().webp({ quality: 50 }).toBuffer())).toMatchObject({ width: 300, height: 5 });
});

test('other bytes are no picture, and never an exception', () => {
  for (let i = 0; i < 200; i++) expect(pictureFacts(randomBytes(i))).toBeNull();
  expect(pictureFacts(Uint8Array.from([0xff, 0xd8, 0xff]))).toBeNull();
});

test('a data URI becomes a blob named by its bytes', () => {
  const blob = blobFromDataUri(`data:image/png;base64,${TINY_PNG}`);
  expect(blob).toMatchObject({ mediaType: 'image/png', hash: sha256Hex(Buffer.from(TINY_PNG, 'base64')) });
  expect(blobFromDataUri('data:image/png;base64,AAAA')).toBeNull();
});

describe('how a photograph is turned', () => {
  /** A JPEG header of 30 × 20 px with an Exif block that says an orientation, in either order of bytes. */
  const photo = (orientation: number, little: boolean, components = 3) => {
    const u16 = (value: number) => (little ? [value & 255, value >> 8] : [value >> 8, value & 255]);
    const u32 = (value: number) => (little ? [value & 255, value >> 8, 0, 0] : [0, 0, value >> 8, value & 255]);
    const tiff = [
      ...(little ? [0x49, 0x49] : [0x4d, 0x4d]),
      ...u16(42),
      ...u32(8),
      ...u16(1),
      ...u16(0x0112),
      ...u16(3),
      ...u32(1),
      ...u16(orientation),
      0,
      0,
      ...u32(0),
    ];
    const exif = [0x45, 0x78, 0x69, 0x66, 0, 0, ...tiff];
    return Uint8Array.from([
      0xff,
      0xd8,
      0xff,
      0xe1,
      0,
      exif.length + 2,
      ...exif,
      0xff,
      0xc0,
      0,
      17,
      8,
      0,
      20,
      0,
      30,
      components,
      1,
      0x11,
      0,
      2,
      0x11,
      1,
      3,
      0x11,
      1,
      0xff,
      0xda,
      0,
      0,
      0,
      0,
      0,
      0,
      0,
      0,
    ]);
  };

  test.each([true, false])('is read from its Exif, little end first: %s', (little) => {
    expect(pictureFacts(photo(1, little))).toEqual({ mediaType: 'image/jpeg', width: 30, height: 20 });
    expect(pictureFacts(photo(6, little))).toEqual({ mediaType: 'image/jpeg', width: 20, height: 30, turned: true });
    expect(pictureFacts(photo(3, little))).toEqual({ mediaType: 'image/jpeg', width: 30, height: 20, turned: true });
    expect(pictureFacts(photo(99, little))).toEqual({ mediaType: 'image/jpeg', width: 30, height: 20 });
    expect(pictureFacts(photo(1, little, 4))).toMatchObject({ inks: true });
  });
});
