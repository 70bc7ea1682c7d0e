import {
  type DeliveryFigures,
  deliveryFields,
  FORMATS,
  type Format,
  PAGE_NAME,
  recordId,
  refuse,
  takeBackFields,
} from '@tolvik/core';
import { Router } from 'express';
import { transaction } from '../db/database';
import {
  bytesOnlyOf,
  type DeliveryFileRow,
  type DeliveryRow,
  deleteDelivery,
  deliveryFigures,
  deliveryFile,
  deliveryFiles,
  deliveryRows,
  describeDelivery,
  filesBefore,
  findDelivery,
  listDeliveries,
} from '../db/deliveries';
import { isHandedOver } from '../db/handovers';
import { answersFor } from '../db/intake-files';
import { findProject } from '../db/projects';
import { streamArchive } from '../deliveries/archive';
import { compareDeliveries, type FileChange } from '../deliveries/compare';
import { pageOf } from '../deliveries/page';
import { announce } from '../events/hub';
import { type Context, openProject } from './context';
import { changeAsJson, sendClash, store } from './edits';
import { archiveQuery, compareQuery, newDelivery, pageNumber, position, positions, sideWhenLarge } from './schemas';
import { INERT } from './security';

/** Deliveries whose numbers are told. */
const MOST_FIGURES = 60;

const asJson = (d: DeliveryRow) => ({
  id: d.id,
  projectId: d.project_id,
  number: d.number,
  title: d.title,
  note: d.note,
  state: d.state,
  version: d.version,
  whole: d.whole,
  byEdit: d.by_edit,
  total: d.total,
  made: d.made,
  failed: d.failed,
  bytes: Number(d.bytes),
  createdAt: d.created_at,
  finishedAt: d.finished_at,
});

const fileJson = (f: DeliveryFileRow | undefined) =>
  f && {
    position: f.position,
    path: f.path,
    pieceId: f.piece_id,
    outputId: f.output_id,
    format: f.format,
    widthPx: f.width_px,
    heightPx: f.height_px,
    key: f.render_key,
    state: f.state,
    error: f.error,
    measured: f.measured,
  };

