import { create } from 'fontkit';
import { type Problem, refuse } from '../../basics/problem';
import { type FontFace, type FontType, fontType } from './fonts';

/** Reads a font (OpenType, TrueType, WOFF, WOFF2); throws a `Refusal` when it is none. */
export function readFont(bytes: Uint8Array, family: string, weight: number, italic = false): FontFace {
  try {
    return { family, weight, italic, font: create(bytes) };
  } catch {
    return refuse('font.not', `${family} is not a font that can be read`, {
      where: family,
      accepted: 'OpenType, TrueType, WOFF or WOFF2',
    } satisfies Omit<Problem, 'code' | 'message'>);
  }
}

/** The largest font file that is taken, in bytes. */
export const MAX_FONT_BYTES = 10 * 1_048_576;

export type FontFacts = { family: string; weight: number; italic: boolean; mediaType: FontType };
/** Family, weight and slant as a font file says them. Refuses what is no font, or draws no letters. */
export function fontFacts(bytes: Uint8Array, file: string): FontFacts {
  const accepted = 'OpenType, TrueType, WOFF or WOFF2, up to 10 MB';
  if (bytes.length > MAX_FONT_BYTES)
    refuse('font.bytes', `${file} is ${(bytes.length / 1_048_576).toFixed(0)} MB`, { where: file, accepted });
  const mediaType = fontType(bytes);
  if (!mediaType) return refuse('font.not', `${file} is not a font`, { where: file, accepted });
  const { font } = readFont(bytes, file, 400);
  try {
    font.layout('Ag').glyphs.map((glyph) => glyph.path.toSVG());
  } catch {
    return refuse('font.broken', `${file} begins like a font, but its letters cannot be read`, {
      where: file,
      accepted,
    });
  }
  const family = (font.familyName ?? '').trim().slice(0, 100);
  const os2 = font['OS/2'];
  return {
    family: family || file.replace(/\.[^.]*$/, '').slice(0, 100) || 'unnamed',
    weight: Math.min(1000, Math.max(1, Math.round(os2?.usWeightClass ?? 400))),
    italic: !!os2?.fsSelection?.italic || font.italicAngle !== 0,
    mediaType,
  };
}
