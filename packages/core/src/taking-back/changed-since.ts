import { same } from '../basics/same';
import type { ProjectDocument } from '../document/document';
import { pieceRecord, pieces } from '../pieces/pieces';
import { artworkBack } from './artwork-back';
import { takeBackPieces } from './take-back';

/** What of a piece can be other than it was. */
export const PIECE_PARTS = ['artwork', 'size', 'ground', 'colours', 'differences', 'cut', 'name'] as const;
export type PiecePart = (typeof PIECE_PARTS)[number];

/** A piece that is not as it was: what differs, or that it is gone or new. `was` is what it was called, where that differs. */
export type PieceSince = {
  id: string;
  kind: 'artboard' | 'slice' | 'edition';
  name: string;
  was?: string;
  state: 'changed' | 'gone' | 'new';
  parts: PiecePart[];
};

/** The pieces of a project that are not as they were in an earlier version of it, in their order; those gone stand last. */
export function changedSince(doc: ProjectDocument, then: ProjectDocument): PieceSince[] {
  const found: PieceSince[] = [];
  for (const { id, kind, name } of pieces(doc)) {
    const before = pieceRecord(then, id);
    if (!before) {
      found.push({ id, kind, name, state: 'new', parts: [] });
      continue;
    }
    const parts = partsChanged(doc, then, id);
    if (parts.length > 0)
      found.push({ id, kind, name, ...(before.name !== name && { was: before.name }), state: 'changed', parts });
  }
  for (const { id, kind, name } of pieces(then))
    if (!pieceRecord(doc, id)) found.push({ id, kind, name, state: 'gone', parts: [] });
  return found;
}

function partsChanged(doc: ProjectDocument, then: ProjectDocument, id: string): PiecePart[] {
  const [now, before] = [pieceRecord(doc, id), pieceRecord(then, id)];
  if (!now || !before) return [];
  const parts = new Set<PiecePart>();
  if (now.name !== before.name) parts.add('name');
  if (now.kind === 'artboard' && before.kind === 'artboard') {
    if (now.width !== before.width || now.height !== before.height) parts.add('size');
    if (now.background !== before.background || now.backgroundUse !== before.backgroundUse) parts.add('ground');
    if (!same(now.follows, before.follows)) parts.add('colours');
    if (!before.follows) {
      const { puts, removes } = artworkBack(doc, then, before);
      if (puts.length + removes.length > 0) parts.add('artwork');
    }
  } else if (takeBackPieces(doc, then, [id]).puts.some((record) => record.id === id))
    parts.add(now.kind === 'edition' ? 'differences' : 'cut');
  return [...parts];
}
