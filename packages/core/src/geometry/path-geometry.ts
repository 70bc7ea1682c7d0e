import svgpath from 'svgpath';
import type { Bounds } from './matrix';

/** A straight line has its control points on its ends. All points are x, y in px. */
type Segment = [x0: number, y0: number, x1: number, y1: number, x2: number, y2: number, x3: number, y3: number];
type Subpath = { segments: Segment[]; closed: boolean };

/** Path data (SVG 2 §9.3) as cubic segments; what follows an error is not drawn, as the standard says. */
export function pathSegments(d: string): Subpath[] {
  const subpaths: Subpath[] = [];
  let current: Subpath | null = null;
  let x = 0;
  let y = 0;
  let startX = 0;
  let startY = 0;
  const add = (x1: number, y1: number, x2: number, y2: number, x3: number, y3: number) => {
    if (!current) subpaths.push((current = { segments: [], closed: false }));
    current.segments.push([x, y, x1, y1, x2, y2, x3, y3]);
    x = x3;
    y = y3;
  };
  svgpath(d)
    .abs()
    .unshort()
    .unarc()
    .iterate((segment: (string | number)[]) => {
      const n = segment as number[];
      switch (segment[0]) {
        case 'M':
          current = null;
          x = startX = n[1];
          y = startY = n[2];
          break;
        case 'L':
          add(x, y, n[1], n[2], n[1], n[2]);
          break;
        case 'H':
          add(x, y, n[1], y, n[1], y);
          break;
        case 'V':
          add(x, y, x, n[1], x, n[1]);
          break;
        case 'C':
          add(n[1], n[2], n[3], n[4], n[5], n[6]);
          break;
        case 'Q':
          add(
            x + (2 / 3) * (n[1] - x),
            y + (2 / 3) * (n[2] - y),
            n[3] + (2 / 3) * (n[1] - n[3]),
            n[4] + (2 / 3) * (n[2] - n[4]),
            n[3],
            n[4],
          );
          break;
        case 'Z':
          if (x !== startX || y !== startY) add(x, y, startX, startY, startX, startY);
          if (current) (current as Subpath).closed = true;
          current = null;
          x = startX;
          y = startY;
          break;
      }
    });
  return subpaths;
}

/** Where a cubic turns back in one dimension: every t with B'(t) = 0, also outside of 0 to 1. */
export function extremes(p0: number, p1: number, p2: number, p3: number): number[] {
  const a = -p0 + 3 * p1 - 3 * p2 + p3;
  const b = 2 * (p0 - 2 * p1 + p2);
  const c = p1 - p0;
  if (Math.abs(a) < 1e-12) return Math.abs(b) < 1e-12 ? [] : [-c / b];
  const root = b * b - 4 * a * c;
  if (root < 0) return [];
  const s = Math.sqrt(root);
  return [(-b + s) / (2 * a), (-b - s) / (2 * a)];
}

/** The ends of the straight pieces that segments are taken for, in their order; a curve becomes `steps` pieces. */
export function eachPiece(segments: readonly Segment[], steps: number, to: (x: number, y: number) => void): void {
  for (const [x0, y0, x1, y1, x2, y2, x3, y3] of segments) {
    const straight = x0 === x1 && y0 === y1 && x2 === x3 && y2 === y3;
    for (let i = 1; i <= (straight ? 1 : steps); i++) {
      const t = straight ? 1 : i / steps;
      to(at(x0, x1, x2, x3, t), at(y0, y1, y2, y3, t));
    }
  }
}

const at = (p0: number, p1: number, p2: number, p3: number, t: number) => {
  const u = 1 - t;
  return u * u * u * p0 + 3 * u * u * t * p1 + 3 * u * t * t * p2 + t * t * t * p3;
};

export type StrokeShape = { width: number; miterLimit: number; miter: boolean; square: boolean };

/**
 * The box around a path, with its stroke when one is given: exact for curves, round and bevel joins
 * and mitres within their limit; at butt ends it may be larger by half the stroke width.
 */
export function pathBounds(subpaths: readonly Subpath[], stroke: StrokeShape | null): Bounds | null {
  let minX = Infinity;
  let minY = Infinity;
  let maxX = -Infinity;
  let maxY = -Infinity;
  const point = (x: number, y: number, reach: number) => {
    if (x - reach < minX) minX = x - reach;
    if (x + reach > maxX) maxX = x + reach;
    if (y - reach < minY) minY = y - reach;
    if (y + reach > maxY) maxY = y + reach;
  };
  const half = stroke ? stroke.width / 2 : 0;
  const endReach = stroke?.square ? half * Math.SQRT2 : half;
  for (const { segments, closed } of subpaths) {
    for (let i = 0; i < segments.length; i++) {
      const [x0, y0, x1, y1, x2, y2, x3, y3] = segments[i];
      const atEnd = !closed && (i === 0 || i === segments.length - 1);
      point(x0, y0, atEnd ? endReach : half);
      point(x3, y3, atEnd ? endReach : half);
      for (const t of extremes(x0, x1, x2, x3))
        if (t > 0 && t < 1) point(at(x0, x1, x2, x3, t), at(y0, y1, y2, y3, t), half);
      for (const t of extremes(y0, y1, y2, y3))
        if (t > 0 && t < 1) point(at(x0, x1, x2, x3, t), at(y0, y1, y2, y3, t), half);
      if (stroke?.miter && (i + 1 < segments.length || closed)) {
        const tip = miterTip(segments[i], segments[(i + 1) % segments.length], half, stroke.miterLimit);
        if (tip) point(tip[0], tip[1], 0);
      }
    }
  }
  return minX === Infinity ? null : { minX, minY, maxX, maxY };
}

function direction(dx: number, dy: number): [number, number] | null {
  const length = Math.hypot(dx, dy);
  return length < 1e-9 ? null : [dx / length, dy / length];
}

/** The tip of the mitre where two segments meet (SVG 2 §13.5.6); null when it is bevelled or smooth. */
function miterTip(one: Segment, next: Segment, half: number, limit: number): [number, number] | null {
  const into =
    direction(one[6] - one[4], one[7] - one[5]) ??
    direction(one[6] - one[2], one[7] - one[3]) ??
    direction(one[6] - one[0], one[7] - one[1]);
  const out =
    direction(next[2] - next[0], next[3] - next[1]) ??
    direction(next[4] - next[0], next[5] - next[1]) ??
    direction(next[6] - next[0], next[7] - next[1]);
  if (!into || !out) return null;
  const cos = -(into[0] * out[0] + into[1] * out[1]);
  const sinHalf = Math.sqrt(Math.max(0, (1 - cos) / 2));
  if (sinHalf < 1e-6 || sinHalf > 0.9999 || 1 / sinHalf > limit) return null;
  const away = direction(into[0] - out[0], into[1] - out[1]);
  return away && [one[6] + (away[0] * half) / sinHalf, one[7] + (away[1] * half) / sinHalf];
}
