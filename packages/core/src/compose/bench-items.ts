import { layerBoxes } from '../artwork/bounds/artwork-index';
import { type ProjectDocument, ROOT } from '../document/document';
import type { Layer } from '../document/records';
import type { Bounds } from '../geometry/matrix';
import { HOLDS_TOGETHER } from '../profile/allow-list';

/** What the Bench draws as one: a layer with all that is in it, and the box it paints in. */
export type BenchItem = {
  layerId: string;
  bounds: Bounds;
  /** The layer and the groups around it: moving any of them moves it. */
  path: readonly string[];
};

/** Groups with more drawn elements than this are taken apart, when nothing holds them together. */
const SPLIT_ABOVE = 150;

/**
 * The artwork in pieces of sensible size for drawing, from back to front: layers at the top, large plain groups
 * taken apart. Hidden layers are left out; bench-only ones are not.
 */
export function benchItems(doc: ProjectDocument): BenchItem[] {
  const boxes = layerBoxes(doc);
  const items: BenchItem[] = [];
  const walk = (layer: Layer, above: readonly string[]) => {
    const box = boxes.get(layer.id);
    if (!box || !layer.shown) return;
    const plain = layer.tag === 'g' && layer.opacity === 1 && !HOLDS_TOGETHER.some((name) => name in layer.attrs);
    if (plain && box.count > SPLIT_ABOVE) for (const child of doc.children(layer.id)) walk(child, [...above, layer.id]);
    else items.push({ layerId: layer.id, bounds: box, path: [...above, layer.id] });
  };
  for (const layer of doc.children(ROOT)) walk(layer, []);
  return items;
}
