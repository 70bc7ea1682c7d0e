import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { type Fonts, Refusal } from '@tolvik/core';
import { PNG } from 'pngjs';
import type { DrawnByBrowser } from './browser';
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
  /** Whether our SVG, read and exported again, gives the same pixels and the same bytes. */
  again?: { pixels: boolean; bytes: boolean };
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
  const expected = await browser.draw(
    made.map(({ source, chain, pxWide, pxHigh }) => ({
      bytes: source.bytes,
      width: chain.widthPx,
      height: chain.heightPx,
      pxWide,
      pxHigh,
    })),
  );
  const ours = await browser.draw(
    made.map(({ chain, pxWide, pxHigh }) => ({
      bytes: chain.svg.bytes,
      width: chain.svg.widthPx,
      height: chain.svg.heightPx,
      pxWide,
      pxHigh,
    })),
  );
  for (const [i, { source, chain, pxWide, pxHigh }] of made.entries()) {
    const png = PNG.sync.read(chain.png.bytes);
    let pdf = await drawnByPoppler(chain.pdf.bytes, pxWide, pxHigh, FINER[0]);
    if (!isSame(differingShare(expected[i], pdf)))
      pdf = await drawnByPoppler(chain.pdf.bytes, pxWide, pxHigh, FINER[1]);
    look?.(source.name, { source: expected[i], svg: ours[i], png, pdf });
    const share = (picture: Picture) => differingShare(expected[i], picture);
    const second = await throughTheChain(chain.svg.bytes, source.name, SIDE, fonts, render).catch(() => null);
    const again = {
      pixels: second !== null && largestDifference(PNG.sync.read(second.png.bytes), png) <= ROUNDING,
      bytes: second?.svg.bytes.equals(chain.svg.bytes) ?? false,
    };
    results.push({
      name: source.name,
      svg: share(ours[i]),
      png: share(png),
      pdf: share(pdf),
      told: chain.told,
      again,
      weight: chain.svg.bytes.length,
    });
  }
  return results;
}

/** The PDF renderer widens strokes to a px of its own, so those are finer than what is compared; finer yet where it differs. */
const FINER = [4, 8] as const;

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
