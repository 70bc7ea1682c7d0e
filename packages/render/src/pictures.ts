import { pictureFacts, type StoredBlob } from '@tolvik/core';
import { LRUCache } from 'lru-cache';
import { sharp } from './sharp';

/** Pictures as every writer draws them; one may be in many files, so some are kept. */
const converted = new LRUCache<string, StoredBlob>({
  maxSize: 64 * 1024 * 1024,
  sizeCalculation: ({ bytes }) => bytes.length + 1,
});

/**
 * A picture that the rasteriser and PDF draw as browsers do: PNG and JPEG as they are, WebP, GIF and JPEG that is
 * turned or in colours of print as an upright PNG in sRGB.
 */
export async function drawable(picture: StoredBlob): Promise<StoredBlob> {
  const facts = pictureFacts(picture.bytes);
  const plain = facts?.mediaType === 'image/png' || (facts?.mediaType === 'image/jpeg' && !facts.turned && !facts.inks);
  if (plain || !facts) return picture;
  const known = converted.get(picture.hash);
  if (known) return known;
  const bytes = await (await sharp())(picture.bytes)
    .rotate()
    .toColourspace('srgb')
    .png({ compressionLevel: 3 })
    .toBuffer();
  const made: StoredBlob = { hash: picture.hash, mediaType: 'image/png', bytes };
  converted.set(picture.hash, made);
  return made;
}
