import type { Artboard } from '../document/records';

/** Sizes that are more than so many times another are very different. */
const VERY_DIFFERENT = 4;

/** The longer side that most of some artboards have, in px, where their sizes are very different; null where they are not. */
export function oneSizeFor(artboards: readonly Pick<Artboard, 'width' | 'height' | 'follows'>[]): number | null {
  const sides = artboards.filter(({ follows }) => !follows).map(({ width, height }) => Math.max(width, height));
  if (sides.length < 2 || Math.max(...sides) <= VERY_DIFFERENT * Math.min(...sides)) return null;
  const uses = new Map<number, number>();
  for (const side of sides) uses.set(side, (uses.get(side) ?? 0) + 1);
  return [...uses].sort(([a, ofA], [b, ofB]) => ofB - ofA || a - b)[0][0];
}
