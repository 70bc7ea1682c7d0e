import { byOrder, DEFS, type ProjectDocument } from '../document/document';
import type { Layer } from '../document/records';

/** Layers of the artwork among these ids, without those that lie inside another of them; from back to front. */
export function outermost(doc: ProjectDocument, ids: Iterable<string>): Layer[] {
  const chosen = new Set(ids);
  const found: { layer: Layer; line: Layer[] }[] = [];
  for (const id of chosen) {
    const layer = doc.find('layer', id);
    if (!layer) continue;
    let inside = false;
    let root = layer.parentId;
    const line = [layer];
    for (const at of doc.ancestors(layer)) {
      inside ||= chosen.has(at.id);
      root = at.parentId;
      line.unshift(at);
    }
    if (!inside && root !== DEFS) found.push({ layer, line });
  }
  return found.sort((a, b) => alongTree(a.line, b.line)).map(({ layer }) => layer);
}

/** Which of two layers, said with all groups around them from the outermost on, lies further back. */
function alongTree(one: readonly Layer[], other: readonly Layer[]): number {
  const parting = one.findIndex((layer, i) => layer !== other[i]);
  return parting < 0 || !other[parting] ? 0 : byOrder(one[parting], other[parting]);
}
