import { layerToPlane } from '../../artwork/bounds/bounds';
import type { ProjectDocument } from '../../document/document';
import type { Layer } from '../../document/records';
import { invert, type Matrix, printNumber } from '../../geometry/matrix';
import { type PathStep, pathSteps } from '../../geometry/path-steps';
import { pointNumbers } from '../../geometry/shape-path';
import { splitAtExtremes } from '../../geometry/split-curves';
import { SHAPES } from '../../profile/allow-list';

/** Where a place across an axis goes, in px of the plane; rising, and of slope 1 outside of what it was made from. */
export type Warp = {
  x: (at: number) => number;
  y: (at: number) => number;
  /** Between these it goes in proportion. */
  knots: { x: readonly number[]; y: readonly number[] };
};

type Point = readonly [x: number, y: number];

/** Decimals of the numbers that are written. */
const DECIMALS = 5;
/** A tangent that turns by less at a node goes on smoothly, as the sine of the angle. */
const SMOOTH = 0.02;
/** A curve is scaled with its ends by no more than this factor, or its inverse; else it is carried along. */
const MOST_SCALED = 3;
/** The move of what lies inside a curve may differ by so much from that of its ends, in px of the plane. */
const CARRIED_WITHIN_PX = 0.002;

/** Lines that were at `from` are at `to` (both rising), and all between them is carried along in proportion. */
export function piecewise(from: readonly number[], to: readonly number[]): (at: number) => number {
  return (at) => {
    const next = from.findIndex((knot) => knot >= at);
    if (from.length === 0) return at;
    if (next === 0) return at + to[0] - from[0];
    if (next < 0) return at + to[to.length - 1] - from[from.length - 1];
    const share = (at - from[next - 1]) / (from[next] - from[next - 1]);
    return to[next - 1] + share * (to[next] - to[next - 1]);
  };
}

const BOXED = new Set(['rect', 'circle', 'ellipse']);

/** Whether the points of a layer can be moved one by one; a turned rectangle or circle is only moved as a whole. */
export function followsPoints(doc: ProjectDocument, { tag, ...layer }: Layer): boolean {
  if (!SHAPES.has(tag)) return false;
  if (!BOXED.has(tag)) return true;
  const [, b, c] = layerToPlane(doc, { tag, ...layer });
  return b === 0 && c === 0;
}

const at = ([a, b, c, d, e, f]: Matrix, [x, y]: Point): Point => [a * x + c * y + e, b * x + d * y + f];
const minus = (one: Point, other: Point): Point => [one[0] - other[0], one[1] - other[1]];
const plus = (one: Point, other: Point): Point => [one[0] + other[0], one[1] + other[1]];
const times = ([x, y]: Point, by: number): Point => [x * by, y * by];
const length = ([x, y]: Point): number => Math.hypot(x, y);

/** A curve as its ends and its handles, of a path that is one line of nodes. */
type Piece = { line: boolean; points: [Point, Point, Point, Point] };

const warped = ({ x, y }: Warp, point: Point): Point => [x(point[0]), y(point[1])];

/** A handle after the ends of its curve have moved: scaled as they went apart or came together. */
function handleMoved(from: Point, end: Point, movedFrom: Point, movedEnd: Point, handle: Point): Point {
  const by = ([0, 1] as const).map((axis) => {
    const [before, after] = [end[axis] - from[axis], movedEnd[axis] - movedFrom[axis]];
    const scale = after / before;
    return Math.abs(before) > 1e-6 && scale <= MOST_SCALED && scale >= 1 / MOST_SCALED ? scale : 1;
  });
  return [handle[0] * by[0], handle[1] * by[1]];
}

function pieceMoved(warp: Warp, { line, points: [p0, p1, p2, p3] }: Piece): Piece {
  const [q0, q3] = [warped(warp, p0), warped(warp, p3)];
  if (line) return { line, points: [q0, q0, q3, q3] };
  return {
    line,
    points: [
      q0,
      plus(q0, handleMoved(p0, p3, q0, q3, minus(p1, p0))),
      plus(q3, handleMoved(p0, p3, q0, q3, minus(p2, p3))),
      q3,
    ],
  };
}

