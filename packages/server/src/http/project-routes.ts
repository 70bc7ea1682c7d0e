import { asEdit, type Change, COVER, composeCover, type FontFacts, type FontRecord, lastOrder, newId, ordersAfter, type ReadProject, Refusal, refuse, sha256Hex, writeProjectFile } from '@tolvik/core';
import { type Request, Router } from 'express';
import { bringIn } from '../bring-in/bring-in';
import { readUploads } from '../bring-in/multipart';
import { putBlobs, readBlobs } from '../db/blobs';
import { transaction } from '../db/database';
import { copyRecords, findProject, insertProject, listProjects, renameProject, setDeleted } from '../db/projects';
import { applyEdit, changesAsJson } from '../db/records';
import { announce } from '../events/hub';
import { type Context, openProject } from './context';
import { sendProblem } from './problem';
import { blobHash, bringInQuery, edit, newProject, projectPatch, sinceVersion } from './schemas';
import { INERT } from './security';

const NDJSON = 'application/x-ndjson';
const PROGRESS_EVERY_MS = 100;
const MAX_FONTS = 100;

/** Carries out a change the server itself makes, on top of whatever the project has become. */
export async function commit(context: Context, projectId: string, change: Change): Promise<number> {
  const { db } = context;
  return transaction(db, async (client) => {
    const row = await findProject(client, projectId);
    if (!row) return refuse('not.found', 'there is no such project');
    const made = asEdit(change, row.version);
    const outcome = await applyEdit(client, projectId, made);
    if (!outcome || 'clash' in outcome) return refuse('edit.clash', 'the project changed at the same moment; try again');
    await announce(client, projectId, { type: 'edited', version: outcome.version, editId: made.id });
    return outcome.version;
  });
}

const idOf = (req: Request) => String(req.params.id);

