import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { request, upload } from '../api/client';
import type { BringInAnswer, ShelfProject } from '../api/types';
import { keepArrival } from '../project/bring-in/arrivals';
import { useNotice } from '../ui/notices';
import { nameOfNew } from './name-of-new';

/** All projects, and what can be done with them; what goes wrong is told. */
export function useShelf() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const tell = useNotice();
  const { data, error, isPending } = useQuery({
    queryKey: ['shelf'],
    queryFn: () => request<{ projects: ShelfProject[] }>('/projects'),
    staleTime: 0,
  });
  const fail = (problem: Error) => tell(problem.message, { bad: true });

  const create = useMutation({
    mutationFn: async (files: readonly File[]) => {
      const name = nameOfNew(files);
      const project = await request<{ id: string }>('/projects', { method: 'POST', json: { name } });
      if (files.length > 0) {
        const { report } = await upload<BringInAnswer>(`/projects/${project.id}/bring-in`, files);
        await keepArrival(project.id, report);
        const refused = report.filter((line) => line.problem);
        if (refused.length > 0)
          tell(`${refused.length} of ${report.length} files were refused: ${refused[0].problem?.message}`, {
            bad: true,
          });
      }
      return project;
    },
    onSuccess: ({ id }) => navigate(`/projects/${id}/bench`),
    onError: fail,
  });
  const open = useMutation({
    mutationFn: (file: File) => upload<{ id: string }>('/projects/open', [file]),
    onSuccess: ({ id }) => navigate(`/projects/${id}/bench`),
    onError: fail,
  });
  const change = useMutation({
    mutationFn: ({ id, ...json }: { id: string; name?: string; deleted?: boolean }) =>
      request(`/projects/${id}`, { method: 'PATCH', json }),
    onSettled: () => queries.invalidateQueries({ queryKey: ['shelf'] }),
    onError: fail,
  });
  const duplicate = useMutation({
    mutationFn: ({ id, name }: ShelfProject) =>
      request('/projects', { method: 'POST', json: { name: `${name} copy`.slice(0, 300), copyOf: id } }),
    onSettled: () => queries.invalidateQueries({ queryKey: ['shelf'] }),
    onError: fail,
  });
  const remove = (project: ShelfProject) => {
    change.mutate({ id: project.id, deleted: true });
    tell(`${project.name} is deleted.`, {
      action: { title: 'Bring it back', run: () => change.mutate({ id: project.id, deleted: false }) },
    });
  };
  return {
    projects: data?.projects ?? [],
    error,
    isPending,
    create,
    open,
    rename: ({ id }: ShelfProject, name: string) => change.mutate({ id, name }),
    duplicate: (project: ShelfProject) => duplicate.mutate(project),
    remove,
  };
}
