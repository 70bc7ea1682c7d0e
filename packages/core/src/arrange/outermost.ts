import { byOrder, DEFS, type ProjectDocument } from '../document/document';
import type { Layer } from '../document/records';

/** Layers of the artwork among these ids, without those that lie inside another of them; from back to front. */
export function outermost(doc: ProjectDocument, ids: Iterable<string>): Layer[] {
  const chosen = new Set(ids);
  const list: Layer[] = [];
  for (const id of chosen) {
    const layer = doc.find('layer', id);
    if (!layer) continue;
    let inside = false;
    let root = layer.parentId;
    for (const at of doc.ancestors(layer)) {
      inside ||= chosen.has(at.id);
      root = at.parentId;
    }
    if (!inside && root !== DEFS) list.push(layer);
  }
  return list.sort((a, b) => (a.parentId === b.parentId ? byOrder(a, b) : 0));
}