export function projectRoutes(context: Context): Router {
  const { db, reader, pool, renders, log } = context;
  const router = Router();

  router.get('/projects', async (_req, res) => {
    res.json({ projects: await listProjects(db) });
  });

  router.post('/projects', async (req, res) => {
    const { name, copyOf } = newProject.parse(req.body);
    const id = newId();
    await transaction(db, async (client) => {
      if (copyOf && !(await findProject(client, copyOf))) refuse('not.found', 'the project to copy is not there');
      await insertProject(client, id, name);
      if (copyOf) await copyRecords(client, copyOf, id);
    });
    res.status(201).json(await findProject(db, id));
  });

  router.post('/projects/open', async (req, res) => {
    const [upload] = await readUploads(req);
    if (!upload) refuse('upload.empty', 'no file came', { accepted: 'a project file' });
    const { project } = (await reader.read({ kind: 'project', name: upload.name, bytes: upload.bytes })) as { project: ReadProject };
    const id = newId();
    await putBlobs(db, project.blobs);
    await insertProject(db, id, project.name || 'Opened project');
    await commit(context, id, { label: 'open project file', puts: project.records, removes: [] });
    res.status(201).json({ ...(await findProject(db, id)), dropped: project.dropped });
  });

  router.get('/projects/:id', async (req, res) => {
    const project = await openProject(context, idOf(req));
    res.json(await findProject(db, project.id));
  });

  router.patch('/projects/:id', async (req, res) => {
    const { name, deleted } = projectPatch.parse(req.body);
    const id = idOf(req);
    if (deleted !== undefined && !(await setDeleted(db, id, deleted))) refuse('not.found', 'there is no such project');
    if (name !== undefined) {
      await openProject(context, id);
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
    const row = await findProject(db, idOf(req));
    if (!row) return void refuse('not.found', 'there is no such project');
    const { records, removed } = await changesAsJson(db, row.id, since);
    res.type('json').send(`{"version":${row.version},"name":${JSON.stringify(row.name)},"records":${records},"removed":${removed}}`);
  });

  router.post('/projects/:id/edits', async (req, res) => {
    const id = idOf(req);
    const parsed = edit.parse(req.body);
    const outcome = await transaction(db, async (client) => {
      const result = await applyEdit(client, id, parsed);
      if (result && 'version' in result && !result.repeated) await announce(client, id, { type: 'edited', version: result.version, editId: parsed.id });
      return result;
    });
    if (!outcome) return refuse('not.found', 'there is no such project');
    if ('clash' in outcome) return sendProblem(res, 409, { code: 'edit.clash', message: 'what this edit touches was changed by someone else meanwhile' }, outcome.clash);
    res.json({ version: outcome.version });
  });

  router.post('/projects/:id/bring-in', async (req, res) => {
    const { as, x, y } = bringInQuery.parse(req.query);
    const project = await openProject(context, idOf(req));
    const uploads = await readUploads(req);
    if (uploads.length === 0) refuse('upload.empty', 'no file came', { accepted: 'SVG files, pictures or a zip of them' });
    const gone = new AbortController();
    res.on('close', () => !res.writableFinished && gone.abort());
    const lines = req.accepts(['application/json', NDJSON]) === NDJSON;
    if (lines) res.type(NDJSON);
    let told = 0;
    const onRead = (done: number, of: number) => {
      if (!lines || (done < of && performance.now() - told < PROGRESS_EVERY_MS)) return;
      told = performance.now();
      res.write(`${JSON.stringify({ read: done, of })}\n`);
    };
    try {
      const { change, blobs, report } = await bringIn(uploads, project.doc, reader, { as, at: { x, y }, onRead, signal: gone.signal });
      // Whoever stopped it, or left, wants nothing of it.
      if (gone.signal.aborted) return;
      await putBlobs(db, blobs);
      const version = change ? await commit(context, project.id, change) : project.version;
      const answer = { version, change, report };
      if (lines) res.end(`${JSON.stringify(answer)}\n`);
      else res.json(answer);
    } catch (error) {
      if (gone.signal.aborted) return;
      if (!lines || !(error instanceof Refusal)) throw error;
      res.end(`${JSON.stringify({ problem: error.problem })}\n`);
    }
  });

  router.post('/projects/:id/fonts', async (req, res) => {
    const project = await openProject(context, idOf(req));
    const uploads = await readUploads(req);
    if (uploads.length === 0) refuse('upload.empty', 'no file came', { accepted: 'fonts: OpenType, TrueType, WOFF or WOFF2' });
    const fonts = project.doc.list('font');
    if (fonts.length + uploads.length > MAX_FONTS) refuse('font.many', `a project holds up to ${MAX_FONTS} fonts`, { accepted: 'fewer fonts' });
    const orders = ordersAfter(lastOrder(fonts), uploads.length);
    const puts: FontRecord[] = [];
    const blobs = [];
    for (const [i, upload] of uploads.entries()) {
      const answer = await reader.read({ kind: 'font', name: upload.name, bytes: upload.bytes });
      const { family, weight, italic, mediaType } = (answer as { font: FontFacts }).font;
      const hash = sha256Hex(upload.bytes);
      blobs.push({ hash, mediaType, bytes: upload.bytes });
      if (!fonts.some((font) => font.hash === hash)) puts.push({ id: newId(), kind: 'font', order: orders[i], family, weight, italic, hash });
    }
    await putBlobs(db, blobs);
    const change: Change = { label: puts.length === 1 ? `add the font ${puts[0].family}` : `add ${puts.length} fonts`, puts, removes: [] };
    const version = puts.length > 0 ? await commit(context, project.id, change) : project.version;
    res.json({ version, change: puts.length > 0 ? change : null });
  });

  router.get('/projects/:id/project.svg', async (req, res) => {
    const project = await openProject(context, idOf(req));
    const text = writeProjectFile(project.doc, project.name, project.picture);
    res
      .set('Content-Security-Policy', INERT)
      .attachment(`${project.name.replace(/[^\p{L}\p{N} ._-]+/gu, '-') || 'project'}.svg`)
      .type('image/svg+xml')
      .send(text);
  });

  router.get('/projects/:id/cover.png', async (req, res) => {
    const project = await openProject(context, idOf(req));
    const svg = composeCover(project.composer);
    const key = sha256Hex(`cover ${svg}`);
    res.set('ETag', `"${key}"`).set('Cache-Control', 'private, no-cache').type('image/png');
    if (req.headers['if-none-match'] === `"${key}"`) return void res.status(304).end();
    let bytes = (await renders.read(key))?.bytes;
    if (!bytes) {
      const job = { svg, settings: { format: 'png', effort: 'faster' } as const, widthPx: COVER.width * 2, heightPx: COVER.height * 2, dpi: 192, ground: COVER.ground };
      const made = await pool.render(job, 'high');
      bytes = made.bytes;
      await renders.put([{ key, mediaType: 'image/png', ...made }]).catch((error) => log.warn(error));
    }
    res.send(bytes);
  });

  router.get('/blobs/:hash', async (req, res) => {
    const [blob] = await readBlobs(db, [blobHash.parse(req.params.hash)]);
    if (!blob) return refuse('not.found', 'there is no such picture or font');
    res.set({ 'Content-Security-Policy': INERT, 'Cache-Control': 'private, max-age=31536000, immutable' }).type(blob.mediaType).send(Buffer.from(blob.bytes));
  });

  return router;
}
