import type { ProjectDocument } from '../../document/document';
import type { FontRecord } from '../../document/records';
import { type FontFace, type Fonts, fontSet } from './fonts';
import { readFont } from './read-font';

const read = new WeakMap<FontRecord, FontFace | null>();

/**
 * The fonts of one project: those added to it, then the shipped ones. `bytesOf` answers the bytes of a font by its
 * hash, or undefined while they are not here; a font that is not here counts as missing.
 */
export function documentFonts(
  doc: ProjectDocument,
  shipped: Fonts,
  bytesOf: (hash: string) => Uint8Array | undefined,
): Fonts {
  let known: { fonts: readonly FontRecord[]; here: number; own: Fonts } | null = null;
  const own = (): Fonts => {
    const fonts = doc.list('font');
    const here = fonts.filter((font) => read.get(font) || bytesOf(font.hash)).length;
    if (known?.fonts !== fonts || known.here !== here)
      known = { fonts, here, own: fontSet(fonts.flatMap((font) => faceOf(font, bytesOf) ?? [])) };
    return known.own;
  };
  return {
    stamp: own,
    find(families, weight, italic) {
      if (doc.list('font').length === 0) return shipped.find(families, weight, italic);
      // The first family of the list that either has: a list names them in the order they are wanted.
      for (const family of families.split(',')) {
        const found = own().find(family, weight, italic);
        if (found?.exact) return found;
        const other = shipped.find(family, weight, italic);
        if (other?.exact) return other;
      }
      return shipped.find(families, weight, italic);
    },
  };
}

function faceOf(font: FontRecord, bytesOf: (hash: string) => Uint8Array | undefined): FontFace | null {
  const known = read.get(font);
  if (known !== undefined) return known;
  const bytes = bytesOf(font.hash);
  if (!bytes) return null;
  let face: FontFace | null = null;
  try {
    face = readFont(bytes, font.family, font.weight, font.italic);
  } catch {
    // A record may name anything; what is no font is a font that is missing.
  }
  read.set(font, face);
  return face;
}
