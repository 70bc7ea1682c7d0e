import { type Leaf, layerToPlane } from '../artwork/bounds/bounds';
import { inheritedValue } from '../artwork/style/inherited';
import type { ProjectDocument } from '../document/document';
import type { Layer } from '../document/records';
import { type Bounds, invert, largestScale, type Matrix } from '../geometry/matrix';
import { extremes, pathSegments } from '../geometry/path-geometry';
import { cubic } from '../geometry/path-steps';
import { shapePath } from '../geometry/shape-path';

/** How far from its ends' mean a straight edge may be and still count as upright or level, in px of the plane. */
const STRAIGHT_WITHIN_PX = 0.01;
/** A shorter edge is a corner. */
const LEAST_LENGTH_PX = 0.05;
/** At how many points the way of a curve from its extreme is told. */
const SAMPLES = 10;

/**
 * An upright edge of what is painted (`across` is 'x': it lies at an x) or a level one, in px of the plane. A straight one
 * reaches from `from` to `to` along the other axis. Of a curve it is the way from where it is flat: `flat` holds by how
 * much it has left the edge after which length. `of` is where its path lies: at the edge itself, or in the middle of the
 * stroke that it is a side of.
 */
export type Edge = {
  layer: Layer;
  across: 'x' | 'y';
  at: number;
  of: number;
  from: number;
  to: number;
  flat?: readonly (readonly [awayPx: number, lengthPx: number])[];
};

type Point = readonly [x: number, y: number];
type Curve = readonly [Point, Point, Point, Point];
/** Takes an edge that was found. */
type Add = (place: Pick<Edge, 'across' | 'at' | 'of'>, from: number, to: number, flat?: Edge['flat']) => void;

const AXES = [
  ['x', 0, 1],
  ['y', 1, 0],
] as const;

const isLine = ([from, c1, c2, to]: Curve): boolean => {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const off = ([x, y]: Point) => Math.abs((x - from[0]) * dy - (y - from[1]) * dx);
  const slack = 1e-6 * Math.hypot(dx, dy);
  return off(c1) <= slack && off(c2) <= slack;
};

/** The way a curve goes at its beginning, as a unit vector; null for a point. */
function wayOut(curve: Curve): Point | null {
  for (const to of curve.slice(1)) {
    const [dx, dy] = [to[0] - curve[0][0], to[1] - curve[0][1]];
    const length = Math.hypot(dx, dy);
    if (length > 1e-9) return [dx / length, dy / length];
  }
  return null;
}

const reversed = ([a, b, c, d]: Curve): Curve => [d, c, b, a];

/** Where a curve turns back in one axis, its ends included where it is flat there. */
function flatAt(curve: Curve, axis: 0 | 1): number[] {
  const [p0, p1, p2, p3] = curve.map((point) => point[axis]);
  const found = extremes(p0, p1, p2, p3)
    .filter((t) => t > -1e-4 && t < 1 + 1e-4)
    .map((t) => Math.min(1, Math.max(0, t)));
  return [...new Set(found)];
}

/** The way of a curve from where it is flat, to one of its sides; grown for the side of a stroke. */
function wayFrom(curve: Curve, axis: 0 | 1, t: number, end: 0 | 1, grownBy: (radius: number) => number): Edge['flat'] {
  const along = axis === 0 ? 1 : 0;
  const value = (of: 0 | 1, at: number) => cubic(curve[0][of], curve[1][of], curve[2][of], curve[3][of], at);
  const [start, other] = [value(axis, t), value(along, t)];
  const flat: [number, number][] = [];
  let grown = 1;
  for (let i = 1; i <= SAMPLES; i++) {
    // Closer together where it is flat.
    const at = t + (end - t) * (i / SAMPLES) ** 2;
    const [away, length] = [Math.abs(value(axis, at) - start), Math.abs(value(along, at) - other)];
    if (i === 1 && away > 0) grown = grownBy(length ** 2 / (2 * away));
    const last = flat.at(-1);
    if (last && (away < last[0] || length < last[1] / grown)) break;
    flat.push([away, length * grown]);
  }
  return flat;
}

