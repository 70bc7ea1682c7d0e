import {
  newId,
  newReceiver,
  type Receiver,
  type ReceiverSteps,
  receiverFields,
  recordId,
  refuse,
  stepsInShort,
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
  type ReceiverPlace,
  type ReceiverRow,
} from '../db/receivers';
import { announce } from '../events/hub';
import { allowedIntake } from '../receivers/addresses';
import { folderOf } from '../roots';
import type { Context } from './context';

const receiverJson = (row: ReceiverRow, sending: Receiver['sending']): Receiver => ({
  id: row.id,
  name: row.name,
  ...(row.address === null
    ? { kind: 'folder', root: row.root, folder: row.folder }
    : // What its headers say is told to nobody.
      { kind: 'intake', address: row.address, headerNames: Object.keys(row.headers), asZip: row.as_zip }),
  on: row.is_on,
  removeLeftovers: row.remove_leftovers,
  replaceForeign: row.replace_foreign,
  follows: row.follows,
  takes: row.takes,
  rules: row.rules,
  standing: row.standing && { ...row.standing, refused: row.standing.refused ?? 0 },
  trouble: row.trouble,
  sending,
});

/** Who takes the deliveries of a project. */
export function receiverRoutes({ db, config, receivers, following }: Context): Router {
  const router = Router();
  const asJson = (row: ReceiverRow) => receiverJson(row, receivers.progressOf(row.id));
  const find = async (id: unknown) =>
    (recordId.safeParse(id).success ? await findReceiver(db, String(id)) : undefined) ??
    refuse('not.found', 'there is no such receiver');
  const projectOf = async (id: unknown) => {
    const project = recordId.safeParse(id).success ? await findProject(db, String(id)) : undefined;
    return project?.id ?? refuse('not.found', 'there is no such project');
  };

  router.get('/projects/:id/receivers', async (req, res) => {
    const id = await projectOf(req.params.id);
    res.json({ roots: config.folders, intakes: config.intakes, receivers: (await listReceivers(db, id)).map(asJson) });
  });

  router.post('/projects/:id/receivers', async (req, res) => {
    const projectId = await projectOf(req.params.id);
    const fields = newReceiver.parse(req.body ?? {});
    const { name } = fields;
    const place: ReceiverPlace =
      'address' in fields
        ? { address: allowedIntake(config, fields.address).href, headers: fields.headers, root: null, folder: null }
        : { address: null, root: fields.root, folder: fields.folder };
    if (place.address === null) await folderOf(config, place.root, place.folder);
    const id = newId();
    if (!(await insertReceiver(db, { id, projectId, name, ...place })))
      refuse('receiver.many', `this project has ${MAX_RECEIVERS} receivers`, { accepted: 'fewer receivers' });
    await announce(db, projectId, { type: 'receivers' });
    res.status(201).json(asJson(await find(id)));
  });

  router.patch('/receivers/:id', async (req, res) => {
    const { id, project_id } = await find(req.params.id);
    const fields = receiverFields.parse(req.body ?? {});
    await changeReceiver(db, id, fields);
    if (fields.follows || fields.on) following.changed(project_id);
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
    const { delivery, held } = await receivers.look(await find(req.params.id));
    const answer: ReceiverSteps = {
      delivery: { id: delivery.id, number: delivery.number },
      ...stepsInShort(held),
    };
    res.json(answer);
  });

  router.post('/receivers/:id/write', async (req, res) => {
    const receiver = await find(req.params.id);
    await receivers.write(receiver, writeOrder.parse(req.body ?? {}));
    res.json(asJson(await find(receiver.id)));
  });

  /** Ends a sending that is under way; the next goes on from there. */
  router.post('/receivers/:id/stop', async (req, res) => {
    const receiver = await find(req.params.id);
    receivers.stop(receiver.id);
    res.json(asJson(receiver));
  });

  return router;
}
