import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { type FontFace, type Fonts, fontSet, readFont } from '@tolvik/core';

/** The families that ship with the app, each weight a WOFF2 file of its font package. */
export const SHIPPED_FACES = [
  ...[400, 500, 600, 700, 800, 900].flatMap((weight) =>
    [false, true].map((italic) => ({
      family: 'Schibsted Grotesk',
      package: '@fontsource/schibsted-grotesk',
      stem: 'schibsted-grotesk',
      weight,
      italic,
    })),
  ),
  ...[400, 500, 600, 700].flatMap((weight) =>
    [false, true].map((italic) => ({
      family: 'Spline Sans Mono',
      package: '@fontsource/spline-sans-mono',
      stem: 'spline-sans-mono',
      weight,
      italic,
    })),
  ),
];

export const fontFileName = ({ stem, weight, italic }: (typeof SHIPPED_FACES)[number]) =>
  `${stem}-latin-${weight}-${italic ? 'italic' : 'normal'}.woff2`;

let shipped: Fonts | null = null;

/** Fonts that text is outlined with; read once. `from` is a module path that sees the font packages. */
export function shippedFonts(from: string): Fonts {
  if (!shipped) {
    const require = createRequire(from);
    shipped = fontSet(
      SHIPPED_FACES.map((face): FontFace => {
        const { family, weight, italic } = face;
        let read: FontFace | null = null;
        // A face is read when text first asks for it, so that starting costs nothing.
        const font = () =>
          (read ??= readFont(
            readFileSync(join(dirname(require.resolve(`${face.package}/package.json`)), 'files', fontFileName(face))),
            family,
            weight,
            italic,
          )).font;
        return {
          family,
          weight,
          italic,
          get font() {
            return font();
          },
        };
      }),
    );
  }
  return shipped;
}
