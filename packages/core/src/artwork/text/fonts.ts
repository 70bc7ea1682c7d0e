import type { Font } from 'fontkit';

export type FontFace = { family: string; weight: number; italic: boolean; font: Font };

export type FoundFace = { face: FontFace /** False when another family had to stand in. */; exact: boolean };

/** Fonts that text is drawn with. Nothing installed on the machine is ever looked at. */
export type Fonts = {
  find(families: string, weight: number, italic: boolean): FoundFace | null;
  /** Another object whenever the fonts are others; without it they never change. */
  stamp?(): unknown;
};

export type FontType = 'font/ttf' | 'font/otf' | 'font/woff' | 'font/woff2';

/** What kind of font the bytes begin as (RFC 8081); null when they begin as none. */
export function fontType(bytes: Uint8Array): FontType | null {
  const magic = String.fromCharCode(...bytes.subarray(0, 4));
  return magic === 'wOF2'
    ? 'font/woff2'
    : magic === 'wOFF'
      ? 'font/woff'
      : magic === 'OTTO'
        ? 'font/otf'
        : magic === '\0\x01\0\0' || magic === 'true'
          ? 'font/ttf'
          : null;
}

const plain = (name: string) =>
  name
    .trim()
    .replace(/^["']|["']$/g, '')
    .toLowerCase();

/** `normal`, `bold`, or 1 to 1000 (CSS Fonts 4 §2.2). */
export function weightOf(text: string | undefined): number {
  if (text === 'bold' || text === 'bolder') return 700;
  const value = Number(text);
  return Number.isFinite(value) && value >= 1 && value <= 1000 ? value : 400;
}

/** Faces by family list and nearest weight; the first face is the fallback for families that are not here. */
export function fontSet(faces: readonly FontFace[]): Fonts {
  const families = new Map<string, FontFace[]>();
  for (const face of faces) {
    const key = plain(face.family);
    families.set(key, [...(families.get(key) ?? []), face]);
  }
  const nearest = (list: readonly FontFace[], weight: number, italic: boolean) =>
    [...list].sort(
      (a, b) =>
        Number(a.italic !== italic) - Number(b.italic !== italic) ||
        Math.abs(a.weight - weight) - Math.abs(b.weight - weight),
    )[0];
  return {
    find(names, weight, italic) {
      for (const name of names.split(',')) {
        const list = families.get(plain(name));
        if (list) return { face: nearest(list, weight, italic), exact: true };
      }
      if (faces.length === 0) return null;
      const mono = /mono|courier|consol/i.test(names) ? faces.find((face) => /mono/i.test(face.family)) : undefined;
      const list = families.get(plain((mono ?? faces[0]).family)) ?? faces;
      return { face: nearest(list, weight, italic), exact: false };
    },
  };
}

export const NO_FONTS: Fonts = { find: () => null };
