import { type Artboard, type Meetings, sourcesOf } from '@tolvik/core';
import { useEffect, useState } from 'react';
import { usePainter } from '../../painter/use-painter';
import { useSession } from '../../project/session/context';

/** Where the colours of the artwork meet: by the artboards that have it, and told for any that shows it. */
export type Measured = { bySource: Record<string, Meetings>; of(artboard: Artboard): Meetings };

/** Where the colours of the artwork meet that artboards show; null until it is measured. */
export function useMeetings(artboards: readonly Artboard[]): Measured | null {
  const { doc } = useSession();
  const painter = usePainter();
  const [known, setKnown] = useState<ReadonlyMap<string, Meetings> | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: measured once, for what a sheet was opened with
  useEffect(() => {
    let live = true;
    const ids = [...new Set(artboards.flatMap((artboard) => sourcesOf(doc, artboard).map(({ id }) => id)))];
    const look = async (id: string) => [id, (await painter.meetings(id)) ?? []] as const;
    void Promise.all(ids.map(look)).then((all) => live && setKnown(new Map(all)));
    return () => {
      live = false;
    };
  }, []);
  return (
    known && {
      bySource: Object.fromEntries(known),
      of: (artboard) => sourcesOf(doc, artboard).flatMap(({ id }) => known.get(id) ?? []),
    }
  );
}