/** How a piece arrives at its end or leaves its start, as a unit vector; null for a piece without a length. */
function tangent({ line, points: [p0, p1, p2, p3] }: Piece, end: boolean): Point | null {
  const ways = line
    ? [minus(p3, p0)]
    : end
      ? [minus(p3, p2), minus(p3, p1), minus(p3, p0)]
      : [minus(p1, p0), minus(p2, p0), minus(p3, p0)];
  const way = ways.find((one) => length(one) > 1e-9);
  return way ? times(way, 1 / length(way)) : null;
}

/** Makes two pieces go on smoothly where they did: a curve takes the way of a line, two curves take the one between theirs. */
function smoothed(before: readonly [Piece, Piece], [one, next]: [Piece, Piece]): void {
  const [into, out] = [tangent(before[0], true), tangent(before[1], false)];
  if (!into || !out || into[0] * out[0] + into[1] * out[1] < 0) return;
  if (Math.abs(into[0] * out[1] - into[1] * out[0]) > SMOOTH) return;
  if (one.line && next.line) return;
  const [arrives, leaves] = [tangent(one, true), tangent(next, false)];
  if (!arrives || !leaves) return;
  const between = one.line ? arrives : next.line ? leaves : plus(arrives, leaves);
  const way = times(between, 1 / (length(between) || 1));
  if (!one.line) one.points[2] = minus(one.points[3], times(way, length(minus(one.points[3], one.points[2]))));
  if (!next.line) next.points[1] = plus(next.points[0], times(way, length(minus(next.points[1], next.points[0]))));
}

/** The parts of a path, each as pieces one after another. */
function partsOf(steps: readonly PathStep[]): { pieces: Piece[]; start: Point; closed: boolean }[] {
  const parts: { pieces: Piece[]; start: Point; closed: boolean }[] = [];
  let here: Point = [0, 0];
  for (const { op, n } of steps) {
    const part = parts.at(-1);
    if (op === 'M') parts.push({ pieces: [], start: (here = [n[0], n[1]]), closed: false });
    else if (!part) continue;
    else if (op === 'Z') {
      part.closed = true;
      here = part.start;
    } else {
      // What goes on after a closed part begins another one there.
      const own = part.closed ? { pieces: [], start: here, closed: false } : part;
      if (own !== part) parts.push(own);
      const end: Point = [n[n.length - 2], n[n.length - 1]];
      own.pieces.push(
        op === 'L'
          ? { line: true, points: [here, here, end, end] }
          : { line: false, points: [here, [n[0], n[1]], [n[2], n[3]], end] },
      );
      here = end;
    }
  }
  return parts;
}

/** Path data with its points moved; curves stay smooth where they were. */
function pathMoved(d: string, matrix: Matrix, warp: Warp): string {
  const toLocal = invert(matrix);
  const onPlane = pathSteps(d).map(({ op, n }): PathStep => {
    const points: number[] = [];
    for (let i = 0; i < n.length; i += 2) points.push(...at(matrix, [n[i], n[i + 1]]));
    return { op, n: points };
  });
  const print = (...points: Point[]) =>
    points
      .flatMap((point) => at(toLocal, point))
      .map((value) => printNumber(value, DECIMALS))
      .join(' ');
  return partsOf(splitAtExtremes(onPlane, (piece) => turnsAway(warp, piece)))
    .map(({ pieces, start, closed }) => {
      const moved = pieces.map((piece) => pieceMoved(warp, piece));
      const last = pieces.length - 1;
      const joins = closed && last > 0 && length(minus(pieces[last].points[3], start)) < 1e-9;
      pieces.forEach((piece, i) => {
        const next = i < last ? i + 1 : joins ? 0 : -1;
        if (next >= 0) smoothed([piece, pieces[next]], [moved[i], moved[next]]);
      });
      const drawn = moved.map(({ line, points: [, p1, p2, p3] }) => (line ? `L${print(p3)}` : `C${print(p1, p2, p3)}`));
      return `M${print(warped(warp, start))}${drawn.join('')}${closed ? 'Z' : ''}`;
    })
    .join('');
}

