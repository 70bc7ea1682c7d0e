import { artboardsNamed, type Change, nameFromFile, oneSizeFor, type ReplaceReport } from '@tolvik/core';
import { useCallback, useContext } from 'react';
import { create } from 'zustand';
import { uploadLines } from '../../api/client';
import type { BringInAnswer } from '../../api/types';
import { useNotice } from '../../ui/notices';
import { fetched } from '../../ui/part';
import { SessionContext } from '../session/context';
import type { Session } from '../session/session';
import { keepArrival, showArrivals } from './arrivals';
import { reportWords } from './report-words';

export type BringInAs = 'artboards' | 'artwork' | 'replace';
export type BringInOptions = {
  as?: BringInAs;
  at?: { x: number; y: number };
  /** Layers that would be gone, with the place of the new layer that takes over; said once it was asked. */
  attach?: Readonly<Record<string, number>>;
  /** Of replaced artboards: that of the file, or their own. */
  size?: ReplaceSize;
};
export type ReplaceSize = 'new' | 'kept';

type BringingIn = {
  /** What is under way: files read so far, of how many; `of` is 0 while they are sent. */
  progress: { done: number; of: number; stop(): void } | null;
  /** Files that have the names of artboards here, waiting for a word whether they replace their artwork. */
  asked: { files: readonly File[]; names: readonly string[] } | null;
  /** What would come loose by replacing artwork, waiting for a word. */
  settling: { files: readonly File[]; asks: readonly ReplaceReport[]; size: ReplaceSize } | null;
};

export const useBringingIn = create<BringingIn>(() => ({ progress: null, asked: null, settling: null }));

type Line = { read: number; of: number } | BringInAnswer;

/** Sends files to be brought in; what came is selected, and one undo takes it back. */
export function useBringIn(): {
  bringIn(files: readonly File[], options?: BringInOptions): Promise<void>;
  busy: boolean;
} {
  const session = useContext(SessionContext) as Session;
  const tell = useNotice();
  const busy = useBringingIn(({ progress }) => progress !== null);
  const bringIn = useCallback(
    async (files: readonly File[], { as, at = { x: 0, y: 0 }, attach, size = 'new' }: BringInOptions = {}) => {
      if (files.length === 0) return;
      if (useBringingIn.getState().progress)
        return tell('Other files are being brought in; these can follow when they are done.', { bad: true });
      if (!as) {
        const known = artboardsNamed(
          session.doc,
          files.map((file) => nameFromFile(file.name)),
        );
        if (known.length > 0)
          return useBringingIn.setState({ asked: { files, names: known.map((artboard) => artboard.name) } });
      }
      const control = new AbortController();
      const progress = (done: number, of: number) =>
        useBringingIn.setState({ progress: { done, of, stop: () => control.abort() } });
      progress(0, 0);
      try {
        const query = new URLSearchParams({
          as: as ?? 'artboards',
          x: String(Math.round(at.x)),
          y: String(Math.round(at.y)),
          size,
          ...(attach
            ? {
                attach: Object.entries(attach)
                  .map(([id, place]) => `${id}:${place}`)
                  .join(','),
              }
            : { ask: '1' }),
        });
        const { change, report, asks } = await session.comesOf(async () => {
          const answer = (await uploadLines<Line>(
            `/projects/${session.id}/bring-in?${query}`,
            files,
            control.signal,
            (line) => 'read' in line && progress(line.read, line.of),
          )) as BringInAnswer;
          if (!answer.asks) await session.takeIn(answer);
          return answer;
        });
        if (asks) return useBringingIn.setState({ settling: { files, asks, size } });
        if (change) {
          const boards = change.puts.filter((record) => record.kind === 'artboard');
          const tops = change.puts.filter((record) => record.kind === 'layer' && record.parentId === 'root');
          const replaced =
            as === 'replace'
              ? artboardsNamed(
                  session.doc,
                  files.map((file) => nameFromFile(file.name)),
                )
              : [];
          const came = [...replaced, ...boards];
          session.select((came.length > 0 ? came : tops).map((record) => record.id));
        }
        await keepArrival(session.id, report);
        const { words, bad, more } = reportWords(report);
        const action = more ? { title: 'Each file…', run: () => showArrivals(true) } : oneSize(session, change);
        tell(words, { bad, action });
      } catch (error) {
        tell(control.signal.aborted ? 'Stopped: nothing was brought in.' : (error as Error).message, {
          bad: !control.signal.aborted,
        });
      } finally {
        useBringingIn.setState({ progress: null });
      }
    },
    [session, tell],
  );
  return { bringIn, busy };
}

/** What is offered where artboards of very different sizes came in: all of the size that most have. */
function oneSize(session: Session, change: Pick<Change, 'puts'> | null) {
  const boards = (change?.puts ?? []).filter((record) => record.kind === 'artboard');
  const longestPx = oneSizeFor(boards);
  if (longestPx === null) return undefined;
  const ids = boards.map(({ id }) => id);
  return {
    title: `Bring all to ${+longestPx.toFixed(2)} px`,
    // What it takes to measure artwork is not part of every stage.
    run: () =>
      void session.comesOf(async () => {
        const { toOneSize } = await fetched(() => import('./to-one-size'));
        return toOneSize(session, ids, longestPx);
      }),
  };
}
