/** Channels that differ by no more than this look the same; resampling alone moves them so far. */
const TOLERATED = 2;

export type Difference = { moved: number; of: number; image: ImageData };

/**
 * Pixels in which two pictures of one size differ by more than two levels in any channel; straight RGBA, 0–255. The answer shows
 * them in vermilion, the stronger the more they differ, over the first picture made pale.
 */
export function difference(one: ImageData, other: ImageData): Difference {
  const { width, height } = one;
  const image = new ImageData(width, height);
  let moved = 0;
  for (let i = 0; i < one.data.length; i += 4) {
    const alpha = [one.data[i + 3], other.data[i + 3]];
    let most = Math.abs(alpha[0] - alpha[1]);
    // What is clear has no colour to differ in.
    for (let c = 0; c < 3; c++)
      most = Math.max(most, Math.abs(one.data[i + c] * alpha[0] - other.data[i + c] * alpha[1]) / 255);
    if (most > TOLERATED) {
      moved++;
      image.data[i] = 210;
      image.data[i + 1] = 69;
      image.data[i + 2] = 42;
      image.data[i + 3] = Math.min(255, 90 + most * 2);
    } else {
      for (let c = 0; c < 3; c++) image.data[i + c] = one.data[i + c];
      image.data[i + 3] = Math.round(alpha[0] * 0.25);
    }
  }
  return { moved, of: width * height, image };
}

export const differenceWords = ({ moved, of }: Pick<Difference, 'moved' | 'of'>): string =>
  moved === 0
    ? 'no pixel moves'
    : `${moved.toLocaleString('en')} ${moved === 1 ? 'pixel moves' : 'pixels move'} (${moved / of < 0.001 ? '< 0.1' : ((100 * moved) / of).toFixed(1)} %)`;
