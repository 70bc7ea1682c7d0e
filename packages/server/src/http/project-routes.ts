import {
  actNamed,
  actRequest,
  type Change,
  type FontRecord,
  fontRecord,
  lastOrder,
  newId,
  ordersAfter,
  parseEdit,
  plainText,
  RENDERER_VERSION,
  Refusal,
  recordName,
  refuse,
  withOutlinesOf,
} from '@tolvik/core';
import express, { Router } from 'express';
import { readUploads } from '../bring-in/multipart';
import { putBlobs, readBlobs } from '../db/blobs';
import { transaction } from '../db/database';
import { preparedOf, prepareEdit } from '../db/prepared-edit';
import {
  copyRecords,
  findProject,
  insertProject,
  insertRecords,
  keepCover,
  keptCover,
  listProjects,
  renameProject,
  setDeleted,
} from '../db/projects';
import { readChanges } from '../db/records';
import { announce } from '../events/hub';
import { bringOnto, commit } from '../projects/bring-onto';
import { outlinesFor } from '../projects/outlines-for';
import { type Context, idOf, openProject } from './context';
import { changeAsJson, sendClash, store } from './edits';
import { whenGone } from './gone';
import { blobHash, bringInQuery, listOfActs, newProject, projectPatch, sinceVersion } from './schemas';
import { INERT } from './security';

const NDJSON = 'application/x-ndjson';
const PROGRESS_EVERY_MS = 100;
const MAX_FONTS = 100;

/** Read where others wait, which a larger edit is not. */
const SMALL_EDIT_BYTES = 128 * 1024;
const MAX_EDIT = '64mb';

