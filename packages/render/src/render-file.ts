import { FORMATS, type Seen, shapesOf, withPictures } from '@tolvik/core';
import { withCroppedPictures } from './crop/cropped';
import { asInEps, renderEps } from './formats/eps';
import { renderJpeg } from './formats/jpeg';
import { renderPdf } from './formats/pdf';
import { renderPng } from './formats/png';
import { renderSvg } from './formats/svg';
import { guard } from './guard';
import type { Rendered, RenderJob } from './job';
import { cutOf } from './outlines/cut';
import { withInkOutlines } from './outlines/ink-outlines';
import { type Outliner, outlineHere } from './outlines/outliner';
import { withStrokeOutlines } from './outlines/stroke-outlines';
import { withUnitedColours } from './outlines/united';
import { drawable } from './pictures';
import { opaqueGround } from './seen';

/**
 * Turns a composed SVG into the bytes of its format and measures them by decoding. Throws when
 * what came out is not what was asked: such a file has failed, it is never passed on.
 */
export async function renderFile(job: RenderJob, outliner: Outliner = outlineHere): Promise<Rendered> {
  const { job: outlined, facts } = await withOutlines(job, outliner);
  const drawn = await withDrawable(outlined);
  const shown = FORMATS[job.settings.format].raster ? drawn : await withCroppedPictures(drawn);
  const rendered = await byFormat(withItsPictures(shown));
  const { measured } = rendered;
  const { title, raster } = FORMATS[job.settings.format];
  if (Math.abs(measured.widthPx - job.widthPx) > 0.01 || Math.abs(measured.heightPx - job.heightPx) > 0.01) {
    throw new Error(
      `the ${title} measures ${measured.widthPx} × ${measured.heightPx} px, asked were ${job.widthPx} × ${job.heightPx}`,
    );
  }
  if (raster && (measured.dpi === null || Math.abs(measured.dpi - job.dpi) > 0.6))
    throw new Error(`the ${title} says ${measured.dpi} dpi, asked were ${job.dpi}`);
  if (raster && opaqueGround(job.ground) && measured.alpha)
    throw new Error(`the ${title} is transparent although it has a ground`);
  const pages = job.pages?.length ?? 1;
  if (measured.pages !== undefined && measured.pages !== pages)
    throw new Error(`the PDF has ${measured.pages} pages instead of ${pages}`);
  return Object.keys(facts).length > 0
    ? { ...rendered, measured: { ...measured, seen: { ...measured.seen, ...facts } } }
    : rendered;
}

/** The job with areas of one ink as outlines, and with shapes as its settings want them; and what is to be told of that. */
async function withOutlines(job: RenderJob, outliner: Outliner): Promise<{ job: RenderJob; facts: Seen }> {
  if (!job.pages) {
    const { svg, facts } = await withOutlinesIn(job, outliner);
    const shown = job.standsFor?.format === 'eps' ? asInEps(svg) : svg;
    return { job: { ...job, svg: shown }, facts };
  }
  const all: Seen = {};
  const pages = [];
  for (const page of job.pages) {
    const { svg, facts } = await withOutlinesIn({ ...page, settings: job.settings }, outliner);
    for (const name of ['masked', 'strokes'] as const)
      if (facts[name]) all[name] = (all[name] ?? 0) + (facts[name] ?? 0);
    if (facts.apart) all.apart = true;
    pages.push({ ...page, svg });
  }
  return { job: { ...job, pages }, facts: all };
}

const NO_SHAPES = { shapes: 'drawn', leastMm: 0 } as const;

type Asked = Pick<RenderJob, 'svg' | 'settings' | 'widthPx' | 'heightPx' | 'standsFor'>;

async function withOutlinesIn(asked: Asked, outliner: Outliner): Promise<{ svg: string; facts: Seen }> {
  const { svg, masked } = await withInkOutlines(asked.svg, outliner);
  const facts: Seen = masked > 0 ? { masked } : {};
  const settings = asked.standsFor ?? asked.settings;
  const { shapes, leastMm } = shapesOf(settings) ?? NO_SHAPES;
  if (shapes === 'drawn') return { svg, facts };
  guard(svg, () => true);
  const united = shapes === 'united' ? await withUnitedColours(svg, outliner) : null;
  if (united !== null)
    return { svg: united, facts: asked.standsFor ? facts : { ...facts, cut: cutOf(united, asked, leastMm) } };
  if (shapes === 'united') facts.apart = true;
  const outlined = await withStrokeOutlines(svg, outliner);
  return { svg: outlined.svg, facts: outlined.strokes > 0 ? { ...facts, strokes: outlined.strokes } : facts };
}

/** Browsers draw every kind of picture; where we draw, those that our libraries do not know are converted. */
const withDrawable = async (job: RenderJob): Promise<RenderJob> =>
  job.settings.format === 'svg' || !job.pictures?.length
    ? job
    : { ...job, pictures: await Promise.all(job.pictures.map(drawable)) };

/** The job with its pictures in place of their names, once it is known to hold nothing else from outside. */
function withItsPictures(job: RenderJob): RenderJob {
  const byHash = new Map((job.pictures ?? []).map((picture) => [picture.hash, picture]));
  const embed = (svg: string): string => {
    guard(svg, (hash) => byHash.has(hash));
    return byHash.size > 0 ? withPictures(svg, (hash) => byHash.get(hash)) : svg;
  };
  const pages = job.pages?.map((page) => ({ ...page, svg: embed(page.svg) }));
  return { ...job, svg: pages ? pages[0].svg : embed(job.svg), pages };
}

function byFormat(job: RenderJob): Rendered | Promise<Rendered> {
  const { settings } = job;
  switch (settings.format) {
    case 'svg':
      return renderSvg(job, settings);
    case 'pdf':
      return renderPdf(job);
    case 'png':
      return renderPng(job, settings);
    case 'jpeg':
      return renderJpeg(job, settings);
    case 'eps':
      return renderEps(job);
  }
}
