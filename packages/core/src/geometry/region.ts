/** A rectangle of the plane, in px: from its upper left corner. */
export type Region = { x: number; y: number; width: number; height: number };

/** The region around some; null for none. */
export function regionAround(regions: readonly Region[]): Region | null {
  if (regions.length === 0) return null;
  const [x, y] = [Math.min(...regions.map((each) => each.x)), Math.min(...regions.map((each) => each.y))];
  return {
    x,
    y,
    width: Math.max(...regions.map((each) => each.x + each.width)) - x,
    height: Math.max(...regions.map((each) => each.y + each.height)) - y,
  };
}
