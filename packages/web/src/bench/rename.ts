import { pieceRecord } from '@tolvik/core';
import type { Session } from '../project/session';

export function renamePiece(session: Session, id: string, name: string): void {
  const record = pieceRecord(session.doc, id);
  if (record && record.name !== name)
    session.commit({ label: `rename ${record.name}`, puts: [{ ...record, name }], removes: [] });
}
