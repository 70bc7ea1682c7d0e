import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { type Fonts, Refusal } from '@tolvik/core';
import { PNG } from 'pngjs';
import type { Drawing, DrawnByBrowser } from './browser';
import { type Chain, type Render, throughTheChain } from './chain';
import { differingShare, largestDifference, type Picture, shrunk } from './compare';

const run = promisify(execFile);

/** Longest side of the pictures that are compared, in px. */
export const SIDE = 160;
/** What is compared with the browser's drawing of the source. */
export const FORMATS = ['svg', 'png', 'pdf'] as const;
/** A file is the same when at most this share of its px differs. */
export const SAME = 0.002;

/** What the third decimal of a coordinate may change in a channel, of 255: the rasteriser smooths edges in four rows to a px. */
export const ROUNDING = 64;

export type Judged = {
  name: string;
  /** Share of px that differ from the browser's drawing of the source, 0 to 1; null when the file was not made. */
  svg: number | null;
  png: number | null;
  pdf: number | null;
  /** What the reader told of it. */
  told: string[];
  /** Why it was not made. */
  failed?: string;
  /** Whether our SVG, read and exported again, gives the same picture, even with no px smoothed otherwise, and the same bytes. */
  again?: { same: boolean; pixels: boolean; bytes: boolean };
  /** Bytes of our SVG. */
  weight?: number;
};

export type Source = { name: string; bytes: Uint8Array };

/** What a person may look at: the pictures that were compared. */
export type Seen = (name: string, pictures: Record<'source' | 'svg' | 'png' | 'pdf', Picture>) => void;

/** Holds each format's file against the browser's drawing of its source. */
export async function judge(
  sources: readonly Source[],
  browser: DrawnByBrowser,
  fonts: Fonts,
  render?: Render,
  look?: Seen,
): Promise<Judged[]> {
  const results: Judged[] = [];
  const made: { source: Source; chain: Chain; pxWide: number; pxHigh: number }[] = [];
  for (const source of sources) {
    try {
      const chain = await throughTheChain(source.bytes, source.name, SIDE, fonts, render);
      made.push({ source, chain, pxWide: Math.round(chain.png.widthPx), pxHigh: Math.round(chain.png.heightPx) });
    } catch (error) {
      const why =
        error instanceof Refusal
          ? error.problem.message
          : `it failed: ${error instanceof Error ? error.message : String(error)}`;
      results.push({ name: source.name, svg: null, png: null, pdf: null, told: [], failed: why });
    }
  }
  const sourceOf = ({ source, chain, pxWide, pxHigh }: (typeof made)[number]): Drawing => ({
    bytes: source.bytes,
    width: chain.widthPx,
    height: chain.heightPx,
    pxWide,
    pxHigh,
  });
  const oursOf = ({ chain, pxWide, pxHigh }: (typeof made)[number]): Drawing => ({
    bytes: chain.svg.bytes,
    width: chain.svg.widthPx,
    height: chain.svg.heightPx,
    pxWide,
    pxHigh,
  });
  const expected = await browser.draw(made.map(sourceOf));
  const ours = await browser.draw(made.map(oursOf));
  for (const [i, each] of made.entries()) {
    const { source, chain, pxWide, pxHigh } = each;
    const png = PNG.sync.read(chain.png.bytes);
    const pdfDrawn = (finer: number) => drawnByPoppler(chain.pdf.bytes, pxWide, pxHigh, finer);
    const held = { svg: ours[i], png, pdf: await pdfDrawn(FINER) };
    const shares = mapped(held, (picture) => differingShare(expected[i], picture));
    if (!Object.values(shares).every(isSame)) {
      const [finerSource, finerOurs] = await browser.drawFiner([sourceOf(each), oursOf(each)], FINEST);
      const finer = { svg: finerOurs, png, pdf: await pdfDrawn(FINEST) };
      for (const format of FORMATS)
        if (!isSame(shares[format]))
          shares[format] = Math.min(shares[format], differingShare(finerSource, finer[format]));
    }
    look?.(source.name, { source: expected[i], ...held });
    const second = await throughTheChain(chain.svg.bytes, source.name, SIDE, fonts, render).catch(() => null);
    const secondPng = second && PNG.sync.read(second.png.bytes);
    const again = {
      same: secondPng !== null && isSame(differingShare(png, secondPng)),
      pixels: secondPng !== null && largestDifference(png, secondPng) <= ROUNDING,
      bytes: second?.svg.bytes.equals(chain.svg.bytes) ?? false,
    };
    results.push({
      name: source.name,
      ...shares,
      told: chain.told,
      again,
      weight: chain.svg.bytes.length,
    });
  }
  return results;
}

const mapped = <T, U>(held: Record<(typeof FORMATS)[number], T>, by: (each: T) => U) => ({
  svg: by(held.svg),
  png: by(held.png),
  pdf: by(held.pdf),
});

/**
 * Each judge rounds to px of its own: the PDF renderer widens strokes to one, the browser rounds how high a font is and
 * how large a page. So what they draw is larger than what is compared, where it differs.
 */
const FINEST = 8;
const FINER = 4;

/** The first page of a PDF, see-through where it says nothing. */
async function drawnByPoppler(pdf: Buffer, pxWide: number, pxHigh: number, finer: number): Promise<Picture> {
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-fidelity-'));
  try {
    writeFileSync(join(folder, 'a.pdf'), pdf);
    await run('pdftocairo', [
      '-png',
      '-transp',
      '-singlefile',
      '-scale-to-x',
      String(pxWide * finer),
      '-scale-to-y',
      String(pxHigh * finer),
      join(folder, 'a.pdf'),
      join(folder, 'a'),
    ]);
    return shrunk(PNG.sync.read(readFileSync(join(folder, 'a.png'))), finer);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

export const isSame = (share: number | null): boolean => share !== null && share <= SAME;
