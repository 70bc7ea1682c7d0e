import { layerBounds } from '../artwork/bounds/bounds';
import { byOrder, type ProjectDocument } from '../document/document';
import { orderBetween } from '../document/order';
import type { Layer, ProjectRecord } from '../document/records';
import { inReadingOrder } from '../geometry/reading-order';
import type { PieceRecord } from '../pieces/pieces';

/** How pieces that are made of layers follow each other: in reading order, or from the lowest layer to the highest. */
export const PIECE_ORDERS = ['reading', 'layers'] as const;
export type PieceOrder = (typeof PIECE_ORDERS)[number];

/** Layers in the order in which pieces are made of them. */
export const inPieceOrder = (doc: ProjectDocument, layers: readonly Layer[], order: PieceOrder): Layer[] =>
  order === 'reading' ? inReadingOrder(layers, ({ id }) => layerBounds(doc, id)) : backToFront(doc, layers);

function backToFront(doc: ProjectDocument, layers: readonly Layer[]): Layer[] {
  const places = layers.map((layer) => ({ layer, lineage: [...doc.lineage(layer)].reverse() }));
  places.sort((a, b) => {
    const at = a.lineage.findIndex((each, depth) => each.id !== b.lineage[depth]?.id);
    if (at === -1) return a.lineage.length - b.lineage.length;
    return b.lineage[at] ? byOrder(a.lineage[at], b.lineage[at]) : 1;
  });
  return places.map(({ layer }) => layer);
}

/** Pieces that stand in one row of numbers: artboards, slices, or the editions of one artboard. */
const siblingsOf = (doc: ProjectDocument, record: PieceRecord): readonly PieceRecord[] =>
  record.kind === 'edition'
    ? doc.list('edition').filter((edition) => edition.artboardId === record.artboardId)
    : doc.list(record.kind);

/** A piece put before or after another of its kind; nothing when it stands there already, or the other is of another kind. */
export function placePiece(
  doc: ProjectDocument,
  record: PieceRecord,
  targetId: string,
  side: 'before' | 'after',
): ProjectRecord[] {
  const all = siblingsOf(doc, record);
  const others = all.filter((each) => each.id !== record.id);
  const at = others.findIndex((each) => each.id === targetId);
  if (at < 0) return [];
  const to = side === 'before' ? at : at + 1;
  if (all.findIndex((each) => each.id === record.id) === to) return [];
  return [{ ...record, order: orderBetween(others[to - 1]?.order ?? null, others[to]?.order ?? null) }];
}

/** A piece moved by so many places among its kind, as far as there is room. */
export function shiftPiece(doc: ProjectDocument, record: PieceRecord, by: number): ProjectRecord[] {
  const all = siblingsOf(doc, record);
  const now = all.findIndex((each) => each.id === record.id);
  const to = Math.min(all.length - 1, Math.max(0, now + by));
  return to === now ? [] : placePiece(doc, record, all[to].id, by < 0 ? 'before' : 'after');
}
