import { FORMATS, type Format, type RuledFile, readSvg } from '@tolvik/core';
import { measureEps, measurePdf } from '@tolvik/render';
import sharp from 'sharp';

/** Px that a picture may have, so that none of it fills the memory. */
const MOST_PIXELS = 50_000_000;

/**
 * What a file is, by decoding it whole and not by its name: format, size in px, whether it is see-through. Throws an
 * `Error` that says what is wrong with it.
 */
export async function decoded(path: string, bytes: Buffer): Promise<RuledFile> {
  const format = formatOf(bytes);
  if (!format) throw new Error('this is neither PNG nor JPEG nor SVG nor PDF');
  const ending = path.split('.').at(-1)?.toLowerCase() ?? '';
  if (!ENDINGS[format].includes(ending))
    throw new Error(`this is ${aOrAn(FORMATS[format].title)}, and its name ends in .${ending}`);
  return { path, format, bytes: bytes.length, ...(await READERS[format](bytes)) };
}

const ENDINGS: Record<Format, readonly string[]> = {
  png: ['png'],
  jpeg: ['jpg', 'jpeg'],
  svg: ['svg'],
  pdf: ['pdf'],
  eps: ['eps', 'epsf'],
};

const aOrAn = (title: string): string => `${/^(SVG|EPS)/.test(title) ? 'an' : 'a'} ${title}`;

/** By the bytes that each format begins with; an SVG by its root element. */
function formatOf(bytes: Buffer): Format | null {
  if (bytes.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]))) return 'png';
  if (bytes.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff]))) return 'jpeg';
  if (bytes.subarray(0, 5).toString('latin1') === '%PDF-') return 'pdf';
  if (bytes.subarray(0, 11).toString('latin1') === '%!PS-Adobe-') return 'eps';
  return /<svg[\s>]/.test(bytes.subarray(0, 2000).toString('utf8')) ? 'svg' : null;
}

type Facts = Pick<RuledFile, 'widthPx' | 'heightPx' | 'alpha' | 'palette'>;

async function pixels(bytes: Buffer): Promise<Facts> {
  const image = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'warning' });
  try {
    const { width, height, hasAlpha, isPalette } = await image.metadata();
    const { data, info } = await image.raw().toBuffer({ resolveWithObject: true });
    const opaque = (_: number, i: number) => i % info.channels !== info.channels - 1 || data[i] === 255;
    return { widthPx: width, heightPx: height, alpha: hasAlpha && !data.every(opaque), palette: isPalette };
  } catch (error) {
    throw new Error(`it is damaged: ${(error as Error).message.split('\n')[0].slice(0, 120)}`);
  }
}

const READERS: Record<Format, (bytes: Buffer) => Facts | Promise<Facts>> = {
  png: pixels,
  jpeg: pixels,
  svg(bytes) {
    const { width, height } = readSvg(bytes.toString('utf8'), 'it');
    return { widthPx: width, heightPx: height };
  },
  pdf(bytes) {
    const { widthPt, heightPt } = measurePdf(bytes);
    return { widthPx: (widthPt * 4) / 3, heightPx: (heightPt * 4) / 3 };
  },
  eps(bytes) {
    const { widthPt, heightPt } = measureEps(bytes);
    return { widthPx: (widthPt * 4) / 3, heightPx: (heightPt * 4) / 3 };
  },
};
