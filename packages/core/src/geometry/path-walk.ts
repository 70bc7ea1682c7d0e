import { type PathStep, stepsOf } from './path-steps';

/** A place on a path: its point in px, and the way the path goes there in radians. */
export type OnPath = { x: number; y: number; angle: number };

export type PathWalk = {
  /** In px, all parts of the path together; gaps between parts count nothing (SVG 2 §9.6.2). */
  length: number;
  /** The place so many px from the start; null off the ends. */
  at(distance: number): OnPath | null;
};

/** Straight pieces that a curve is taken for. */
const PIECES = 64;

/** A path as a way to go along; a walk of length 0 when it has no points. */
export function pathWalk(d: string): PathWalk {
  const corners: { x: number; y: number; far: number; begins: boolean }[] = [];
  let far = 0;
  let [startX, startY] = [0, 0];
  const to = (x: number, y: number) => {
    const last = corners.at(-1);
    if (!last) return;
    const step = Math.hypot(x - last.x, y - last.y);
    if (step > 0) corners.push({ x, y, far: (far += step), begins: false });
  };
  for (const { op, n } of stepsOf({ tag: 'path', attrs: { d } })) {
    if (op === 'M') {
      [startX, startY] = n;
      corners.push({ x: startX, y: startY, far, begins: true });
    } else if (op === 'L') to(n[0], n[1]);
    else if (op === 'Z') to(startX, startY);
    else alongCurve(corners.at(-1) ?? { x: 0, y: 0 }, n, to);
  }
  const at = (distance: number): OnPath | null => {
    if (!(distance >= 0) || distance > far) return null;
    let [low, high] = [1, corners.length - 1];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (corners[middle].far < distance) low = middle + 1;
      else high = middle;
    }
    while (low < corners.length && corners[low].begins) low++;
    const [one, other] = [corners[low - 1], corners[low]];
    if (!one || !other) return null;
    const share = (distance - one.far) / (other.far - one.far);
    return {
      x: one.x + (other.x - one.x) * share,
      y: one.y + (other.y - one.y) * share,
      angle: Math.atan2(other.y - one.y, other.x - one.x),
    };
  };
  return { length: far, at };
}

function alongCurve({ x, y }: { x: number; y: number }, n: PathStep['n'], to: (x: number, y: number) => void): void {
  for (let i = 1; i <= PIECES; i++) {
    const t = i / PIECES;
    const u = 1 - t;
    const at = (p0: number, p1: number, p2: number, p3: number) =>
      u * u * u * p0 + 3 * u * u * t * p1 + 3 * u * t * t * p2 + t * t * t * p3;
    to(at(x, n[0], n[2], n[4]), at(y, n[1], n[3], n[5]));
  }
}

/** The same way gone from its end. */
export const backwards = (walk: PathWalk): PathWalk => ({
  length: walk.length,
  at: (distance) => {
    const place = walk.at(walk.length - distance);
    return place && { ...place, angle: place.angle + Math.PI };
  },
});
