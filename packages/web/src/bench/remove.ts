import {
  followersOf,
  layersOn,
  type ProjectRecord,
  removeLayers,
  type Slice,
  slicesKept,
  withDescendants,
} from '@tolvik/core';
import { useCallback } from 'react';
import { create } from 'zustand';
import { useOpenSession } from '../project/context';
import type { Session } from '../project/session';
import { useNotice } from '../ui/notices';
import { useBench } from './bench-state';

/**
 * Deletes pieces and layers; artboards take what lies on them along when artwork is carried. Undo brings all back.
 * Answers the slices that followed a layer now gone, as they would be with the region they had.
 */
export function removePieces(
  session: Session,
  ids: readonly string[],
  withContents = useBench.getState().carry,
  puts: readonly ProjectRecord[] = [],
): Slice[] {
  const { doc } = session;
  const removes = new Set<string>(removeLayers(doc, ids));
  let count = ids.filter((id) => doc.find('layer', id)).length;
  let name = doc.find('layer', ids[0])?.name || 'a layer';
  for (const id of ids) {
    const record = doc.find('artboard', id) ?? doc.find('slice', id) ?? doc.find('edition', id);
    if (!record) continue;
    count++;
    name = record.name;
    removes.add(id);
    if (record.kind !== 'artboard') continue;
    for (const edition of doc.list('edition')) if (edition.artboardId === id) removes.add(edition.id);
    if (withContents && !record.follows)
      for (const layer of layersOn(doc, record)) for (const inner of withDescendants(doc, layer.id)) removes.add(inner);
  }
  const loose = slicesKept(doc, removes)
    .filter(({ slice }) => !removes.has(slice.id))
    .map(({ kept }) => kept);
  session.commit({ label: count === 1 ? `delete ${name}` : `delete ${count}`, puts: [...puts], removes: [...removes] });
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
  tell(`${names} followed a layer that is gone, so nothing comes of ${loose.length === 1 ? 'it' : 'them'} now.`, {
    bad: true,
    action: {
      title: loose.length === 1 ? 'Keep its region' : 'Keep their regions',
      run: () => session.commit({ label: `keep the region of ${names}`, puts: [...loose], removes: [] }),
    },
  });
}
