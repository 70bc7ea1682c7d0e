import type { Bounds } from './matrix';

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

export const regionOfBounds = ({ minX, minY, maxX, maxY }: Bounds): Region => ({
  x: minX,
  y: minY,
  width: maxX - minX,
  height: maxY - minY,
});

/** Grown outward to whole px, one at the least; what lies within a thousandth of a px of the grid counts as on it. */
export function outward({ x, y, width, height }: Region): Region {
  const [left, top] = [Math.floor(x + 1e-3), Math.floor(y + 1e-3)];
  return {
    x: left,
    y: top,
    width: Math.max(1, Math.ceil(x + width - 1e-3) - left),
    height: Math.max(1, Math.ceil(y + height - 1e-3) - top),
  };
}

/** Grown on all sides by so many px; a negative number takes away, and may leave nothing. */
export const withMargin = ({ x, y, width, height }: Region, marginPx: number): Region => ({
  x: x - marginPx,
  y: y - marginPx,
  width: width + 2 * marginPx,
  height: height + 2 * marginPx,
});

/** Grown about its middle to a size that holds it; one on whole px stays on them with `onPx`. */
export function grownTo(
  { x, y, width, height }: Region,
  size: { width: number; height: number },
  onPx: boolean,
): Region {
  const from = (at: number, more: number) => (onPx ? Math.ceil(at - more / 2) : at - more / 2);
  return { x: from(x, size.width - width), y: from(y, size.height - height), ...size };
}

/** Grown about its middle until it is as wide as high; one on whole px stays on them with `onPx`. */
export function squared(region: Region, onPx: boolean): Region {
  const side = Math.max(region.width, region.height);
  return grownTo(region, { width: side, height: side }, onPx);
}
