import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { Refusal } from '@tolvik/core';
import { PNG } from 'pngjs';
import type { DrawnByBrowser } from './browser';
import { type Chain, type Render, throughTheChain } from './chain';
import { differingShare, type Picture } from './compare';

const run = promisify(execFile);

/** Longest side of the pictures that are compared, in px. */
export const SIDE = 160;
/** A file is the same when at most this share of its px differs. */
export const SAME = 0.002;

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
};

export type Source = { name: string; bytes: Uint8Array };

/** What a person may look at: the pictures that were compared. */
export type Seen = (name: string, pictures: Record<'source' | 'svg' | 'png' | 'pdf', Picture>) => void;

/** Holds each format's file against the browser's drawing of its source. */
export async function judge(sources: readonly Source[], browser: DrawnByBrowser, render?: Render, look?: Seen): Promise<Judged[]> {
  const results: Judged[] = [];
  const made: { source: Source; chain: Chain; pxWide: number; pxHigh: number }[] = [];
  for (const source of sources) {
    try {
      const chain = await throughTheChain(source.bytes, source.name, SIDE, render);
      made.push({ source, chain, pxWide: Math.round(chain.png.widthPx), pxHigh: Math.round(chain.png.heightPx) });
    } catch (error) {
      const why = error instanceof Refusal ? error.problem.message : `it failed: ${error instanceof Error ? error.message : String(error)}`;
      results.push({ name: source.name, svg: null, png: null, pdf: null, told: [], failed: why });
    }
  }
  const expected = await browser.draw(made.map(({ source, chain, pxWide, pxHigh }) => ({ bytes: source.bytes, width: chain.widthPx, height: chain.heightPx, pxWide, pxHigh })));
  const ours = await browser.draw(made.map(({ chain, pxWide, pxHigh }) => ({ bytes: chain.svg.bytes, width: chain.svg.widthPx, height: chain.svg.heightPx, pxWide, pxHigh })));
  for (const [i, { source, chain, pxWide, pxHigh }] of made.entries()) {
    const png = PNG.sync.read(chain.png.bytes);
    const pdf = await drawnByPoppler(chain.pdf.bytes, pxWide, pxHigh);
    look?.(source.name, { source: expected[i], svg: ours[i], png, pdf });
    const share = (picture: Picture) => differingShare(expected[i], picture);
    results.push({ name: source.name, svg: share(ours[i]), png: share(png), pdf: share(pdf), told: chain.told });
  }
  return results;
}

/** The first page of a PDF, see-through where it says nothing. */
async function drawnByPoppler(pdf: Buffer, pxWide: number, pxHigh: number): Promise<Picture> {
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-fidelity-'));
  try {
    writeFileSync(join(folder, 'a.pdf'), pdf);
    await run('pdftocairo', ['-png', '-transp', '-singlefile', '-scale-to-x', String(pxWide), '-scale-to-y', String(pxHigh), join(folder, 'a.pdf'), join(folder, 'a')]);
    return PNG.sync.read(readFileSync(join(folder, 'a.png')));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

export const isSame = (share: number | null): boolean => share !== null && share <= SAME;
