import { FORMATS, madeQuery, type Seen } from '@tolvik/core';
import { pixelsOf } from '@tolvik/render';
import { type Request, type Response, Router } from 'express';
import { filesBefore, lastDone } from '../db/deliveries';
import { listReceivers } from '../db/receivers';
import type { RenderRow } from '../db/renders';
import type { FileMaker } from '../projects/file-maker';
import type { KeyedFile } from '../projects/keyed-plan';
import { type Cell, type DrawnArtboard, pictureKey } from '../projects/open-project';
import type { ProjectHandle } from '../projects/open-projects';
import { type Context, idOf, openProject } from './context';
import { pageNumber, sideWhenLarge, trial } from './schemas';
import { INERT } from './security';

/** Piece, output, render key, bytes, what of it can be told from its ground, and how many pages it holds when several. */
type MadeRow = [
  pieceId: string,
  outputId: string,
  key: string,
  bytes: number | null,
  seen: Seen | null,
  pages: number,
  failed?: string,
];

/** Pictures up to this size are told inside of an answer. */
const MOST_BYTES_INSIDE = 8 * 1024;
/** A page tells of its gesture once a second. */
const GESTURE_MS = 1500;
const RENDER_KEY = /^[0-9a-f]{64}$/;
const FOREVER = 'private, max-age=31536000, immutable';

