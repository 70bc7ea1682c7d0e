import { Refusal } from '@tolvik/core';
import { useCallback } from 'react';
import { useNotice } from './notices';

/** Runs an act of core and says in a notice why it was refused, when it was. */
export function useAttempt(): (work: () => void) => void {
  const tell = useNotice();
  return useCallback(
    (work) => {
      try {
        work();
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        tell(`${error.message}.`, { bad: true });
      }
    },
    [tell],
  );
}
