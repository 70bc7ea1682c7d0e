import { newId, newSource, recordId, refuse, type SourcesAnswer, sourceFields } from '@tolvik/core';
import { Router } from 'express';
import { findProject } from '../db/projects';
import { addSource, dropSource, findSource, sourcesOf, switchSource } from '../db/sources';
import { announce } from '../events/hub';
import { sourceOf } from '../roots';
import type { Context } from './context';

const MOST_SOURCES = 20;

/** The folders whose drawings feed a project. */
export function sourceRoutes({ db, config, sources }: Context): Router {
  const router = Router();
  const projectOf = async (id: unknown) => {
    const project = recordId.safeParse(id).success ? await findProject(db, String(id)) : undefined;
    return project?.id ?? refuse('not.found', 'there is no such project');
  };
  const source = async (id: unknown) => {
    const row = recordId.safeParse(id).success ? await findSource(db, String(id)) : undefined;
    return row ?? refuse('not.found', 'there is no such linked source');
  };
  const answer = async (projectId: string): Promise<SourcesAnswer> => ({
    roots: config.sources,
    sources: (await sourcesOf(db, projectId)).map(({ id, root, folder, is_on: on, standing, trouble }) => ({
      id,
      root,
      folder,
      on,
      standing,
      trouble,
    })),
  });
  /** All of them are read again: what one does not feed any more, another may. */
  const changed = async (projectId: string, id: string) => {
    await sources.follow(id);
    for (const other of await sourcesOf(db, projectId)) if (other.id !== id) await sources.follow(other.id);
    await announce(db, projectId, { type: 'source' });
    return answer(projectId);
  };

  router.get('/projects/:id/sources', async (req, res) => {
    res.json(await answer(await projectOf(req.params.id)));
  });

  router.post('/projects/:id/sources', async (req, res) => {
    const projectId = await projectOf(req.params.id);
    const { root, folder } = newSource.parse(req.body ?? {});
    await sourceOf(sources, root, folder);
    if ((await sourcesOf(db, projectId)).length >= MOST_SOURCES)
      refuse('sources.many', `a project is fed by ${MOST_SOURCES} folders at most`);
    const id = newId();
    if (!(await addSource(db, { id, projectId, root, folder })))
      refuse('source.there', 'that folder feeds this project already');
    res.status(201).json(await changed(projectId, id));
  });

  router.patch('/sources/:id', async (req, res) => {
    const { id, project_id: projectId } = await source(req.params.id);
    await switchSource(db, id, sourceFields.parse(req.body ?? {}).on);
    res.json(await changed(projectId, id));
  });

  router.delete('/sources/:id', async (req, res) => {
    const { id, project_id: projectId } = await source(req.params.id);
    await dropSource(db, id);
    await changed(projectId, id);
    res.status(204).end();
  });

  return router;
}
