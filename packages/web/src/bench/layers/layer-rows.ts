import { frontFirst, type Layer, layerTitle, type ProjectDocument, ROOT } from '@tolvik/core';

export type LayerRow = { layer: Layer; depth: number; hasChildren: boolean; open: boolean };

/** The rows of the tree that are unfolded, front first; with a query, every layer whose name holds it. */
export function layerRows(doc: ProjectDocument, open: ReadonlySet<string>, query: string): LayerRow[] {
  const rows: LayerRow[] = [];
  const text = query.trim().toLowerCase();
  const walk = (parentId: string, depth: number) => {
    for (const layer of frontFirst(doc, parentId)) {
      const hasChildren = layer.tag === 'g' && doc.children(layer.id).length > 0;
      const isOpen = open.has(layer.id);
      if (!text || layerTitle(layer).toLowerCase().includes(text))
        rows.push({ layer, depth: text ? 0 : depth, hasChildren, open: isOpen && !text });
      if (hasChildren && (isOpen || text)) walk(layer.id, depth + 1);
    }
  };
  walk(ROOT, 0);
  return rows;
}
