import type { Bounds } from '../geometry/matrix';

/** A line that a dragged box met, to be shown: at `at` on its axis, from `from` to `to` on the other, in px of the plane. */
export type Guide = { axis: 'x' | 'y'; at: number; from: number; to: number };

export type Snapped = { dx: number; dy: number; guides: Guide[] };

/**
 * Lets a moving box meet edges and middles of others. `dx, dy` is how far it was dragged; the answer is the
 * nearest step within `reach` px of it for each axis, else the step rounded to whole px.
 */
export function snapMove(box: Bounds, dx: number, dy: number, others: readonly Bounds[], reach: number): Snapped {
  const x = meet(box, dx, others, reach, 'minX', 'maxX');
  const y = meet(box, dy, others, reach, 'minY', 'maxY');
  const moved: Bounds = {
    minX: box.minX + x.step,
    maxX: box.maxX + x.step,
    minY: box.minY + y.step,
    maxY: box.maxY + y.step,
  };
  const guides: Guide[] = [];
  if (x.met)
    guides.push({ axis: 'x', at: x.at, from: Math.min(moved.minY, x.met.minY), to: Math.max(moved.maxY, x.met.maxY) });
  if (y.met)
    guides.push({ axis: 'y', at: y.at, from: Math.min(moved.minX, y.met.minX), to: Math.max(moved.maxX, y.met.maxX) });
  return { dx: x.step, dy: y.step, guides };
}

function meet(
  box: Bounds,
  by: number,
  others: readonly Bounds[],
  reach: number,
  low: 'minX' | 'minY',
  high: 'maxX' | 'maxY',
) {
  const own = [box[low], (box[low] + box[high]) / 2, box[high]];
  let best = reach;
  let step = Math.round(by);
  let met: Bounds | null = null;
  let at = 0;
  for (const other of others) {
    const lines = [other[low], (other[low] + other[high]) / 2, other[high]];
    for (let l = 0; l < 3; l++) {
      for (let o = 0; o < 3; o++) {
        // Edges meet edges, middles meet middles: anything else is chance.
        if ((l === 1) !== (o === 1)) continue;
        const distance = Math.abs(own[o] + by - lines[l]);
        if (distance >= best) continue;
        best = distance;
        step = lines[l] - own[o];
        met = other;
        at = lines[l];
      }
    }
  }
  return { step, met, at };
}
