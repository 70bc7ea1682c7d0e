import type { Piece } from '@tolvik/core';
import { planOf } from '../../project/session/context';
import type { Session } from '../../project/session/session';

/** The pieces whose names stand side by side: those that are selected, all where fewer than two are. */
export function piecesToName(session: Session): readonly Piece[] {
  const { pieces } = planOf(session);
  const selected = pieces.filter(({ id }) => session.selection.has(id));
  return selected.length > 1 ? selected : pieces;
}
