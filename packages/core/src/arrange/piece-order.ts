import type { ProjectDocument } from '../document/document';
import { orderBetween } from '../document/order';
import type { ProjectRecord } from '../document/records';
import type { PieceRecord } from '../pieces/pieces';

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
