import type { Session } from '../project/session';

export function renamePiece(session: Session, id: string, name: string): void {
  const record = session.doc.find('artboard', id) ?? session.doc.find('slice', id) ?? session.doc.find('edition', id);
  if (record && record.name !== name)
    session.commit({ label: `rename ${record.name}`, puts: [{ ...record, name }], removes: [] });
}
