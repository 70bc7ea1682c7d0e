import type { Leaf } from '../artwork/bounds/bounds';
import type { ProjectDocument } from '../document/document';
import type { Layer } from '../document/records';
import { boundsOf } from '../geometry/matrix';
import type { PlannedSize } from '../geometry/sizes';
import { type Edge, edgesOf, within } from './edges';

/** A picture with less than this share of its edges on pixels is seen as soft. */
export const CRISP_ENOUGH = 0.5;

/** An edge lies on a boundary of pixels when it is as close to it, in px of the file. */
export const ON_PIXEL_WITHIN = 0.02;
/** A curve counts as flat as long as it has left its edge by no more, in px of the file. */
const FLAT_WITHIN = 0.05;

/** An edge between pixels: of which layer, on which side, and by how much, in px of the file. */
export type OffEdge = { layer: Layer; edge: Edge; offPx: number; lengthPx: number };

/** How much of a drawing's upright and level edges lies on boundaries of pixels at a size. */
export type Crispness = {
  /** From 0 to 1; null when the drawing has no such edges. */
  share: number | null;
  /** All such edges, in px of the file. */
  lengthPx: number;
  /** Those between pixels, the longest first. */
  off: readonly OffEdge[];
};

/** Where the pixels of a file lie on the plane. */
export type Grid = Pick<PlannedSize, 'view' | 'widthPx' | 'heightPx'>;

export const scaleOf = ({ view, widthPx, heightPx }: Grid, across: 'x' | 'y'): number =>
  across === 'x' ? widthPx / view.width : heightPx / view.height;

/** The length of an edge in px of the file; of a curve, of what is flat there. */
export function lengthIn(grid: Grid, { across, from, to, flat }: Edge): number {
  const along = scaleOf(grid, across === 'x' ? 'y' : 'x');
  if (!flat) return (to - from) * along;
  const limit = FLAT_WITHIN / scaleOf(grid, across);
  let before: readonly [number, number] = [0, 0];
  for (const sample of flat) {
    const [away, length] = sample;
    if (away > limit) {
      // A curve leaves its edge by the square of the way.
      const [a, b] = [Math.sqrt(before[0]), Math.sqrt(away)];
      const share = b > a ? (Math.sqrt(limit) - a) / (b - a) : 0;
      return (before[1] + share * (length - before[1])) * along;
    }
    before = sample;
  }
  return before[1] * along;
}

/** By how much an edge is off the nearest boundary of pixels, from -0.5 to 0.5 px of the file. */
const offBy = (grid: Grid, { across, at }: Edge): number => {
  const place = (at - (across === 'x' ? grid.view.x : grid.view.y)) * scaleOf(grid, across);
  return place - Math.round(place);
};

/** Edges of what is drawn; those of a layer are kept as long as it is the same. */
const kept = new WeakMap<Leaf, Edge[]>();

/** The upright and level edges of drawn elements, in px of the plane. */
export const edgesIn = (doc: ProjectDocument, leaves: readonly Leaf[]): Edge[] =>
  leaves.flatMap((leaf) => {
    let edges = kept.get(leaf);
    if (!edges) kept.set(leaf, (edges = edgesOf(doc, leaf)));
    return edges;
  });

/** The edges that are seen in a file: those in its part of the plane. */
function* inView(edges: readonly Edge[], grid: Grid): Generator<Edge> {
  const box = boundsOf(grid.view);
  for (const edge of edges) {
    const part = within(box, edge.across, edge.at, edge.from, edge.to);
    if (part) yield edge.flat ? edge : { ...edge, ...part };
  }
}

/** How crisp edges are in a file. */
export function crispness(edges: readonly Edge[], grid: Grid): Crispness {
  let [all, on] = [0, 0];
  const off: OffEdge[] = [];
  for (const edge of inView(edges, grid)) {
    const lengthPx = lengthIn(grid, edge);
    const offPx = offBy(grid, edge);
    all += lengthPx;
    if (Math.abs(offPx) <= ON_PIXEL_WITHIN) on += lengthPx;
    else if (lengthPx > 0) off.push({ layer: edge.layer, edge, offPx, lengthPx });
  }
  off.sort((a, b) => b.lengthPx - a.lengthPx);
  return { share: all > 0 ? on / all : null, lengthPx: all, off };
}

/** How far a drawing may go to each side, in px of the plane. */
export type Room = { left: number; right: number; up: number; down: number };
const ANYWHERE: Room = { left: Infinity, right: Infinity, up: Infinity, down: Infinity };

/** The shift across one axis that puts the most edge on boundaries of pixels, in px of the file; the smallest of several. */
function bestShift(
  edges: readonly Edge[],
  grid: Grid,
  across: 'x' | 'y',
  least: number,
  most: number,
): { byPx: number; gains: number } {
  const places = edges
    .filter((edge) => edge.across === across)
    .map((edge) => ({ off: offBy(grid, edge), length: lengthIn(grid, edge) }))
    .sort((one, other) => one.off - other.off);
  // Once around to both sides, so that what is close to the next boundary is beside what is close to the last one.
  const around = [-1, 0, 1].flatMap((turn) => places.map(({ off, length }) => ({ off: off + turn, length })));
  const scale = scaleOf(grid, across);
  let [first, behind, crisp] = [0, 0, 0];
  /** The length that lies on boundaries once what is `off` does; asked for in rising order. */
  const crispWith = (off: number) => {
    for (; behind < around.length && around[behind].off <= off + ON_PIXEL_WITHIN; behind++)
      crisp += around[behind].length;
    for (; around[first].off < off - ON_PIXEL_WITHIN; first++) crisp -= around[first].length;
    return crisp;
  };
  const now = places.reduce((sum, { off, length }) => (Math.abs(off) <= ON_PIXEL_WITHIN ? sum + length : sum), 0);
  let best = { byPx: 0, gains: 0 };
  for (const { off } of places) {
    const gains = crispWith(off) - now;
    if (-off / scale < least - 1e-6 || -off / scale > most + 1e-6) continue;
    if (gains > best.gains + 1e-6 || (gains > best.gains - 1e-6 && gains > 1e-6 && Math.abs(off) < Math.abs(best.byPx)))
      best = { byPx: -off, gains };
  }
  return best;
}

/**
 * The shift of a drawing, in px of the plane, that puts the most of its edges on boundaries of pixels at a size, by at
 * most half a px of that size each way and within the room that it has; and how crisp it is after it. Null when no shift
 * makes it crisper.
 */
export function crispestShift(
  edges: readonly Edge[],
  grid: Grid,
  { left, right, up, down: below } = ANYWHERE,
): { dx: number; dy: number; share: number } | null {
  const seen = [...inView(edges, grid)];
  const { share, lengthPx } = crispness(edges, grid);
  const [across, down] = [bestShift(seen, grid, 'x', -left, right), bestShift(seen, grid, 'y', -up, below)];
  if (share === null || across.gains + down.gains < 1e-6) return null;
  return {
    dx: across.gains > 0 ? across.byPx / scaleOf(grid, 'x') : 0,
    dy: down.gains > 0 ? down.byPx / scaleOf(grid, 'y') : 0,
    share: share + (across.gains + down.gains) / lengthPx,
  };
}
