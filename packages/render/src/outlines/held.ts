import { createHash } from 'node:crypto';
import { type Bounds, NoOutline, WAYS } from '@tolvik/core';
import { LRUCache } from 'lru-cache';
import { drawPixels } from '../draw-pixels';
import type { Outliner } from './outliner';

/** Of the pixels of a drawing at this size, at most this share may differ by more than half between ink and ground: along edges. */
const MOST_OFF = 0.001;
const SIDE_PX = { least: 256, most: 1024 };
/** A small drawing is held at so many times its own size. */
const LARGER = 8;

/** Outlines by what they were made of; null where there is none. One piece is in many files. */
const known = new LRUCache<string, { d: string | null }>({
  max: 500,
  maxSize: 20_000_000,
  sizeCalculation: ({ d }) => (d?.length ?? 0) + 1,
});

/** What is light of it, in coordinates of the drawing, is wanted within `page` as one path. */
export type Wanted = {
  /** In terms of the rasteriser, for the picture that the path is held against. */
  drawn: string;
  /** The same as shapes that `inkSteps` reads. */
  asked: string;
  page: Bounds;
};

/**
 * Path data that shows what is light in a drawing; null where the kernel has no answer that does. What was asked before is
 * answered at once.
 */
export async function rightOutline(wanted: Wanted, outliner: Outliner): Promise<string | null> {
  const { minX, minY, maxX, maxY } = wanted.page;
  const key = createHash('sha256').update(`${minX} ${minY} ${maxX} ${maxY}${wanted.drawn}`).digest('hex');
  const before = known.get(key);
  if (before) return before.d;
  const d = await firstRight(wanted, outliner);
  known.set(key, { d });
  return d;
}

/** The answer of the first way that is right. */
async function firstRight({ drawn, asked, page }: Wanted, outliner: Outliner): Promise<string | null> {
  const drawing = new Drawing(page);
  let wanted: Buffer | undefined;
  for (const way of WAYS) {
    try {
      const d = await outliner({ svg: drawing.svg(asked), page, way });
      wanted ??= drawing.pixels(`${drawing.ground}${drawn}`);
      const got = drawing.pixels(`${drawing.ground}<path fill="#ffffff" d="${d}"/>`);
      if (drawing.isSame(wanted, got)) return d;
    } catch (error) {
      if (!(error instanceof NoOutline)) throw error;
      if (error.isFinal) return null;
    }
  }
  return null;
}

/** A page at the size at which outlines are held against their pictures. */
export class Drawing {
  private readonly width: number;
  private readonly height: number;
  private readonly box: string;
  /** What is not ink. */
  readonly ground: string;

  constructor({ minX, minY, maxX, maxY }: Bounds) {
    const [width, height] = [maxX - minX, maxY - minY];
    const side = Math.max(width, height);
    const scale = Math.min(SIDE_PX.most, Math.max(SIDE_PX.least, side * LARGER)) / side;
    this.width = Math.max(1, Math.round(width * scale));
    this.height = Math.max(1, Math.round(height * scale));
    this.box = `${minX} ${minY} ${width} ${height}`;
    this.ground = `<rect x="${minX}" y="${minY}" width="${width}" height="${height}" fill="#000000"/>`;
  }

  svg(inner: string): string {
    return `<svg xmlns="http://www.w3.org/2000/svg" width="${this.width}" height="${this.height}" viewBox="${this.box}" preserveAspectRatio="none">${inner}</svg>`;
  }

  pixels(inner: string): Buffer {
    return drawPixels(this.svg(inner), this.width, this.height).data;
  }

  /** Whether two pictures differ along edges alone, and hardly: no part of the artwork is missing, however small. */
  isSame(wanted: Buffer, got: Buffer): boolean {
    const { width } = this;
    const off = new Uint8Array(wanted.length / 4);
    let count = 0;
    const isFar = (at: number) => Math.abs(wanted[at] - got[at]) > 127;
    for (let at = 0; at < off.length; at++)
      if (isFar(4 * at) || isFar(4 * at + 1) || isFar(4 * at + 2)) {
        off[at] = 1;
        count++;
      }
    if (count === 0) return true;
    if (count > MOST_OFF * off.length) return false;
    const isRow = (at: number) => off[at - 1] + off[at] + off[at + 1] === 3;
    return !off.some((each, at) => each === 1 && isRow(at) && isRow(at - width) && isRow(at + width));
  }
}
