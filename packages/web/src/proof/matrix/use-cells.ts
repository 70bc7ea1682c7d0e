import { cellKey, type PlannedFile, type PlannedPage, pagesByPiece } from '@tolvik/core';
import { useMemo } from 'react';
import { planOf, useMade, useSession } from '../../project/session/context';

export type Cells = ReadonlyMap<string, PlannedFile | PlannedPage>;
/** What the files of an output weigh together in bytes, so far as it is `known`, and how many there are. */
export type Total = { bytes: number; known: boolean; count: number };

/** What each cell makes, pages of one PDF too, by its `cellKey`; and what each output makes in all, by its id. */
export function useCells(): { planned: Cells; totals: ReadonlyMap<string, Total> } {
  const plan = planOf(useSession());
  const { files: made, whole } = useMade();
  return useMemo(() => {
    const byCell = new Map<string, PlannedFile | PlannedPage>();
    const sums = new Map<string, Total>();
    for (const file of plan.files) {
      const key = cellKey(file.pieceId, file.outputId);
      byCell.set(key, file);
      for (const page of pagesByPiece(file)) byCell.set(cellKey(page.pieceId, page.outputId), page);
      const sum = sums.get(file.outputId) ?? { bytes: 0, known: true, count: 0 };
      const bytes = (file.pages ? whole.get(file.outputId) : made.get(key))?.bytes;
      sums.set(file.outputId, {
        bytes: sum.bytes + (bytes ?? 0),
        known: sum.known && bytes != null,
        count: sum.count + 1,
      });
    }
    return { planned: byCell, totals: sums };
  }, [plan, made, whole]);
}
