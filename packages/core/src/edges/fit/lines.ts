import type { Leaf } from '../../artwork/bounds/bounds';
import { layerToPlane } from '../../artwork/bounds/bounds';
import { inheritedValue } from '../../artwork/style/inherited';
import type { ProjectDocument } from '../../document/document';
import { eachPiece, pathSegments } from '../../geometry/path-geometry';
import { shapePath } from '../../geometry/shape-path';
import { edgesIn, type Grid, lengthIn, scaleOf } from '../crispness';
import type { Edge } from '../edges';
import { type Axis, type Line, matesAround, type Span, type Width, widthsFor } from './place-lines';
import { followsPoints } from './warp';

/** Places and widths that differ by no more are taken for one, in px of the file. */
const ALIKE_WITHIN_PX = 0.02;
/** A thinner stroke has no whole width near it, in px of the file. */
const THINNEST_PX = 0.5;
/** Where there is less edge, such as at the round end of a thin stem, it is carried along, in px of the file. */
const LEAST_LENGTH_PX = 1 - 1e-6;
/** With more lines across an axis, a drawing is no icon, and is left as it is. */
const MOST_LINES = 60;
/** The same for edges. */
const MOST_EDGES = 2_000;
/** As many kinds of widths are tried out; others keep theirs. */
const MOST_KINDS = 12;
/** Straight pieces that a curve is taken for. */
const PIECES = 24;

export const AXES = ['x', 'y'] as const;

/** What there is to place of a drawing at a size. Widths are px of the file. */
export type ToPlace = {
  axes: Axis[];
  /** The widths that each kind of spans may get. */
  choices: Width[][];
  /** Strokes whose width changes. */
  strokes: Map<Leaf, number>;
};

type Polygon = readonly (readonly [x: number, y: number])[];

/** The whole width that is nearest to that of a stroke; null for what has none near it. */
export const wholeStroke = (widthPx: number): number | null =>
  widthPx < THINNEST_PX ? null : Math.max(1, Math.round(widthPx));

/** The outlines of a drawn element in px of a file; of a stroke those that are closed. */
function polygonsOf(doc: ProjectDocument, { layer, strokePx }: Leaf, grid: Grid): Polygon[] {
  const d = shapePath(layer.tag, layer.attrs);
  const [a, b, c, dd, e, f] = layerToPlane(doc, layer);
  const [scaleX, scaleY] = [scaleOf(grid, 'x'), scaleOf(grid, 'y')];
  const placed = (x: number, y: number) =>
    [(a * x + c * y + e - grid.view.x) * scaleX, (b * x + dd * y + f - grid.view.y) * scaleY] as const;
  return pathSegments(d).flatMap(({ segments, closed }) => {
    if ((strokePx > 0 && !closed) || segments.length === 0) return [];
    const points = [placed(segments[0][0], segments[0][1])];
    eachPiece(segments, PIECES, (x, y) => points.push(placed(x, y)));
    return [points];
  });
}

/** Where ink begins and ends along a line at a height (for upright edges), by a fill rule. */
function inkAlong(polygons: readonly Polygon[], axis: 0 | 1, height: number, evenOdd: boolean): [number, number][] {
  const along = axis === 0 ? 1 : 0;
  const crossings: { at: number; turn: number }[] = [];
  for (const points of polygons)
    points.forEach((from, i) => {
      const to = points[(i + 1) % points.length];
      const [low, high] = [Math.min(from[along], to[along]), Math.max(from[along], to[along])];
      if (height < low || height >= high) return;
      const share = (height - from[along]) / (to[along] - from[along]);
      crossings.push({ at: from[axis] + share * (to[axis] - from[axis]), turn: to[along] > from[along] ? 1 : -1 });
    });
  crossings.sort((one, other) => one.at - other.at);
  const ink: [number, number][] = [];
  let winding = 0;
  let begin = 0;
  for (const { at, turn } of crossings) {
    const wasInk = evenOdd ? winding % 2 !== 0 : winding !== 0;
    winding += turn;
    const isInk = evenOdd ? winding % 2 !== 0 : winding !== 0;
    if (!wasInk && isInk) begin = at;
    if (wasInk && !isInk) ink.push([begin, at]);
  }
  return ink;
}

