import { useDraggable } from '@dnd-kit/core';
import type { Finding, Piece } from '@tolvik/core';
import type { MouseEvent } from 'react';
import { pieceNote } from '../../project/findings/piece-note';
import { TextField } from '../../ui/TextField';
import { Tick } from '../../ui/Tick';
import { weight } from '../../ui/words';

type Props = {
  piece: Piece;
  selected: boolean;
  renaming: boolean;
  /** Rows can be dragged when they stand in the order of the project. */
  draggable: boolean;
  drop: 'before' | 'after' | null;
  finding: Finding | undefined;
  /** It is on and makes no file. */
  idle: boolean;
  bytes: number;
  width: number;
  onPick(event: MouseEvent): void;
  onMenu(event: MouseEvent): void;
  onSwitch(on: boolean): void;
  onRename(name: string): void;
  onRenaming(on: boolean): void;
  onRenameNext(by: 1 | -1): void;
};

/** The head of a row: a piece with its number, name and what is wrong with it. It can be dragged to another place. */
export function PieceHeader({
  piece,
  selected,
  renaming,
  draggable,
  drop,
  finding,
  idle,
  bytes,
  width,
  onPick,
  onMenu,
  onSwitch,
  onRename,
  onRenaming,
  onRenameNext,
}: Props) {
  const drag = useDraggable({ id: piece.id, disabled: renaming || !draggable });
  return (
    <div
      ref={drag.setNodeRef}
      {...drag.listeners}
      role="rowheader"
      onClick={onPick}
      onContextMenu={onMenu}
      onDoubleClick={() => onRenaming(true)}
      className={`sticky left-0 z-10 flex items-center gap-2.5 border-line border-r pr-3 pl-4 ${selected ? 'bg-spruce-pale' : 'bg-paper'} ${drag.isDragging ? 'opacity-50' : ''}`}
      style={{ width }}
    >
      {drop && (
        <span className={`absolute inset-x-0 z-10 h-[2px] bg-spruce ${drop === 'before' ? '-top-px' : '-bottom-px'}`} />
      )}
      <Tick checked={piece.on} onChange={onSwitch} label={`${piece.name} becomes files`} />
      <span className="w-5 text-right font-mono text-[11.5px] text-ink-3">{String(piece.number).padStart(2, '0')}</span>
      <span className="min-w-0 flex-1 leading-[1.3]">
        {renaming ? (
          <TextField
            label={`Name of ${piece.name}`}
            autoFocus
            required
            value={piece.name}
            onChange={onRename}
            onDone={() => onRenaming(false)}
            onNext={onRenameNext}
          />
        ) : (
          <span className={`block truncate font-semibold ${piece.on ? '' : 'text-ink-3'}`}>{piece.name}</span>
        )}
        <span
          className={`block truncate text-note ${piece.problem ? 'text-bad' : piece.kind === 'edition' ? 'text-ochre' : 'text-ink-3'}`}
        >
          {piece.problem
            ? `! ${piece.problem}`
            : piece.kind === 'artboard'
              ? `artboard, ${pieceNote(piece)}`
              : pieceNote(piece)}
        </span>
        {finding ? (
          <span
            className={`line-clamp-2 text-note leading-[1.25] ${finding.severity === 'error' ? 'text-bad' : 'text-warn'}`}
          >
            ! {finding.message}
          </span>
        ) : null}
        {!finding && idle && <span className="block text-note text-warn">! on, and makes no file</span>}
        {!finding && bytes > 0 && <span className="block font-mono text-[10.5px] text-ink-3">{weight(bytes)}</span>}
      </span>
    </div>
  );
}
