import type { Piece, ProjectRecord } from '@tolvik/core';
import type { Session } from '../project/session';
import { count } from '../ui/words';

export type Cell = { pieceId: string; outputId: string };

/** Switches cells on or off in one step; a piece that was off as a whole comes on with only these. */
export function switchCells(session: Session, pieces: readonly Piece[], cells: readonly Cell[], on: boolean): void {
  const byPiece = new Map<string, Set<string>>();
  for (const { pieceId, outputId } of cells) byPiece.set(pieceId, (byPiece.get(pieceId) ?? new Set()).add(outputId));
  const puts: ProjectRecord[] = [];
  for (const piece of pieces) {
    const outputs = byPiece.get(piece.id);
    if (!outputs) continue;
    const off = new Set(piece.offOutputIds);
    if (on && !piece.on)
      for (const output of session.doc.list('output')) if (piece.specIds.includes(output.specId)) off.add(output.id);
    for (const id of outputs) on ? off.delete(id) : off.add(id);
    puts.push({ ...piece.record, on: on ? true : piece.on, offOutputIds: [...off] });
  }
  session.commit({ label: `switch ${count(cells.length, 'file')} ${on ? 'on' : 'off'}`, puts, removes: [] });
}

export function switchPieces(session: Session, pieces: readonly Piece[], on: boolean): void {
  session.commit({
    label: `switch ${on ? 'on' : 'off'} ${pieces.length === 1 ? pieces[0].name : count(pieces.length, 'piece')}`,
    puts: pieces.map(({ record }) => ({ ...record, on })),
    removes: [],
  });
}