/** Where an edge lies, in px of a file, from a place of the plane. */
const inFile = (grid: Grid, across: 'x' | 'y', at: number): number =>
  (at - (across === 'x' ? grid.view.x : grid.view.y)) * scaleOf(grid, across);

type Found = { of: number; side: number; lengthPx: number };

type Place = { at: number; edges: { side: number; lengthPx: number }[]; lengthPx: number };

/** Groups the edges found across an axis by the place of their path. */
function placesOf(found: Found[]): Place[] {
  const places: Place[] = [];
  for (const { of, side, lengthPx } of found.sort((one, other) => one.of - other.of)) {
    const last = places.at(-1);
    if (last && of - last.at <= ALIKE_WITHIN_PX) {
      last.edges.push({ side, lengthPx });
      last.lengthPx += lengthPx;
    } else places.push({ at: of, edges: [{ side, lengthPx }], lengthPx });
  }
  return places;
}

/** A line, which stays within the file where it lies in it. */
function lineOf({ at, edges }: Place, sidePx: number): Line {
  const [low, high] = [Math.min(...edges.map(({ side }) => side)), Math.max(...edges.map(({ side }) => side))];
  const inside = at + low >= -ALIKE_WITHIN_PX && at + high <= sidePx + ALIKE_WITHIN_PX;
  return { at, edges, least: inside ? -low : -Infinity, most: inside ? sidePx - high : Infinity };
}

const lineAt = (lines: readonly Line[], at: number): number =>
  lines.findIndex((line) => Math.abs(line.at - at) <= ALIKE_WITHIN_PX);

/** Pairs of lines with the ink of a shape between them. */
function inkBetween(doc: ProjectDocument, leaf: Leaf, grid: Grid, axes: readonly Line[][], found: readonly Edge[]) {
  const polygons = polygonsOf(doc, leaf, grid);
  const evenOdd = leaf.strokePx > 0 || inheritedValue(doc, leaf.layer, 'fill-rule') === 'evenodd';
  const spans: { axis: 0 | 1; from: number; to: number }[] = [];
  for (const { across, of, from, to } of found) {
    const axis = across === 'x' ? 0 : 1;
    const height = inFile(grid, across === 'x' ? 'y' : 'x', (from + to) / 2) + 1e-5;
    const at = inFile(grid, across, of);
    for (const ends of inkAlong(polygons, axis, height, evenOdd)) {
      if (ends.every((end) => Math.abs(end - at) > ALIKE_WITHIN_PX)) continue;
      const [one, other] = ends.map((end) => lineAt(axes[axis], end));
      if (one >= 0 && other > one) spans.push({ axis, from: one, to: other });
    }
  }
  return spans;
}

/** Neighbouring lines that no ink joins and that are as far apart as others are. */
function equalGaps(lines: readonly Line[], spans: readonly { from: number; to: number }[]) {
  const gaps = lines.slice(1).map(({ at }, i) => ({ from: i, to: i + 1, widthPx: at - lines[i].at }));
  const free = gaps.filter(({ from, to }) => !spans.some((span) => span.from === from && span.to === to));
  return free.filter((gap) =>
    free.some((other) => other !== gap && Math.abs(other.widthPx - gap.widthPx) <= ALIKE_WITHIN_PX),
  );
}

/** Where lines mirror each other; null where they don't. */
function mirrorOf(lines: readonly Line[]): number | null {
  if (lines.length < 2) return null;
  const middle = (lines[0].at + lines[lines.length - 1].at) / 2;
  return matesAround(lines, middle, 2 * ALIKE_WITHIN_PX) ? middle : null;
}

