import type { Layer } from '@tolvik/core';
import { useCallback } from 'react';
import { usePainter } from '../painter/use-painter';
import { useOpenSession } from '../project/session/context';
import { useNotice } from '../ui/notices';

/** Turns texts into paths; the painter has the fonts, so it does the work. */
export function useOutlineText(): (layers: readonly Layer[]) => void {
  const session = useOpenSession();
  const painter = usePainter();
  const tell = useNotice();
  return useCallback(
    (layers) => {
      const ids = layers.filter((layer) => layer.tag === 'text').map((layer) => layer.id);
      session.comesOf(() =>
        painter.outlines(ids).then(
          ({ change, missing }) => {
            session.commit(change);
            if (missing.length > 0)
              tell(`${missing.join(', ')} is missing: another font was used instead.`, { bad: true });
          },
          (error: Error) => tell(error.message, { bad: true }),
        ),
      );
    },
    [session, painter, tell],
  );
}
