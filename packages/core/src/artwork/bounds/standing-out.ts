import { contrastOf, luminance, type Rgba } from '../colour/colours';

/** A contrast that anybody sees; how much more there is, does not matter. */
export const PLAIN_CONTRAST = 3;
/** Below this nobody sees that anything is there (a WCAG ratio of 1 is no difference at all). */
export const INVISIBLE = 1.25;

/** Facts about a file that only rendering tells. `contrast` and `box` are set when the file has an opaque ground. */
export type Seen = {
  /** The highest contrast ratio (WCAG 2.2) between a pixel and the ground: from 1, nothing to be seen, to `PLAIN_CONTRAST`. */
  contrast?: number;
  /** The box around every pixel with a ratio of at least `INVISIBLE`, in shares of width and height from the upper left; null when there is none. */
  box?: readonly [left: number, top: number, right: number, bottom: number] | null;
  /** How many areas of one ink stay behind a mask, since no outline of them was found; none otherwise. */
  masked?: number;
  /** How many strokes stay strokes where outlines were asked for; none otherwise. */
  strokes?: number;
  /** Set where shapes were to be united by colour and stay as they are drawn. */
  apart?: boolean;
  /** Set where vectors could not say it, so that the file holds a picture. */
  asPicture?: boolean;
  /** What a cutter makes of a file whose shapes are united. */
  cut?: Cut;
};

/** How many colours and nodes a file has, and in how many places parts of it, or gaps in it, are thinner than asked; a file may be too large to be searched for those. */
export type Cut = { inks: number; nodes: number; thinParts: number; thinGaps: number; searched: boolean };

const share = (part: number, whole: number) => Math.round((part / whole) * 1000) / 1000;

/** Pixels of four bytes each as a number each; they are copied only where they begin between two words of memory. */
function asWords(pixels: Uint8Array): Uint32Array {
  const { buffer, byteOffset } = pixels.byteOffset % 4 === 0 ? pixels : pixels.slice();
  return new Uint32Array(buffer, byteOffset, pixels.length >> 2);
}

/** What can be seen of a picture on its ground. Pixels are rows of RGBA, four bytes each, and hide what is behind them. */
export function standsOut(pixels: Uint8Array, width: number, ground: Rgba): Seen {
  const words = asWords(pixels);
  const height = Math.floor(words.length / width);
  let most = 1;
  let [left, top, right, bottom] = [width, height, -1, -1];
  const behind = luminance(ground);
  for (let y = 0, i = 0; y < height; y++) {
    const end = i + width;
    while (i < end) {
      // Neighbours are mostly alike: a colour is judged once for as far as it goes on.
      const from = i;
      const word = words[i++];
      while (i < end && words[i] === word) i++;
      const at = from * 4;
      const ratio = contrastOf(luminance({ r: pixels[at], g: pixels[at + 1], b: pixels[at + 2], a: 1 }), behind);
      if (ratio > most) most = ratio;
      if (ratio < INVISIBLE) continue;
      left = Math.min(left, from - end + width);
      right = Math.max(right, i - 1 - end + width);
      if (y < top) top = y;
      bottom = y;
    }
  }
  const box: Seen['box'] =
    right < 0 ? null : [share(left, width), share(top, height), share(right + 1, width), share(bottom + 1, height)];
  return { contrast: Math.min(Math.round(most * 100) / 100, PLAIN_CONTRAST), box };
}
