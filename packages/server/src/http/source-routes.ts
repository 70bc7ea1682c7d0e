import { newSource, recordId, refuse, type SourceAnswer, sourceFields } from '@tolvik/core';
import { Router } from 'express';
import { findProject } from '../db/projects';
import { dropSource, findSource, setSource, switchSource } from '../db/sources';
import { announce } from '../events/hub';
import { sourceOf } from '../roots';
import type { Context } from './context';

/** The folder whose drawings feed a project. */
export function sourceRoutes({ db, config, sources }: Context): Router {
  const router = Router();
  const projectOf = async (id: unknown) => {
    const project = recordId.safeParse(id).success ? await findProject(db, String(id)) : undefined;
    return project?.id ?? refuse('not.found', 'there is no such project');
  };
  const answer = async (id: string): Promise<SourceAnswer> => {
    const row = await findSource(db, id);
    return {
      roots: config.sources,
      source: row
        ? { root: row.root, folder: row.folder, on: row.is_on, standing: row.standing, trouble: row.trouble }
        : null,
    };
  };
  const changed = async (id: string) => {
    await sources.follow(id);
    await announce(db, id, { type: 'source' });
    return answer(id);
  };

  router.get('/projects/:id/source', async (req, res) => {
    res.json(await answer(await projectOf(req.params.id)));
  });

  router.put('/projects/:id/source', async (req, res) => {
    const id = await projectOf(req.params.id);
    const { root, folder } = newSource.parse(req.body ?? {});
    await sourceOf(config, root, folder);
    await setSource(db, id, root, folder);
    res.json(await changed(id));
  });

  router.patch('/projects/:id/source', async (req, res) => {
    const id = await projectOf(req.params.id);
    await switchSource(db, id, sourceFields.parse(req.body ?? {}).on);
    res.json(await changed(id));
  });

  router.delete('/projects/:id/source', async (req, res) => {
    const id = await projectOf(req.params.id);
    await dropSource(db, id);
    await changed(id);
    res.status(204).end();
  });

  return router;
}