export function fileRoutes(context: Context): Router {
  const { db, maker, renders } = context;
  const router = Router();

  router.get('/projects/:id/plan', async (req, res) => {
    const project = await openProject(context, String(req.params.id));
    const { version, offCount, files, pages } = await project.plan();
    const weights = await renders.weightsOf(files.map((file) => file.key));
    res.json({
      version,
      offCount,
      files: files.map((file) => ({
        pieceId: file.pieceId,
        outputId: file.outputId,
        path: file.path,
        format: file.format,
        widthPx: file.widthPx,
        heightPx: file.heightPx,
        widthPt: file.widthPt,
        heightPt: file.heightPt,
        dpi: file.dpi,
        key: file.key,
        bytes: weights.get(file.key)?.bytes ?? null,
        seen: weights.get(file.key)?.seen,
        problem: file.problem,
        clashes: file.clashes,
        clashCount: file.clashCount,
        pages: file.pages?.length,
      })),
      pages: pages.map(({ pieceId, outputId, page, key }) => ({ pieceId, outputId, page, key, bytes: null })),
    });
    if (weights.size < files.length) maker.warm(project, version, files);
  });

  /** A hand moves something on somebody's screen: files that nobody asked for wait a moment. */
  router.post('/projects/:id/gesture', (req, res) => {
    context.pool.holdAhead(idOf(req), GESTURE_MS);
    res.status(204).end();
  });

  /** The same in short, for a page that plans by itself: what was made of each file. */
  router.get('/projects/:id/made', async (req, res) => {
    const { first } = madeQuery.parse(req.query);
    const project = await openProject(context, String(req.params.id));
    const { version, total, files, pages, formats } = first
      ? await project.ask('plan', { from: 0, most: first })
      : await project.plan();
    const weights = await renders.weightsOf(files.map((file) => file.key));
    const made = files.map(({ pieceId, outputId, key, pages: inOne }): MadeRow => {
      const { bytes = null, seen } = weights.get(key) ?? {};
      const failed = bytes === null ? maker.failureOf(key) : undefined;
      return failed === undefined
        ? [pieceId, outputId, key, bytes, seen ?? null, inOne?.length ?? 0]
        : [pieceId, outputId, key, null, null, inOne?.length ?? 0, failed];
    });
    res.json({
      version,
      formats,
      total,
      files: made,
      pages: pages.map(({ pieceId, outputId, key }): MadeRow => [pieceId, outputId, key, null, null, 0]),
      pictures: first ? await smallPictures(files.filter(({ key }) => weights.has(key))) : undefined,
    });
    if (!first && weights.size < files.length) maker.warm(project, version, files);
  });

  /** What small files look like, as data URLs: a request for each would take longer than all of them are large. */
  async function smallPictures(files: readonly KeyedFile[]): Promise<Record<string, string>> {
    const keys = files.map(({ key, format }) => (FORMATS[format].shown ? key : pictureKey(key)));
    const rows = await renders.readSmall(keys, MOST_BYTES_INSIDE);
    return Object.fromEntries(
      rows.map(({ key, media_type, bytes }) => [key, `data:${media_type};base64,${bytes.toString('base64')}`]),
    );
  }

  router.get('/projects/:id/findings', async (req, res) => {
    const project = await openProject(context, String(req.params.id));
    const last = await lastDone(db, project.id);
    const lastDelivery = last && {
      number: last.number,
      paths: (await filesBefore(db, project.id, last.number + 1)).map((file) => file.path),
    };
    const { files } = await project.plan();
    const weights = await renders.weightsOf(files.map((file) => file.key));
    const seen = [...weights].flatMap(([key, { seen: each }]): [string, Seen][] => (each ? [[key, each]] : []));
    await measureMeetings(project, maker);
    const bytes = [...weights].map(([key, { bytes: each }]): [string, number] => [key, each]);
    const intakes = (await listReceivers(db, project.id)).flatMap(({ is_on, rules, takes }) =>
      is_on && rules ? [{ rules, takes }] : [],
    );
    const { version, findings } = await project.ask('findings', { seen, bytes, lastDelivery, intakes });
    res.type('json').send(`{"version":${version},"findings":${findings}}`);
  });

  const cellOf = ({ params }: Request): Cell => ({
    pieceId: String(params.pieceId),
    outputId: String(params.outputId),
  });

  const sendRender = (res: Response, { key, bytes, media_type }: RenderRow, headers: Record<string, string>) =>
    res
      .set({ ETag: `"${key}"`, 'Content-Security-Policy': INERT, 'X-Tolvik-Bytes': String(bytes.length), ...headers })
      .type(media_type)
      .send(bytes);

  router.get('/projects/:id/files/:pieceId/:outputId', async (req, res) => {
    const { key: asked, whole, download } = req.query;
    // What belongs to a key never changes: who knows it needs no plan.
    const known =
      typeof asked === 'string' && RENDER_KEY.test(asked) && download === undefined
        ? await renders.read(asked)
        : undefined;
    if (known) return void sendRender(res, known, { 'Cache-Control': FOREVER });
    const project = await openProject(context, String(req.params.id));
    const { file } = await project.ask('file', { cell: cellOf(req), whole: whole !== undefined });
    if (req.headers['if-none-match'] === `"${file.key}"`)
      return void res.set('ETag', `"${file.key}"`).set('Cache-Control', 'private, no-cache').status(304).end();
    const made = await maker.file(project, file, whole !== undefined);
    const name = file.path.split('/').at(-1) as string;
    sendRender(res, made, {
      // The key is that of the bytes, also where the project moved on while they were made.
      'Cache-Control': asked === made.key ? FOREVER : 'private, no-cache',
      'Content-Disposition': `${download === undefined ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(name)}`,
    });
  });

  /** The same file with other settings of its format: what it would look like and weigh. Kept like any other, so that choosing it costs nothing more. */
  router.post('/projects/:id/trial', async (req, res) => {
    const { pieceId, outputId, settings } = trial.parse(req.body);
    const project = await openProject(context, String(req.params.id));
    sendRender(
      res,
      await maker.made(await project.ask('trial', { cell: { pieceId, outputId }, settings }), project.id),
      {},
    );
  });

  /** What a PDF looks like, for places that cannot show one: the same composed SVG as a PNG; with `page`, any page of it; with `large`, for a window. */
  router.get('/projects/:id/files/:pieceId/:outputId/picture.png', async (req, res) => {
    const asked = String(req.query.key);
    const side = sideWhenLarge.parse(req.query.large);
    const known = RENDER_KEY.test(asked) ? await renders.read(pictureKey(asked, side)) : undefined;
    if (known) return void sendRender(res, known, { 'Cache-Control': FOREVER });
    const project = await openProject(context, String(req.params.id));
    const cell = { ...cellOf(req), page: pageNumber.parse(req.query.page) };
    const { file } = await project.ask('file', { cell, whole: false });
    const key = pictureKey(file.key, side);
    if (req.headers['if-none-match'] === `"${key}"`)
      return void res.set('ETag', `"${key}"`).set('Cache-Control', 'private, no-cache').status(304).end();
    const made =
      (await renders.read(key)) ?? (await maker.made(await project.ask('picture', { cell, side }), project.id));
    sendRender(res, made, { 'Cache-Control': made.key === pictureKey(asked, side) ? FOREVER : 'private, no-cache' });
  });

  return router;
}

const MEASURED_AT_ONCE = 24;

/** Has the project measure where colours meet, on pictures drawn like any file; what cannot be drawn stays unmeasured. */
async function measureMeetings(project: ProjectHandle, maker: FileMaker): Promise<void> {
  const unmeasured = await project.ask('unmeasured', null);
  const cell = { pieceId: '', outputId: '' };
  for (let at = 0; at < unmeasured.length; at += MEASURED_AT_ONCE) {
    const drawn = await Promise.allSettled(
      unmeasured.slice(at, at + MEASURED_AT_ONCE).map(async ({ artboardId, job }): Promise<DrawnArtboard> => {
        const { bytes } = await maker.made({ cell, job, format: 'png', path: 'meetings.png' }, project.id);
        return { artboardId, key: job.key, ...(await pixelsOf(bytes)) };
      }),
    );
    await project.ask('measure', {
      drawn: drawn.flatMap((each) => (each.status === 'fulfilled' ? [each.value] : [])),
    });
  }
}
