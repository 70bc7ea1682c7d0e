import { acts, cellKey, type Output, type Piece } from '@tolvik/core';
import type { KeyboardEvent } from 'react';
import { openMenu } from '../../commands/menu';
import { doAct, plainIntent } from '../../project/session/act';
import type { Session } from '../../project/session/session';
import { type MenuMeans, pieceMenu } from './menus';
import type { CellCursor } from './use-cell-cursor';
import type { Cells } from './use-cells';

/** How many rows a page is. */
const PAGE = 6;

type Host = {
  session: Session;
  pieces: readonly Piece[];
  outputs: readonly Output[];
  planned: Cells;
  cursor: CellCursor;
  means: MenuMeans;
  /** Whether rows stand in the order of the project, so that they can be moved. */
  inOrder: boolean;
  scrollTo(row: number): void;
};

/** What keys do in the matrix (the pattern of a grid, ARIA 1.2): where one is, what Space switches, what Enter opens. */
export function matrixKeys(host: Host): (event: KeyboardEvent) => void {
  const { session, pieces, outputs, planned, cursor, means, inOrder } = host;
  const { row, column } = cursor.active;
  const { block } = cursor;

  /** Switches what pieces make through outputs: all on when any is off, else all off. */
  const switchBlock = (some: readonly Piece[], through: readonly Output[]) => {
    // One cell alone can be switched on where its piece does not follow the spec.
    const alone = some.length === 1 && through.length === 1;
    const isOff = (piece: Piece, output: Output) =>
      (alone || piece.specIds.includes(output.specId)) && !planned.has(cellKey(piece.id, output.id));
    doAct(session, acts.switchFiles, plainIntent(some.map(({ id }) => id)), {
      on: some.some((piece) => through.some((output) => isOff(piece, output))),
      outputIds: through.map((output) => output.id),
      alone,
    });
  };
  const places: Record<string, readonly [number, number]> = {
    ArrowDown: [row + 1, column],
    ArrowUp: [row - 1, column],
    ArrowLeft: [row, column - 1],
    ArrowRight: [row, column + 1],
    Home: [row, 0],
    End: [row, outputs.length - 1],
    PageDown: [row + PAGE, column],
    PageUp: [row - PAGE, column],
  };

  return (event) => {
    if (event.target instanceof HTMLInputElement || pieces.length === 0) return;
    const piece = pieces[row];
    const output = outputs[column];
    const { key, shiftKey, ctrlKey, altKey } = event;
    if (altKey && piece && inOrder && (key === 'ArrowUp' || key === 'ArrowDown')) {
      doAct(session, acts.moveInOrder, plainIntent([piece.id]), { by: key === 'ArrowUp' ? -1 : 1 });
      event.preventDefault();
      return;
    }
    if (ctrlKey && key === ' ' && output) switchBlock(pieces, [output]);
    else if (ctrlKey || altKey) return;
    const to = places[key];
    if (to) {
      const next = {
        row: Math.min(pieces.length - 1, Math.max(0, to[0])),
        column: Math.min(outputs.length - 1, Math.max(0, to[1])),
      };
      cursor.goTo(next, shiftKey);
      host.scrollTo(next.row);
    } else if (key === ' ' && shiftKey && piece) switchBlock([piece], outputs);
    else if (key === ' ' && !ctrlKey && piece && output)
      switchBlock(pieces.slice(block.top, block.bottom + 1), outputs.slice(block.left, block.right + 1));
    else if (key === 'Enter' && piece && output && planned.has(cellKey(piece.id, output.id)))
      means.open(piece.id, output.id);
    else if (key === 'F2' && piece) means.rename(piece.id);
    else if ((key === 'ContextMenu' || (key === 'F10' && shiftKey)) && piece && output) {
      const cell = document.getElementById(`cell-${piece.id}-${output.id}`);
      openMenu(
        { currentTarget: cell, clientX: 0, clientY: 0, button: 0, preventDefault: () => event.preventDefault() },
        pieceMenu(means, piece, { output, made: planned.has(cellKey(piece.id, output.id)) }),
      );
    } else if (key !== ' ') return;
    event.preventDefault();
  };
}
