import type { Piece } from '@tolvik/core';
import { useState } from 'react';
import { useSession } from '../../project/session/context';

export type Cell = { row: number; column: number };
/** From its first row and column to its last, both among them. */
export type Block = { top: number; bottom: number; left: number; right: number };

/** Which cell one is at, and the block from where Shift was first held. Its pieces are what is selected. */
export function useCellCursor(pieces: readonly Piece[]) {
  const session = useSession();
  const [active, setActive] = useState<Cell>({ row: 0, column: 0 });
  const [anchor, setAnchor] = useState<Cell | null>(null);
  const select = (from: Cell | null, to: Cell, otherwise: Iterable<string>) =>
    session.select(
      from
        ? pieces.slice(Math.min(from.row, to.row), Math.max(from.row, to.row) + 1).map(({ id }) => id)
        : new Set(otherwise),
    );
  const other = anchor ?? active;
  return {
    active,
    isBlock: anchor !== null,
    block: {
      top: Math.min(active.row, other.row),
      bottom: Math.max(active.row, other.row),
      left: Math.min(active.column, other.column),
      right: Math.max(active.column, other.column),
    } satisfies Block,
    /** By keys; with Shift the block goes there from where one was. */
    goTo(to: Cell, shift: boolean): void {
      const from = shift ? other : null;
      setAnchor(from);
      setActive(to);
      select(from, to, [pieces[to.row].id]);
    },
    /** By the mouse: cells are picked from where one was, heads (without a column) add their piece. */
    press(row: number, column: number | null, pieceId: string, more: boolean): void {
      const from = more && column !== null ? other : null;
      const to = { row, column: column ?? active.column };
      setActive(to);
      setAnchor(from);
      select(from, to, more ? [...session.selection, pieceId] : [pieceId]);
    },
  };
}

export type CellCursor = ReturnType<typeof useCellCursor>;
