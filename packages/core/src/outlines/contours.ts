import { type Matrix, printNumber } from '../geometry/matrix';
import { cubic } from '../geometry/path-steps';
import { NoOutline } from './kernel';

/** A closed line of cubics and straight lines, in px: where it starts, and from there two numbers or six for each segment. */
export type Contour = { x: number; y: number; segments: readonly (readonly number[])[] };

/** Segments that are shorter than this are none, in px; lines bend by no less. */
const SMALLEST_PX = 0.0005;
/** Contours around less are left out, in px². */
const SLIVER_PX2 = 0.01;
/** And such as are nowhere wider, in px. */
const SLIVER_PX = 0.002;

/** What a kernel answered, in its units, as contours in px, where a matrix takes them. Conics become cubics that are off by less than 0.0005 px. */
export function contoursOf(commands: readonly (readonly number[])[], [a, b, c, d, e, f]: Matrix): Contour[] {
  const contours: Contour[] = [];
  let contour: { x: number; y: number; segments: number[][] } | null = null;
  let [x, y] = [0, 0];
  const end = () => {
    if (!contour) return;
    const closing = Math.hypot(contour.x - x, contour.y - y) > 0 ? [[contour.x, contour.y]] : [];
    contours.push({ ...contour, segments: [...contour.segments, ...closing] });
    contour = null;
  };
  for (const [verb, ...units] of commands) {
    const weight = verb === 3 ? (units.pop() ?? 1) : 1;
    const n = units.map((value, i) =>
      i % 2 === 0 ? a * value + c * units[i + 1] + e : b * units[i - 1] + d * value + f,
    );
    if (verb === 0) {
      end();
      contour = { x: n[0], y: n[1], segments: [] };
      [x, y] = n;
      continue;
    }
    if (verb === 5) {
      end();
      continue;
    }
    contour ??= { x, y, segments: [] };
    if (verb === 1 || verb === 4) contour.segments.push(n);
    else if (verb === 2) contour.segments.push(quadratic(x, y, n));
    else if (verb === 3) contour.segments.push(...conic(x, y, n, weight));
    else throw new NoOutline(`an unknown verb ${verb}`);
    [x, y] = n.slice(-2);
  }
  end();
  return contours;
}

const quadratic = (x: number, y: number, [cx, cy, toX, toY]: readonly number[]): number[] => [
  x + (2 / 3) * (cx - x),
  y + (2 / 3) * (cy - y),
  toX + (2 / 3) * (cx - toX),
  toY + (2 / 3) * (cy - toY),
  toX,
  toY,
];

/** A conic section with a weight as cubics, halved until they hold. */
function conic(x: number, y: number, n: readonly number[], weight: number, depth = 0): number[][] {
  const [cx, cy, toX, toY] = n;
  // The cubic that has the conic's ends, tangents and middle.
  const share = (4 * weight) / (3 * (1 + weight));
  // How far the cubic of an arc is off, which the conic is one of under a matrix: by the sixth power of its angle.
  const half = Math.acos(Math.min(1, Math.max(-1, weight)));
  const radius = Math.hypot(cx - x, cy - y) / Math.max(1e-9, Math.tan(half));
  const off = weight < 1 ? radius * 0.0042 * half ** 6 : Infinity;
  if (depth >= 5 || Math.abs(weight - 1) < 1e-6 || off < SMALLEST_PX) {
    return [[x + share * (cx - x), y + share * (cy - y), toX + share * (cx - toX), toY + share * (cy - toY), toX, toY]];
  }
  const whole = 1 + weight;
  const [oneX, oneY] = [(x + weight * cx) / whole, (y + weight * cy) / whole];
  const [twoX, twoY] = [(weight * cx + toX) / whole, (weight * cy + toY) / whole];
  const [midX, midY] = [(oneX + twoX) / 2, (oneY + twoY) / 2];
  const halved = Math.sqrt(whole / 2);
  return [
    ...conic(x, y, [oneX, oneY, midX, midY], halved, depth + 1),
    ...conic(midX, midY, [twoX, twoY, toX, toY], halved, depth + 1),
  ];
}

/**
 * Contours without segments of no length, points on straight lines and slivers, each wound so that outer ones and holes
 * turn opposite ways: they fill the same by both rules (SVG 2 §13.4.1).
 */
export function cleaned(contours: readonly Contour[]): Contour[] {
  return wound(contours.map(lean).filter((contour) => contour.segments.length > 1 && !isSliver(contour)));
}

function lean({ x, y, segments }: Contour): Contour {
  const kept: (readonly number[])[] = [];
  const starts: [number, number][] = [];
  let [atX, atY] = [x, y];
  for (const segment of segments) {
    const [toX, toY] = segment.slice(-2);
    const length = Math.hypot(toX - atX, toY - atY);
    if (length < SMALLEST_PX && (segment.length === 2 || reach(atX, atY, segment) < SMALLEST_PX)) continue;
    const made = segment.length === 6 && isStraight(atX, atY, segment) ? [toX, toY] : segment;
    const before = kept.at(-1);
    const start = starts.at(-1);
    if (made.length === 2 && before?.length === 2 && start && liesOn(start, [atX, atY], [toX, toY]))
      kept[kept.length - 1] = made;
    else {
      kept.push(made);
      starts.push([atX, atY]);
    }
    [atX, atY] = [toX, toY];
  }
  // The start may lie on a line, too.
  const [first, last] = [kept[0], kept.at(-1)];
  if (kept.length > 2 && first.length === 2 && last?.length === 2) {
    const lastStart = starts[starts.length - 1];
    if (liesOn(lastStart, [x, y], [first[0], first[1]])) {
      return { x: first[0], y: first[1], segments: [...kept.slice(1, -1), [first[0], first[1]]] };
    }
  }
  return { x, y, segments: kept };
}

