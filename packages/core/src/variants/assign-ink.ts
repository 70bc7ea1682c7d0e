import { luminance, parseColour, type Rgba } from '../artwork/colour/colours';
import type { InkRule } from '../document/records';
import type { Meetings } from './meetings';

/** Colours of which every way to ink them is tried; more than these, the ones that meet the most. */
const MOST_TRIED = 10;
/** What it costs to lose an edge, for its length, and to cut a gap along it. */
const LOSS_COST = 1.5;
const GAP_COST = 0.4;
/** What a hole costs beside, so that nothing is knocked out that gains nothing. */
const HOLE_COST = 0.01;
/** How wide a gap is, as a share of the longest side. */
const GAP_SHARE = 1 / 48;

/** The width of a gap in artwork of a size, in px of it. */
export const gapFor = (sources: readonly { width: number; height: number }[]): number =>
  +(Math.max(1, ...sources.flatMap(({ width, height }) => [width, height])) * GAP_SHARE).toFixed(2);

/**
 * How one ink keeps apart what the colours of a drawing told apart: which of them are holes in it, and which have a gap
 * around them. Of all ways the one that loses the least length of edges; where ways are equal, the lighter colours are
 * the holes. `painted` are the colours in the order in which they are painted, as `paintOrder` has them; of two that
 * meet as ink, what lies over the other has the gap of so many px.
 */
export function assignInk(
  meetings: Meetings,
  painted: readonly string[],
  gap: number,
): Pick<InkRule, 'out' | 'apart' | 'gap'> {
  const weight = new Map<string, number>();
  for (const { colours, length } of meetings)
    for (const colour of colours) if (colour) weight.set(colour, (weight.get(colour) ?? 0) + length);
  const tried = [...weight]
    .sort(([, a], [, b]) => b - a)
    .slice(0, MOST_TRIED)
    .map(([colour]) => colour);
  const lightness = tried.map((colour) => luminance(parseColour(colour) as Rgba));
  const bit = new Map(tried.map((colour, i) => [colour, 1 << i]));
  let best = 0;
  let least = Infinity;
  // Something has to be inked.
  for (let holes = 0; holes < (1 << tried.length) - (tried.length > 0 ? 1 : 0); holes++) {
    const isOut = (colour: string | null) => colour === null || ((bit.get(colour) ?? 0) & holes) !== 0;
    let cost = 0;
    for (const { colours, length } of meetings) {
      const [a, b] = colours.map(isOut);
      if (a === b) cost += length * (a ? LOSS_COST : GAP_COST);
    }
    for (let i = 0; i < tried.length; i++)
      if (holes & (1 << i)) cost += (weight.get(tried[i]) ?? 0) * HOLE_COST * (2 - lightness[i]);
    if (cost < least - 1e-9) [best, least] = [holes, cost];
  }
  const out = tried.filter((_, i) => best & (1 << i));
  const inked = (colour: string | null): colour is string => colour !== null && !out.includes(colour);
  const apart = new Set<string>();
  for (const { colours } of meetings) {
    const [one, other] = colours;
    if (!inked(one) || !inked(other)) continue;
    const liesOver = (a: string, b: string) => painted.lastIndexOf(a) > painted.indexOf(b);
    if (liesOver(one, other)) apart.add(one);
    if (liesOver(other, one) || !liesOver(one, other)) apart.add(other);
  }
  return { out, apart: [...apart], gap: apart.size > 0 ? gap : 0 };
}
