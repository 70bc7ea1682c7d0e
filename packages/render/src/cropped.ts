import {
  type Blob,
  type Bounds,
  boundsOf,
  intersect,
  invert,
  largestScale,
  type Matrix,
  multiply,
  type PictureFacts,
  parseTransform,
  parseViewBox,
  pictureFacts,
  printNumber,
  printTree,
  readTree,
  referred,
  sha256Hex,
  type TreeNode,
  transformBounds,
  viewBoxTransform,
} from '@tolvik/core';
import sharp from 'sharp';
import { guard } from './guard';
import type { RenderJob } from './job';
import { jpegSettings } from './jpeg-settings';
import { encodePng } from './png/encode';
import { pictureBox } from './svg/boxes';
import { IDENTITY } from './svg/transforms';

/** Pixels of the picture around what shows: what lies at the edge is smoothed with its neighbours. */
const MARGIN = 2;
/** A picture of which more shows goes in as it is. */
const WORTH_CUTTING = 0.75;

type Page = { svg: string; widthPx: number; heightPx: number };
/** A picture in a page of which a part shows: where that part is, in px of the picture as it stands upright. */
type Part = { hash: string; left: number; top: number; width: number; height: number };

/**
 * A job of a vector format whose pictures hold only what shows of them, at their own resolution. Where something around
 * a picture measures or spreads what is drawn (filters but of colours, masks, boxes), it goes in whole, as in patterns.
 */
export async function withCroppedPictures(job: RenderJob): Promise<RenderJob> {
  const { pictures = [] } = job;
  if (pictures.length === 0) return job;
  const byHash = new Map(pictures.map((picture) => [picture.hash, picture]));
  const facts = new Map(pictures.map(({ hash, bytes }) => [hash, pictureFacts(bytes)]));
  const blocks = new Map(pictures.map(({ hash, bytes, mediaType }) => [hash, blockOf(bytes, mediaType)]));
  const parts = new Map<string, Blob>();
  const crop = async <P extends Page>(page: P): Promise<P> => {
    guard(page.svg, (hash) => byHash.has(hash));
    const { root, byId } = readTree(page.svg);
    const wanted: { node: TreeNode; part: Part | null; attrs: Record<string, string> }[] = [];
    visitPictures(page, root, byId, (node, shown) => {
      const hash = node.attrs['xlink:href']?.slice('blob:'.length) ?? '';
      const of = facts.get(hash);
      const found = of && partOf(node, hash, of, blocks.get(hash) ?? 1, shown);
      if (found) wanted.push({ node, ...found });
    });
    if (wanted.length === 0) return page;
    const made = new Map<TreeNode, TreeNode | null>();
    for (const { node, part, attrs } of wanted) {
      if (!part) {
        made.set(node, null);
        continue;
      }
      const key = Object.values(part).join(' ');
      const blob = parts.get(key) ?? (await cut(byHash.get(part.hash) as Blob, part));
      parts.set(key, blob);
      made.set(node, { ...node, attrs: { ...attrs, 'xlink:href': `blob:${blob.hash}` } });
    }
    return { ...page, svg: printTree(replaced(root, made)) };
  };
  const pages = job.pages && (await inTurn(job.pages, crop));
  const whole = pages ? { ...job, pages, svg: pages[0].svg } : await crop(job);
  return { ...whole, pictures: [...pictures, ...parts.values()] };
}

async function inTurn<T>(items: readonly T[], work: (item: T) => Promise<T>): Promise<T[]> {
  const done: T[] = [];
  for (const item of items) done.push(await work(item));
  return done;
}

/** Every picture that is drawn where its size and place are all that counts, with what of its space is in the page. */
function visitPictures(
  page: Page,
  root: TreeNode,
  byId: ReadonlyMap<string, TreeNode>,
  found: (node: TreeNode, shown: Bounds) => void,
): void {
  const box = parseViewBox(root.attrs.viewBox) ?? { x: 0, y: 0, width: page.widthPx, height: page.heightPx };
  const seen = boundsOf(box);
  const visit = (node: TreeNode, outer: Matrix) => {
    if (node.tag === 'defs' || !isPlain(node, byId)) return;
    const own = node.attrs.transform ? parseTransform(node.attrs.transform) : IDENTITY;
    const matrix = own && multiply(outer, own);
    if (!matrix || !(largestScale(invert(matrix)) < Number.POSITIVE_INFINITY)) return;
    if (node.tag === 'image') found(node, transformBounds(invert(matrix), seen));
    for (const child of node.children) visit(child, matrix);
  };
  visit({ ...root, attrs: {} }, IDENTITY);
}

