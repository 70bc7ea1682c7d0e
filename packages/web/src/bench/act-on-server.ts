import type { AnyAct, Change } from '@tolvik/core';
import { useCallback } from 'react';
import { ApiError, request } from '../api/client';
import { refusedInWords } from '../project/session/act';
import { useOpenSession } from '../project/session/context';
import { useNotice } from '../ui/notices';

type Answer = { version: number; change: Change | null; selected: string[] };

/**
 * Has the server do an act to what is selected: one that needs the geometry kernel, or takes too long for the page's own
 * thread. One undo takes it back.
 */
export function useActOnServer(): (act: Pick<AnyAct, 'name'>, settings?: Record<string, unknown>) => void {
  const session = useOpenSession();
  const tell = useNotice();
  return useCallback(
    async ({ name }, settings) => {
      const ids = [...session.selection];
      // It acts on what is there, so what was done before has to be.
      if (!(await session.whenSaved())) return tell('This waits until everything is saved.', { bad: true });
      try {
        await session.comesOf(async () => {
          const path = `/projects/${session.id}/acts/${name}`;
          const answer = await request<Answer>(path, { method: 'POST', json: { ids, settings } });
          await session.takeIn(answer);
          if (answer.selected.length > 0) session.select(answer.selected);
        });
      } catch (error) {
        if (!(error instanceof ApiError)) return tell((error as Error).message, { bad: true });
        const [words, isTrouble] = refusedInWords(error.problem);
        tell(words, { bad: isTrouble });
      }
    },
    [session, tell],
  );
}
