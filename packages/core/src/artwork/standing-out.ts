import { contrast, type Rgba } from './colours';

/** A contrast that anybody sees; how much more there is, is not looked for. */
export const PLAIN_CONTRAST = 3;

/**
 * How far a picture stands out from its ground: the highest contrast ratio (WCAG 2.2) between one of its pixels and
 * the ground, from 1 (nothing to be seen) to `PLAIN_CONTRAST`, where it stops looking. Pixels are RGBA, four bytes
 * each, and hide what is behind them.
 */
export function standsOut(pixels: Uint8Array, ground: Rgba): number {
  let most = 1;
  let [r, g, b] = [ground.r, ground.g, ground.b];
  for (let i = 0; i + 3 < pixels.length && most < PLAIN_CONTRAST; i += 4) {
    if (pixels[i] === r && pixels[i + 1] === g && pixels[i + 2] === b) continue;
    [r, g, b] = [pixels[i], pixels[i + 1], pixels[i + 2]];
    most = Math.max(most, contrast({ r, g, b, a: 1 }, ground));
  }
  return Math.min(most, PLAIN_CONTRAST);
}
