import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { KeptSpec, SpecFile } from '@tolvik/core';
import { request } from '../api/client';
import { useNotice } from '../ui/notices';
import { fileName, saveJson } from '../ui/save-file';

export type { KeptSpec };

const KEY = ['kept specs'];

/** Specs that are kept for all projects. */
export function useKeptSpecs(): {
  kept: readonly KeptSpec[];
  keep(file: SpecFile): void;
  drop(id: string): void;
  /** Has new projects begin with it, or no longer. */
  begin(spec: KeptSpec, isFirst: boolean): void;
} {
  const queries = useQueryClient();
  const tell = useNotice();
  const { data } = useQuery({ queryKey: KEY, queryFn: () => request<{ specs: KeptSpec[] }>('/specs') });
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
    begin: ({ id, name }, isFirst) =>
      then(
        request(`/specs/${id}`, { method: 'PATCH', json: { isFirst } }),
        isFirst ? `New projects begin with ${name}.` : 'New projects begin with the ready-made spec for the web.',
      ),
    drop: (id) =>
      then(request(`/specs/${id}`, { method: 'DELETE' }), 'It is no longer kept; projects that have it keep theirs.'),
  };
}

/** Hands a spec over as a JSON file. */
export const saveSpec = (file: SpecFile): void => saveJson(`${fileName(file.spec.name, 'spec')}.json`, file);
