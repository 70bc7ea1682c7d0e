import { crc32, inflateSync } from 'node:zlib';

export type PngFacts = { width: number; height: number; alpha: boolean; dpi: number | null; colourType: string };

const COLOUR_TYPES: Record<number, { name: string; channels: number }> = {
  0: { name: 'grey', channels: 1 },
  2: { name: 'RGB', channels: 3 },
  3: { name: 'palette', channels: 1 },
  4: { name: 'grey with alpha', channels: 2 },
  6: { name: 'RGBA', channels: 4 },
};

/** Decodes a PNG far enough to know it is whole: every checksum, and as many pixels as it says (PNG §5). Throws when it is not. */
export function measurePng(bytes: Buffer): PngFacts {
  if (bytes.length < 45 || bytes.readUInt32BE(0) !== 0x89504e47) throw new Error('not a PNG');
  let at = 8;
  let width = 0;
  let height = 0;
  let bits = 0;
  let type = -1;
  let dpi: number | null = null;
  let transparent = false;
  const data: Buffer[] = [];
  let ended = false;
  while (at + 12 <= bytes.length) {
    const length = bytes.readUInt32BE(at);
    if (at + 12 + length > bytes.length) throw new Error('the PNG is cut off');
    const name = bytes.toString('latin1', at + 4, at + 8);
    const body = bytes.subarray(at + 8, at + 8 + length);
    if (crc32(bytes.subarray(at + 4, at + 8 + length)) !== bytes.readUInt32BE(at + 8 + length))
      throw new Error(`PNG chunk ${name} is damaged`);
    if (name === 'IHDR') {
      width = body.readUInt32BE(0);
      height = body.readUInt32BE(4);
      bits = body[8];
      type = body[9];
    } else if (name === 'pHYs' && body[8] === 1) dpi = Math.round(body.readUInt32BE(0) * 0.0254 * 100) / 100;
    else if (name === 'tRNS') transparent = true;
    else if (name === 'IDAT') data.push(body);
    else if (name === 'IEND') ended = true;
    at += 12 + length;
  }
  const colour = COLOUR_TYPES[type];
  if (!ended || !colour) throw new Error('the PNG is cut off');
  const expected = (Math.ceil((width * bits * colour.channels) / 8) + 1) * height;
  if (inflateSync(Buffer.concat(data)).length !== expected)
    throw new Error('the PNG holds another number of pixels than it says');
  return { width, height, alpha: transparent || type === 4 || type === 6, dpi, colourType: colour.name };
}
