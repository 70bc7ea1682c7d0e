import { artworkIndex } from '../artwork/bounds/artwork-index';
import { layerBounds } from '../artwork/bounds/bounds';
import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Artboard, artboardRecord, type ProjectRecord } from '../document/records';
import { type Bounds, boundsOf, unite } from '../geometry/matrix';
import { grownTo, outward, type Region, regionOfBounds, withMargin } from '../geometry/region';
import { layersOn, movedLayer } from './move';

/** The box around the visible artwork that lies on an artboard, also where it pokes out; null when there is none. */
export function artworkOn(doc: ProjectDocument, artboard: Artboard): Bounds | null {
  let box: Bounds | null = null;
  for (const layer of layersOn(doc, artboard)) box = unite(box, layerBounds(doc, layer.id));
  if (box) return box;
  // Nothing belongs to it alone: what is seen through it counts.
  const area = boundsOf(artboard);
  for (const { minX, minY, maxX, maxY, visible } of artworkIndex(doc).search(area)) {
    if (visible)
      box = unite(box, {
        minX: Math.max(minX, area.minX),
        minY: Math.max(minY, area.minY),
        maxX: Math.min(maxX, area.maxX),
        maxY: Math.min(maxY, area.maxY),
      });
  }
  return box;
}

/** Artboards cut back (or out) to the artwork on them, plus a margin in px, rounded outward to whole px. Empty ones stay. */
export function trimToArtwork(doc: ProjectDocument, artboards: readonly Artboard[], margin = 0): Artboard[] {
  return artboards.flatMap((artboard) => {
    const box = artboard.follows ? null : artworkOn(doc, artboard);
    if (!box) return [];
    const region = outward(withMargin(regionOfBounds(box), margin));
    return region.width === artboard.width &&
      region.height === artboard.height &&
      region.x === artboard.x &&
      region.y === artboard.y
      ? []
      : [{ ...artboard, ...region }];
  });
}

/** What lies on each artboard moved to its middle, by whole px so that lines on the grid stay on it. */
export function centreArtwork(doc: ProjectDocument, artboards: readonly Artboard[]): ProjectRecord[] {
  return artboards.flatMap((artboard) => {
    const box = artboard.follows ? null : artworkOn(doc, artboard);
    if (!box) return [];
    const dx = Math.round(artboard.x + artboard.width / 2 - (box.minX + box.maxX) / 2);
    const dy = Math.round(artboard.y + artboard.height / 2 - (box.minY + box.maxY) / 2);
    return dx || dy ? layersOn(doc, artboard).map((layer) => movedLayer(doc, layer, dx, dy)) : [];
  });
}

export const isOffGrid = ({ x, y, width, height }: Region): boolean => ![x, y, width, height].every(Number.isInteger);

/** Artboards on whole px: each side goes to the nearest, so that no size changes by more than half a px. */
export function wholePixels(artboards: readonly Artboard[]): Artboard[] {
  return artboards.filter(isOffGrid).map((artboard) => ({
    ...artboard,
    x: Math.round(artboard.x),
    y: Math.round(artboard.y),
    width: Math.max(1, Math.round(artboard.width)),
    height: Math.max(1, Math.round(artboard.height)),
  }));
}

export type AroundOptions = {
  marginPx: number;
  /** Each as wide as high. */
  square: boolean;
  /** All as large as the largest. */
  equal: boolean;
  /** So large at the least. */
  leastPx?: { width: number; height: number } | null;
};

/** The part of the plane in whole px around what a layer draws; null when it draws nothing. */
export function aroundLayer(doc: ProjectDocument, layerId: string, marginPx: number): Region | null {
  const box = layerBounds(doc, layerId);
  return box && outward(withMargin(regionOfBounds(box), marginPx));
}

/**
 * One artboard around each layer or group, named after it, on whole px. Artwork stays where it is;
 * where a square or an equal size needs more room, it is given on all sides alike.
 */
export function artboardsAround(
  doc: ProjectDocument,
  layerIds: readonly string[],
  { marginPx, square, equal, leastPx }: AroundOptions,
  specIds: readonly string[],
): Artboard[] {
  const boxes = layerIds.flatMap((id) => {
    const layer = doc.find('layer', id);
    const region = layer && aroundLayer(doc, id, marginPx);
    return region ? [{ layer, region }] : [];
  });
  const widest = Math.max(0, ...boxes.map(({ region }) => region.width));
  const highest = Math.max(0, ...boxes.map(({ region }) => region.height));
  const orders = ordersAfter(lastOrder(doc.list('artboard')), boxes.length);
  return boxes.map(({ layer, region }, i) => {
    let width = Math.max(equal ? widest : region.width, leastPx?.width ?? 0);
    let height = Math.max(equal ? highest : region.height, leastPx?.height ?? 0);
    if (square) width = height = Math.max(width, height);
    return artboardRecord.parse({
      id: newId(),
      kind: 'artboard',
      order: orders[i],
      name: layer.name || `artboard ${i + 1}`,
      ...grownTo(region, { width, height }, true),
      specIds: [...specIds],
    });
  });
}