export function deliveryRoutes(context: Context): Router {
  const { db, deliveries, receivers, handOvers } = context;
  const router = Router();
  const find = async (id: unknown) =>
    (recordId.safeParse(id).success ? await findDelivery(db, String(id)) : undefined) ??
    refuse('not.found', 'there is no such delivery');

  /** The files of a delivery that are what some change says against the deliveries before, or anything but the same. */
  const changedIn = async (
    delivery: DeliveryRow,
    files: DeliveryFileRow[],
    only: 'different' | FileChange,
  ): Promise<DeliveryFileRow[]> => {
    const before = await filesBefore(db, delivery.project_id, delivery.number);
    const isWanted = (change: FileChange) => (only === 'different' ? change !== 'same' : change === only);
    const wanted = new Set(
      compareDeliveries(files, before, delivery.whole).flatMap(({ change, now }) =>
        now && isWanted(change) ? [now.position] : [],
      ),
    );
    return files.filter(({ position: at }) => wanted.has(at));
  };

  router.get('/projects/:id/deliveries', async (req, res) => {
    const id = String(req.params.id);
    if (!recordId.safeParse(id).success || !(await findProject(db, id)))
      refuse('not.found', 'there is no such project');
    res.json({ deliveries: (await listDeliveries(db, id)).map(asJson) });
  });

  /** The newest deliveries in numbers. */
  router.get('/projects/:id/deliveries/figures', async (req, res) => {
    const id = String(req.params.id);
    if (!recordId.safeParse(id).success || !(await findProject(db, id)))
      refuse('not.found', 'there is no such project');
    const figures = new Map<string, DeliveryFigures>();
    for (const row of await deliveryFigures(db, id, MOST_FIGURES)) {
      const { number, title, created_at: begun, finished_at: ended } = row;
      const seconds = ended && (ended.getTime() - begun.getTime()) / 1000;
      const known = figures.get(row.id) ?? { id: row.id, number, title, at: begun.toISOString(), seconds, formats: [] };
      known.formats.push({ format: row.format as Format, files: Number(row.files), bytes: Number(row.bytes) });
      figures.set(row.id, known);
    }
    res.json({ deliveries: [...figures.values()] });
  });

  router.post('/projects/:id/deliveries', async (req, res) => {
    const { byEdit, ...chosen } = newDelivery.parse(req.body ?? {});
    const project = await openProject(context, String(req.params.id));
    const id = await deliveries.begin(project, chosen, byEdit);
    res.status(201).json(asJson(await find(id)));
  });

  router.get('/deliveries/:id', async (req, res) => {
    const delivery = await find(req.params.id);
    const files = await deliveryFiles(db, delivery.id);
    const { with: other } = compareQuery.parse(req.query);
    const against = other === undefined ? undefined : await find(other);
    if (against && against.project_id !== delivery.project_id)
      refuse('delivery.other', 'these are deliveries of two projects', { accepted: 'two deliveries of one project' });
    // What there was after that delivery, with those of some files since all were delivered.
    const before = await filesBefore(db, delivery.project_id, against ? against.number + 1 : delivery.number);
    const compared = compareDeliveries(files, before, delivery.whole);
    const counts = { same: 0, changed: 0, renamed: 0, new: 0, gone: 0 };
    for (const { change } of compared) counts[change]++;
    const last = before.reduce<(typeof before)[number] | undefined>(
      (latest, file) => (!latest || file.delivery_number > latest.delivery_number ? file : latest),
      undefined,
    );
    res.json({
      ...asJson(delivery),
      before: last && { id: last.delivery_id, number: last.delivery_number },
      counts,
      files: compared.map(({ path, change, now, before: earlier }) => ({
        path,
        change,
        now: fileJson(now),
        before: earlier && {
          ...fileJson(earlier),
          delivery: { id: earlier.delivery_id, number: earlier.delivery_number },
        },
      })),
    });
  });

  /** The paths there are after it, those of deliveries of some since the last of all among them. */
  router.get('/deliveries/:id/paths', async (req, res) => {
    const delivery = await find(req.params.id);
    const held = await filesBefore(db, delivery.project_id, delivery.number + 1);
    res.json({ number: delivery.number, paths: held.map((file) => file.path) });
  });

  /** Some rows, for who has the others. */
  router.get('/deliveries/:id/rows', async (req, res) => {
    const delivery = await find(req.params.id);
    const wanted = positions.parse(req.query.positions);
    res.json({ rows: (await deliveryRows(db, delivery.id, wanted)).map(fileJson) });
  });

  router.get('/deliveries/:id/archive.zip', async (req, res) => {
    const delivery = await find(req.params.id);
    const project = await findProject(db, delivery.project_id);
    const { only, find: text, page } = archiveQuery.parse(req.query);
    const files = await deliveryFiles(db, delivery.id);
    const folded = text.trim().toLowerCase();
    const wanted = (only === 'all' ? files : await changedIn(delivery, files, only)).filter(({ path }) =>
      path.toLowerCase().includes(folded),
    );
    const of = only === 'different' ? ', what differs' : only === 'all' && !folded ? '' : ', some';
    const name = `${(project?.name ?? 'project').replace(/[^\p{L}\p{N} ._-]+/gu, '-')} ${delivery.number}${of}.zip`;
    res.set('Content-Disposition', `attachment; filename*=UTF-8''${encodeURIComponent(name)}`).type('application/zip');
    const title = project?.name ?? '';
    const more = page === '1' ? { path: PAGE_NAME, text: await pageOf(deliveries, delivery, wanted, title) } : null;
    await streamArchive(db, wanted, (file) => deliveries.bytesOf(delivery, file), res, more);
  });

  /** All of it as one page that lies beside its files. */
  router.get('/deliveries/:id/page.html', async (req, res) => {
    const delivery = await find(req.params.id);
    const project = await findProject(db, delivery.project_id);
    const text = await pageOf(deliveries, delivery, await deliveryFiles(db, delivery.id), project?.name ?? '');
    res.set('Content-Security-Policy', INERT).attachment(PAGE_NAME).type('html').send(text);
  });

  /** What a folder that got all of it would say it holds. */
  router.get('/deliveries/:id/receipt.json', async (req, res) => {
    res.json(await receivers.receiptOf(await find(req.params.id)));
  });

  /** What intakes said of the files that it sent them. */
  router.get('/deliveries/:id/answers', async (req, res) => {
    const { id } = await find(req.params.id);
    res.json({ receivers: await answersFor(db, id) });
  });

  router.get('/deliveries/:id/files/:position', async (req, res) => {
    const delivery = await find(req.params.id);
    const file = await deliveryFile(db, delivery.id, position.parse(req.params.position));
    const bytes = file && (await deliveries.bytesOf(delivery, file));
    if (!file || !bytes) return refuse('not.found', 'that file was not made');
    res
      .set({
        'Content-Security-Policy': INERT,
        ETag: `"${file.render_key}"`,
        'Cache-Control': 'private, max-age=31536000, immutable',
      })
      .type(FORMATS[file.format as Format].mediaType)
      .send(bytes);
  });

  router.get('/deliveries/:id/files/:position/picture.png', async (req, res) => {
    const delivery = await find(req.params.id);
    const file = await deliveryFile(db, delivery.id, position.parse(req.params.position));
    const page = pageNumber.parse(req.query.page);
    const side = sideWhenLarge.parse(req.query.large);
    const bytes = file && (await deliveries.pictureOf(delivery, file, { page, side }));
    if (!bytes) return refuse('not.found', page ? 'there is no such page' : 'that file was not made');
    res
      .set({ 'Content-Security-Policy': INERT, 'Cache-Control': 'private, max-age=31536000, immutable' })
      .type('image/png')
      .send(bytes);
  });

  /** What deleting it would free, in bytes. */
  router.get('/deliveries/:id/frees', async (req, res) => {
    const delivery = await find(req.params.id);
    res.json({ bytes: await bytesOnlyOf(db, delivery.id) });
  });

  router.patch('/deliveries/:id', async (req, res) => {
    const { id, project_id } = await find(req.params.id);
    await describeDelivery(db, id, deliveryFields.parse(req.body ?? {}));
    await announce(db, project_id, { type: 'described', id });
    res.json(asJson(await find(id)));
  });

  router.delete('/deliveries/:id', async (req, res) => {
    const delivery = await find(req.params.id);
    if (delivery.state === 'running')
      refuse('delivery.running', 'it is being made', { accepted: 'a delivery that is done or stopped' });
    if (await isHandedOver(db, delivery.id))
      refuse('delivery.onItsWay', 'it is on its way to a receiver', {
        accepted: 'a moment later, or once that is stopped',
      });
    await transaction(db, (client) => deleteDelivery(client, delivery.id));
    res.status(204).end();
  });

  /** Every receiver that is on is brought to what it held, however old it is; each trouble stands with its receiver. */
  router.get('/deliveries/:id/since', async (req, res) => {
    const delivery = await find(req.params.id);
    const project = await openProject(context, delivery.project_id);
    res.json(await project.ask('since', { records: await deliveries.recordsOf(delivery.id) }));
  });

  router.post('/deliveries/:id/take-back', async (req, res) => {
    const { pieceIds } = takeBackFields.parse(req.body ?? {});
    const delivery = await find(req.params.id);
    const project = await openProject(context, delivery.project_id);
    const edit = await project.ask('takeBack', { records: await deliveries.recordsOf(delivery.id), pieceIds });
    if (!edit) return void res.json({ version: project.version, change: null });
    const outcome = await store(db, project.id, edit);
    if ('clash' in outcome) return sendClash(res, outcome.clash);
    res.type('json').send(`{"version":${outcome.version},"change":${changeAsJson(edit)}}`);
  });

  router.post('/deliveries/:id/hand-over', async (req, res) => {
    const delivery = await find(req.params.id);
    if (delivery.state !== 'done')
      refuse('delivery.unfinished', 'it was not made to its end', { accepted: 'a delivery that is done' });
    // How far it is, and what came of it, stands with the receivers. Those that follow hold what there is now.
    await handOvers.order(delivery, ({ follows }) => !follows);
    res.json(asJson(delivery));
  });

  router.post('/deliveries/:id/stop', async (req, res) => {
    await deliveries.halt((await find(req.params.id)).id);
    res.json(asJson(await find(req.params.id)));
  });

  router.post('/deliveries/:id/go-on', async (req, res) => {
    await deliveries.goOn((await find(req.params.id)).id);
    res.json(asJson(await find(req.params.id)));
  });

  return router;
}