/** The two halves of a round end or join of a radius, on the axis that points out. */
function round(add: Add, [x, y]: Point, radius: number, axis: 0 | 1, sign: 1 | -1): void {
  const flat = Array.from({ length: SAMPLES }, (_, i) => {
    const angle = (Math.PI / 2) * ((i + 1) / SAMPLES) ** 2;
    return [radius * (1 - Math.cos(angle)), radius * Math.sin(angle)] as const;
  });
  const [at, along] = axis === 0 ? [x, y] : [y, x];
  const place = { across: axis === 0 ? 'x' : 'y', at: at + sign * radius, of: at } as const;
  add(place, along, along, flat);
  add(place, along, along, flat);
}

type Stroke = { half: number; cap: string; join: string; toLocal: Matrix; matrix: Matrix };

/** How far the side of a stroke lies from its middle, measured across an axis of the plane, in px. */
function reachAcross({ half, toLocal, matrix }: Stroke, axis: 0 | 1): number {
  const [a, b, c, d] = toLocal;
  const way: Point = axis === 0 ? [c, d] : [a, b];
  const length = Math.hypot(...way) || 1;
  const normal: Point = [(-way[1] / length) * half, (way[0] / length) * half];
  return Math.abs(
    axis === 0 ? matrix[0] * normal[0] + matrix[2] * normal[1] : matrix[1] * normal[0] + matrix[3] * normal[1],
  );
}

/** The edges of a filled or stroked curve, its two sides where it is stroked. */
function curveEdges(add: Add, curve: Curve, stroke: Stroke | null): void {
  for (const [across, axis, along] of AXES) {
    const reach = stroke ? reachAcross(stroke, axis) : 0;
    const sides = stroke ? [reach, -reach] : [0];
    const [from, , , to] = curve;
    if (isLine(curve)) {
      if (Math.abs(from[axis] - to[axis]) > STRAIGHT_WITHIN_PX || Math.abs(from[along] - to[along]) < LEAST_LENGTH_PX)
        continue;
      const of = (from[axis] + to[axis]) / 2;
      for (const side of sides)
        add({ across, at: of + side, of }, Math.min(from[along], to[along]), Math.max(from[along], to[along]));
      continue;
    }
    for (const t of flatAt(curve, axis)) {
      const at = curve.map((point) => point[axis]);
      const middle = cubic(at[0], at[1], at[2], at[3], t);
      const alongAt = cubic(curve[0][along], curve[1][along], curve[2][along], curve[3][along], t);
      // Towards which side it bends: there lies the middle of its curvature.
      const bends = Math.sign(at[0] + at[1] + at[2] + at[3] - 4 * middle);
      for (const side of sides) {
        const grownBy = (radius: number) => {
          const grown = radius - Math.sign(side) * bends * Math.abs(side);
          return radius > 0 && grown > 0 ? Math.sqrt(grown / radius) : 0;
        };
        for (const end of [0, 1] as const)
          if (t !== end)
            add({ across, at: middle + side, of: middle }, alongAt, alongAt, wayFrom(curve, axis, t, end, grownBy));
      }
    }
  }
}

/** The edge at the end of a stroke that goes a way, as its cap has it (SVG 2 §13.5.4). */
function capEdges(add: Add, point: Point, out: Point, stroke: Stroke): void {
  for (const [across, axis, along] of AXES) {
    const reach = reachAcross(stroke, along);
    if (stroke.cap === 'round') {
      for (const sign of [1, -1] as const)
        if (out[axis] * sign > 1e-3) round(add, point, reachAcross(stroke, axis), axis, sign);
    } else if (Math.abs(out[along]) < 1e-6) {
      const at = point[axis] + (stroke.cap === 'square' ? Math.sign(out[axis]) * reachAcross(stroke, axis) : 0);
      add({ across, at, of: point[axis] }, point[along] - reach, point[along] + reach);
    }
  }
}

