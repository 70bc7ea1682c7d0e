import {
  type Bounds,
  boundsOf,
  intersect,
  invert,
  multiply,
  type PictureFacts,
  pictureBox,
  pictureFacts,
  printNumber,
  printTree,
  readTree,
  type StoredBlob,
  sha256Hex,
  type TreeNode,
  transformBounds,
  viewBoxTransform,
} from '@tolvik/core';
import sharp from 'sharp';
import { guard } from '../guard';
import type { RenderJob } from '../job';
import { jpegSettings } from '../jpeg/settings';
import { encodePng } from '../png/encode';
import { type Fix, shownPictures } from './shown';

/** Pixels of the picture around what shows: what lies at the edge is smoothed with its neighbours. */
const MARGIN = 2;
/** A picture of which more shows goes in as it is. */
const WORTH_CUTTING = 0.75;

type Page = { svg: string; widthPx: number; heightPx: number };
/** A picture in a page of which a part shows: where that part is, in px of the picture as it stands upright. */
type Part = { hash: string; left: number; top: number; width: number; height: number };

/**
 * A job of a vector format whose pictures hold only what shows of them, at their own resolution. Where it is not known
 * what shows (a filter that takes from anywhere, a pattern that repeats, letters in a box that is measured), they go in
 * whole.
 */
export async function withCroppedPictures(job: RenderJob): Promise<RenderJob> {
  const { pictures = [] } = job;
  if (pictures.length === 0) return job;
  const byHash = new Map(pictures.map((picture) => [picture.hash, picture]));
  const facts = new Map(pictures.map(({ hash, bytes }) => [hash, pictureFacts(bytes)]));
  const blocks = new Map(pictures.map(({ hash, bytes, mediaType }) => [hash, blockOf(bytes, mediaType)]));
  const parts = new Map<string, StoredBlob>();
  const crop = async <P extends Page>(page: P): Promise<P> => {
    guard(page.svg, (hash) => byHash.has(hash));
    const { root, byId } = readTree(page.svg);
    const wanted: { node: TreeNode; part: Part | null; attrs: Record<string, string> }[] = [];
    const fixes = new Set<Fix>();
    for (const { node, shown, fixes: needed } of shownPictures(root, byId, page)) {
      const hash = node.attrs['xlink:href']?.slice('blob:'.length) ?? '';
      const of = facts.get(hash);
      const found = of && partOf(node, hash, of, blocks.get(hash) ?? 1, shown);
      if (!found) continue;
      wanted.push({ node, ...found });
      for (const fix of needed) fixes.add(fix);
    }
    if (wanted.length === 0) return page;
    const made = new Map<TreeNode, TreeNode | null>();
    for (const { node, part, attrs } of wanted) {
      if (!part) {
        made.set(node, null);
        continue;
      }
      const key = Object.values(part).join(' ');
      const blob = parts.get(key) ?? (await cut(byHash.get(part.hash) as StoredBlob, part));
      parts.set(key, blob);
      made.set(node, { ...node, attrs: { ...attrs, 'xlink:href': `blob:${blob.hash}` } });
    }
    return {
      ...page,
      svg: printTree(
        withFixes(
          replaced(root, made, fixes),
          [...fixes].map(({ definition }) => replaced(definition, made, fixes)),
        ),
      ),
    };
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

function replaced(node: TreeNode, made: ReadonlyMap<TreeNode, TreeNode | null>, fixes: ReadonlySet<Fix>): TreeNode {
  const attrs = { ...(made.get(node) ?? node).attrs };
  for (const fix of fixes) if (fix.node === node) attrs[fix.attribute] = `url(#${fix.definition.attrs.id})`;
  return {
    ...node,
    attrs,
    children: node.children.flatMap((child) => (made.get(child) === null ? [] : [replaced(child, made, fixes)])),
  };
}

const withFixes = (root: TreeNode, definitions: TreeNode[]): TreeNode =>
  definitions.length === 0
    ? root
    : { ...root, children: [{ tag: 'defs', attrs: {}, children: definitions }, ...root.children] };

/** Where a picture may be cut: a JPEG where its blocks meet, so that written again it loses next to nothing (ISO/IEC 10918-1 §A.2). */
const blockOf = (bytes: Uint8Array, mediaType: StoredBlob['mediaType']): number =>
  mediaType !== 'image/jpeg' ? 1 : jpegSettings(bytes).chromaSubsampling === '4:4:4' ? 8 : 16;

/** A part of a picture as a picture: PNG without any loss, JPEG as fine as it was, at the edges of its blocks. */
async function cut({ bytes, mediaType }: StoredBlob, { left, top, width, height }: Part): Promise<StoredBlob> {
  const part = sharp(bytes).rotate().extract({ left, top, width, height });
  const made = (type: StoredBlob['mediaType'], written: Uint8Array): StoredBlob => ({
    hash: sha256Hex(written),
    mediaType: type,
    bytes: written,
  });
  if (mediaType === 'image/jpeg') {
    const settings = jpegSettings(bytes);
    return made(mediaType, await part.toColourspace('srgb').jpeg(settings).toBuffer());
  }
  if (mediaType === 'image/webp') {
    const exact = isLosslessWebp(bytes);
    const settings = exact ? { lossless: true, exact } : { quality: 95, alphaQuality: 100 };
    return made(mediaType, await part.toColourspace('srgb').webp(settings).toBuffer());
  }
  const { depth } = await sharp(bytes).metadata();
  if (depth === 'ushort') return made('image/png', await part.toColourspace('rgb16').png().toBuffer());
  const pixels = await part.toColourspace('srgb').ensureAlpha().raw().toBuffer();
  return made('image/png', encodePng(pixels, width, height, { dpi: 96, effort: 'smaller' }));
}

/** Whether a WebP holds its px without loss: a chunk of its own says so (RFC 9649 §2.6). */
const isLosslessWebp = (bytes: Uint8Array): boolean => {
  const chunks = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (
    let at = 12;
    at + 8 <= chunks.length;
    at += 8 + chunks.readUInt32LE(at + 4) + (chunks.readUInt32LE(at + 4) & 1)
  ) {
    const kind = chunks.toString('latin1', at, at + 4);
    if (kind === 'VP8L') return true;
    if (kind === 'VP8 ') return false;
  }
  return false;
};
