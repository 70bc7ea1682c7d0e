import { deflateSync } from 'node:zlib';
import sharp from 'sharp';
import type { Doc, Ref } from './content';
import { greyOf } from './gradients';

/** A picture decoded for a PDF: size in px as it stands upright, and what makes its objects. */
export type Picture = { width: number; height: number; jpeg: Buffer | null /** RGBA. */; pixels: () => Buffer };

const DATA = /^data:image\/[a-z]+;base64,/;

/** The pictures that stand in composed SVGs, by their `href`. */
export async function readPictures(svgs: readonly string[]): Promise<Map<string, Picture>> {
  const found = new Map<string, Picture>();
  for (const svg of svgs) {
    for (const [, href] of svg.matchAll(/xlink:href="(data:[^"]+)"/g)) {
      if (!found.has(href)) found.set(href, await readPicture(Buffer.from(href.replace(DATA, ''), 'base64')));
    }
  }
  return found;
}

async function readPicture(bytes: Buffer): Promise<Picture> {
  const { format, orientation = 1, channels, space } = await sharp(bytes).metadata();
  // A JPEG goes in as it is where it stands upright and has the colours of a screen.
  const jpeg = format === 'jpeg' && orientation === 1 && channels === 3 && space === 'srgb' ? bytes : null;
  const { data, info } = await sharp(bytes)
    .rotate()
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, jpeg, pixels: () => data };
}

/** An image object (ISO 32000-1 §8.9.5) of RGBA pixels, their alpha as its soft mask. */
export function pixelsObject(
  doc: Doc,
  rgba: Buffer,
  width: number,
  height: number,
  { grey = false, smooth = true } = {},
): Ref {
  const colours = Buffer.allocUnsafe(width * height * 3);
  const alpha = Buffer.allocUnsafe(width * height);
  let opaque = true;
  for (let i = 0, j = 0, k = 0; k < alpha.length; i += 4, j += 3, k++) {
    colours[j] = rgba[i];
    colours[j + 1] = rgba[i + 1];
    colours[j + 2] = rgba[i + 2];
    if (grey) colours.fill(Math.round(greyOf([rgba[i], rgba[i + 1], rgba[i + 2]])[0]), j, j + 3);
    alpha[k] = rgba[i + 3];
    if (rgba[i + 3] !== 255) opaque = false;
  }
  const common = {
    Type: 'XObject',
    Subtype: 'Image',
    Width: width,
    Height: height,
    BitsPerComponent: 8,
    Interpolate: smooth,
  };
  if (!opaque) bleed(colours, alpha, width, height);
  let mask: Ref | null = null;
  if (!opaque) mask = stream(doc, { ...common, ColorSpace: 'DeviceGray' }, alpha);
  return stream(doc, { ...common, ColorSpace: 'DeviceRGB', ...(mask ? { SMask: mask } : {}) }, colours);
}

/** Pixels that cannot be seen take the colour of one beside them, so that none shines through where pictures are drawn smoothly. */
function bleed(rgb: Buffer, alpha: Buffer, width: number, height: number): void {
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at++) {
      if (alpha[at] !== 0) continue;
      const beside = [
        x > 0 ? at - 1 : -1,
        x + 1 < width ? at + 1 : -1,
        y > 0 ? at - width : -1,
        y + 1 < height ? at + width : -1,
      ].find((other) => other >= 0 && alpha[other] !== 0);
      if (beside !== undefined) rgb.copy(rgb, at * 3, beside * 3, beside * 3 + 3);
    }
  }
}

/** Deflated here, so that the writer does not deflate it again. */
function stream(doc: Doc, dictionary: Record<string, unknown>, data: Buffer): Ref {
  const ref = doc.ref({ ...dictionary, Filter: 'FlateDecode' });
  ref.end(deflateSync(data));
  return ref;
}

export function pictureObject(
  doc: Doc,
  { jpeg, width, height, pixels }: Picture,
  look: { grey: boolean; smooth: boolean },
): Ref {
  if (!jpeg || look.grey) return pixelsObject(doc, pixels(), width, height, look);
  const ref = doc.ref({
    Type: 'XObject',
    Subtype: 'Image',
    Width: width,
    Height: height,
    BitsPerComponent: 8,
    ColorSpace: 'DeviceRGB',
    Filter: 'DCTDecode',
    Interpolate: look.smooth,
  });
  ref.end(jpeg);
  return ref;
}
