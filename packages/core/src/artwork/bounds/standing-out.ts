import { contrastOf, luminance, type Rgba } from '../colour/colours';

/** A contrast that anybody sees; how much more there is, does not matter. */
export const PLAIN_CONTRAST = 3;
/** Below this nobody sees that anything is there (a WCAG ratio of 1 is no difference at all). */
export const INVISIBLE = 1.25;

/** What of a picture can be told from its ground. */
export type Seen = {
  /** The highest contrast ratio (WCAG 2.2) between a pixel and the ground: from 1, nothing to be seen, to `PLAIN_CONTRAST`. */
  contrast: number;
  /** The box around every pixel with a ratio of at least `INVISIBLE`, in shares of width and height from the upper left; null when there is none. */
  box: readonly [left: number, top: number, right: number, bottom: number] | null;
};

const share = (part: number, whole: number) => Math.round((part / whole) * 1000) / 1000;

/** What can be seen of a picture on its ground. Pixels are rows of RGBA, four bytes each, and hide what is behind them. */
export function standsOut(pixels: Uint8Array, width: number, ground: Rgba): Seen {
  const height = Math.floor(pixels.length / 4 / width);
  let most = 1;
  let [left, top, right, bottom] = [width, height, -1, -1];
  // Neighbours are mostly alike: a colour is judged when it differs from the one before.
  let [r, g, b] = [ground.r, ground.g, ground.b];
  let visible = false;
  const behind = luminance(ground);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i += 4) {
      if (pixels[i] !== r || pixels[i + 1] !== g || pixels[i + 2] !== b) {
        r = pixels[i];
        g = pixels[i + 1];
        b = pixels[i + 2];
        const ratio = contrastOf(luminance({ r, g, b, a: 1 }), behind);
        if (ratio > most) most = ratio;
        visible = ratio >= INVISIBLE;
      }
      if (!visible) continue;
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < top) top = y;
      bottom = y;
    }
  }
  const box: Seen['box'] =
    right < 0 ? null : [share(left, width), share(top, height), share(right + 1, width), share(bottom + 1, height)];
  return { contrast: Math.min(Math.round(most * 100) / 100, PLAIN_CONTRAST), box };
}
