import type { BenchItem, Bounds, Region } from '@tolvik/core';
import type { Painter } from '../../painter/painter';
import { type Camera, toScreen } from './camera';

/** The longest side of a bitmap that stands in at any zoom. */
const LEVEL_SIDE = 512;
/** Nothing is painted smaller than this; what is seen smaller is scaled down from it. */
const LEAST_SIDE = 8;
/** Below this size on screen a level is sharp enough, and nothing is painted for the exact zoom. */
const EXACT_ABOVE_PX = 18;

/** A bitmap and where it goes, in CSS px; stale when it shows what was there before an edit. */
type Drawn = { image: ImageBitmap; x: number; y: number; width: number; height: number; stale: boolean };

/** The box grown to whole px of a bitmap at `scale`. */
function padded(bounds: Bounds, scale: number): Region & { widthPx: number; heightPx: number } {
  const minX = Math.floor(bounds.minX * scale - 0.01);
  const minY = Math.floor(bounds.minY * scale - 0.01);
  const widthPx = Math.max(1, Math.ceil(bounds.maxX * scale + 0.01) - minX);
  const heightPx = Math.max(1, Math.ceil(bounds.maxY * scale + 0.01) - minY);
  return { x: minX / scale, y: minY / scale, width: widthPx / scale, height: heightPx / scale, widthPx, heightPx };
}

/** Half, once, twice … as many px as the plane has: the level that is at least as fine as the screen, or the finest there may be. */
function levelFor(bounds: Bounds, scale: number): number {
  const side = Math.max(bounds.maxX - bounds.minX, bounds.maxY - bounds.minY, 1e-6);
  const finest = 2 ** Math.floor(Math.log2(LEVEL_SIDE / side));
  const coarsest = 2 ** Math.ceil(Math.log2(LEAST_SIDE / side));
  return Math.min(Math.max(2 ** Math.ceil(Math.log2(scale)), coarsest), finest);
}

/**
 * The best bitmap there is for an item at a zoom, and a request for a better one. At rest, what is
 * large on screen is painted for the very zoom and only as far as it is in view.
 */
export function bitmapFor(
  painter: Painter,
  item: BenchItem,
  camera: Camera,
  dpr: number,
  view: Bounds,
  atRest: boolean,
): Drawn | null {
  const scale = camera.scale * dpr;
  const { bounds, layerId } = item;
  const level = levelFor(bounds, scale);
  const slot = `item ${layerId} ${level}`;
  const box = padded(bounds, level);
  const painted = painter.get(slot);
  const standIn = painted ?? coarser(painter, layerId, level);
  if (!painted || painted.stale || painted.widthPx !== box.widthPx || painted.heightPx !== box.heightPx) {
    const { widthPx, heightPx, ...crop } = box;
    // What was just changed is waited for, as is what is not there at all.
    painter.want(slot, { kind: 'item', layerId }, crop, widthPx, heightPx, !standIn || standIn.stale);
  }
  const long = Math.max(bounds.maxX - bounds.minX, bounds.maxY - bounds.minY) * camera.scale;
  if (long > EXACT_ABOVE_PX && level !== scale) {
    const exactSlot = `item ${layerId} exact`;
    const seen: Bounds = {
      minX: Math.max(bounds.minX, view.minX),
      minY: Math.max(bounds.minY, view.minY),
      maxX: Math.min(bounds.maxX, view.maxX),
      maxY: Math.min(bounds.maxY, view.maxY),
    };
    const want = padded(seen, scale);
    const exact = painter.get(exactSlot);
    const covers =
      exact?.crop &&
      !exact.stale &&
      Math.abs(exact.widthPx / exact.crop.width - scale) < scale * 1e-6 &&
      exact.crop.x <= want.x + 1e-6 &&
      exact.crop.y <= want.y + 1e-6 &&
      exact.crop.x + exact.crop.width >= want.x + want.width - 1e-6 &&
      exact.crop.y + exact.crop.height >= want.y + want.height - 1e-6;
    if (exact?.crop && covers) return place(exact.bitmap, exact.crop, camera, dpr, true, false);
    if (atRest) {
      const { widthPx, heightPx, ...crop } = want;
      painter.want(exactSlot, { kind: 'item', layerId }, crop, widthPx, heightPx, !standIn);
    }
  }
  return standIn?.crop ? place(standIn.bitmap, standIn.crop, camera, dpr, false, standIn.stale) : null;
}

/** While the right level is being painted, another one stands in. */
function coarser(painter: Painter, layerId: string, level: number) {
  for (const factor of [0.5, 2, 0.25, 4, 0.125, 8]) {
    const painted = painter.get(`item ${layerId} ${level * factor}`);
    if (painted) return painted;
  }
  return undefined;
}

function place(image: ImageBitmap, crop: Region, camera: Camera, dpr: number, exact: boolean, stale: boolean): Drawn {
  const [x, y] = toScreen(camera, crop.x, crop.y);
  if (exact)
    return {
      image,
      x: Math.round(x * dpr) / dpr,
      y: Math.round(y * dpr) / dpr,
      width: image.width / dpr,
      height: image.height / dpr,
      stale,
    };
  return { image, x, y, width: crop.width * camera.scale, height: crop.height * camera.scale, stale };
}
