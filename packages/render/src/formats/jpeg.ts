import { isFullChroma, type SettingsOf } from '@tolvik/core';
import sharp from 'sharp';
import type { Rendered, RenderJob } from '../job';
import { measureJpeg } from '../jpeg/measure';
import { rasterise } from '../rasterise';
import { seenOn } from '../seen';

/** JPEG of the same pixels that PNG has. The composed SVG has a ground, so no pixel is transparent. */
export async function renderJpeg(
  { svg, widthPx, heightPx, dpi, ground }: RenderJob,
  { quality, chroma }: SettingsOf<'jpeg'>,
): Promise<Rendered> {
  const { data, width, height } = rasterise(svg, widthPx, heightPx);
  const encoded = await sharp(opaqueRgb(data), { raw: { width, height, channels: 3 } })
    .jpeg({ quality, chromaSubsampling: isFullChroma(quality, chroma) ? '4:4:4' : '4:2:0' })
    .toBuffer();
  const bytes = isJfif(encoded) ? encoded : withJfif(encoded, dpi);
  const facts = measureJpeg(bytes);
  if (!facts) throw new Error('the JPEG is not of the process it was asked for');
  return {
    bytes,
    measured: {
      widthPx: facts.widthPx,
      heightPx: facts.heightPx,
      bytes: bytes.length,
      alpha: false,
      dpi: facts.dpi,
      colourType: facts.channels === 1 ? 'grey' : 'RGB',
      seen: seenOn(ground, data, width),
    },
  };
}

/** Premultiplied RGBA on white as RGB. Where the ground covers everything, as it should, nothing shows through. */
function opaqueRgb(pixels: Buffer): Buffer {
  const { buffer, byteOffset } = pixels.byteOffset % 4 === 0 ? pixels : Uint8Array.from(pixels);
  const rgba = new Uint32Array(buffer, byteOffset, pixels.length >> 2);
  // Four pixels are three words: written as such they take a third of the time that bytes take.
  const rgb = new Uint32Array(Math.ceil(rgba.length / 4) * 3);
  const colour = (pixel: number): number => {
    const rest = 255 - (pixel >>> 24);
    return (pixel & 0xffffff) + rest * 0x010101;
  };
  for (let i = 0, j = 0; i < rgba.length; i += 4) {
    // Past the end there is nothing, which is 0.
    const [first, second, third, fourth] = [rgba[i], rgba[i + 1], rgba[i + 2], rgba[i + 3]];
    const [p, q, r, s] = [colour(first), colour(second), colour(third), colour(fourth)];
    rgb[j++] = p | (q << 24);
    rgb[j++] = (q >>> 8) | (r << 16);
    rgb[j++] = (r >>> 16) | (s << 8);
  }
  return Buffer.from(rgb.buffer, 0, rgba.length * 3);
}

const isJfif = (bytes: Buffer) => bytes.readUInt16BE(2) === 0xffe0 && bytes.toString('latin1', 6, 10) === 'JFIF';

/**
 * The file with a JFIF header (JFIF 1.02) that says the density in dots per inch. The encoder writes
 * none, and would write an Exif block for a density.
 */
function withJfif(jpeg: Buffer, dpi: number): Buffer {
  const header = Buffer.from([0xff, 0xe0, 0, 16, 0x4a, 0x46, 0x49, 0x46, 0, 1, 2, 1, 0, 0, 0, 0, 0, 0]);
  header.writeUInt16BE(Math.round(dpi), 12);
  header.writeUInt16BE(Math.round(dpi), 14);
  return Buffer.concat([jpeg.subarray(0, 2), header, jpeg.subarray(2)]);
}
