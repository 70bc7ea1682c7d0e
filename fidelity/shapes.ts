import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import {
  composeBenchPiece,
  defaultSettings,
  type Fonts,
  type OutputSettings,
  ProjectDocument,
  pieceAlone,
  placeFiles,
  readSvg,
  readTree,
  regionOf,
} from '@tolvik/core';
import type { Rendered, RenderJob } from '@tolvik/render';
import { PNG } from 'pngjs';
import type { DrawnByBrowser } from './browser';
import { differingShare, type Picture, shrunk } from './compare';
import { SAME, SIDE, type Source } from './measure';

const run = promisify(execFile);

/** Ways in which shapes leave, each as an output has them. */
const WAYS = [
  { title: 'SVG, strokes as outlines', settings: { ...defaultSettings('svg'), shapes: 'outlined' } },
  { title: 'SVG, united by colour', settings: { ...defaultSettings('svg'), shapes: 'united' } },
  { title: 'EPS, as drawn', settings: defaultSettings('eps') },
  { title: 'EPS, united by colour', settings: { ...defaultSettings('eps'), shapes: 'united' } },
] as { title: string; settings: OutputSettings }[];

/** What became of one drawing in one of the ways: the share of px drawn otherwise, null where it could not be made. */
type ShapeResult = { name: string; off: number | null; told: boolean };

/** Drawings of others as our pages hold them, of about one size; what cannot be read is left out. */
function pages(
  sources: readonly Source[],
  fonts: Fonts,
): { name: string; svg: string; width: number; height: number }[] {
  return sources.flatMap(({ name, bytes }) => {
    try {
      const doc = new ProjectDocument();
      const artwork = readSvg(Buffer.from(bytes).toString('utf8'), `${name}.svg`);
      doc.apply({ puts: placeFiles(doc, [{ name, artwork }], []), removes: [] });
      const [board] = doc.list('artboard');
      const scale = SIDE / Math.max(board.width, board.height);
      const [widthPx, heightPx] = [board.width, board.height].map((side) => Math.max(1, Math.round(side * scale)));
      const from = { fonts, pictures: () => undefined };
      const svg = composeBenchPiece(
        doc,
        pieceAlone({ ...board, background: null }, regionOf(board)),
        { widthPx, heightPx },
        from,
      );
      // It is as large as its shape says.
      const { attrs } = readTree(svg).root;
      return [{ name, svg, width: Number(attrs.width), height: Number(attrs.height) }];
    } catch {
      return [];
    }
  });
}

/** Every drawing in every way, held against what a browser draws of it as it is; a line of a table for each way. */
export async function shapeRows(
  sources: readonly Source[],
  browser: DrawnByBrowser,
  fonts: Fonts,
  render: (job: RenderJob) => Promise<Rendered>,
): Promise<string[]> {
  const all = pages(sources, fonts);
  const results = WAYS.map((): ShapeResult[] => []);
  const seconds = WAYS.map(() => 0);
  for (let at = 0; at < all.length; at += AT_ONCE) {
    const some = all.slice(at, at + AT_ONCE);
    const draw = (svgs: readonly Buffer[]) =>
      browser.draw(
        some.map(({ width, height }, i) => ({ bytes: svgs[i], width, height, pxWide: width, pxHigh: height })),
      );
    const wanted = await draw(some.map(({ svg }) => Buffer.from(svg)));
    for (const [w, { settings }] of WAYS.entries()) {
      const from = performance.now();
      const made = await Promise.all(
        some.map(({ name, svg, width, height }) =>
          render({ svg, settings, widthPx: width, heightPx: height, dpi: 96, ground: null }).catch((error: Error) => {
            console.log(`${name}: ${error.message}`);
            return null;
          }),
        ),
      );
      seconds[w] += (performance.now() - from) / 1000;
      const empty = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>');
      const bytes = made.map((file) => file?.bytes ?? empty);
      const got = settings.format === 'svg' ? await draw(bytes) : await drawnByGhostscript(bytes, some);
      for (const [i, { name }] of some.entries()) {
        const file = made[i];
        const { apart, strokes, asPicture } = file?.measured.seen ?? {};
        const told = !!apart || !!strokes || !!asPicture;
        const shown = asPicture ? onWhite(wanted[i]) : wanted[i];
        const off = file ? differingShare(shown, got[i]) : null;
        results[w].push({ name, off, told });
        if (off === null || off > SAME) console.log(`${WAYS[w].title}: ${name} ${off === null ? 'not made' : off}`);
      }
    }
  }
  return WAYS.map(({ title }, w) => rowOf(title, results[w], seconds[w]));
}

const AT_ONCE = 24;

function rowOf(title: string, results: readonly ShapeResult[], seconds: number): string {
  const told = results.filter((result) => result.told).length;
  const off = results.filter((result) => result.off !== null && result.off > SAME);
  const names = off.slice(0, 12).map((result) => `${result.name} ${((result.off ?? 0) * 100).toFixed(1)} %`);
  const listed = off.length === 0 ? '' : ` (${names.join(', ')}${off.length > names.length ? ' …' : ''})`;
  const failed = results.filter((result) => result.off === null).length;
  return `| ${title} | ${results.length} | ${results.length - told - failed} | ${told} | ${failed} | ${off.length}${listed} | ${(results.length / seconds).toFixed(1)} |`;
}

export const SHAPES_HEAD =
  '| way | of them | whole | left as drawn or a picture, told | not made | drawn otherwise | files a second on two cores |\n|---|---|---|---|---|---|---|';

const FINER = 4;

/** EPS files as another interpreter draws them, on nothing. */
async function drawnByGhostscript(
  files: readonly Buffer[],
  sizes: readonly { width: number; height: number }[],
): Promise<Picture[]> {
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-shapes-'));
  try {
    const pictures: Picture[] = [];
    for (const [i, bytes] of files.entries()) {
      const { width, height } = sizes[i];
      writeFileSync(join(folder, 'a.eps'), bytes);
      const page = [`-g${width * FINER}x${height * FINER}`, `-r${96 * FINER}`, '-dFIXEDMEDIA'];
      await run('gs', ['-q', '-dNOPAUSE', '-dBATCH', '-dSAFER', '-sDEVICE=pngalpha', ...page, '-o', 'a.png', 'a.eps'], {
        cwd: folder,
      });
      pictures.push(shrunk(PNG.sync.read(readFileSync(join(folder, 'a.png'))), FINER));
    }
    return pictures;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

function onWhite({ width, height, data }: Picture): Picture {
  const white = new Uint8Array(data.length);
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3] / 255;
    for (let c = 0; c < 3; c++) white[i + c] = Math.round(data[i + c] * alpha + 255 * (1 - alpha));
    white[i + 3] = 255;
  }
  return { width, height, data: white };
}
