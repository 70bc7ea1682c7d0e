import {
  type Artboard,
  type BenchItem,
  type Bounds,
  boundsOf,
  type Piece,
  type Region,
  touches,
  transformBounds,
  translate,
  unite,
} from '@tolvik/core';
import type { PlaneView } from './plane-view';
import type { Preview } from './preview';
import type { Scene } from './scene';

/** How far marks, tickets and the tabs of slices reach out of their piece, and bitmaps out of their box, in CSS px. */
export const REACH = 48;

/** What goes along with a gesture, as it lies before it: pieces, which go by dx and dy, and artwork, which goes by a matrix. */
type Movers = {
  pieces: Bounds | null;
  artwork: Bounds | null;
  items: ReadonlySet<BenchItem>;
  artboards: ReadonlySet<Artboard>;
  slices: ReadonlySet<Piece>;
};

export type Going = Pick<Movers, 'items' | 'artboards' | 'slices'> & {
  /** Those of the items that are drawn where the matrix takes them. */
  moved: ReadonlySet<BenchItem>;
};

const found = new WeakMap<Scene, WeakMap<ReadonlySet<string>, Movers>>();

function moversOf(scene: Scene, moving: ReadonlySet<string>): Movers {
  const bySet = found.get(scene) ?? new WeakMap<ReadonlySet<string>, Movers>();
  found.set(scene, bySet);
  const known = bySet.get(moving);
  if (known) return known;
  const pieces = [...moving].flatMap((id) => scene.pieceById.get(id) ?? []);
  const items = moving.size > 0 ? scene.items.filter(({ path }) => path.some((id) => moving.has(id))) : [];
  const movers = {
    pieces: pieces.reduce<Bounds | null>((box, each) => (each.problem ? box : unite(box, boundsOf(each.region))), null),
    artwork: items.reduce<Bounds | null>((box, { bounds }) => unite(box, bounds), null),
    items: new Set(items),
    artboards: new Set(pieces.flatMap(({ record }) => (record.kind === 'artboard' ? [record] : []))),
    slices: new Set(pieces.filter(({ kind }) => kind === 'slice')),
  };
  bySet.set(moving, movers);
  return movers;
}

/** What a gesture shows elsewhere than it is: items by the matrix, pieces by dx and dy; and in another size. */
export function goingAlong(scene: Scene, { moving, resized, grown }: Preview): Going {
  const { items, artboards, slices } = moversOf(scene, moving);
  const piece = resized && scene.pieceById.get(resized.id);
  return {
    moved: items,
    items: grown.size > 0 ? new Set([...items, ...scene.items.filter(({ layerId }) => grown.has(layerId))]) : items,
    artboards: piece?.record.kind === 'artboard' ? new Set([...artboards, piece.record]) : artboards,
    slices: piece?.kind === 'slice' ? new Set([...slices, piece]) : slices,
  };
}

/** Whether a preview shows anything of the artwork or the pieces elsewhere than they are. */
export const isMoving = ({ moving, resized, grown }: Preview): boolean =>
  moving.size > 0 || resized !== null || grown.size > 0;

/** The part of the plane that shows what a gesture moves, where it moves it to. */
function whereMoved(scene: Scene, { moving, dx, dy, matrix, resized, grown }: Preview): Bounds | null {
  const { pieces, artwork } = moversOf(scene, moving);
  let box = unite(pieces && transformBounds(translate(dx, dy), pieces), artwork && transformBounds(matrix, artwork));
  if (resized) box = unite(box, boundsOf(resized.rect));
  for (const each of grown.values()) box = unite(box, each);
  return box;
}

/** The same before anything is moved. */
function whereItWas(scene: Scene, { moving, resized, grown }: Preview): Bounds | null {
  const { pieces, artwork } = moversOf(scene, moving);
  let box = unite(pieces, artwork);
  const piece = resized && scene.pieceById.get(resized.id);
  if (piece && !piece.problem) box = unite(box, boundsOf(piece.region));
  if (grown.size > 0) for (const item of scene.items) if (grown.has(item.layerId)) box = unite(box, item.bounds);
  return box;
}

/**
 * The parts of a frame, in device px, that differ from a frame with another preview of the same scene; null when that is
 * so much of it that all can be drawn as well.
 */
export function touchedSince(before: Preview, view: PlaneView, widthPx: number, heightPx: number): Region[] | null {
  const { scene, preview: now } = view;
  if (before === now || !(isMoving(before) || isMoving(now))) return [];
  if (isMoving(before) && isMoving(now) && (before.moving !== now.moving || before.resized?.id !== now.resized?.id))
    return null;
  const from = isMoving(before) ? whereMoved(scene, before) : whereItWas(scene, now);
  const to = isMoving(now) ? whereMoved(scene, now) : whereItWas(scene, before);
  const boxes = from && to && touches(from, to) ? [unite(from, to)] : [from, to];
  const regions = boxes.flatMap((box) => (box && onScreen(view, box, widthPx, heightPx)) ?? []);
  const area = regions.reduce((sum, { width, height }) => sum + width * height, 0);
  return area > (widthPx * heightPx) / 2 ? null : regions;
}

/** A box of the plane, with what reaches out of it, in whole device px as far as it is in view. */
function onScreen({ camera, dpr }: PlaneView, box: Bounds, widthPx: number, heightPx: number): Region | null {
  const unit = camera.scale * dpr;
  const reach = REACH * dpr;
  const x = Math.max(0, Math.floor((box.minX - camera.x) * unit - reach));
  const y = Math.max(0, Math.floor((box.minY - camera.y) * unit - reach));
  const right = Math.min(widthPx, Math.ceil((box.maxX - camera.x) * unit + reach));
  const bottom = Math.min(heightPx, Math.ceil((box.maxY - camera.y) * unit + reach));
  return right > x && bottom > y ? { x, y, width: right - x, height: bottom - y } : null;
}
