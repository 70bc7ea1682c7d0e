import * as z from 'zod';

/** What an entry of a matrix may be at the most; far beyond what draws anything. */
export const MATRIX_LIMIT = 1e9;
const entry = z.number().min(-MATRIX_LIMIT).max(MATRIX_LIMIT);

/** `a b c d e f` of SVG 2 §8.5: x' = a·x + c·y + e, y' = b·x + d·y + f. */
export const matrix = z.tuple([entry, entry, entry, entry, entry, entry]);
export type Matrix = z.infer<typeof matrix>;

export const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0];

export type Bounds = { minX: number; minY: number; maxX: number; maxY: number };

/** The box of a rectangle that is told by a corner and its size. */
export const boundsOf = ({ x, y, width, height }: { x: number; y: number; width: number; height: number }): Bounds => ({
  minX: x,
  minY: y,
  maxX: x + width,
  maxY: y + height,
});

/** Whether two boxes share more than an edge. */
export const overlaps = (a: Bounds, b: Bounds): boolean =>
  a.minX < b.maxX && a.maxX > b.minX && a.minY < b.maxY && a.maxY > b.minY;

/** Whether two boxes have a point in common, their edges counted in. */
export const touches = (a: Bounds, b: Bounds): boolean =>
  a.minX <= b.maxX && a.maxX >= b.minX && a.minY <= b.maxY && a.maxY >= b.minY;

/** `outer × inner`: a point goes through inner first (SVG 2 §8.5). */
export function multiply(outer: Matrix, inner: Matrix): Matrix {
  const [a, b, c, d, e, f] = outer;
  const [g, h, i, j, k, l] = inner;
  return [a * g + c * h, b * g + d * h, a * i + c * j, b * i + d * j, a * k + c * l + e, b * k + d * l + f];
}

export const translate = (x: number, y: number): Matrix => [1, 0, 0, 1, x, y];
export const scaling = (x: number, y = x): Matrix => [x, 0, 0, y, 0, 0];

/** The inverse, or identity for a matrix that flattens everything. */
export function invert([a, b, c, d, e, f]: Matrix): Matrix {
  const det = a * d - b * c;
  if (!det) return IDENTITY;
  return [d / det, -b / det, -c / det, a / det, (c * f - d * e) / det, (b * e - a * f) / det];
}

export const isIdentity = (m: Matrix | undefined): boolean =>
  !m || (m[0] === 1 && m[1] === 0 && m[2] === 0 && m[3] === 1 && m[4] === 0 && m[5] === 0);

/** A transform as a layer has it: none where it changes nothing. */
export const unlessIdentity = (m: Matrix | undefined): Matrix | undefined => (isIdentity(m) ? undefined : m);

/** How much a matrix grows lengths at the most. */
export function largestScale([a, b, c, d]: Matrix): number {
  const sum = a * a + b * b + c * c + d * d;
  const det = a * d - b * c;
  return Math.sqrt((sum + Math.sqrt(Math.max(0, sum * sum - 4 * det * det))) / 2);
}

/** The box around a transformed box. */
export function transformBounds(m: Matrix, { minX, minY, maxX, maxY }: Bounds): Bounds {
  const [a, b, c, d, e, f] = m;
  const x1 = a * minX;
  const x2 = a * maxX;
  const x3 = c * minY;
  const x4 = c * maxY;
  const y1 = b * minX;
  const y2 = b * maxX;
  const y3 = d * minY;
  const y4 = d * maxY;
  return {
    minX: Math.min(x1, x2) + Math.min(x3, x4) + e,
    maxX: Math.max(x1, x2) + Math.max(x3, x4) + e,
    minY: Math.min(y1, y2) + Math.min(y3, y4) + f,
    maxY: Math.max(y1, y2) + Math.max(y3, y4) + f,
  };
}

export const unite = (a: Bounds | null, b: Bounds | null): Bounds | null =>
  !a
    ? b
    : !b
      ? a
      : {
          minX: Math.min(a.minX, b.minX),
          minY: Math.min(a.minY, b.minY),
          maxX: Math.max(a.maxX, b.maxX),
          maxY: Math.max(a.maxY, b.maxY),
        };

export function intersect(a: Bounds | null, b: Bounds | null): Bounds | null {
  if (!a || !b) return null;
  const box = {
    minX: Math.max(a.minX, b.minX),
    minY: Math.max(a.minY, b.minY),
    maxX: Math.min(a.maxX, b.maxX),
    maxY: Math.min(a.maxY, b.maxY),
  };
  return box.minX > box.maxX || box.minY > box.maxY ? null : box;
}

export const grow = (b: Bounds, by: number): Bounds => ({
  minX: b.minX - by,
  minY: b.minY - by,
  maxX: b.maxX + by,
  maxY: b.maxY + by,
});

const NUMBER = /[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi;

/** An SVG `transform` list as one matrix (SVG 2 §8.5, CSS Transforms 1 §8); undefined when it cannot be read. */
export function parseTransform(text: string): Matrix | undefined {
  let result: Matrix = IDENTITY;
  const list = text.trim();
  if (!list || list === 'none') return IDENTITY;
  const matched = list.match(/([a-zA-Z]+)\s*\(([^)]*)\)/g);
  if (!matched) return undefined;
  for (const item of matched) {
    const name = item.slice(0, item.indexOf('(')).trim();
    const n = (item.slice(item.indexOf('(')).match(NUMBER) ?? []).map(Number);
    if (n.some((value) => !Number.isFinite(value))) return undefined;
    let step: Matrix;
    const turn = ((n[0] ?? 0) * Math.PI) / 180;
    if (name === 'matrix' && n.length === 6) step = n as unknown as Matrix;
    else if (name === 'translate') step = translate(n[0] ?? 0, n[1] ?? 0);
    else if (name === 'translateX') step = translate(n[0] ?? 0, 0);
    else if (name === 'translateY') step = translate(0, n[0] ?? 0);
    else if (name === 'scale') step = scaling(n[0] ?? 1, n[1] ?? n[0] ?? 1);
    else if (name === 'rotate') {
      const spin: Matrix = [Math.cos(turn), Math.sin(turn), -Math.sin(turn), Math.cos(turn), 0, 0];
      step = n.length >= 3 ? multiply(multiply(translate(n[1], n[2]), spin), translate(-n[1], -n[2])) : spin;
    } else if (name === 'skewX') step = [1, 0, Math.tan(turn), 1, 0, 0];
    else if (name === 'skewY') step = [1, Math.tan(turn), 0, 1, 0, 0];
    else return undefined;
    result = multiply(result, step);
  }
  return result;
}

/** A number as it is written in a file: at most `decimals` digits, no exponent, no minus zero. */
export function printNumber(value: number, decimals = 6): string {
  const rounded = +value.toFixed(decimals);
  return Object.is(rounded, -0) ? '0' : String(rounded);
}

/** A matrix as the shortest of translate, scale or matrix; empty for identity. */
export function printTransform(m: Matrix | undefined): string {
  if (!m) return '';
  const [a, b, c, d, e, f] = m.map((value) => +value.toFixed(6) + 0);
  if (b === 0 && c === 0) {
    if (a === 1 && d === 1) return e === 0 && f === 0 ? '' : `translate(${printNumber(e)} ${printNumber(f)})`;
    if (e === 0 && f === 0) return a === d ? `scale(${printNumber(a)})` : `scale(${printNumber(a)} ${printNumber(d)})`;
  }
  return `matrix(${m.map((value) => printNumber(value, 8)).join(' ')})`;
}
