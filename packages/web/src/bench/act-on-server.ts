import type { AnyAct, Change } from '@tolvik/core';
import { useCallback } from 'react';
import { request } from '../api/client';
import { useOpenSession } from '../project/session/context';
import { useNotice } from '../ui/notices';

type Answer = { version: number; change: Change | null; selected: string[] };

/** Has the server do an act to what is selected, where it has what the act needs: the geometry kernel. One undo takes it back. */
export function useActOnServer(): (act: AnyAct) => void {
  const session = useOpenSession();
  const tell = useNotice();
  return useCallback(
    async ({ name }) => {
      const ids = [...session.selection];
      // It acts on what is there, so what was done before has to be.
      if (!(await session.whenSaved())) return tell('This waits until everything is saved.', { bad: true });
      try {
        await session.comesOf(async () => {
          const path = `/projects/${session.id}/acts/${name}`;
          const answer = await request<Answer>(path, { method: 'POST', json: { ids } });
          await session.takeIn(answer);
          if (answer.selected.length > 0) session.select(answer.selected);
        });
      } catch (error) {
        tell((error as Error).message, { bad: true });
      }
    },
    [session, tell],
  );
}
