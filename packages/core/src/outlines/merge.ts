import { cubic } from '../geometry/path-steps';
import type { Contour } from './contours';

type Point = readonly [x: number, y: number];
/** A cubic with its start. */
type Curve = readonly [from: Point, one: Point, two: Point, to: Point];

/** Curves whose directions differ by more than this, as a sine, where they meet have a corner there. */
const CORNER = 0.02;
/** Points at which a curve is held against those it stands for. */
const SAMPLES = 8;
/** How far beside its place, in shares of a curve, the nearest point is looked for. */
const AROUND = [-0.06, -0.03, -0.015, 0, 0.015, 0.03, 0.06];

/**
 * A contour with runs of curves as one where that is off by at most `mostOff`, in px: a kernel cuts curves where lines cross
 * them, and draws round joins and offsets in many pieces. What meets in a corner stays apart; ends stay where they are.
 */
export function merged({ x, y, segments }: Contour, mostOff: number): Contour {
  const made: (readonly number[])[] = [];
  let from: Point = [x, y];
  /** Curves that are one so far. */
  let parts: Curve[] = [];
  for (const segment of segments) {
    const to: Point = [segment[segment.length - 2], segment[segment.length - 1]];
    if (segment.length === 2) {
      parts = [];
      made.push(segment);
    } else {
      const curve: Curve = [from, [segment[0], segment[1]], [segment[2], segment[3]], to];
      const more: Curve[] = [...parts, curve];
      const one: Curve | null = parts.length > 0 && parts.length < MOST_PARTS ? asOne(more) : null;
      if (one && areOn(more, one, mostOff)) {
        parts = more;
        made[made.length - 1] = one.slice(1).flat();
      } else {
        parts = [curve];
        made.push(segment);
      }
    }
    from = to;
  }
  return { x, y, segments: made };
}

/** Beyond so many a run is ended: each of them is held against the whole again. */
const MOST_PARTS = 24;

/** The cubic that follows parts best, with their ends and the directions there; null where two of them meet in a corner. */
function asOne(parts: readonly Curve[]): Curve | null {
  for (let i = 1; i < parts.length; i++) {
    const [, , two, middle] = parts[i - 1];
    const [ax, ay] = [middle[0] - two[0], middle[1] - two[1]];
    const [bx, by] = [parts[i][1][0] - middle[0], parts[i][1][1] - middle[1]];
    if (ax * bx + ay * by <= 0 || Math.abs(ax * by - ay * bx) > CORNER * Math.hypot(ax, ay) * Math.hypot(bx, by))
      return null;
  }
  const [from, one] = parts[0];
  const [, , four, to] = parts[parts.length - 1];
  const [begins, ends] = [direction(from, one), direction(to, four)];
  if (!begins || !ends) return null;
  const shares = sharesOf(parts);
  const points: Point[] = [];
  let places: number[] = [];
  for (const [i, part] of parts.entries())
    for (let k = 1; k <= SAMPLES; k++) {
      points.push(at(part, k / SAMPLES));
      places.push(shares[i][0] + ((shares[i][1] - shares[i][0]) * k) / SAMPLES);
    }
  let whole: Curve | null = null;
  for (let round = 0; round < ROUNDS; round++) {
    if (whole) {
      const curve: Curve = whole;
      places = places.map((place, i) => nearest(points[i], curve, place)[1]);
    }
    whole = fitted(points, places, from, begins, ends, to);
    if (!whole) return null;
  }
  return whole;
}

/** How often points are looked for on the curve that was fitted to them, and it is fitted again. */
const ROUNDS = 3;

function direction(from: Point, to: Point): Point | null {
  const length = distance(from, to);
  return length > 0 ? [(to[0] - from[0]) / length, (to[1] - from[1]) / length] : null;
}

/** By least squares, how long the two handles are of a cubic whose places are to be at points. */
function fitted(
  points: readonly Point[],
  places: readonly number[],
  from: Point,
  begins: Point,
  ends: Point,
  to: Point,
): Curve | null {
  let [aa, ab, bb, ax, bx] = [0, 0, 0, 0, 0];
  const cosine = begins[0] * ends[0] + begins[1] * ends[1];
  for (const [i, point] of points.entries()) {
    const t = places[i];
    const [first, last] = [3 * t * (1 - t) ** 2, 3 * t * t * (1 - t)];
    const [atFrom, atTo] = [(1 - t) ** 3 + first, last + t ** 3];
    const [x, y] = [0, 1].map((axis) => point[axis] - from[axis] * atFrom - to[axis] * atTo);
    aa += first * first;
    ab += first * last * cosine;
    bb += last * last;
    ax += first * (begins[0] * x + begins[1] * y);
    bx += last * (ends[0] * x + ends[1] * y);
  }
  const determinant = aa * bb - ab * ab;
  const [one, two] = [(ax * bb - bx * ab) / determinant, (aa * bx - ab * ax) / determinant];
  if (!(one > 0) || !(two > 0) || !Number.isFinite(one + two)) return null;
  return [
    from,
    [from[0] + begins[0] * one, from[1] + begins[1] * one],
    [to[0] + ends[0] * two, to[1] + ends[1] * two],
    to,
  ];
}

/** Where each part begins and ends on the whole, by how long they are. */
function sharesOf(parts: readonly Curve[]): [number, number][] {
  const lengths = parts.map(([from, one, two, to]) => distance(from, one) + distance(one, two) + distance(two, to));
  const total = lengths.reduce((sum, length) => sum + length, 0) || 1;
  let at = 0;
  return lengths.map((length) => [at, (at += length / total)]);
}

const distance = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]);

const at = ([from, one, two, to]: Curve, t: number): Point => [
  cubic(from[0], one[0], two[0], to[0], t),
  cubic(from[1], one[1], two[1], to[1], t),
];

/** Whether parts lie on the curve that they would become, one behind the other. */
function areOn(parts: readonly Curve[], whole: Curve, mostOff: number): boolean {
  const shares = sharesOf(parts);
  return parts.every((part, i) => isOn(part, whole, shares[i], mostOff));
}

/** Whether all of a part lies on the whole. */
function isOn(part: Curve, whole: Curve, [first, last]: [number, number], mostOff: number): boolean {
  let place = first;
  for (let i = 1; i <= SAMPLES; i++) {
    place += (last - first) / SAMPLES;
    const [away, nearby] = nearest(at(part, i / SAMPLES), whole, place);
    if (away > mostOff) return false;
    place = nearby;
  }
  return true;
}

/** How far a point is from a curve, and the place there, looked for around one: coarsely, then finely. */
function nearest(point: Point, curve: Curve, place: number): [away: number, place: number] {
  let best: [number, number] = [Infinity, place];
  for (const step of [1, 0.25, 0.06]) {
    const around = best[1];
    for (const by of AROUND) {
      const t = Math.min(1, Math.max(0, around + by * step));
      const away = distance(point, at(curve, t));
      if (away < best[0]) best = [away, t];
    }
  }
  return best;
}
