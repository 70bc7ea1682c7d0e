import { DndContext, type DragEndEvent, type DragMoveEvent, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import {
  cellKey,
  type Output,
  type Piece,
  type PlannedFile,
  type PlannedPage,
  placePiece,
  shiftPiece,
} from '@tolvik/core';
import { type KeyboardEvent, type MouseEvent, useCallback, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { renamePiece } from '../bench/rename';
import { openMenu } from '../commands/menu';
import { AddOutputs } from '../outputs/AddOutputs';
import { doAct, plainIntent } from '../project/act';
import { planOf, useMade, useSession } from '../project/context';
import { useFindings } from '../project/findings';
import { useExport } from '../project/use-export';
import { MatrixRow, NAME_WIDTH, type RowActs } from './MatrixRow';
import { MatrixRows, type RowsHandle } from './MatrixRows';
import { type MenuMeans, outputMenu, pieceMenu } from './menus';
import { OutputHeader } from './OutputHeader';

const HEADER_HEIGHT = 55;

/** A row for each piece, a column for each output, a cell for each file. */
export function Matrix({
  pieces,
  side,
  inOrder,
  onOpen,
  onSpecs,
}: {
  pieces: readonly Piece[];
  side: number;
  /** Whether rows stand in the order of the project, so that they can be moved. */
  inOrder: boolean;
  onOpen(pieceId: string, outputId: string): void;
  onSpecs(): void;
}) {
  const session = useSession();
  const plan = planOf(session);
  const { files: made, whole } = useMade();
  const { byPiece } = useFindings();
  // Known only once it is there: rows inside are drawn before the element around them is told of.
  const [scroller, setScroller] = useState<HTMLDivElement | null>(null);
  const [active, setActive] = useState<{ row: number; column: number }>({ row: 0, column: 0 });
  const [anchor, setAnchor] = useState<{ row: number; column: number } | null>(null);
  const [renaming, setRenaming] = useState<string | null>(null);
  /** The output that is being changed. */
  const [edited, setEdited] = useState<string | null>(null);
  const { outputs } = plan;
  const columnWidth = Math.max(132, side + 48);
  const rowHeight = side;

  const { planned, totals } = useMemo(() => {
    const byCell = new Map<string, PlannedFile | PlannedPage>();
    const sums = new Map<string, { bytes: number; known: boolean; count: number }>();
    for (const file of plan.files) {
      const key = cellKey(file.pieceId, file.outputId);
      byCell.set(key, file);
      for (const page of file.pages ?? []) byCell.set(cellKey(page.pieceId, page.outputId), page);
      const sum = sums.get(file.outputId) ?? { bytes: 0, known: true, count: 0 };
      const bytes = (file.pages ? whole.get(file.outputId) : made.get(key))?.bytes;
      sums.set(file.outputId, {
        bytes: sum.bytes + (bytes ?? 0),
        known: sum.known && bytes != null,
        count: sum.count + 1,
      });
    }
    return { planned: byCell, totals: sums };
  }, [plan, made, whole]);

  const rows = useRef<RowsHandle>(null);
  const width = NAME_WIDTH + outputs.length * columnWidth + 130;

  /** The cells from where Shift was first held to where one is: what Space switches at once. */
  const block = {
    top: Math.min(active.row, anchor?.row ?? active.row),
    bottom: Math.max(active.row, anchor?.row ?? active.row),
    left: Math.min(active.column, anchor?.column ?? active.column),
    right: Math.max(active.column, anchor?.column ?? active.column),
  };
  /** Switches what pieces make through outputs: all on when any is off, else all off. */
  const switchBlock = (some: readonly Piece[], through: readonly Output[]) => {
    // One cell alone can be switched on where its piece does not follow the spec.
    const alone = some.length === 1 && through.length === 1;
    const isOff = (piece: Piece, output: Output) =>
      (alone || piece.specIds.includes(output.specId)) && !planned.has(cellKey(piece.id, output.id));
    doAct(session, 'switch-files', plainIntent(some.map(({ id }) => id)), {
      on: some.some((piece) => through.some((output) => isOff(piece, output))),
      outputIds: through.map((output) => output.id),
      alone,
    });
  };

  const onKeys = (event: KeyboardEvent) => {
    if (event.target instanceof HTMLInputElement || pieces.length === 0) return;
    const { row, column } = active;
    const piece = pieces[row];
    const output = outputs[column];
    if (event.altKey && piece && inOrder && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
      const puts = shiftPiece(session.doc, piece.record, event.key === 'ArrowUp' ? -1 : 1);
      if (puts.length > 0) session.commit({ label: `move ${piece.name} in the order`, puts, removes: [] });
      event.preventDefault();
      return;
    }
    if (event.ctrlKey && event.key === ' ' && output) switchBlock(pieces, [output]);
    else if (event.ctrlKey || event.altKey) return;
    const to: Record<string, [number, number]> = {
      ArrowDown: [row + 1, column],
      ArrowUp: [row - 1, column],
      ArrowLeft: [row, column - 1],
      ArrowRight: [row, column + 1],
      Home: [row, 0],
      End: [row, outputs.length - 1],
      PageDown: [row + 6, column],
      PageUp: [row - 6, column],
    };
    if (to[event.key]) {
      const next = {
        row: Math.min(pieces.length - 1, Math.max(0, to[event.key][0])),
        column: Math.min(outputs.length - 1, Math.max(0, to[event.key][1])),
      };
      const from = event.shiftKey ? (anchor ?? active) : null;
      setAnchor(from);
      setActive(next);
      session.select(
        from
          ? pieces.slice(Math.min(from.row, next.row), Math.max(from.row, next.row) + 1).map((each) => each.id)
          : [pieces[next.row].id],
      );
      rows.current?.scrollTo(next.row);
    } else if (event.key === ' ' && event.shiftKey && piece) switchBlock([piece], outputs);
    else if (event.key === ' ' && !event.ctrlKey && piece && output)
      switchBlock(pieces.slice(block.top, block.bottom + 1), outputs.slice(block.left, block.right + 1));
    else if (event.key === 'Enter' && piece && output && planned.has(cellKey(piece.id, output.id)))
      onOpen(piece.id, output.id);
    else if (event.key === 'F2' && piece) setRenaming(piece.id);
    else if ((event.key === 'ContextMenu' || (event.key === 'F10' && event.shiftKey)) && piece && output) {
      const cell = document.getElementById(`cell-${piece.id}-${output.id}`);
      openMenu(
        { currentTarget: cell, clientX: 0, clientY: 0, button: 0, preventDefault: () => event.preventDefault() },
        pieceMenu(means, piece, { output, made: planned.has(cellKey(piece.id, output.id)) }),
      );
    } else if (event.key !== ' ') return;
    event.preventDefault();
  };

  // Rows are dragged by their heads while they stand in the order of the project. All are as high as one
  // another, so where a row would land is told by the pointer alone.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const rowGroup = useRef<HTMLDivElement>(null);
  const [drop, setDrop] = useState<{ id: string; side: 'before' | 'after' } | null>(null);
  const overRow = ({ active: dragged, activatorEvent, delta }: DragMoveEvent) => {
    if (!(activatorEvent instanceof PointerEvent) || !rowGroup.current) return;
    const at = (activatorEvent.clientY + delta.y - rowGroup.current.getBoundingClientRect().top) / rowHeight;
    const over = pieces[Math.floor(at)];
    setDrop(over && over.id !== dragged.id ? { id: over.id, side: at % 1 < 0.5 ? 'before' : 'after' } : null);
  };
  const endDrag = ({ active: dragged }: DragEndEvent) => {
    const moved = pieces.find((piece) => piece.id === dragged.id);
    setDrop(null);
    if (!moved || !drop) return;
    const puts = placePiece(session.doc, moved.record, drop.id, drop.side);
    if (puts.length > 0) session.commit({ label: `move ${moved.name} in the order`, puts, removes: [] });
  };

  const open = useRef(onOpen);
  open.current = onOpen;
  const exportSome = useExport();
  const navigate = useNavigate();
  const means: MenuMeans = {
    session,
    exportSome: (some) => void exportSome(some),
    open: onOpen,
    rename: setRenaming,
    edit: setEdited,
    showOnBench(pieceId) {
      session.select([pieceId]);
      void navigate(`/projects/${session.id}/bench`);
    },
    filesOf: ({ pieceId, outputId }) =>
      plan.files.filter((file) => (pieceId ? file.pieceId === pieceId : file.outputId === outputId)).length,
  };
  const at = useRef({ active, anchor, pieces, means, planned });
  at.current = { active, anchor, pieces, means, planned };
  const acts = useMemo(
    (): RowActs => ({
      press(row, column, pieceId, more) {
        // Cells are picked from where one was; heads add their piece.
        const from = more && column !== null ? (at.current.anchor ?? at.current.active) : null;
        setActive((before) => ({ row, column: column ?? before.column }));
        setAnchor(from);
        session.select(
          from
            ? at.current.pieces.slice(Math.min(from.row, row), Math.max(from.row, row) + 1).map(({ id }) => id)
            : more
              ? new Set([...session.selection, pieceId])
              : [pieceId],
        );
      },
      open: (pieceId, outputId) => open.current(pieceId, outputId),
      switchPiece: (piece, on) => doAct(session, 'switch-pieces', plainIntent([piece.id]), { on }),
      switchCell: (piece, outputId, on) =>
        doAct(session, 'switch-files', plainIntent([piece.id]), { on, outputIds: [outputId], alone: true }),
      rename: (pieceId, name) => renamePiece(session, pieceId, name),
      setRenaming,
      menu(event, piece, output) {
        const { means: around, planned: files } = at.current;
        if (!session.selection.has(piece.id)) session.select([piece.id]);
        const cell = output && { output, made: files.has(cellKey(piece.id, output.id)) };
        openMenu(event, pieceMenu(around, piece, cell));
      },
    }),
    [session],
  );
  const columnMenu = useCallback(
    (event: MouseEvent, output: Output) => openMenu(event, outputMenu(at.current.means, output)),
    [],
  );

  if (outputs.length === 0) {
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
  return (
    <DndContext
      sensors={sensors}
      onDragMove={overRow}
      onDragEnd={endDrag}
      onDragCancel={() => setDrop(null)}
      accessibility={{ screenReaderInstructions: { draggable: '' } }}
    >
      <div ref={setScroller} className="min-h-0 flex-1 overflow-auto bg-white">
        <div
          role="grid"
          aria-label="Files"
          aria-rowcount={pieces.length + 1}
          aria-colcount={outputs.length + 1}
          tabIndex={0}
          onKeyDown={onKeys}
          aria-activedescendant={
            pieces[active.row] && outputs[active.column]
              ? `cell-${pieces[active.row].id}-${outputs[active.column].id}`
              : undefined
          }
          style={{ width, minWidth: '100%' }}
          className="focus-visible:-outline-offset-2"
        >
          <div
            role="row"
            className="sticky top-0 z-20 flex border-ink border-b bg-paper"
            style={{ height: HEADER_HEIGHT, width, minWidth: '100%' }}
          >
            <div
              role="columnheader"
              className="sticky left-0 z-10 flex items-end bg-paper px-4 pb-2 text-ink-2"
              style={{ width: NAME_WIDTH }}
            >
              Piece
            </div>
            {outputs.map((output, i) => (
              <OutputHeader
                key={output.id}
                output={output}
                spec={plan.specs.find((spec) => spec.id === output.specId)}
                newSpec={i === 0 || outputs[i - 1].specId !== output.specId}
                showSpec={plan.specs.length > 1}
                width={columnWidth}
                total={totals.get(output.id)}
                open={edited === output.id}
                onEdit={setEdited}
                onMenu={columnMenu}
              />
            ))}
            <div role="columnheader" className="flex items-center px-4">
              <AddOutputs />
            </div>
          </div>
          <MatrixRows
            ref={rows}
            scroller={scroller}
            group={rowGroup}
            count={pieces.length}
            rowHeight={rowHeight}
            headerHeight={HEADER_HEIGHT}
            row={(index, top, pictured) => {
              const piece = pieces[index];
              const inBlock = !!anchor && index >= block.top && index <= block.bottom;
              return (
                <MatrixRow
                  key={index}
                  piece={piece}
                  index={index}
                  top={top}
                  outputs={outputs}
                  planned={planned}
                  made={made}
                  width={width}
                  height={rowHeight}
                  columnWidth={columnWidth}
                  activeColumn={active.row === index ? active.column : null}
                  blockLeft={inBlock ? block.left : 0}
                  blockRight={inBlock ? block.right : -1}
                  selected={session.selection.has(piece.id)}
                  renaming={renaming === piece.id}
                  draggable={inOrder}
                  drop={drop?.id === piece.id ? drop.side : null}
                  found={byPiece.get(piece.id)}
                  pictured={pictured}
                  acts={acts}
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