/** Whether a place inside a curve moves otherwise than its ends carry it. */
function turnsAway(warp: Warp, { from, to, at: place, axis }: { from: number; to: number; at: number; axis: 0 | 1 }) {
  const go = axis === 0 ? warp.x : warp.y;
  const ends = [go(from) - from, go(to) - to];
  const share = Math.abs(to - from) > 1e-6 ? (place - from) / (to - from) : 0.5;
  return Math.abs(go(place) - place - (ends[0] + share * (ends[1] - ends[0]))) > CARRIED_WITHIN_PX;
}

/** A rectangle, circle or ellipse between its moved sides; corners keep their radius. */
function boxMoved({ tag, attrs }: Layer, matrix: Matrix, warp: Warp): Pick<Layer, 'tag' | 'attrs'> {
  const value = (name: string, otherwise = 0) => Number.parseFloat(attrs[name] ?? '') || otherwise;
  const rx = tag === 'circle' ? value('r') : value('rx', value('ry'));
  const ry = tag === 'circle' ? rx : value('ry', rx);
  const round = tag !== 'rect';
  const [x, y] = round ? [value('cx') - rx, value('cy') - ry] : [value('x'), value('y')];
  const [width, height] = round ? [2 * rx, 2 * ry] : [value('width'), value('height')];
  const toLocal = invert(matrix);
  const one = at(toLocal, warped(warp, at(matrix, [x, y])));
  const other = at(toLocal, warped(warp, at(matrix, [x + width, y + height])));
  const [w, h] = minus(other, one);
  const print = (number: number) => printNumber(number, DECIMALS);
  if (!round)
    return { tag, attrs: { ...attrs, x: print(one[0]), y: print(one[1]), width: print(w), height: print(h) } };
  const middle = { cx: print(one[0] + w / 2), cy: print(one[1] + h / 2) };
  // What lies around it is no reason for a circle to become an ellipse.
  if (tag === 'circle')
    return { tag, attrs: { ...attrs, ...middle, ...(Math.abs(w - h) < 1e-6 && { r: print(w / 2) }) } };
  return { tag, attrs: { ...attrs, ...middle, rx: print(w / 2), ry: print(h / 2) } };
}

/** A layer with each of its points where a warp puts it. */
export function pointsMoved(doc: ProjectDocument, layer: Layer, warp: Warp): Layer {
  const matrix = layerToPlane(doc, layer);
  const { tag, attrs } = layer;
  const value = (name: string) => Number.parseFloat(attrs[name] ?? '') || 0;
  const toLocal = invert(matrix);
  const place = (x: number, y: number): string[] =>
    at(toLocal, warped(warp, at(matrix, [x, y]))).map((number) => printNumber(number, DECIMALS));
  if (BOXED.has(tag)) {
    return { ...layer, ...boxMoved(layer, matrix, warp) };
  }
  if (tag === 'line') {
    const [x1, y1] = place(value('x1'), value('y1'));
    const [x2, y2] = place(value('x2'), value('y2'));
    return { ...layer, attrs: { ...attrs, x1, y1, x2, y2 } };
  }
  if (tag === 'polyline' || tag === 'polygon') {
    const numbers = pointNumbers(attrs.points);
    const points: string[] = [];
    for (let i = 0; i + 1 < numbers.length; i += 2) points.push(place(numbers[i], numbers[i + 1]).join(' '));
    return { ...layer, attrs: { ...attrs, points: points.join(' ') } };
  }
  return { ...layer, attrs: { ...attrs, d: pathMoved(attrs.d ?? '', matrix, warp) } };
}
