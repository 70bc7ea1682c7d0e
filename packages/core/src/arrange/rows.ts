import type { ProjectDocument } from '../document/document';
import { ordersAfter } from '../document/order';
import type { Artboard, ProjectRecord } from '../document/records';
import { boundsOf } from '../geometry/matrix';
import { inReadingOrder } from '../geometry/reading-order';
import { moveArtboards } from './move';

/** How much wider than high rows of artboards are altogether. */
export const ROWS_RATIO = 1.6;
/** The least px between artboards. */
export const LEAST_GAP = 16;

/** Px between artboards whose tickets need room below them. */
export const roomFor = (height: number): number => Math.max(LEAST_GAP, Math.round(height / 4 / 8) * 8);

export type RowsOptions = {
  columns: number;
  gapPx: number;
  by: 'number' | 'name' | 'size' | 'place';
  /** Whether their order in the project follows the rows too. */
  renumber: boolean;
};

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** Artboards in the order in which rows are filled. */
export function inOrder(artboards: readonly Artboard[], by: RowsOptions['by']): Artboard[] {
  const list = [...artboards];
  if (by === 'name') return list.sort((a, b) => collator.compare(a.name, b.name));
  if (by === 'size')
    return list.sort((a, b) => a.width * a.height - b.width * b.height || collator.compare(a.name, b.name));
  if (by === 'place') return inReadingOrder(list, boundsOf);
  return list;
}

/**
 * Where each artboard goes: rows of `columns`, each column as wide as its widest, each row as high as
 * its highest, from the upper left corner of all on whole px. Never do two overlap.
 */
export function rowPlaces(
  artboards: readonly Artboard[],
  { columns, gapPx }: Pick<RowsOptions, 'columns' | 'gapPx'>,
): { x: number; y: number }[] {
  if (artboards.length === 0) return [];
  const left = Math.floor(Math.min(...artboards.map((artboard) => artboard.x)));
  const top = Math.floor(Math.min(...artboards.map((artboard) => artboard.y)));
  const widths: number[] = [];
  const heights: number[] = [];
  artboards.forEach(({ width, height }, i) => {
    widths[i % columns] = Math.max(widths[i % columns] ?? 0, Math.ceil(width));
    heights[Math.floor(i / columns)] = Math.max(heights[Math.floor(i / columns)] ?? 0, Math.ceil(height));
  });
  const starts = (lengths: number[], from: number) =>
    lengths.map((_, i) => from + lengths.slice(0, i).reduce((sum, length) => sum + length + gapPx, 0));
  const xs = starts(widths, left);
  const ys = starts(heights, top);
  return artboards.map((_, i) => ({ x: xs[i % columns], y: ys[Math.floor(i / columns)] }));
}

/** Places moved down together until none of the artboards meets one that is not among them. */
function clearOf(
  doc: ProjectDocument,
  artboards: readonly Artboard[],
  places: readonly { x: number; y: number }[],
  gapPx: number,
): { x: number; y: number }[] {
  const chosen = new Set(artboards.map(({ id }) => id));
  const others = doc.list('artboard').filter(({ id }) => !chosen.has(id));
  let down = 0;
  const met = (i: number) => {
    const { width, height } = artboards[i];
    const { x, y } = places[i];
    return others.find(
      (other) =>
        other.x < x + width + gapPx &&
        other.x + other.width + gapPx > x &&
        other.y < y + down + height + gapPx &&
        other.y + other.height + gapPx > y + down,
    );
  };
  for (;;) {
    let below = down;
    places.forEach(({ y }, i) => {
      const other = met(i);
      if (other) below = Math.max(below, Math.ceil(other.y + other.height + gapPx - y));
    });
    if (below === down) break;
    down = below;
  }
  return places.map(({ x, y }) => ({ x, y: y + down }));
}

/** Lays artboards out in rows, with what lies on them, where no other artboard is. */
export function layOutInRows(
  doc: ProjectDocument,
  artboards: readonly Artboard[],
  options: RowsOptions,
): ProjectRecord[] {
  const sorted = inOrder(artboards, options.by);
  const places = clearOf(doc, sorted, rowPlaces(sorted, options), options.gapPx);
  const puts = new Map<string, ProjectRecord>();
  sorted.forEach((artboard, i) => {
    const { x, y } = places[i];
    if (x === artboard.x && y === artboard.y) return;
    for (const record of moveArtboards(doc, [artboard], x - artboard.x, y - artboard.y, true))
      if (!puts.has(record.id)) puts.set(record.id, record);
  });
  if (options.renumber) {
    // The chosen ones take the places in the order that they have among all.
    const chosen = new Set(artboards.map((artboard) => artboard.id));
    let next = 0;
    const all = doc.list('artboard').map((artboard) => (chosen.has(artboard.id) ? sorted[next++] : artboard));
    const orders = ordersAfter(null, all.length);
    all.forEach((artboard, i) => {
      const known = (puts.get(artboard.id) as Artboard | undefined) ?? artboard;
      if (known.order !== orders[i]) puts.set(artboard.id, { ...known, order: orders[i] });
    });
  }
  return [...puts.values()];
}
