import {
  acts,
  FORMATS,
  type Output,
  type OutputSettings,
  outputTitle,
  type PlannedFile,
  type PlannedPage,
} from '@tolvik/core';
import { useMemo, useState } from 'react';
import { differenceWords } from '../../pictures/difference';
import { doAct, plainIntent } from '../../project/session/act';
import { planOf, useSession } from '../../project/session/context';
import { lighter, MOST_PANES, type Pane, paneTitle } from './panes';
import { useComparedPictures } from './use-pictures';

/** The files that stand beside each other: those of one piece, or one of them with settings that are tried. */
export function useComparison(pieceId: string, outputId: string) {
  const session = useSession();
  const plan = planOf(session);
  const [more, setMore] = useState<readonly Pane[]>([]);
  const ofPiece = useMemo(
    () =>
      new Map<string, PlannedFile | PlannedPage>(
        [...plan.files.filter((file) => !file.pages), ...plan.pages]
          .filter((file) => file.pieceId === pieceId)
          .map((file) => [file.outputId, file]),
      ),
    [plan, pieceId],
  );
  const own = ofPiece.get(outputId);
  const pages =
    own && 'page' in own ? plan.files.find((file) => file.outputId === outputId && file.pages)?.pages : undefined;
  /** Another page than that of the piece, from 1. */
  const [turned, setTurned] = useState<number | null>(null);
  const other = pages?.find(({ page, sheet }) => sheet && page === turned && page !== (own as PlannedPage).page);
  const file = other ?? own;
  const panes: Pane[] = [{ outputId }, ...more.filter((pane) => !other && ofPiece.has(pane.outputId))];
  const fileOf = (pane: Pane) => other ?? ofPiece.get(pane.outputId) ?? file;
  const outputOf = (pane: Pane) => session.doc.find('output', pane.outputId) as Output;
  const compared = useComparedPictures(
    pieceId,
    panes,
    (pane) => !FORMATS[fileOf(pane)?.format ?? 'png'].shown,
    file,
    other?.page,
  );
  const last = panes[panes.length - 1];
  const nextTrial =
    file && !other && panes.length < MOST_PANES ? lighter(last.settings ?? outputOf(last).settings) : null;

  return {
    piece: plan.pieces.find((each) => each.id === pieceId),
    file,
    panes,
    compared,
    fileOf,
    outputOf,
    /** Whether the file can be tried with other settings beside it. */
    canTry: !!file && !other && panes.length < MOST_PANES && lighter(outputOf(panes[0]).settings) !== null,
    /** Outputs of the piece that could stand beside. */
    others:
      panes.length < MOST_PANES && !other
        ? plan.outputs.filter(
            ({ id }) => ofPiece.has(id) && !panes.some((pane) => pane.outputId === id && !pane.settings),
          )
        : [],
    title(pane: Pane): string {
      const shown = fileOf(pane);
      const output = outputOf(pane);
      if (shown && (pane.settings || panes.every((each) => each.outputId === outputId)))
        return paneTitle(output, shown, pane.settings);
      return outputTitle(output);
    },
    /** What is said beside the title of a pane. */
    note(i: number): string {
      if (i === 0) return panes.length > 1 ? 'as it is' : '';
      const { difference } = compared[i];
      return difference ? differenceWords(difference) : '';
    },
    addTrial: () => nextTrial && setMore([...more, { outputId: last.outputId, settings: nextTrial }]),
    addOutput: (id: string) => setMore([...more, { outputId: id }]),
    change: (i: number, settings: OutputSettings) =>
      setMore(more.map((pane, n) => (n === i - 1 ? { ...pane, settings } : pane))),
    drop: (i: number) => setMore(more.filter((_, n) => n !== i - 1)),
    /** Of a sheet: which page it is of how many, and how to turn to another, which may show no piece. */
    pages:
      own && 'sheet' in own && pages && pages.length > 1 && file && 'page' in file
        ? { at: file.page, of: pages.length }
        : null,
    turn: (by: number) => {
      if (!pages || !file || !('page' in file)) return;
      setMore([]);
      setTurned(Math.min(pages.length, Math.max(1, file.page + by)));
    },
    clear: () => {
      setMore([]);
      setTurned(null);
    },
    /** Gives the output the settings that a pane tries. */
    use(pane: Pane) {
      if (!pane.settings || !file) return;
      const { id } = outputOf(pane);
      doAct(session, acts.setOutput, plainIntent([]), { outputId: id, settings: pane.settings });
      setMore([]);
    },
  };
}

export type Compared = ReturnType<typeof useComparison>;
