import { useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { useNavigate } from 'react-router';
import { request } from '../../api/client';
import type { Delivery } from '../../api/types';
import { useNotice } from '../../ui/notices';
import { useOpenSession } from '../session/context';

/** What is exported: all pieces, or these; through all outputs, or these. */
export type Exported = { pieceIds?: readonly string[]; outputIds?: readonly string[] };

/** Begins an export, of everything or of some pieces and outputs, and goes where it can be watched. */
export function useExport(): (chosen?: Exported) => Promise<void> {
  const session = useOpenSession();
  const { id } = session;
  const queries = useQueryClient();
  const navigate = useNavigate();
  const tell = useNotice();
  return useCallback(
    async (chosen = {}) => {
      try {
        // What was changed a moment ago is part of the export.
        if (!(await session.whenSaved())) return tell('The export waits until everything is saved.', { bad: true });
        const begun = await request<Delivery>(`/projects/${id}/deliveries`, { method: 'POST', json: chosen });
        void queries.invalidateQueries({ queryKey: ['deliveries', id] });
        navigate(`/projects/${id}/deliveries/${begun.id}`);
      } catch (error) {
        tell((error as Error).message, { bad: true });
      }
    },
    [session, id, queries, navigate, tell],
  );
}