/** How far the control points of a curve are from its start. */
const reach = (x: number, y: number, n: readonly number[]) =>
  Math.max(Math.hypot(n[0] - x, n[1] - y), Math.hypot(n[2] - x, n[3] - y));

const isStraight = (x: number, y: number, n: readonly number[]) =>
  liesOn([x, y], [n[0], n[1]], [n[4], n[5]]) && liesOn([x, y], [n[2], n[3]], [n[4], n[5]]);

/** Whether a point lies between two others on the line through them. */
function liesOn([ax, ay]: readonly number[], [x, y]: readonly number[], [bx, by]: readonly number[]): boolean {
  const [dx, dy] = [bx - ax, by - ay];
  const length = Math.hypot(dx, dy);
  if (length < SMALLEST_PX) return false;
  const along = ((x - ax) * dx + (y - ay) * dy) / length;
  const across = Math.abs((x - ax) * dy - (y - ay) * dx) / length;
  return across < SMALLEST_PX / 4 && along > -SMALLEST_PX && along < length + SMALLEST_PX;
}

/** The area in px² by Green's theorem, positive where the contour turns clockwise on the screen. */
function areaOf({ x, y, segments }: Contour): number {
  let area = 0;
  let [ax, ay] = [x, y];
  for (const n of segments) {
    if (n.length === 2) area += (ax * n[1] - n[0] * ay) / 2;
    else {
      const [bx, by, cx, cy, dx, dy] = n;
      area +=
        (3 *
          ((dy - ay) * (bx + cx) -
            (dx - ax) * (by + cy) +
            by * (ax - cx) -
            bx * (ay - cy) +
            dy * (cx + ax / 3) -
            dx * (cy + ay / 3))) /
        20;
    }
    [ax, ay] = n.slice(-2);
  }
  return area;
}

function isSliver(contour: Contour): boolean {
  const area = Math.abs(areaOf(contour));
  let length = 0;
  let [x, y] = [contour.x, contour.y];
  for (const n of contour.segments) {
    const [toX, toY] = n.slice(-2);
    length += Math.hypot(toX - x, toY - y);
    [x, y] = [toX, toY];
  }
  return area < SLIVER_PX2 || area / Math.max(length / 2, 1e-9) < SLIVER_PX;
}

function wound(contours: readonly Contour[]): Contour[] {
  const flat = contours.map(polygon);
  const boxes = flat.map((points) => ({
    minX: Math.min(...points.map(([x]) => x)),
    maxX: Math.max(...points.map(([x]) => x)),
    minY: Math.min(...points.map(([, y]) => y)),
    maxY: Math.max(...points.map(([, y]) => y)),
  }));
  return contours.map((contour, i) => {
    // Contours touch, but never cross: most points of one are within another, or none.
    const samples = flat[i].filter((_, at) => at % Math.max(1, Math.floor(flat[i].length / 9)) === 0);
    let depth = 0;
    for (let other = 0; other < contours.length; other++) {
      if (other === i) continue;
      const [box, outer] = [boxes[i], boxes[other]];
      if (box.minX < outer.minX - 0.01 || box.maxX > outer.maxX + 0.01) continue;
      if (box.minY < outer.minY - 0.01 || box.maxY > outer.maxY + 0.01) continue;
      const inside = samples.filter((point) => isIn(point, flat[other])).length;
      if (inside * 2 > samples.length) depth++;
    }
    const clockwise = areaOf(contour) > 0;
    return clockwise === (depth % 2 === 0) ? contour : reversed(contour);
  });
}

const STEPS = 8;

/** Points along a contour: of each segment its middle and others between its ends, which others may share. */
function polygon({ x, y, segments }: Contour): (readonly [number, number])[] {
  const points: (readonly [number, number])[] = [];
  let [ax, ay] = [x, y];
  for (const n of segments) {
    const [dx, dy] = n.slice(-2);
    if (n.length === 2) points.push([(ax + dx) / 2, (ay + dy) / 2], [dx, dy]);
    else
      for (let step = 1; step <= STEPS; step++) {
        const t = step / STEPS;
        points.push([cubic(ax, n[0], n[2], dx, t), cubic(ay, n[1], n[3], dy, t)]);
      }
    [ax, ay] = [dx, dy];
  }
  return points;
}

function isIn([x, y]: readonly [number, number], points: readonly (readonly [number, number])[]): boolean {
  let inside = false;
  for (let i = 0, j = points.length - 1; i < points.length; j = i++) {
    const [[ax, ay], [bx, by]] = [points[i], points[j]];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

function reversed({ x, y, segments }: Contour): Contour {
  const back: number[][] = [];
  const starts = [[x, y], ...segments.map((n) => n.slice(-2))];
  for (let i = segments.length - 1; i >= 0; i--) {
    const n = segments[i];
    const [toX, toY] = starts[i];
    back.push(n.length === 2 ? [toX, toY] : [n[2], n[3], n[0], n[1], toX, toY]);
  }
  const [lastX, lastY] = starts[segments.length];
  return { x: lastX, y: lastY, segments: back };
}

/** Contours as path data, absolute, with so many digits behind the point. */
export function printContours(contours: readonly Contour[], decimals: number): string {
  const print = (values: readonly number[]) => values.map((value) => printNumber(value, decimals)).join(' ');
  return contours
    .map(({ x, y, segments }) => {
      const last = segments.at(-1);
      // Closing draws the last line.
      const drawn = last?.length === 2 ? segments.slice(0, -1) : segments;
      return `M${print([x, y])}${drawn.map((n) => (n.length === 2 ? 'L' : 'C') + print(n)).join('')}Z`;
    })
    .join('');
}
