import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { SpecFile } from '@tolvik/core';
import { request } from '../api/client';
import { useNotice } from '../ui/notices';
import { fileName, saveJson } from '../ui/save-file';

type Kept = { id: string; name: string; body: SpecFile };

const KEY = ['kept specs'];

/** Specs that are kept for all projects. */
export function useKeptSpecs(): { kept: readonly Kept[]; keep(file: SpecFile): void; drop(id: string): void } {
  const queries = useQueryClient();
  const tell = useNotice();
  const { data } = useQuery({ queryKey: KEY, queryFn: () => request<{ specs: Kept[] }>('/specs') });
  const then = (work: Promise<unknown>, words: string) =>
    void work.then(
      () => {
        void queries.invalidateQueries({ queryKey: KEY });
        tell(words);
      },
      (error: Error) => tell(error.message, { bad: true }),
    );
  return {
    kept: data?.specs ?? [],
    keep: (file) =>
      then(request('/specs', { method: 'POST', json: file }), `${file.spec.name} is kept for all projects.`),
    drop: (id) =>
      then(request(`/specs/${id}`, { method: 'DELETE' }), 'It is kept no longer; projects that have it keep theirs.'),
  };
}

/** Hands a spec over as a JSON file. */
export const saveSpec = (file: SpecFile): void => saveJson(`${fileName(file.spec.name, 'spec')}.json`, file);
