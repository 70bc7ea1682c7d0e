import { sha256Hex } from '../../basics/sha256';
import type { FontType } from '../text/fonts';

export type PictureType = 'image/png' | 'image/jpeg' | 'image/webp' | 'image/gif';

/** A picture or font kept beside the records, named by the SHA-256 of its bytes in hex. */
export type StoredBlob = { hash: string; mediaType: PictureType | FontType; bytes: Uint8Array };

const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
const VALUES = new Uint8Array(128);
for (let i = 0; i < 64; i++) VALUES[ALPHABET.charCodeAt(i)] = i;

/** Base64 (RFC 4648 §4) to bytes; characters outside the alphabet are passed over. */
export function fromBase64(text: string): Uint8Array {
  const clean = text.replace(/[^A-Za-z0-9+/]/g, '');
  const bytes = new Uint8Array(Math.floor((clean.length * 3) / 4));
  for (let i = 0, at = 0; at < bytes.length; i += 4) {
    const n =
      (VALUES[clean.charCodeAt(i)] << 18) |
      (VALUES[clean.charCodeAt(i + 1)] << 12) |
      ((VALUES[clean.charCodeAt(i + 2)] || 0) << 6) |
      (VALUES[clean.charCodeAt(i + 3)] || 0);
    bytes[at++] = n >> 16;
    if (at < bytes.length) bytes[at++] = (n >> 8) & 255;
    if (at < bytes.length) bytes[at++] = n & 255;
  }
  return bytes;
}

/** Bytes to base64 (RFC 4648 §4). */
export function toBase64(bytes: Uint8Array): string {
  const codes = new Uint8Array(Math.ceil(bytes.length / 3) * 4);
  for (let i = 0, at = 0; i < bytes.length; i += 3) {
    const n = (bytes[i] << 16) | ((bytes[i + 1] ?? 0) << 8) | (bytes[i + 2] ?? 0);
    codes[at++] = CODES[n >> 18];
    codes[at++] = CODES[(n >> 12) & 63];
    codes[at++] = i + 1 < bytes.length ? CODES[(n >> 6) & 63] : PAD;
    codes[at++] = i + 2 < bytes.length ? CODES[n & 63] : PAD;
  }
  return new TextDecoder('latin1').decode(codes);
}

const CODES = Uint8Array.from(ALPHABET, (letter) => letter.charCodeAt(0));
const PAD = '='.charCodeAt(0);

/** Width and height in px as it stands upright; `turned` when its pixels are stored otherwise; `inks` for colours of print (CMYK). */
export type PictureFacts = { mediaType: PictureType; width: number; height: number; turned?: boolean; inks?: boolean };

/** Type and size of a picture from its first bytes (PNG §11.2.1, JPEG B.2.2, GIF89a, WebP container); null when it is none of them. */
export function pictureFacts(b: Uint8Array): PictureFacts | null {
  const u16 = (at: number) => (b[at] << 8) | b[at + 1];
  const u32 = (at: number) => ((b[at] << 24) | (b[at + 1] << 16) | (b[at + 2] << 8) | b[at + 3]) >>> 0;
  const le16 = (at: number) => b[at] | (b[at + 1] << 8);
  if (b.length > 24 && u32(0) === 0x89504e47 && u32(4) === 0x0d0a1a0a)
    return { mediaType: 'image/png', width: u32(16), height: u32(20) };
  if (b.length > 10 && b[0] === 0x47 && b[1] === 0x49 && b[2] === 0x46)
    return { mediaType: 'image/gif', width: le16(6), height: le16(8) };
  if (b.length > 30 && u32(0) === 0x52494646 && u32(8) === 0x57454250) {
    const kind = u32(12);
    if (kind === 0x56503858)
      return {
        mediaType: 'image/webp',
        width: 1 + (b[24] | (b[25] << 8) | (b[26] << 16)),
        height: 1 + (b[27] | (b[28] << 8) | (b[29] << 16)),
      };
    if (kind === 0x56503820) return { mediaType: 'image/webp', width: le16(26) & 0x3fff, height: le16(28) & 0x3fff };
    if (kind === 0x5650384c)
      return {
        mediaType: 'image/webp',
        width: 1 + (le16(21) & 0x3fff),
        height: 1 + (((b[22] >> 6) | (b[23] << 2) | ((b[24] & 15) << 10)) & 0x3fff),
      };
  }
  if (b.length > 4 && b[0] === 0xff && b[1] === 0xd8) {
    let orientation = 1;
    for (let at = 2; at + 9 < b.length && b[at] === 0xff; at += 2 + u16(at + 2)) {
      const marker = b[at + 1];
      if (marker === 0xe1) orientation = exifOrientation(b.subarray(at + 4, at + 2 + u16(at + 2))) ?? orientation;
      if (marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc) {
        const [width, height] = orientation >= 5 ? [u16(at + 5), u16(at + 7)] : [u16(at + 7), u16(at + 5)];
        return {
          mediaType: 'image/jpeg',
          width,
          height,
          ...(orientation > 1 ? { turned: true } : {}),
          ...(b[at + 9] === 4 ? { inks: true } : {}),
        };
      }
    }
  }
  return null;
}

/** How an Exif block says that a picture is turned, 1 to 8 (Exif 2.32 §4.6.4, tag 0x0112); undefined when it does not. */
function exifOrientation(block: Uint8Array): number | undefined {
  if (String.fromCharCode(...block.subarray(0, 4)) !== 'Exif') return undefined;
  const tiff = block.subarray(6);
  const little = tiff[0] === 0x49;
  const read = (at: number, bytes: number) => {
    let value = 0;
    for (let i = 0; i < bytes; i++) value = value * 256 + (tiff[little ? at + bytes - 1 - i : at + i] ?? 0);
    return value;
  };
  const directory = read(4, 4);
  for (let i = 0; i < Math.min(64, read(directory, 2)); i++) {
    const entry = directory + 2 + i * 12;
    const value = read(entry, 2) === 0x0112 ? read(entry + 8, 2) : 0;
    if (value >= 1 && value <= 8) return value;
  }
  return undefined;
}

/** A picture held inside an attribute, as a blob; null when its bytes are no picture. */
export function blobFromDataUri(uri: string): StoredBlob | null {
  const bytes = fromBase64(uri.slice(uri.indexOf(',') + 1));
  const facts = pictureFacts(bytes);
  return facts && facts.width > 0 && facts.height > 0
    ? { hash: sha256Hex(bytes), mediaType: facts.mediaType, bytes }
    : null;
}
