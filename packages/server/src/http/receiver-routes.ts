import {
  newId,
  newReceiver,
  type Receiver,
  type ReceiverSteps,
  receiverFields,
  recordId,
  refuse,
  writeOrder,
} from '@tolvik/core';
import { Router } from 'express';
import { findProject } from '../db/projects';
import {
  changeReceiver,
  deleteReceiver,
  findReceiver,
  insertReceiver,
  listReceivers,
  MAX_RECEIVERS,
  type ReceiverRow,
} from '../db/receivers';
import { announce } from '../events/hub';
import { folderOf } from '../receivers/roots';
import type { Context } from './context';

const asJson = (row: ReceiverRow): Receiver => ({
  id: row.id,
  name: row.name,
  kind: 'folder',
  root: row.root,
  folder: row.folder,
  on: row.is_on,
  removeLeftovers: row.remove_leftovers,
  replaceForeign: row.replace_foreign,
  rules: row.rules,
  standing: row.standing && { ...row.standing, refused: row.standing.refused ?? 0 },
  trouble: row.trouble,
});

const MOST_NAMED = 200;
const named = (paths: readonly string[]) => ({ count: paths.length, first: paths.slice(0, MOST_NAMED) });

/** Who takes the deliveries of a project. */
export function receiverRoutes({ db, config, receivers }: Context): Router {
  const router = Router();
  const find = async (id: unknown) =>
    (recordId.safeParse(id).success ? await findReceiver(db, String(id)) : undefined) ??
    refuse('not.found', 'there is no such receiver');
  const projectOf = async (id: unknown) => {
    const project = recordId.safeParse(id).success ? await findProject(db, String(id)) : undefined;
    return project?.id ?? refuse('not.found', 'there is no such project');
  };

  router.get('/projects/:id/receivers', async (req, res) => {
    const id = await projectOf(req.params.id);
    res.json({ roots: config.folders, receivers: (await listReceivers(db, id)).map(asJson) });
  });

  router.post('/projects/:id/receivers', async (req, res) => {
    const projectId = await projectOf(req.params.id);
    const fields = newReceiver.parse(req.body ?? {});
    await folderOf(config, fields.root, fields.folder);
    const id = newId();
    if (!(await insertReceiver(db, { id, projectId, ...fields })))
      refuse('receiver.many', `this project has ${MAX_RECEIVERS} receivers`, { accepted: 'fewer receivers' });
    await announce(db, projectId, { type: 'receivers' });
    res.status(201).json(asJson(await find(id)));
  });

  router.patch('/receivers/:id', async (req, res) => {
    const { id, project_id } = await find(req.params.id);
    await changeReceiver(db, id, receiverFields.parse(req.body ?? {}));
    await announce(db, project_id, { type: 'receivers' });
    res.json(asJson(await find(id)));
  });

  router.delete('/receivers/:id', async (req, res) => {
    const { id, project_id } = await find(req.params.id);
    await deleteReceiver(db, id);
    await announce(db, project_id, { type: 'receivers' });
    res.status(204).end();
  });

  /** What would be done so that it holds the newest delivery. */
  router.get('/receivers/:id/steps', async (req, res) => {
    const { delivery, steps, refused } = await receivers.look(await find(req.params.id));
    const foreign = (wanted: boolean) =>
      named(steps.foreign.flatMap((each) => (each.wanted === wanted ? [each.path] : [])));
    const answer: ReceiverSteps = {
      delivery: { id: delivery.id, number: delivery.number },
      fresh: named(steps.fresh.map(({ path }) => path)),
      changed: named(steps.changed.map(({ path }) => path)),
      same: steps.same.length,
      leftovers: named(steps.leftovers),
      foreign: foreign(true),
      leftAlone: foreign(false),
      refused: { count: refused.length, first: refused.slice(0, MOST_NAMED) },
    };
    res.json(answer);
  });

  router.post('/receivers/:id/write', async (req, res) => {
    const receiver = await find(req.params.id);
    await receivers.write(receiver, writeOrder.parse(req.body ?? {}));
    res.json(asJson(await find(receiver.id)));
  });

  return router;
}
