import { type FontFace, type Fonts, fontSet, readFont } from '@tolvik/core';
import { FONT_FILES } from './font-files';
import { keepAtHand } from './fonts-at-hand';

let loading: Promise<Fonts> | null = null;

/** The shipped fonts, fetched from this very server once there is a use for them. */
export function loadFonts(): Promise<Fonts> {
  loading ??= Promise.all(
    FONT_FILES.map(
      async ({ family, weight, italic, url }): Promise<FontFace> =>
        readFont(new Uint8Array(await (await fetch(url)).arrayBuffer()), family, weight, italic),
    ),
  ).then((faces) => {
    const fonts = fontSet(faces);
    keepAtHand(fonts);
    return fonts;
  });
  return loading;
}
