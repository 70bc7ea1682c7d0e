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
  expect(pictureFacts(await image.clone().webp({ lossless: true }).toBuffer())).toMatchObject({ width: 300, height: 5 });
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
