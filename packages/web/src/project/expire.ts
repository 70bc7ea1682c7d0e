import { DEFS, type ProjectDocument, type ProjectRecord } from '@tolvik/core';
import type { Painter } from '../painter/painter';

/** Marks what an edit made untrue: the layers it touched with everything around them, and pictures of pieces. */
export function expireFor(painter: Painter, doc: ProjectDocument, { puts, removes }: { puts: readonly ProjectRecord[]; removes: readonly string[] }): void {
  const layers = puts.filter((record) => record.kind === 'layer');
  const shapesPieces =
    removes.length > 0 || puts.some((record) => record.kind === 'font' || record.kind === 'layer' || record.kind === 'artboard' || record.kind === 'slice' || record.kind === 'edition');
  if (!shapesPieces) return;
  const touched = new Set<string>();
  let all = false;
  for (const layer of layers) {
    for (let at: string = layer.id; at && !touched.has(at); ) {
      touched.add(at);
      const parent = doc.find('layer', at)?.parentId;
      if (parent === DEFS) all = true;
      at = parent ?? '';
    }
  }
  if (removes.length > 0 || puts.some((record) => record.kind === 'font')) all = true;
  painter.expire((slot) => {
    const [kind, id] = slot.split(' ');
    return kind === 'piece' || all || touched.has(id);
  });
}
