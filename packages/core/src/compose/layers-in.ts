import { artworkIndex } from '../artwork/bounds/artwork-index';
import { eachLeaf } from '../artwork/bounds/bounds';
import type { ProjectDocument } from '../document/document';
import type { Layer, LayerOverride } from '../document/records';
import { type Bounds, overlaps } from '../geometry/matrix';
import { EFFECTS } from '../profile/allow-list';

/** How far overrides move a layer, with the groups around it, in px of the plane. */
export function offsetIn(
  doc: ProjectDocument,
  overrides: Readonly<Record<string, LayerOverride>>,
  layer: Layer,
): { x: number; y: number } {
  const offset = { x: 0, y: 0 };
  for (const at of doc.lineage(layer)) {
    offset.x += overrides[at.id]?.offset?.x ?? 0;
    offset.y += overrides[at.id]?.offset?.y ?? 0;
  }
  return offset;
}

/** Layers to write so that a box of the plane comes out right: what lies in it, where an edition has it, and its parents. */
export function layersIn(
  doc: ProjectDocument,
  box: Bounds,
  overrides: Readonly<Record<string, LayerOverride>>,
): Set<string> {
  const wanted = new Set<string>();
  const withParents = (layer: Layer) => {
    for (const at of doc.lineage(layer)) {
      if (wanted.has(at.id)) break;

      wanted.add(at.id);
    }
  };
  const index = artworkIndex(doc);
  const moved = Object.keys(overrides).filter((id) => overrides[id].offset);
  const shifted = ({ minX, minY, maxX, maxY }: Bounds, x: number, y: number): Bounds => ({
    minX: minX + x,
    minY: minY + y,
    maxX: maxX + x,
    maxY: maxY + y,
  });
  const look = (area: Bounds) => {
    for (const leaf of index.search(area)) {
      const { x, y } = moved.length > 0 ? offsetIn(doc, overrides, leaf.layer) : { x: 0, y: 0 };
      if (overlaps(shifted(leaf, x, y), box)) withParents(leaf.layer);
    }
  };
  look(box);
  for (const id of moved) {
    const layer = doc.find('layer', id);
    if (!layer) continue;
    const { x, y } = offsetIn(doc, overrides, layer);
    look(shifted(box, -x, -y));
    // What a clip cuts off where the base has it may show where the edition has it.
    if (isInsideEffect(doc, layer)) eachLeaf(doc, [layer], (leaf) => withParents(leaf.layer));
  }
  // Other words may reach where the base's do not.
  for (const [id, { words }] of Object.entries(overrides)) {
    const layer = words === undefined ? undefined : doc.find('layer', id);
    if (layer) withParents(layer);
  }
  return wanted;
}

function isInsideEffect(doc: ProjectDocument, layer: Layer): boolean {
  for (const at of doc.ancestors(layer)) if (EFFECTS.some((name) => name in at.attrs)) return true;
  return false;
}

/** A layer with all in it and the groups around it. */
export function layersUnder(doc: ProjectDocument, layerId: string): Set<string> {
  const wanted = new Set<string>();
  const layer = doc.find('layer', layerId);
  if (!layer) return wanted;
  const down = (at: Layer) => {
    wanted.add(at.id);
    for (const child of doc.children(at.id)) down(child);
  };
  down(layer);
  for (const at of doc.ancestors(layer)) wanted.add(at.id);
  return wanted;
}
