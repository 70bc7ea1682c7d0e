import { extremes } from './path-geometry';
import { cubic, type PathStep } from './path-steps';

/** A place where a curve turns back across an axis (0 is x), and its ends there. */
export type Turn = { axis: 0 | 1; at: number; from: number; to: number };

type Point = readonly [number, number];

const between = (one: Point, other: Point, t: number): Point => [
  one[0] + (other[0] - one[0]) * t,
  one[1] + (other[1] - one[1]) * t,
];

/** A cubic divided at t (de Casteljau), as the points after its start. */
function dividedAt(from: Point, n: readonly number[], t: number): [first: number[], rest: number[]] {
  const [one, two, end]: Point[] = [
    [n[0], n[1]],
    [n[2], n[3]],
    [n[4], n[5]],
  ];
  const [ab, bc, cd] = [between(from, one, t), between(one, two, t), between(two, end, t)];
  const [abc, bcd] = [between(ab, bc, t), between(bc, cd, t)];
  const split = between(abc, bcd, t);
  return [
    [...ab, ...abc, ...split],
    [...bcd, ...cd, ...end],
  ];
}

/** Steps with each curve replaced, told where it starts. */
function eachCurve(
  steps: readonly PathStep[],
  replaced: (from: Point, n: readonly number[]) => PathStep[],
): PathStep[] {
  let here: Point = [0, 0];
  let start: Point = here;
  return steps.flatMap(({ op, n }) => {
    const from = here;
    here = op === 'Z' ? start : [n[n.length - 2], n[n.length - 1]];
    if (op === 'M') start = here;
    return op === 'C' ? replaced(from, n) : [{ op, n }];
  });
}

/** Absolute steps with curves divided where they turn back across an axis, as far as `divides` says so. They draw the same. */
export function splitAtExtremes(steps: readonly PathStep[], divides: (turn: Turn) => boolean): PathStep[] {
  return eachCurve(steps, (from, n) => {
    const turns = ([0, 1] as const).flatMap((axis) =>
      extremes(from[axis], n[axis], n[2 + axis], n[4 + axis])
        .filter((t) => t > 1e-3 && t < 1 - 1e-3)
        .filter((t) =>
          divides({
            axis,
            at: cubic(from[axis], n[axis], n[2 + axis], n[4 + axis], t),
            from: from[axis],
            to: n[4 + axis],
          }),
        ),
    );
    const parts: PathStep[] = [];
    let [start, rest, done] = [from, [...n], 0];
    for (const t of turns.sort((a, b) => a - b)) {
      const [first, after] = dividedAt(start, rest, (t - done) / (1 - done));
      parts.push({ op: 'C', n: first });
      [start, rest, done] = [[first[4], first[5]], after, t];
    }
    return [...parts, { op: 'C', n: rest }];
  });
}

/** Every curve as two that draw the same. */
export const halvedCurves = (steps: readonly PathStep[]): PathStep[] =>
  eachCurve(steps, (from, n) => dividedAt(from, n, 0.5).map((half) => ({ op: 'C', n: half })));
