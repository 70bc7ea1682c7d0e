import { acts, pieceRecord } from '@tolvik/core';
import { doAct, plainIntent } from './act';
import type { Session } from './session';

export function renamePiece(session: Session, id: string, name: string): void {
  if (pieceRecord(session.doc, id)?.name !== name) doAct(session, acts.renamePiece, plainIntent([id]), { name });
}
