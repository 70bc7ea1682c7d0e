import { type Bounds, DEFS, type ProjectDocument, type ProjectRecord, pictureChanges, pieces } from '@tolvik/core';
import type { Painter } from '../../painter/painter';

/** The records that an edit replaced or removed; `artwork` finds the boxes of the plane in which it changed artwork, null for anywhere. */
export type Before = { records: readonly ProjectRecord[]; artwork(): readonly Bounds[] | null };

/** Marks what an edit made untrue: the layers it touched with everything around them, and pictures of pieces that show them. */
export function expireFor(
  painter: Painter,
  doc: ProjectDocument,
  change: { puts: readonly ProjectRecord[]; removes: readonly string[] },
  before: Before,
): void {
  const { puts, removes } = change;
  if (removes.length === 0 && !puts.some(({ kind }) => SHAPE_PICTURES.has(kind))) return;
  const touched = layersAround(doc, [...puts, ...before.records]);
  const fonts = puts.some(({ kind }) => kind === 'font');
  // Looked for only when there is a picture of a piece at all.
  let changed: Set<string> | null = null;
  const changedPieces = () => {
    const isChanged = pictureChanges(doc, change, before.artwork());
    return new Set(pieces(doc).flatMap((piece) => (isChanged(piece) ? [piece.id] : [])));
  };
  const isChanged = (pieceId: string) => {
    changed ??= changedPieces();
    return changed.has(pieceId);
  };
  painter.expire(({ subject }) =>
    subject.kind === 'piece' ? isChanged(subject.pieceId) : !touched || fonts || touched.has(subject.layerId),
  );
}

const SHAPE_PICTURES: ReadonlySet<ProjectRecord['kind']> = new Set(['layer', 'artboard', 'slice', 'edition', 'font']);

/** Layers, as they were and as they are, with the groups around them; null when one is a definition, which any may use. */
function layersAround(doc: ProjectDocument, records: readonly ProjectRecord[]): ReadonlySet<string> | null {
  const touched = new Set<string>();
  for (const record of records) {
    if (record.kind !== 'layer') continue;
    for (const at of doc.lineage(record)) {
      if (at.parentId === DEFS) return null;
      if (at !== record && touched.has(at.id)) break;
      touched.add(at.id);
    }
  }
  return touched;
}
