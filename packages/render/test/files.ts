import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { defaultSettings, type Format, type OutputSettings } from '@tolvik/core';
import { PNG } from 'pngjs';
import type { RenderJob } from '../src';

export const icon = (inner: string, side = 24) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}" viewBox="0 0 24 24">${inner}</svg>`;
export const ANCHOR =
  '<g fill="none" stroke="#0c6a53" stroke-width="2"><circle cx="12" cy="5" r="3"/><path d="M12 8v13M5 12a7 8 0 0 0 14 0"/></g>';

export const job = (
  format: Format,
  side: number,
  inner = ANCHOR,
  settings: Partial<OutputSettings> = {},
  ground: string | null = null,
): RenderJob => ({
  svg: icon(inner, side),
  settings: { ...defaultSettings(format), ...settings } as OutputSettings,
  widthPx: side,
  heightPx: side,
  dpi: 96,
  ground,
});

/** Pixels of a PNG by a decoder that is not ours. */
export const decodePng = (bytes: Buffer): { width: number; height: number; data: Buffer } => PNG.sync.read(bytes);

/** Draws the first page of a PDF with poppler, a px for each 1/96 inch. */
export function drawPdf(pdf: Buffer, dpi = 96, page = 1): { width: number; height: number; data: Buffer } {
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-pdf-'));
  try {
    writeFileSync(join(folder, 'a.pdf'), pdf);
    const pages = ['-f', String(page), '-l', String(page), '-singlefile'];
    execFileSync('pdftoppm', ['-png', '-r', String(dpi), ...pages, join(folder, 'a.pdf'), join(folder, 'a')]);
    return decodePng(readFileSync(join(folder, 'a.png')));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Page sizes in points and the titles of bookmarks, as poppler reads them. */
export function readPdf(pdf: Buffer): { sizes: [number, number][]; bookmarks: string[] } {
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-pdf-'));
  try {
    const path = join(folder, 'a.pdf');
    writeFileSync(path, pdf);
    const info = execFileSync('pdfinfo', ['-f', '1', '-l', '1000', path], { encoding: 'utf8' });
    const sizes = [...info.matchAll(/Page +\d+ size: +([\d.]+) x ([\d.]+) pts/g)].map((match): [number, number] => [
      Number(match[1]),
      Number(match[2]),
    ]);
    execFileSync('pdftohtml', ['-xml', '-i', '-q', path, join(folder, 'out')]);
    const xml = readFileSync(join(folder, 'out.xml'), 'utf8');
    const plain = (text: string) =>
      text.replace(/&lt;/g, '<').replace(/&gt;/g, '>').replace(/&amp;/g, '&').replace(/&#34;/g, '"');
    return { sizes, bookmarks: [...xml.matchAll(/<item page="\d+">(.*?)<\/item>/g)].map((match) => plain(match[1])) };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

export const pixel = ({ width, data }: { width: number; data: Buffer }, x: number, y: number): number[] => [
  ...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4),
];

/** Mean difference of two pictures per channel, 0–255. */
export function difference(a: Buffer, b: Buffer): number {
  expect(a.length).toBe(b.length);
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += Math.abs(a[i] - b[i]);
  return sum / a.length;
}

/** Draws an EPS with ghostscript, a px for each 1/96 inch, on nothing; the size is that of its bounding box. */
export function drawEps(eps: Buffer, dpi = 96): { width: number; height: number; data: Buffer } {
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-eps-'));
  try {
    writeFileSync(join(folder, 'a.eps'), eps);
    const smooth = ['-dTextAlphaBits=4', '-dGraphicsAlphaBits=4', '-dMaxBitmap=500000000'];
    const said = execFileSync(
      'gs',
      [
        '-q',
        '-dNOPAUSE',
        '-dBATCH',
        '-dSAFER',
        '-dEPSCrop',
        '-sDEVICE=pngalpha',
        `-r${dpi}`,
        ...smooth,
        '-o',
        'a.png',
        'a.eps',
      ],
      { cwd: folder, encoding: 'utf8' },
    );
    if (said) throw new Error(said);
    return decodePng(readFileSync(join(folder, 'a.png')));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
