import svgpath from 'svgpath';
import type { Bounds } from './matrix';
import { extremes } from './path-geometry';
import { shapePath } from './shape-path';

/** A path taken apart: `M` and `L` have two numbers, `C` six, `Z` none; all absolute. */
export type PathStep = { op: 'M' | 'L' | 'C' | 'Z'; n: readonly number[] };

/** A shape as steps; none for what draws nothing (SVG 2 §9, §10). */
export function stepsOf({ tag, attrs }: { tag: string; attrs: Readonly<Record<string, string>> }): PathStep[] {
  const d = shapePath(tag, attrs);
  return d ? pathSteps(d) : [];
}

/** Path data as steps; arcs and quadratics become cubics. */
export function pathSteps(d: string): PathStep[] {
  const steps: PathStep[] = [];
  let [x, y, startX, startY] = [0, 0, 0, 0];
  const line = (toX: number, toY: number) => {
    steps.push({ op: 'L', n: [toX, toY] });
    x = toX;
    y = toY;
  };
  svgpath(d)
    .abs()
    .unshort()
    .unarc()
    .iterate((segment: (string | number)[]) => {
      const n = segment.slice(1) as number[];
      switch (segment[0]) {
        case 'M':
          steps.push({ op: 'M', n });
          [x, y] = [startX, startY] = n;
          return;
        case 'L':
          return line(n[0], n[1]);
        case 'H':
          return line(n[0], y);
        case 'V':
          return line(x, n[0]);
        case 'C':
          steps.push({ op: 'C', n });
          [x, y] = [n[4], n[5]];
          return;
        case 'Q':
          steps.push({
            op: 'C',
            n: [
              x + (2 / 3) * (n[0] - x),
              y + (2 / 3) * (n[1] - y),
              n[2] + (2 / 3) * (n[0] - n[2]),
              n[3] + (2 / 3) * (n[1] - n[3]),
              n[2],
              n[3],
            ],
          });
          [x, y] = [n[2], n[3]];
          return;
        case 'Z':
          steps.push({ op: 'Z', n: [] });
          [x, y] = [startX, startY];
      }
    });
  return steps;
}

/** The box around a path without its stroke (SVG 2 §8.10), exact for curves; null when it has no points. */
export function pathBox(steps: readonly PathStep[]): Bounds | null {
  let box: Bounds | null = null;
  const point = (px: number, py: number) => {
    if (!box) box = { minX: px, minY: py, maxX: px, maxY: py };
    else {
      box.minX = Math.min(box.minX, px);
      box.maxX = Math.max(box.maxX, px);
      box.minY = Math.min(box.minY, py);
      box.maxY = Math.max(box.maxY, py);
    }
  };
  let [x, y] = [0, 0];
  steps.forEach(({ op, n }, i) => {
    if (op === 'Z' || (op === 'M' && (steps[i + 1]?.op ?? 'M') === 'M')) return;
    if (op === 'C') {
      for (const t of [...turns(x, n[0], n[2], n[4]), ...turns(y, n[1], n[3], n[5])])
        point(cubic(x, n[0], n[2], n[4], t), cubic(y, n[1], n[3], n[5], t));
    }
    [x, y] = n.slice(-2);
    point(x, y);
  });
  return box;
}

/** The value of a cubic Bézier curve in one dimension, at t from 0 to 1. */
export function cubic(a: number, b: number, c: number, d: number, t: number): number {
  const u = 1 - t;
  return u * u * u * a + 3 * u * u * t * b + 3 * u * t * t * c + t * t * t * d;
}

/** Where a cubic turns back in one dimension, between its ends. */
const turns = (p0: number, p1: number, p2: number, p3: number): number[] =>
  extremes(p0, p1, p2, p3).filter((t) => t > 0 && t < 1);
