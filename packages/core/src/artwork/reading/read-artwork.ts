import { refuse } from '../../basics/problem';
import { sha256Hex } from '../../basics/sha256';
import { newId } from '../../document/ids';
import { ordersAfter } from '../../document/order';
import { layerRecord, ROOT } from '../../document/records';
import { nameFromFile } from '../markup/names';
import { type PictureFacts, pictureFacts } from '../pictures/pictures';
import { type ReadArtwork, readSvg } from './read-svg';

const MAX_PICTURE_SIDE = 16_384;
const MAX_PICTURE_PIXELS = 100_000_000;
const MAX_PICTURE_BYTES = 64 * 1_048_576;

/** A file of artwork, whatever it is: SVG, or a picture as one layer. Throws a `Refusal` that says what would be accepted. */
export function readArtwork(bytes: Uint8Array, name: string): ReadArtwork {
  refuseEmpty(bytes, name);
  const facts = pictureFacts(bytes);
  return facts ? pictureArtwork(name, bytes, facts) : readSvg(bytes, name);
}

export function refuseEmpty(bytes: Uint8Array, name: string): void {
  if (bytes.length === 0) refuse('file.empty', `${name} is empty`, { where: name, accepted: 'SVG, PNG, JPEG or WebP' });
}

/** A picture as artwork: one image layer at one px a pixel. */
export function pictureArtwork(
  name: string,
  bytes: Uint8Array,
  { mediaType, width, height }: PictureFacts,
  hash: string = sha256Hex(bytes),
): ReadArtwork {
  if (width < 1 || height < 1) refuse('picture.broken', `${name} is a picture of no size`, { where: name });
  if (width > MAX_PICTURE_SIDE || height > MAX_PICTURE_SIDE || width * height > MAX_PICTURE_PIXELS) {
    refuse('picture.size', `${name} has ${width} × ${height} px`, {
      where: name,
      accepted: `pictures up to ${MAX_PICTURE_SIDE} px a side and ${MAX_PICTURE_PIXELS / 1e6} million px`,
    });
  }
  if (bytes.length > MAX_PICTURE_BYTES)
    refuse('picture.bytes', `${name} is ${(bytes.length / 1_048_576).toFixed(0)} MB`, {
      where: name,
      accepted: `pictures up to ${MAX_PICTURE_BYTES / 1_048_576} MB`,
    });
  const group = newId();
  const [order] = ordersAfter(null, 1);
  const layers = [
    layerRecord.parse({ id: group, kind: 'layer', parentId: ROOT, order, tag: 'g', name: nameFromFile(name) }),
    layerRecord.parse({
      id: newId(),
      kind: 'layer',
      parentId: group,
      order,
      tag: 'image',
      name: nameFromFile(name),
      attrs: { x: '0', y: '0', width: String(width), height: String(height), href: `blob:${hash}` },
    }),
  ];
  return { width, height, layers, rootId: group, blobs: [{ hash, mediaType, bytes }], dropped: [] };
}
