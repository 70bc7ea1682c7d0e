import type { IntakeRules } from '@tolvik/core';

/** The sizes that rules allow, as they are typed: "512, 1200x630". */
export const sizesInWords = ({ pixels }: IntakeRules): string =>
  pixels.sizes
    .map(({ widthPx, heightPx }) => (widthPx === heightPx ? `${widthPx}` : `${widthPx}x${heightPx}`))
    .join(', ');

/** "512, 1200x630" as sizes; null where any word is none. */
export function readSizes(text: string): IntakeRules['pixels']['sizes'] | null {
  const words = text
    .split(/[,;]+/)
    .map((word) => word.trim())
    .filter(Boolean);
  const sizes = words.map((word) => /^(\d{1,6})(?:\s*[x×]\s*(\d{1,6}))?$/.exec(word));
  if (sizes.some((size) => !size)) return null;
  return sizes.map((size) => ({ widthPx: Number(size?.[1]), heightPx: Number(size?.[2] ?? size?.[1]) }));
}

/** "1, 2, 3" as how large to what was drawn; null where any word is none. */
export function readTimes(text: string): number[] | null {
  const words = text
    .split(/[,;\s]+/)
    .map((word) => word.replace(/[x×]$/, ''))
    .filter(Boolean);
  const times = words.map(Number);
  return times.every((each) => each > 0 && each <= 100) ? times : null;
}
