import type { Bounds } from './matrix';

/**
 * Things in the order in which a page is read: row after row from the top, each from the left. Two stand in one row when
 * they overlap by half of the lower one's height, so that a row need not stand on one line. Those without a box, and
 * those at one place, keep their order; the former come last.
 */
export function inReadingOrder<T>(items: readonly T[], boxOf: (item: T) => Bounds | null): T[] {
  const boxed = items.flatMap((item) => {
    const box = boxOf(item);
    return box ? [{ item, box }] : [];
  });
  const rows: { minY: number; maxY: number; inRow: typeof boxed }[] = [];
  for (const each of boxed.toSorted((a, b) => a.box.minY - b.box.minY)) {
    const { minY, maxY } = each.box;
    const row = rows.find((one) => {
      const shared = Math.min(maxY, one.maxY) - Math.max(minY, one.minY);
      return shared >= 0.5 * Math.min(maxY - minY, one.maxY - one.minY);
    });
    // The first in a row, which is its highest, says what the row is: one that steps down slowly does not grow for ever.
    if (row) row.inRow.push(each);
    else rows.push({ minY, maxY, inRow: [each] });
  }
  return [
    ...rows
      .toSorted((a, b) => a.minY - b.minY)
      .flatMap(({ inRow }) => inRow.toSorted((a, b) => a.box.minX - b.box.minX).map(({ item }) => item)),
    ...items.filter((item) => boxOf(item) === null),
  ];
}
