import { cellKey, FORMATS, findTrouble, groundOf, pictureFacts, refuse, type Seen } from '@tolvik/core';
import { resized } from '@tolvik/render';
import { Router } from 'express';
import { deliveryFiles, listDeliveries } from '../db/deliveries';
import type { KeyedFile, OpenProject } from '../projects/open-project';
import { type Context, openProject } from './context';
import { trial } from './schemas';
import { INERT } from './security';

/** Piece, output, render key, bytes, what of it can be told from its ground, and how many pages it holds when several. */
type MadeRow = [pieceId: string, outputId: string, key: string, bytes: number | null, seen: Seen | null, pages: number];

const RENDER_KEY = /^[0-9a-f]{64}$/;
const FOREVER = 'private, max-age=31536000, immutable';
const pictureKey = (key: string): string => `${key}-picture`;
/** How large the picture of a vector file is drawn for the Proof, at the most. */
const PICTURE_SIDE = 512;

export function fileRoutes(context: Context): Router {
  const { db, maker, pool, renders } = context;
  const router = Router();

  router.get('/projects/:id/plan', async (req, res) => {
    const project = await openProject(context, String(req.params.id));
    const { plan, files, pages } = project.plan();
    const weights = await renders.weightsOf(files.map((file) => file.key));
    res.json({
      version: project.version,
      offCount: plan.offCount,
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
        pages: file.pages?.length,
      })),
      pages: pages.map(({ pieceId, outputId, page, key }) => ({ pieceId, outputId, page, key, bytes: null })),
    });
    if (weights.size < files.length) maker.warm(project, files, () => {});
  });

  /** The same in short, for a page that plans by itself: what was made of each file. */
  router.get('/projects/:id/made', async (req, res) => {
    const project = await openProject(context, String(req.params.id));
    const { files, pages } = project.plan();
    const weights = await renders.weightsOf(files.map((file) => file.key));
    const made = files.map(({ pieceId, outputId, key, pages: inOne }): MadeRow => {
      const { bytes = null, seen } = weights.get(key) ?? {};
      return [pieceId, outputId, key, bytes, seen ?? null, inOne?.length ?? 0];
    });
    const formats = Object.fromEntries(project.doc.list('output').map(({ id, settings }) => [id, settings.format]));
    res.json({ version: project.version, formats, files: made, pages: pages.map(({ pieceId, outputId, key }): MadeRow => [pieceId, outputId, key, null, null, 0]) });
    if (weights.size < files.length) maker.warm(project, files, () => {});
  });

  router.get('/projects/:id/findings', async (req, res) => {
    const project = await openProject(context, String(req.params.id));
    const [last] = (await listDeliveries(db, project.id)).filter((delivery) => delivery.state === 'done');
    const lastDelivery = last && { number: last.number, paths: (await deliveryFiles(db, last.id)).map((file) => file.path) };
    const pictureSize = (hash: string) => {
      const blob = project.picture(hash);
      return (blob && pictureFacts(blob.bytes)) ?? undefined;
    };
    const { plan, byCell } = project.plan();
    const weights = await renders.weightsOf([...byCell.values()].map((file) => file.key));
    const seenOf = (pieceId: string, outputId: string) => weights.get(byCell.get(cellKey(pieceId, outputId))?.key ?? '')?.seen;
    res.json({ version: project.version, findings: findTrouble({ doc: project.doc, plan, fonts: project.composer.sources.fonts, pictureSize, lastDelivery, seenOf }) });
  });

  /** The planned file of the request; a page of a file that holds several by itself, unless the whole is asked for. */
  const fileOf = async (params: Record<string, string | string[]>, whole: boolean): Promise<{ project: OpenProject; file: KeyedFile }> => {
    const project = await openProject(context, String(params.id));
    const cell = cellKey(String(params.pieceId), String(params.outputId));
    const page = whole ? undefined : project.plan().pageByCell.get(cell);
    const file = page ? { ...page, clashes: [] } : project.plan().byCell.get(cell);
    if (!file) return refuse('not.found', 'there is no such file in the plan');
    if (file.problem) return refuse('file.problem', file.problem, { where: file.path });
    return { project, file };
  };

  router.get('/projects/:id/files/:pieceId/:outputId', async (req, res) => {
    const { key: asked, whole, download } = req.query;
    // What belongs to a key never changes: who knows it needs no plan.
    const known = typeof asked === 'string' && RENDER_KEY.test(asked) && download === undefined ? await renders.read(asked) : undefined;
    if (known) {
      res.set({ ETag: `"${known.key}"`, 'Cache-Control': FOREVER, 'Content-Security-Policy': INERT, 'X-Tolvik-Bytes': String(known.bytes.length) });
      return void res.type(known.media_type).send(known.bytes);
    }
    const { project, file } = await fileOf(req.params, whole !== undefined);
    res
      .set('ETag', `"${file.key}"`)
      .set('Cache-Control', asked === file.key ? FOREVER : 'private, no-cache')
      .set('Content-Security-Policy', INERT);
    if (req.headers['if-none-match'] === `"${file.key}"`) return void res.status(304).end();
    const made = await maker.file(project, file);
    const name = file.path.split('/').at(-1) as string;
    res.set('Content-Disposition', `${download === undefined ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(name)}`);
    res.set('X-Tolvik-Bytes', String(made.bytes.length)).type(made.media_type).send(made.bytes);
  });

  /** The same file with other settings of its format: what it would look like and weigh. Kept like any other, so that choosing it costs nothing more. */
  router.post('/projects/:id/trial', async (req, res) => {
    const { pieceId, outputId, settings } = trial.parse(req.body);
    const { project, file } = await fileOf({ id: String(req.params.id), pieceId, outputId }, false);
    if (settings.format !== file.format) return refuse('trial.format', `this output makes ${FORMATS[file.format].title}`, { accepted: `settings of ${file.format}` });
    const { svg, key } = project.composer.composeAs(file, settings);
    let made = await renders.read(key);
    if (!made) {
      const piece = project.composer.piece(pieceId);
      const output = project.doc.find('output', outputId);
      const ground = piece && output ? groundOf(project.doc, piece, output) : null;
      const { bytes, measured } = await pool.render({ svg, settings, widthPx: file.widthPx, heightPx: file.heightPx, dpi: file.dpi, ground }, 'high');
      const mediaType = FORMATS[file.format].mediaType;
      await renders.put([{ key, mediaType, bytes, measured }]);
      made = { key, media_type: mediaType, bytes, measured };
    }
    res
      .set({ 'Content-Security-Policy': INERT, ETag: `"${key}"` })
      .type(made.media_type)
      .send(made.bytes);
  });

  /** What a PDF looks like, for places that cannot show one: the same composed SVG as a PNG. */
  router.get('/projects/:id/files/:pieceId/:outputId/picture.png', async (req, res) => {
    const asked = String(req.query.key);
    const known = RENDER_KEY.test(asked) ? await renders.read(pictureKey(asked)) : undefined;
    if (known) {
      res.set({ ETag: `"${known.key}"`, 'Cache-Control': FOREVER });
      return void res.type('image/png').send(known.bytes);
    }
    const { project, file } = await fileOf(req.params, false);
    const scale = Math.min(PICTURE_SIDE / Math.max(file.widthPx, file.heightPx), 4);
    const [w, h] = [Math.max(1, Math.round(file.widthPx * scale)), Math.max(1, Math.round(file.heightPx * scale))];
    const key = pictureKey(file.key);
    res
      .set('ETag', `"${key}"`)
      .set('Cache-Control', req.query.key === file.key ? FOREVER : 'private, no-cache')
      .type('image/png');
    if (req.headers['if-none-match'] === `"${key}"`) return void res.status(304).end();
    let bytes = (await renders.read(key))?.bytes;
    if (!bytes) {
      const { svg } = project.composer.compose(file);
      const piece = project.composer.piece(file.pieceId);
      const output = project.doc.find('output', file.outputId);
      const ground = piece && output ? groundOf(project.doc, piece, output) : null;
      const made = await pool.render({ svg: resized(svg, w, h), settings: { format: 'png', effort: 'faster' }, widthPx: w, heightPx: h, dpi: 96, ground }, 'high');
      bytes = made.bytes;
      await renders.put([{ key, mediaType: FORMATS.png.mediaType, ...made }]);
    }
    res.send(bytes);
  });

  return router;
}
