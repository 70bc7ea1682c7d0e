import { createHash } from 'node:crypto';
import {
  type Bounds,
  DEFINITIONS,
  isInkMask,
  NoOutline,
  printTree,
  readTree,
  referencesIn,
  referred,
  type TreeNode,
  WAYS,
} from '@tolvik/core';
import { LRUCache } from 'lru-cache';
import { drawPixels } from '../draw-pixels';
import { guard } from '../guard';
import { asClip, withClips } from './mask-clips';
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

/**
 * A composed SVG with every area of one ink as one path with a fill, in place of a rectangle behind a mask. Each is held
 * against the picture of its mask; `masked` says how many stay what they were, since none of the ways gave what it shows.
 */
export async function withInkOutlines(svg: string, outliner: Outliner): Promise<{ svg: string; masked: number }> {
  if (!svg.includes('<mask id="ink.')) return { svg, masked: 0 };
  guard(svg, () => true);
  const { root, byId } = readTree(svg);
  const definitions = [...byId].flatMap(([id, node]) => (DEFINITIONS.has(node.tag) && !isInkMask(id) ? [node] : []));
  const paths = new Map<string, string>();
  let masked = 0;
  for (const [id, mask] of byId) {
    if (!isInkMask(id)) continue;
    const d = await outlined(mask, definitions, outliner);
    if (d === null) masked++;
    else paths.set(id, d);
  }
  if (paths.size === 0) return { svg, masked };
  const made = withPaths(root, paths);
  return { svg: printTree(withoutUnused(made, new Set(paths.keys()))), masked };
}

async function outlined(mask: TreeNode, definitions: readonly TreeNode[], outliner: Outliner): Promise<string | null> {
  const [x, y, width, height] = ['x', 'y', 'width', 'height'].map((name) => Number(mask.attrs[name]));
  const page = { minX: x, minY: y, maxX: x + width, maxY: y + height };
  const defs = printTree({ tag: 'defs', attrs: {}, children: [...definitions] });
  const drawn = mask.children.map(printTree).join('');
  const key = createHash('sha256').update(`${x} ${y} ${width} ${height}${defs}${drawn}`).digest('hex');
  const before = known.get(key);
  if (before) return before.d;
  const clips = definitions.flatMap((node) => asClip(node) ?? []);
  const clipped = withClips({ ...mask, tag: 'g', attrs: {} }, new Set(clips.map(({ attrs }) => attrs.id)));
  const asked = printTree({ tag: 'defs', attrs: {}, children: [...definitions, ...clips] }) + printTree(clipped);
  const d = await firstRight(asked, { defs, drawn }, page, outliner);
  known.set(key, { d });
  return d;
}

/** The answer of the first way that shows what the mask shows; null when none does. */
async function firstRight(
  asked: string,
  { defs, drawn }: { defs: string; drawn: string },
  page: Bounds,
  outliner: Outliner,
): Promise<string | null> {
  const drawing = new Drawing(page);
  let wanted: Buffer | undefined;
  for (const way of WAYS) {
    try {
      const d = await outliner({ svg: drawing.svg(asked), page, way });
      wanted ??= drawing.lightness(`${defs}${drawing.ground}${drawn}`);
      const got = drawing.lightness(`${drawing.ground}<path fill="#ffffff" d="${d}"/>`);
      if (drawing.isSame(wanted, got)) return d;
    } catch (error) {
      if (!(error instanceof NoOutline)) throw error;
      if (error.isFinal) return null;
    }
  }
  return null;
}

/** A page at the size at which outlines are held against their pictures. */
class Drawing {
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

  lightness(inner: string): Buffer {
    return drawPixels(this.svg(inner), this.width, this.height).data;
  }

  /** Whether two pictures differ along edges alone, and hardly: no part of the artwork is missing, however small. */
  isSame(wanted: Buffer, got: Buffer): boolean {
    const { width } = this;
    const off = new Uint8Array(wanted.length / 4);
    let count = 0;
    for (let at = 0; at < off.length; at++)
      if (Math.abs(wanted[4 * at] - got[4 * at]) > 127) {
        off[at] = 1;
        count++;
      }
    if (count === 0) return true;
    if (count > MOST_OFF * off.length) return false;
    const isRow = (at: number) => off[at - 1] + off[at] + off[at + 1] === 3;
    return !off.some((each, at) => each === 1 && isRow(at) && isRow(at - width) && isRow(at + width));
  }
}

/** Rectangles behind masks as the paths that show the same. */
function withPaths(node: TreeNode, paths: ReadonlyMap<string, string>): TreeNode {
  return {
    ...node,
    children: node.children.flatMap((child) => {
      const d = child.tag === 'rect' ? paths.get(referred(child.attrs.mask) ?? '') : undefined;
      if (d === undefined) return [withPaths(child, paths)];
      const { fill } = child.attrs;
      return d === '' ? [] : [{ tag: 'path', attrs: { fill, d }, children: [] }];
    }),
  };
}

/** Without masks that were replaced, and without definitions that only they referred to. */
function withoutUnused(root: TreeNode, gone: ReadonlySet<string>): TreeNode {
  const used = new Set<string>();
  const look = (node: TreeNode): void => {
    for (const [, id] of referencesIn({ ...node.attrs, href: node.attrs['xlink:href'] ?? '' })) {
      if (used.has(id)) continue;
      used.add(id);
      const definition = definitions.get(id);
      if (definition) look(definition);
    }
    for (const child of node.children) if (child.tag !== 'defs') look(child);
  };
  const definitions = new Map<string, TreeNode>();
  const collect = (node: TreeNode, isIn: boolean): void => {
    if (isIn && node.attrs.id && !gone.has(node.attrs.id)) definitions.set(node.attrs.id, node);
    for (const child of node.children) collect(child, isIn || node.tag === 'defs');
  };
  collect(root, false);
  look(root);
  const prune = (node: TreeNode): TreeNode => ({
    ...node,
    children: node.children
      .filter((child) => node.tag !== 'defs' || !child.attrs.id || used.has(child.attrs.id))
      .map(prune)
      .filter((child) => child.tag !== 'defs' || child.children.length > 0),
  });
  return prune(root);
}
