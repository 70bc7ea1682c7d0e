import type { Finding, Output, Piece, PlannedFile, PlannedPage } from '@tolvik/core';
import { cellKey } from '@tolvik/core';
import { type MouseEvent, memo } from 'react';
import type { ServerFile } from '../../api/types';
import { worst } from '../../project/findings/findings';
import { Shortened } from '../../ui/Shortened';
import { MatrixCell } from './MatrixCell';
import { PieceHeader } from './PieceHeader';

export const NAME_WIDTH = 232;

/** What rows and cells ask for; stays the same object, so that rows that did not change are not drawn again. */
export type RowActs = {
  press(row: number, column: number | null, pieceId: string, more: boolean): void;
  open(pieceId: string, outputId: string): void;
  switchPiece(piece: Piece, on: boolean): void;
  switchCell(piece: Piece, outputId: string, on: boolean): void;
  rename(pieceId: string, name: string): void;
  setRenaming(pieceId: string | null): void;
  /** Names the piece of the row before or behind one. */
  renameNext(index: number, by: 1 | -1): void;
  /** Asked for with the right button or the key for it. */
  menu(event: MouseEvent, piece: Piece, output: Output | null): void;
};

type Props = {
  piece: Piece;
  index: number;
  top: number;
  outputs: readonly Output[];
  planned: ReadonlyMap<string, PlannedFile | PlannedPage>;
  made: ReadonlyMap<string, ServerFile>;
  width: number;
  height: number;
  columnWidth: number;
  activeColumn: number | null;
  /** Columns of the chosen block that cross this row; none when right is left of left. */
  blockLeft: number;
  blockRight: number;
  selected: boolean;
  renaming: boolean;
  draggable: boolean;
  drop: 'before' | 'after' | null;
  found: readonly Finding[] | undefined;
  /** How much of their edges lies on pixels, by cell. */
  crisp: ReadonlyMap<string, number>;
  /** Whether it is drawn whole, with its pictures. */
  pictured: boolean;
  acts: RowActs;
};

/** One piece with everything it makes. */
export const MatrixRow = memo(function MatrixRow(props: Props) {
  const {
    piece,
    index,
    top,
    outputs,
    planned,
    made,
    width,
    height,
    columnWidth,
    activeColumn,
    blockLeft,
    blockRight,
    selected,
    renaming,
    draggable,
    drop,
    found,
    crisp,
    pictured,
    acts,
  } = props;
  const cells = outputs.map((output) => {
    const key = cellKey(piece.id, output.id);
    return { output, file: planned.get(key), made: made.get(key) };
  });
  const frame = {
    role: 'row',
    'aria-rowindex': index + 2,
    className: 'absolute left-0 flex border-line border-b',
    style: { top, height, width, minWidth: '100%' },
  } as const;
  // While one scrolls by, a row says what it is and no more; it is whole once one stops.
  if (!pictured)
    return (
      <div {...frame}>
        <div
          role="rowheader"
          className="sticky left-0 z-10 flex items-center border-line border-r bg-paper pr-3 pl-[86px]"
          style={{ width: NAME_WIDTH }}
        >
          <Shortened text={piece.name} className="font-semibold" />
        </div>
        {cells.map(({ output, file }) => (
          <div
            key={output.id}
            role="gridcell"
            className={`flex flex-none items-end truncate border-line border-r px-2 pb-1 font-mono text-[10.5px] ${file ? '' : 'bg-rail'}`}
            style={{ width: columnWidth }}
          >
            {file?.path.split('/').at(-1)}
          </div>
        ))}
      </div>
    );
  return (
    <div {...frame}>
      <PieceHeader
        piece={piece}
        selected={selected}
        renaming={renaming}
        draggable={draggable}
        drop={drop}
        finding={worst(found)}
        idle={piece.on && !piece.problem && cells.every(({ file }) => !file)}
        bytes={cells.reduce((sum, cell) => sum + (cell.file ? (cell.made?.bytes ?? 0) : 0), 0)}
        width={NAME_WIDTH}
        onMenu={(event) => acts.menu(event, piece, null)}
        onPick={(event) => acts.press(index, null, piece.id, event.shiftKey)}
        onSwitch={(on) => acts.switchPiece(piece, on)}
        onRename={(name) => acts.rename(piece.id, name)}
        onRenaming={(on) => acts.setRenaming(on ? piece.id : null)}
        onRenameNext={(by) => acts.renameNext(index, by)}
      />
      {cells.map(({ output, file, made }, column) => (
        <MatrixCell
          key={output.id}
          piece={piece}
          output={output}
          file={file}
          made={made}
          width={columnWidth}
          height={height}
          active={activeColumn === column}
          crisp={crisp.get(cellKey(piece.id, output.id))}
          inBlock={column >= blockLeft && column <= blockRight}
          finding={found?.find(
            (finding) => finding.outputId === output.id && finding.severity !== 'hint' && !finding.accepted,
          )}
          onPress={(more) => acts.press(index, column, piece.id, more)}
          onMenu={(event) => acts.menu(event, piece, output)}
          onOpen={() => acts.open(piece.id, output.id)}
          onSwitch={(on) => acts.switchCell(piece, output.id, on)}
        />
      ))}
    </div>
  );
});
