import Flatbush from 'flatbush';
import { type Bounds, touches, unite } from './matrix';

/** Fewer are looked through faster than they are put in an index. */
const WORTH_AN_INDEX = 64;

/**
 * Things that have a place, found by a box in the order in which they stand. The index is made when it is first asked,
 * as an R-tree packed along a Hilbert curve; what is found takes time with its number, not with that of all.
 */
export class Located<T> {
  private readonly boxes: readonly Bounds[];
  private readonly around: Bounds | null;
  private index: Flatbush | undefined;
  private positions: ReadonlyMap<T, number> | undefined;

  constructor(
    readonly all: readonly T[],
    boxOf: (each: T) => Bounds,
  ) {
    this.boxes = all.map(boxOf);
    this.around = this.boxes.reduce<Bounds | null>(unite, null);
  }

  /** Those whose boxes touch a box, and those that are asked for wherever they are, in their order. */
  in(box: Bounds, also: ReadonlySet<T> = new Set()): readonly T[] {
    const { all, boxes, around } = this;
    if (around && holds(box, around)) return all;
    if (all.length < WORTH_AN_INDEX) return all.filter((each, i) => touches(boxes[i], box) || also.has(each));
    this.index ??= indexOf(boxes);
    const found = this.index.search(box.minX, box.minY, box.maxX, box.maxY);
    if (also.size > 0) {
      this.positions ??= new Map(all.map((each, i) => [each, i]));
      for (const each of also) {
        const i = this.positions.get(each);
        if (i !== undefined && !touches(boxes[i], box)) found.push(i);
      }
    }
    return found.sort((a, b) => a - b).map((i) => all[i]);
  }
}

const holds = (outer: Bounds, inner: Bounds): boolean =>
  outer.minX <= inner.minX && outer.minY <= inner.minY && outer.maxX >= inner.maxX && outer.maxY >= inner.maxY;

function indexOf(boxes: readonly Bounds[]): Flatbush {
  const index = new Flatbush(boxes.length);
  for (const { minX, minY, maxX, maxY } of boxes) index.add(minX, minY, maxX, maxY);
  index.finish();
  return index;
}
