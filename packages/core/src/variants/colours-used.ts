import { artworkIndex } from '../artwork/bounds/artwork-index';
import { coloursOfPaint } from '../artwork/bounds/paint-servers';
import { opaqueKey, parseColour } from '../artwork/colour/colours';
import type { ProjectDocument } from '../document/document';
import { boundsOf } from '../geometry/matrix';
import type { Region } from '../geometry/region';

export type UsedColour = {
  colour: string;
  /** Part of all painted boxes, 0–1: a guess at how much of the artwork it is. */
  share: number;
  /** Whether letters or thin lines are painted with it. */
  fine: boolean;
};

/** A line is thin up to this share of the longer side of what it is in. */
const THIN = 0.04;

/** The colours of the artwork in regions of the plane, gradients' stops among them, the most used first. `currentColor` counts as black. */
export function coloursUsed(doc: ProjectDocument, regions: readonly Region[]): UsedColour[] {
  const areas = new Map<string, number>();
  const fine = new Set<string>();
  const add = (paint: string, area: number, isFine: boolean) => {
    for (const plain of coloursOfPaint(doc, paint) ?? []) {
      const colour = parseColour(plain);
      if (!colour) continue;
      const key = opaqueKey(colour);
      areas.set(key, (areas.get(key) ?? 0) + area);
      if (isFine) fine.add(key);
    }
  };
  for (const region of regions) {
    for (const leaf of artworkIndex(doc).search(boundsOf(region))) {
      if (!leaf.visible || leaf.layer.tag === 'image') continue;
      const w = leaf.maxX - leaf.minX;
      const h = leaf.maxY - leaf.minY;
      const isThin = leaf.strokePx <= THIN * Math.max(region.width, region.height);
      add(leaf.fill, w * h, leaf.layer.tag === 'text');
      if (leaf.strokePx > 0) add(leaf.stroke, (w + h) * 2 * leaf.strokePx, isThin);
    }
  }
  const all = [...areas.values()].reduce((sum, area) => sum + area, 0) || 1;
  return [...areas]
    .map(([colour, area]) => ({ colour, share: area / all, fine: fine.has(colour) }))
    .sort((a, b) => b.share - a.share);
}

/** The colours of the artwork in regions of the plane in the order in which they are painted, one after the other each time. */
export function paintOrder(doc: ProjectDocument, regions: readonly Region[]): string[] {
  const order: string[] = [];
  for (const region of regions) {
    for (const { fill, stroke, strokePx, visible, layer } of artworkIndex(doc).search(boundsOf(region))) {
      if (!visible || layer.tag === 'image') continue;
      for (const paint of strokePx > 0 ? [fill, stroke] : [fill]) {
        for (const plain of coloursOfPaint(doc, paint) ?? []) {
          const colour = parseColour(plain);
          if (!colour) continue;
          if (order.at(-1) !== opaqueKey(colour)) order.push(opaqueKey(colour));
        }
      }
    }
  }
  return order;
}
