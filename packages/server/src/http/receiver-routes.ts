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
import { onTheirWay } from '../db/handovers';
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
import { soleReceiverOf } from '../receivers/sole';
import { checkedFolder } from '../roots';
import type { Context } from './context';

const receiverJson = (row: ReceiverRow, onItsWay: Receiver['onItsWay']): Receiver => ({
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
  onItsWay,
});

/** Who takes the deliveries of a project. */
export function receiverRoutes({ db, config, receivers, handOvers, following }: Context): Router {
  const router = Router();
  const allAsJson = async (rows: readonly ReceiverRow[], projectId: string): Promise<Receiver[]> => {
    const ways = new Map((await onTheirWay(db, projectId)).map((way) => [way.receiver_id, way]));
    return rows.map((row) => {
      const way = ways.get(row.id);
      return receiverJson(row, way ? { number: way.number, done: way.done, of: way.total } : null);
    });
  };
  const asJson = async (row: ReceiverRow) => (await allAsJson([row], row.project_id))[0];
  const find = async (id: unknown) =>
    (recordId.safeParse(id).success ? await findReceiver(db, String(id)) : undefined) ??
    refuse('not.found', 'there is no such receiver');
  const projectOf = async (id: unknown) => {
    const project = recordId.safeParse(id).success ? await findProject(db, String(id)) : undefined;
    return project?.id ?? refuse('not.found', 'there is no such project');
  };

  router.get('/projects/:id/receivers', async (req, res) => {
    const id = await projectOf(req.params.id);
    res.json({
      roots: config.folders,
      intakes: config.intakes,
      receivers: await allAsJson(await listReceivers(db, id), id),
    });
  });

  router.post('/projects/:id/receivers', async (req, res) => {
    const projectId = await projectOf(req.params.id);
    const fields = newReceiver.parse(req.body ?? {});
    const { name } = fields;
    const place: ReceiverPlace =
      'address' in fields
        ? { address: allowedIntake(config, fields.address).href, headers: fields.headers, root: null, folder: null }
        : { address: null, root: fields.root, folder: fields.folder };
    const id = newId();
    if (place.address === null) {
      await checkedFolder(receivers, place.root, place.folder);
      await soleReceiverOf(receivers, { id, ...place });
    }
    if (!(await insertReceiver(db, { id, projectId, name, ...place })))
      refuse('receiver.many', `this project has ${MAX_RECEIVERS} receivers`, { accepted: 'fewer receivers' });
    await announce(db, projectId, { type: 'receivers' });
    res.status(201).json(await asJson(await find(id)));
  });

  router.patch('/receivers/:id', async (req, res) => {
    const { id, project_id } = await find(req.params.id);
    const fields = receiverFields.parse(req.body ?? {});
    await changeReceiver(db, id, fields);
    if (fields.follows || fields.on) following.changed(project_id);
    await announce(db, project_id, { type: 'receivers' });
    res.json(await asJson(await find(id)));
  });

  router.delete('/receivers/:id', async (req, res) => {
    const { id, project_id } = await find(req.params.id);
    await deleteReceiver(db, id);
    await announce(db, project_id, { type: 'receivers' });
    res.status(204).end();
  });

  /** What would be done so that it holds the newest delivery. */
  router.get('/receivers/:id/steps', async (req, res) => {
    const { delivery, steps } = await receivers.look(await find(req.params.id));
    const answer: ReceiverSteps = { delivery: { id: delivery.id, number: delivery.number }, ...steps };
    res.json(answer);
  });

  router.post('/receivers/:id/write', async (req, res) => {
    const receiver = await find(req.params.id);
    await handOvers.writeNow(receiver, writeOrder.parse(req.body ?? {}));
    res.json(await asJson(await find(receiver.id)));
  });

  /** Ends a sending that is under way; the next goes on from there. */
  router.post('/receivers/:id/stop', async (req, res) => {
    const receiver = await find(req.params.id);
    await handOvers.stopFor(receiver);
    res.json(await asJson(await find(receiver.id)));
  });

  return router;
}