export function projectRoutes(context: Context): Router {
  const { db, reader, editReader, uploads, maker, pictures, renders, deliveries } = context;
  const router = Router();

  router.get('/projects', async (_req, res) => {
    res.json({ projects: await listProjects(db) });
  });

  router.post('/projects', async (req, res) => {
    const { name, copyOf, asInDelivery } = newProject.parse(req.body);
    const delivered = asInDelivery ? await deliveries.recordsOf(asInDelivery) : null;
    const id = newId();
    await transaction(db, async (client) => {
      if (copyOf && !(await findProject(client, copyOf))) refuse('not.found', 'the project to copy is not there');
      await insertProject(client, id, name);
      if (copyOf) await copyRecords(client, copyOf, id);
      if (delivered) await insertRecords(client, id, delivered);
    });
    res.status(201).json(await findProject(db, id));
  });

  router.post('/projects/open', async (req, res) => {
    const answer = await uploads.take(async () => {
      const [upload] = await readUploads(req);
      if (!upload) refuse('upload.empty', 'no file came', { accepted: 'a project file' });
      const { name, edit, blobs, dropped } = await reader.read({
        kind: 'project',
        name: upload.name,
        bytes: upload.bytes,
      });
      const id = newId();
      await putBlobs(db, blobs);
      await transaction(db, async (client) => {
        await insertProject(client, id, recordName.catch('Opened project').parse(name));
        await commit(client, id, edit);
      });
      return { ...(await findProject(db, id)), dropped };
    });
    res.status(201).json(answer);
  });

  router.get('/projects/:id', async (req, res) => {
    res.json((await findProject(db, idOf(req))) ?? refuse('not.found', 'there is no such project'));
  });

  router.patch('/projects/:id', async (req, res) => {
    const { name, deleted } = projectPatch.parse(req.body);
    const id = idOf(req);
    if (deleted !== undefined && !(await setDeleted(db, id, deleted))) refuse('not.found', 'there is no such project');
    if (name !== undefined) {
      if (!(await findProject(db, id))) refuse('not.found', 'there is no such project');
      await renameProject(db, id, name);
      await announce(db, id, { type: 'renamed', name });
    }
    res.json((await findProject(db, id)) ?? { id, deleted: true });
  });

  router.delete('/projects/:id', async (req, res) => {
    if (!(await setDeleted(db, idOf(req), true))) refuse('not.found', 'there is no such project');
    res.status(204).end();
  });

  router.get('/projects/:id/records', async (req, res) => {
    const { since } = sinceVersion.parse(req.query);
    const changes = (await readChanges(db, idOf(req), since)) ?? refuse('not.found', 'there is no such project');
    const { version, name, whole, records, removed } = changes;
    res
      .type('json')
      .send(
        `{"version":${version},"name":${JSON.stringify(name)},"whole":${whole},"records":${records},"removed":${JSON.stringify(removed)}}`,
      );
  });

  router.post('/projects/:id/edits', express.raw({ type: 'application/json', limit: MAX_EDIT }), async (req, res) => {
    const id = idOf(req);
    const body: unknown = req.body;
    if (!Buffer.isBuffer(body))
      return void refuse('input.json', 'the request is not JSON', { accepted: 'an edit as JSON' });
    const edit =
      body.length <= SMALL_EDIT_BYTES
        ? preparedOf(parseEdit(body.toString('utf8')))
        : await editReader.read({ kind: 'edit', name: 'the edit', bytes: body });
    const outcome = await store(db, id, edit);
    if ('clash' in outcome) return sendClash(res, outcome.clash);
    res.json(outcome);
  });

  router.get('/acts', (_req, res) => void res.json({ acts: listOfActs() }));

  router.post('/projects/:id/acts/:name', async (req, res) => {
    const act = actNamed(req.params.name);
    const request = actRequest.parse(req.body ?? {});
    const project = await openProject(context, idOf(req));
    const outlines = await outlinesFor(project, maker, act.name, request);
    const { edit, selected } = await project.ask('act', {
      name: act.name,
      request: outlines ? withOutlinesOf(request, outlines) : request,
    });
    const outcome = await store(db, project.id, edit);
    if ('clash' in outcome) return sendClash(res, outcome.clash);
    const { version } = outcome;
    res
      .type('json')
      .send(`{"version":${version},"change":${changeAsJson(edit)},"selected":${JSON.stringify(selected)}}`);
  });

  router.post('/projects/:id/bring-in', async (req, res) => {
    const { as, x, y, ask, attach, size } = bringInQuery.parse(req.query);
    const project = await openProject(context, idOf(req));
    const gone = new AbortController();
    whenGone(res, () => !res.writableFinished && gone.abort());
    const lines = req.accepts(['application/json', NDJSON]) === NDJSON;
    let told = 0;
    const onRead = (done: number, of: number) => {
      if (!lines || (done < of && performance.now() - told < PROGRESS_EVERY_MS)) return;
      told = performance.now();
      res.write(`${JSON.stringify({ read: done, of })}\n`);
    };
    try {
      const answer = await uploads.take(async () => {
        const files = await readUploads(req);
        if (files.length === 0)
          refuse('upload.empty', 'no file came', { accepted: 'SVG files, pictures or a zip of them' });
        if (lines) res.type(NDJSON);
        return bringOnto(
          context,
          project,
          files,
          { as, at: { x, y }, ask: ask === '1', attach, size },
          { onRead, signal: gone.signal },
        );
      });
      // Whoever stopped it, or left, wants nothing of it.
      if (answer === null) return;
      const { version, edit, report, asks } = answer;
      const text = `{"version":${version},"change":${edit ? changeAsJson(edit) : 'null'},"report":${JSON.stringify(report)}${asks ? `,"asks":${JSON.stringify(asks)}` : ''}}`;
      if (lines) res.end(`${text}\n`);
      else res.type('json').send(text);
    } catch (error) {
      if (gone.signal.aborted) return;
      if (!lines || !res.headersSent || !(error instanceof Refusal)) throw error;
      res.end(`${JSON.stringify({ problem: error.problem })}\n`);
    }
  });

  router.post('/projects/:id/fonts', async (req, res) => {
    const project = await openProject(context, idOf(req));
    const answer = await uploads.take(async () => {
      const files = await readUploads(req);
      if (files.length === 0)
        refuse('upload.empty', 'no file came', { accepted: 'fonts: OpenType, TrueType, WOFF or WOFF2' });
      const fonts = await project.ask('fonts', null);
      if (fonts.length + files.length > MAX_FONTS)
        refuse('font.many', `a project holds up to ${MAX_FONTS} fonts`, { accepted: 'fewer fonts' });
      const orders = ordersAfter(lastOrder(fonts), files.length);
      const puts: FontRecord[] = [];
      const blobs = [];
      for (const [i, { name, bytes }] of files.entries()) {
        const { family, weight, italic, mediaType, hash } = await reader.read({ kind: 'font', name, bytes });
        blobs.push({ hash, mediaType, bytes });
        if (![...fonts, ...puts].some((font) => font.hash === hash))
          puts.push(
            fontRecord.parse({
              id: newId(),
              kind: 'font',
              order: orders[i],
              family: plainText(family, 100),
              weight,
              italic,
              hash,
            }),
          );
      }
      await putBlobs(db, blobs);
      if (puts.length === 0) return { version: project.version, change: null };
      const change: Change = {
        label: puts.length === 1 ? `add the font ${puts[0].family}` : `add ${puts.length} fonts`,
        puts,
        removes: [],
      };
      return { version: await transaction(db, (client) => commit(client, project.id, prepareEdit(change, 0))), change };
    });
    res.json(answer);
  });

  router.get('/projects/:id/project.svg', async (req, res) => {
    const project = await openProject(context, idOf(req));
    const blobs = await pictures.read(await project.ask('pictureHashes', null));
    const text = await project.ask('projectFile', { pictures: blobs, id: project.id });
    res
      .set('Content-Security-Policy', INERT)
      .attachment(`${project.name.replace(/[^\p{L}\p{N} ._-]+/gu, '-') || 'project'}.svg`)
      .type('image/svg+xml')
      .send(text);
  });

  router.get('/projects/:id/cover.png', async (req, res) => {
    const row = (await findProject(db, idOf(req))) ?? refuse('not.found', 'there is no such project');
    const of = `${row.version} by ${RENDERER_VERSION}`;
    const known = await keptCover(db, row.id, of);
    const send = (key: string, bytes: () => Promise<Buffer>) => {
      res.set({ ETag: `"${key}"`, 'Cache-Control': 'private, no-cache' });
      return req.headers['if-none-match'] === `"${key}"`
        ? Promise.resolve(void res.status(304).end())
        : bytes().then((made) => void res.type('image/png').send(made));
    };
    // A cover that was made of this very version needs no project to be opened.
    const made = known && (await renders.read(known));
    if (made) return send(made.key, async () => made.bytes);
    const project = await openProject(context, row.id);
    const job = await project.ask('cover', null);
    await send(
      job.key,
      async () =>
        (await maker.made({ cell: { pieceId: '', outputId: '' }, job, format: 'png', path: 'cover.png' }, project.id))
          .bytes,
    );
    if (project.version === row.version) await keepCover(db, row.id, of, job.key);
  });

  router.get('/blobs/:hash', async (req, res) => {
    const [blob] = await readBlobs(db, [blobHash.parse(req.params.hash)]);
    if (!blob) return refuse('not.found', 'there is no such picture or font');
    res
      .set({ 'Content-Security-Policy': INERT, 'Cache-Control': 'private, max-age=31536000, immutable' })
      .type(blob.mediaType)
      .send(Buffer.from(blob.bytes));
  });

  return router;
}
