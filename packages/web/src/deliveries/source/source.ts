import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { LinkedSource, SourcesAnswer } from '@tolvik/core';
import { useCallback, useEffect } from 'react';
import { request } from '../../api/client';
import { askAnew } from '../../project/files/ask-anew';
import { useOpenSession, useSessionPart } from '../../project/session/context';
import { useNotice } from '../../ui/notices';
import { count, when } from '../../ui/words';

/** The folders that feed the open project; asked for again when one was read. */
export function useSources() {
  const { id } = useOpenSession();
  const told = useSessionPart('sourceTold');
  const queries = useQueryClient();
  const { data } = useQuery({
    queryKey: ['sources', id],
    queryFn: () => request<SourcesAnswer>(`/projects/${id}/sources`),
    refetchOnMount: 'always',
  });
  useEffect(() => {
    if (told > 0) void askAnew(queries, ['sources', id]);
  }, [told, queries, id]);
  return data;
}

/** Links a folder to the open project, or changes one that is; what is wrong is told, and answered by false. */
export function useChangeSource(
  sourceId?: string,
): (
  how: { method: 'POST' | 'PATCH' | 'DELETE'; json?: unknown },
  onTrouble?: (words: string) => void,
) => Promise<boolean> {
  const { id } = useOpenSession();
  const queries = useQueryClient();
  const tell = useNotice();
  return useCallback(
    async (how, onTrouble) => {
      try {
        await request(sourceId ? `/sources/${sourceId}` : `/projects/${id}/sources`, how);
        return true;
      } catch (error) {
        const { message } = error as Error;
        if (onTrouble) onTrouble(message);
        else tell(message, { bad: true });
        return false;
      } finally {
        await queries.invalidateQueries({ queryKey: ['sources', id] });
      }
    },
    [id, sourceId, queries, tell],
  );
}

export const sourcePlace = ({ root, folder }: Pick<LinkedSource, 'root' | 'folder'>): string =>
  folder ? `${root}/${folder}` : root;

/** How a source stands, in words. */
export function sourceWords({ on, standing, trouble }: LinkedSource): {
  words: string;
  tone: 'good' | 'plain' | 'warn' | 'bad';
} {
  if (!on) return { words: 'not read for now', tone: 'plain' };
  if (trouble) return { words: `! ${trouble}`, tone: 'bad' };
  if (!standing) return { words: 'being read', tone: 'plain' };
  const { files, at, gone, refused } = standing;
  const notes = [
    refused.length > 0 && `${refused.length} could not be read`,
    gone.length > 0 && `${gone.length} ${gone.length === 1 ? 'is' : 'are'} gone`,
  ].filter(Boolean);
  const words = [`${count(files, 'drawing')}, read ${when(at)}`, ...notes].join('; ');
  return { words, tone: notes.length > 0 ? 'warn' : 'good' };
}