/** Whether nothing on an element depends on the box or the surroundings of what it draws. */
function isPlain({ attrs }: TreeNode, byId: ReadonlyMap<string, TreeNode>): boolean {
  if (attrs.mask) return false;
  const clip = byId.get(referred(attrs['clip-path']) ?? '');
  if (clip?.attrs.clipPathUnits === 'objectBoundingBox') return false;
  const filter = byId.get(referred(attrs.filter) ?? '');
  return !attrs.filter || !!filter?.children.every(({ tag }) => tag === 'feColorMatrix');
}

/** The part of a picture that shows, null when nothing does; undefined when all of it, or nearly, does. */
function partOf(
  node: TreeNode,
  hash: string,
  { width, height }: PictureFacts,
  step: number,
  shown: Bounds,
): { part: Part | null; attrs: Record<string, string> } | undefined {
  const box = pictureBox(node);
  if (!box) return undefined;
  const { preserveAspectRatio, ...attrs } = node.attrs;
  const toBox = multiply(
    [1, 0, 0, 1, box.minX, box.minY],
    viewBoxTransform({ x: 0, y: 0, width, height }, box.maxX - box.minX, box.maxY - box.minY, preserveAspectRatio),
  );
  const inBox = intersect(box, shown);
  if (!inBox) return { part: null, attrs };
  const pixels = transformBounds(invert(toBox), inBox);
  const down = (at: number) => Math.max(0, Math.floor((at - MARGIN) / step) * step);
  const up = (at: number, most: number) => Math.min(most, Math.ceil((at + MARGIN) / step) * step);
  const [left, top] = [down(pixels.minX), down(pixels.minY)];
  const part = { hash, left, top, width: up(pixels.maxX, width) - left, height: up(pixels.maxY, height) - top };
  if (!(part.width > 0) || !(part.height > 0)) return { part: null, attrs };
  if (part.width * part.height > WORTH_CUTTING * width * height) return undefined;
  const place = transformBounds(toBox, boundsOf({ x: left, y: top, width: part.width, height: part.height }));
  return {
    part,
    attrs: {
      ...attrs,
      x: printNumber(place.minX, 9),
      y: printNumber(place.minY, 9),
      width: printNumber(place.maxX - place.minX, 9),
      height: printNumber(place.maxY - place.minY, 9),
      preserveAspectRatio: 'none',
    },
  };
}

function replaced(node: TreeNode, made: ReadonlyMap<TreeNode, TreeNode | null>): TreeNode {
  return {
    ...node,
    children: node.children.flatMap((child) => {
      const other = made.get(child);
      return other === null ? [] : (other ?? replaced(child, made));
    }),
  };
}

/** Where a picture may be cut: a JPEG where its blocks meet, so that written again it loses next to nothing (ISO/IEC 10918-1 §A.2). */
const blockOf = (bytes: Uint8Array, mediaType: Blob['mediaType']): number =>
  mediaType !== 'image/jpeg' ? 1 : jpegSettings(bytes).chromaSubsampling === '4:4:4' ? 8 : 16;

/** A part of a picture as a picture: PNG without any loss, JPEG as fine as it was, at the edges of its blocks. */
async function cut({ bytes, mediaType }: Blob, { left, top, width, height }: Part): Promise<Blob> {
  const part = sharp(bytes).rotate().extract({ left, top, width, height });
  const made = (type: Blob['mediaType'], written: Uint8Array): Blob => ({
    hash: sha256Hex(written),
    mediaType: type,
    bytes: written,
  });
  if (mediaType === 'image/jpeg') {
    const settings = jpegSettings(bytes);
    return made(mediaType, await part.toColourspace('srgb').jpeg(settings).toBuffer());
  }
  if (mediaType === 'image/webp')
    return made(mediaType, await part.toColourspace('srgb').webp({ quality: 95, alphaQuality: 100 }).toBuffer());
  const { depth } = await sharp(bytes).metadata();
  if (depth === 'ushort') return made('image/png', await part.toColourspace('rgb16').png().toBuffer());
  const pixels = await part.toColourspace('srgb').ensureAlpha().raw().toBuffer();
  return made('image/png', encodePng(pixels, width, height, { dpi: 96, effort: 'smaller' }));
}