/** Spans with the kinds that they are of, by width, over both axes; and the widths that each kind may get. */
function kindsOf(spans: readonly { axis: number; from: number; to: number; widthPx: number }[], whole: boolean) {
  const kinds: { widthPx: number; count: number }[] = [];
  const own: Span[][] = [[], []];
  let last = -Infinity;
  for (const { axis, from, to, widthPx } of [...spans].sort((one, other) => one.widthPx - other.widthPx)) {
    if (widthPx - last > ALIKE_WITHIN_PX) kinds.push({ widthPx, count: 0 });
    last = widthPx;
    kinds[kinds.length - 1].count++;
    own[axis].push({ from, to, kind: kinds.length - 1 });
  }
  const tried = new Set([...kinds].sort((one, other) => other.count - one.count).slice(0, MOST_KINDS));
  return {
    spans: own,
    choices: kinds.map((kind): Width[] => (whole && tried.has(kind) ? widthsFor(kind.widthPx) : [null])),
  };
}

/**
 * The lines of drawn elements at a size and what keeps them together, with the whole widths that strokes get where
 * `whole` says so. `gaps` also keeps equal gaps equal. Null for what has too many lines to be an icon, or none.
 */
export function linesOf(
  doc: ProjectDocument,
  leaves: readonly Leaf[],
  grid: Grid,
  { whole, gaps }: { whole: boolean; gaps: boolean },
): ToPlace | null {
  const strokes = new Map<Leaf, number>();
  const found: Record<'x' | 'y', Found[]> = { x: [], y: [] };
  const ofPoints = leaves.filter((leaf) => followsPoints(doc, leaf.layer));
  for (const leaf of ofPoints) {
    const widthPx = leaf.strokePx * scaleOf(grid, 'x');
    const wide = (whole && widthPx > 0 && wholeStroke(widthPx)) || widthPx;
    if (Math.abs(wide - widthPx) > 1e-6) strokes.set(leaf, wide);
    for (const edge of edgesIn(doc, [leaf])) {
      const lengthPx = lengthIn(grid, edge);
      const side = (edge.at - edge.of) * scaleOf(grid, edge.across) * (widthPx > 0 ? wide / widthPx : 1);
      found[edge.across].push({ of: inFile(grid, edge.across, edge.of), side, lengthPx });
    }
  }
  const edgeCount = found.x.length + found.y.length;
  if (edgeCount === 0 || edgeCount > MOST_EDGES) return null;
  const places = AXES.map((across) => placesOf(found[across]));
  // By one bound for both axes, so that a circle has all four of its sides or none.
  const lines = places.map((own, axis) =>
    own
      .filter(({ lengthPx }) => lengthPx >= LEAST_LENGTH_PX)
      .map((place) => lineOf(place, axis === 0 ? grid.widthPx : grid.heightPx)),
  );
  if (lines.some(({ length }) => length > MOST_LINES)) return null;
  const known = new Set<string>();
  const spans: { axis: number; from: number; to: number; widthPx: number }[] = [];
  const add = (axis: number, from: number, to: number) => {
    const key = `${axis} ${from} ${to}`;
    if (known.has(key)) return;
    known.add(key);
    spans.push({ axis, from, to, widthPx: lines[axis][to].at - lines[axis][from].at });
  };
  for (const leaf of ofPoints)
    for (const { axis, from, to } of inkBetween(doc, leaf, grid, lines, edgesIn(doc, [leaf]))) add(axis, from, to);
  if (gaps)
    lines.forEach((own, axis) => {
      const ofAxis = spans.filter((span) => span.axis === axis);
      for (const { from, to } of equalGaps(own, ofAxis)) add(axis, from, to);
    });
  const kinds = kindsOf(spans, whole);
  return {
    axes: lines.map((own, axis) => ({ lines: own, spans: kinds.spans[axis], mirror: mirrorOf(own) })),
    choices: kinds.choices,
    strokes,
  };
}
