import { join } from 'node:path';
import {
  artboardRecord,
  colourFacts,
  composeBenchPiece,
  type Fonts,
  handoverVariants,
  type NamedArtwork,
  ProjectDocument,
  pieceAlone,
  placeFiles,
  readSvg,
  readTree,
  regionOf,
} from '@tolvik/core';
import { drawnMeetings, type Outliner, outlineInThread, withInkOutlines } from '@tolvik/render';
import { maskedLogo, randomLogo } from '../packages/render/test/support/random-logo';
import { root } from '../scripts/parts/machine.mjs';
import type { Drawing, DrawnByBrowser } from './browser';
import { differingShare } from './compare';
import { SAME, SIDE, type Source } from './measure';

/** Drawings in one ink, as they are composed: an area behind a mask. */
type Masked = { name: string; svg: string; width: number; height: number };

export type InkResult = {
  name: string;
  outlined: boolean;
  /** The largest share of px in which a browser draws the outline, by either fill rule, otherwise than the mask. */
  off: number;
  ms: number;
  /** Segments of the outline for each of what it is made of. */
  segments: number;
  /** Whether it is one path with a fill and nothing else. */
  alone: boolean;
};

const LOGOS = 2000;

/** Logos by a generator, with its numbers as their names. */
export const randomLogos = (): Masked[] =>
  Array.from({ length: LOGOS }, (_, i) => {
    const logo = randomLogo(10_000 + i);
    return { name: `${10_000 + i}`, svg: maskedLogo(logo), width: logo.width, height: logo.height };
  });

const PLAIN = { kind: 'ink', colour: '#171b1c', out: [], apart: [], gap: 0 } as const;

/** Drawings of others as their mono variants are proposed; what cannot be read is left out. */
export function inOneInk(sources: readonly Source[], fonts: Fonts): Masked[] {
  const from = { fonts, pictures: () => undefined };
  return sources.flatMap(({ name, bytes }) => {
    try {
      const doc = new ProjectDocument();
      const artwork: NamedArtwork = { name, artwork: readSvg(Buffer.from(bytes).toString('utf8'), `${name}.svg`) };
      doc.apply({ puts: placeFiles(doc, [artwork], []), removes: [] });
      const [source] = doc.list('artboard');
      const variants = handoverVariants(colourFacts(doc, source, drawnMeetings(doc, source, from)));
      const proposed = variants.find(({ key }) => key === 'mono-dark')?.rule;
      const rule = proposed?.kind === 'ink' ? proposed : PLAIN;
      const variant = artboardRecord.parse({
        ...source,
        id: 'variant',
        background: null,
        follows: { artboardId: source.id, rule },
      });
      const { width, height } = source;
      const size = { widthPx: Math.max(1, Math.round(width)), heightPx: Math.max(1, Math.round(height)) };
      return [{ name, svg: composeBenchPiece(doc, pieceAlone(variant, regionOf(variant)), size, from), width, height }];
    } catch {
      return [];
    }
  });
}

/** Outlines of drawings, each held against its mask by a browser. */
export async function outlineAll(all: readonly Masked[], browser: DrawnByBrowser): Promise<InkResult[]> {
  const thread = outlineInThread(join(root, 'dist/outline-thread.mjs'));
  let why = '';
  const outliner: Outliner = (asked) =>
    thread(asked).catch((error: Error) => {
      why = error.message;
      throw error;
    });
  const results: InkResult[] = [];
  for (let at = 0; at < all.length; at += AT_ONCE) {
    const some = all.slice(at, at + AT_ONCE);
    const made: Awaited<ReturnType<typeof withInkOutlines>>[] = [];
    const took: number[] = [];
    for (const { name, svg } of some) {
      const from = performance.now();
      why = 'it is not what the mask shows';
      made.push(await withInkOutlines(svg, outliner));
      took.push(performance.now() - from);
      if (made.at(-1)?.masked) console.log(`${name} stays behind its mask: ${why}`);
    }
    const drawn = (svgs: readonly string[]) =>
      browser.draw(some.map(({ width, height }, i) => drawingOf(svgs[i], width, height)));
    const wanted = await drawn(some.map(({ svg }) => svg));
    const byRule = [];
    for (const rule of ['nonzero', 'evenodd'])
      byRule.push(await drawn(made.map(({ svg }) => svg.replace('<path ', `<path fill-rule="${rule}" `))));
    for (const [i, { name, svg }] of some.entries()) {
      const outlined = made[i].masked === 0;
      results.push({
        name,
        outlined,
        off: Math.max(...byRule.map((pictures) => differingShare(wanted[i], pictures[i]))),
        ms: took[i],
        segments: segmentsOf(made[i].svg) / Math.max(1, segmentsOf(svg)),
        alone: !outlined || !/<(?!svg|path|\/svg)/.test(made[i].svg),
      });
    }
  }
  return results;
}

const AT_ONCE = 48;

function drawingOf(svg: string, width: number, height: number): Drawing {
  const scale = SIDE / Math.max(width, height);
  return {
    bytes: Buffer.from(svg),
    width,
    height,
    pxWide: Math.max(1, Math.round(width * scale)),
    pxHigh: Math.max(1, Math.round(height * scale)),
  };
}

/** How many segments the shapes of a drawing have; those of a stroke count on both its sides. */
function segmentsOf(svg: string): number {
  let sum = 0;
  const visit = ({ tag, attrs, children }: ReturnType<typeof readTree>['root'], stroked: boolean): void => {
    const isStroked = 'stroke' in attrs ? attrs.stroke !== 'none' : stroked;
    const own = attrs.d
      ? (attrs.d.match(/[a-z]/gi)?.length ?? 0)
      : attrs.points
        ? attrs.points.split(/[\s,]+/).length / 2
        : 4;
    if (/^(?:path|rect|circle|ellipse|line|polyline|polygon)$/.test(tag)) sum += isStroked ? own * 2 : own;
    for (const child of children) visit(child, isStroked);
  };
  visit(readTree(svg).root, false);
  return sum;
}

/** Results as a row of a table. */
export function inkRow(what: string, results: readonly InkResult[]): string {
  const sorted = (values: number[]) => values.sort((a, b) => a - b);
  const at = (values: number[], share: number) =>
    values[Math.min(values.length - 1, Math.floor(values.length * share))] ?? 0;
  const outlined = results.filter((result) => result.outlined);
  const ms = sorted(results.map((result) => result.ms));
  const segments = sorted(outlined.map((result) => result.segments));
  const off = outlined.filter((result) => result.off > SAME || !result.alone);
  const names =
    off.length > 0 ? ` (${off.map(({ name, off: by }) => `${name} ${(by * 100).toFixed(1)} %`).join(', ')})` : '';
  return `| ${what} | ${results.length} | ${outlined.length} | ${results.length - outlined.length} | ${off.length}${names} | ${at(ms, 0.5).toFixed(0)}, ${at(ms, 0.95).toFixed(0)} | ${at(segments, 0.5).toFixed(2)}, ${at(segments, 0.95).toFixed(2)} |`;
}

export const INK_HEAD =
  '| drawings | of them | one path | behind a mask, told | drawn otherwise by a browser | ms, median and p95 | segments of the path for each of what it is made of, median and p95 |\n|---|---|---|---|---|---|---|';
