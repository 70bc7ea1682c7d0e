import { acts, followersOf, perform, type Slice, slicesKept } from '@tolvik/core';
import { useCallback } from 'react';
import { create } from 'zustand';
import { useOpenSession } from '../project/session/context';
import type { Session } from '../project/session/session';
import { useNotice } from '../ui/notices';
import { benchIntent } from './act';
import { useBench } from './bench-state';

/**
 * Deletes pieces and layers; artboards take what lies on them along when artwork is carried. Undo brings all back.
 * Answers the slices that followed a layer now gone, as they would be with the region they had.
 */
export function removePieces(
  session: Session,
  ids: readonly string[],
  withContents = useBench.getState().carry,
  followers: 'keep' | 'delete' = 'keep',
): Slice[] {
  const { doc } = session;
  const intent = { ...benchIntent(session, ids), carry: withContents };
  const change = perform(doc, acts.remove, intent, { followers });
  const gone = new Set(change.removes);
  const loose = slicesKept(doc, gone)
    .filter(({ slice }) => !gone.has(slice.id))
    .map(({ kept }) => kept);
  session.commit(change);
  session.select([]);
  return loose;
}

/** Deletes, asking first when others follow what goes, and says what became of slices that followed it. */
export function useRemove(): (ids: readonly string[], withContents?: boolean) => void {
  const session = useOpenSession();
  const tell = useNotice();
  return useCallback(
    (ids, withContents) => {
      const followers = followersOf(session.doc, new Set(ids));
      if (followers.length > 0) return useFollowedQuestion.getState().ask({ ids, withContents });
      sayLoose(session, tell, removePieces(session, ids, withContents));
    },
    [session, tell],
  );
}

type Asked = { ids: readonly string[]; withContents?: boolean };

/** What is about to be deleted though others follow it. */
export const useFollowedQuestion = create<{ asked: Asked | null; ask(asked: Asked | null): void }>()((set) => ({
  asked: null,
  ask: (asked) => set({ asked }),
}));

/** Says that slices have nothing to follow any more, and offers to keep their regions. */
export function sayLoose(session: Session, tell: ReturnType<typeof useNotice>, loose: readonly Slice[]): void {
  if (loose.length === 0) return;
  const names = loose.length === 1 ? loose[0].name : `${loose.length} slices`;
  tell(`${names} followed a layer that is gone, so ${loose.length === 1 ? 'it makes' : 'they make'} no files now.`, {
    bad: true,
    action: {
      title: loose.length === 1 ? 'Keep its region' : 'Keep their regions',
      run: () => session.commit({ label: `keep the region of ${names}`, puts: [...loose], removes: [] }),
    },
  });
}
