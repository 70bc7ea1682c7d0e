import { DndContext } from '@dnd-kit/core';
import { acts, cellKey, type Output, type Piece } from '@tolvik/core';
import { type MouseEvent, useCallback, useMemo, useRef, useState } from 'react';
import { openMenu } from '../../commands/menu';
import { useFindings } from '../../project/findings/findings';
import { doAct, plainIntent } from '../../project/session/act';
import { planOf, useMade, useSession } from '../../project/session/context';
import { renamePiece } from '../../project/session/rename';
import { HEAD_HEIGHT, MatrixHead } from './MatrixHead';
import { MatrixRow, NAME_WIDTH, type RowActs } from './MatrixRow';
import { MatrixRows, type RowsHandle } from './MatrixRows';
import { matrixKeys } from './matrix-keys';
import { outputMenu, pieceMenu } from './menus';
import { useCellCursor } from './use-cell-cursor';
import { useCells } from './use-cells';
import { useMenuMeans } from './use-menu-means';
import { useRowDrag } from './use-row-drag';

type Props = {
  pieces: readonly Piece[];
  /** Height of a row and of the pictures in it, in CSS px. */
  side: number;
  /** Whether rows stand in the order of the project, so that they can be moved. */
  inOrder: boolean;
  onOpen(pieceId: string, outputId: string): void;
  onSpecs(): void;
};

/** A row for each piece, a column for each output, a cell for each file. */
export function Matrix({ pieces, side, inOrder, onOpen, onSpecs }: Props) {
  const session = useSession();
  const { outputs } = planOf(session);
  const { files: made } = useMade();
  const { byPiece, crisp } = useFindings();
  // Known only once it is there: rows inside are drawn before the element around them is told of.
  const [scroller, setScroller] = useState<HTMLDivElement | null>(null);
  const [renaming, setRenaming] = useState<string | null>(null);
  const [edited, setEdited] = useState<string | null>(null);
  const cursor = useCellCursor(pieces);
  const { active, block } = cursor;
  const { planned, totals } = useCells();
  const drag = useRowDrag(pieces, side);
  const rows = useRef<RowsHandle>(null);
  const means = useMenuMeans(onOpen, setRenaming, setEdited);
  const now = useRef({ cursor, means, planned, pieces });
  now.current = { cursor, means, planned, pieces };
  const rowActs = useMemo(
    (): RowActs => ({
      press: (...pressed) => now.current.cursor.press(...pressed),
      open: (pieceId, outputId) => now.current.means.open(pieceId, outputId),
      switchPiece: (piece, on) => doAct(session, acts.switchPieces, plainIntent([piece.id]), { on }),
      switchCell: (piece, outputId, on) =>
        doAct(session, acts.switchFiles, plainIntent([piece.id]), { on, outputIds: [outputId], alone: true }),
      rename: (pieceId, name) => renamePiece(session, pieceId, name),
      setRenaming,
      renameNext(index, by) {
        const next = now.current.pieces[index + by];
        setRenaming(next?.id ?? null);
        if (!next) return;
        now.current.cursor.press(index + by, null, next.id, false);
        rows.current?.scrollTo(index + by);
      },
      menu(event, piece, output) {
        if (!session.selection.has(piece.id)) session.select([piece.id]);
        const cell = output && { output, made: now.current.planned.has(cellKey(piece.id, output.id)) };
        openMenu(event, pieceMenu(now.current.means, piece, cell));
      },
    }),
    [session],
  );
  const columnMenu = useCallback(
    (event: MouseEvent, output: Output) => openMenu(event, outputMenu(now.current.means, output)),
    [],
  );

  if (outputs.length === 0) return <NoOutputs onSpecs={onSpecs} />;
  const columnWidth = Math.max(132, side + 48);
  const width = NAME_WIDTH + outputs.length * columnWidth + 130;
  const [piece, output] = [pieces[active.row], outputs[active.column]];
  const scrollTo = (row: number) => rows.current?.scrollTo(row);
  return (
    <DndContext {...drag.context} accessibility={{ screenReaderInstructions: { draggable: '' } }}>
      <div ref={setScroller} className="min-h-0 flex-1 overflow-auto bg-white">
        <div
          role="grid"
          aria-label="Files"
          aria-rowcount={pieces.length + 1}
          aria-colcount={outputs.length + 1}
          tabIndex={0}
          onKeyDown={matrixKeys({ session, pieces, outputs, planned, cursor, means, inOrder, scrollTo })}
          aria-activedescendant={piece && output ? `cell-${piece.id}-${output.id}` : undefined}
          style={{ width, minWidth: '100%' }}
          className="focus-visible:-outline-offset-2"
        >
          <MatrixHead {...{ width, columnWidth, totals, edited }} onEdit={setEdited} onMenu={columnMenu} />
          <MatrixRows
            ref={rows}
            scroller={scroller}
            group={drag.group}
            count={pieces.length}
            rowHeight={side}
            headerHeight={HEAD_HEIGHT}
            row={(index, top, pictured) => {
              const piece = pieces[index];
              const inBlock = cursor.isBlock && index >= block.top && index <= block.bottom;
              return (
                <MatrixRow
                  key={index}
                  {...{ piece, index, top, outputs, planned, made, width, columnWidth, pictured, acts: rowActs }}
                  height={side}
                  activeColumn={active.row === index ? active.column : null}
                  blockLeft={inBlock ? block.left : 0}
                  blockRight={inBlock ? block.right : -1}
                  selected={session.selection.has(piece.id)}
                  renaming={renaming === piece.id}
                  draggable={inOrder}
                  drop={drag.dropAt(piece.id)}
                  found={byPiece.get(piece.id)}
                  crisp={crisp}
                />
              );
            }}
          />
        </div>
        {pieces.length === 0 && <p className="px-4 py-6 text-ink-2">No piece matches.</p>}
      </div>
    </DndContext>
  );
}

function NoOutputs({ onSpecs }: { onSpecs(): void }) {
  return (
    <div className="flex min-h-0 flex-1 flex-col items-center justify-center gap-2 bg-white">
      <h2 className="font-bold text-[15px]">No outputs yet</h2>
      <p className="text-ink-2">An output is one way to make a file: format, size, background, name.</p>
      <button type="button" onClick={onSpecs} className="font-semibold text-spruce underline">
        Choose a ready-made spec
      </button>
    </div>
  );
}