/** The edges of a round join: where the outer side of a turn is upright or level. */
function joinEdges(add: Add, point: Point, into: Point, out: Point, stroke: Stroke): void {
  if (stroke.join !== 'round') return;
  for (const [, axis] of AXES)
    for (const sign of [1, -1] as const)
      if (into[axis] * sign > 1e-3 && out[axis] * sign < -1e-3)
        round(add, point, reachAcross(stroke, axis), axis, sign);
}

/**
 * The straight upright and level edges of a drawn element, and where its curves are flat: of its fill, or of both sides
 * and the ends of its stroke where it has one. Text and pictures have none, nor has what is cut off by a clip.
 */
export function edgesOf(doc: ProjectDocument, leaf: Leaf): Edge[] {
  const { layer, fill, strokePx } = leaf;
  const d = shapePath(layer.tag, layer.attrs);
  if (!d || (fill === 'none' && strokePx <= 0)) return [];
  const matrix = layerToPlane(doc, layer);
  const placed = ([x, y]: Point): Point => [
    matrix[0] * x + matrix[2] * y + matrix[4],
    matrix[1] * x + matrix[3] * y + matrix[5],
  ];
  const edges: Edge[] = [];
  const add: Add = (place, from, to, flat) => {
    // What a matrix has flattened has no sides.
    const kept = Number.isFinite(place.at + from + to) ? within(leaf, place.across, place.at, from, to) : null;
    if (kept) edges.push({ layer, ...place, ...kept, ...(flat && { flat }) });
  };
  const scale = largestScale(matrix);
  const stroke: Stroke | null =
    strokePx > 0 && scale > 0
      ? {
          half: strokePx / scale / 2,
          cap: inheritedValue(doc, layer, 'stroke-linecap') ?? 'butt',
          join: inheritedValue(doc, layer, 'stroke-linejoin') ?? 'miter',
          toLocal: invert(matrix),
          matrix,
        }
      : null;
  for (const { segments, closed } of pathSegments(d)) {
    const curves = segments.map(
      ([x0, y0, x1, y1, x2, y2, x3, y3]): Curve => [
        placed([x0, y0]),
        placed([x1, y1]),
        placed([x2, y2]),
        placed([x3, y3]),
      ],
    );
    for (const curve of curves) curveEdges(add, curve, stroke);
    const [first, last] = [curves[0], curves.at(-1)];
    if (!first || !last) continue;
    if (!stroke) {
      // A fill closes what is open.
      const [from, to] = [last[3], first[0]];
      if (!closed) curveEdges(add, [from, from, to, to], null);
      continue;
    }
    curves.forEach((curve, i) => {
      const before = i > 0 ? curves[i - 1] : closed ? last : undefined;
      const [into, out] = [before && wayOut(reversed(before)), wayOut(curve)];
      if (into && out) joinEdges(add, curve[0], [-into[0], -into[1]], out, stroke);
    });
    if (closed) continue;
    const [begin, end] = [wayOut(first), wayOut(reversed(last))];
    if (begin) capEdges(add, first[0], [-begin[0], -begin[1]], stroke);
    if (end) capEdges(add, last[3], [-end[0], -end[1]], stroke);
  }
  return edges;
}

/** The part of an edge that lies in a box; null when it lies beside it. */
export function within(
  box: Bounds,
  across: 'x' | 'y',
  at: number,
  from: number,
  to: number,
): { from: number; to: number } | null {
  const [low, high, start, end] =
    across === 'x' ? [box.minX, box.maxX, box.minY, box.maxY] : [box.minY, box.maxY, box.minX, box.maxX];
  if (at < low - 1e-6 || at > high + 1e-6) return null;
  const kept = { from: Math.max(from, start), to: Math.min(to, end) };
  return kept.to < kept.from - 1e-6 ? null : kept;
}
