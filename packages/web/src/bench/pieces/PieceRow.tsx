import { acts, type Piece } from '@tolvik/core';
import type { MouseEvent } from 'react';
import { PieceThumb } from '../../painter/PieceThumb';
import type { worst } from '../../project/findings/findings';
import { pieceNote } from '../../project/findings/piece-note';
import { useSession } from '../../project/session/context';
import { renamePiece } from '../../project/session/rename';
import { Shortened } from '../../ui/Shortened';
import { TextField } from '../../ui/TextField';
import { Tick } from '../../ui/Tick';
import { act } from '../act';
import { openBenchMenu } from '../commands/menus';

/** A piece in the index: whether it becomes files, its number, picture, name, and how many files. */
export function PieceRow({
  piece,
  top,
  files,
  trouble,
  renaming,
  onPick,
  onRenaming,
  onRenameNext,
}: {
  piece: Piece;
  /** Where it stands in the list, in CSS px. */
  top: number;
  files: number;
  trouble: ReturnType<typeof worst>;
  renaming: boolean;
  onPick(event: MouseEvent): void;
  onRenaming(on: boolean): void;
  /** The piece before or behind is named next. */
  onRenameNext(by: 1 | -1): void;
}) {
  const session = useSession();
  const selected = session.selection.has(piece.id);
  return (
    <div
      role="row"
      aria-selected={selected}
      onClick={onPick}
      onContextMenu={(event) => {
        event.stopPropagation();
        openBenchMenu(event, session, () => selected || session.select([piece.id]));
      }}
      onDoubleClick={() => onRenaming(true)}
      className={`absolute inset-x-0 flex h-11 cursor-default items-center gap-2 pr-3.5 ${piece.kind === 'edition' ? 'pl-7' : 'pl-3.5'} ${selected ? 'bg-spruce-pale' : 'hover:bg-rail'}`}
      style={{ top }}
    >
      <span role="gridcell" className="inline-flex">
        <Tick
          checked={piece.on}
          onChange={(on) => act(session, acts.switchPieces, { on }, selected ? session.selection : [piece.id])}
          label={`${piece.name} becomes files`}
        />
      </span>
      <span role="gridcell" className="w-5 text-right font-mono text-[11.5px] text-ink-3">
        {String(piece.number).padStart(2, '0')}
      </span>
      <PieceThumb pieceId={piece.id} side={32} dashed={piece.kind === 'slice'} />
      <span role="gridcell" className="min-w-0 flex-1 leading-[1.25]">
        {renaming ? (
          <TextField
            label={`Name of ${piece.name}`}
            autoFocus
            required
            value={piece.name}
            onChange={(name) => renamePiece(session, piece.id, name)}
            onDone={() => onRenaming(false)}
            onNext={onRenameNext}
          />
        ) : (
          <>
            <Shortened text={piece.name} className={`font-semibold ${piece.on ? '' : 'text-ink-3'}`} />
            <span
              className={`block truncate text-note ${trouble ? (trouble.severity === 'error' ? 'text-bad' : 'text-warn') : piece.kind === 'edition' ? 'text-ochre' : 'text-ink-3'}`}
            >
              {trouble ? `! ${trouble.message}` : pieceNote(piece)}
            </span>
          </>
        )}
      </span>
      <span role="gridcell" className="font-mono text-[11.5px] text-ink-2">
        {piece.on ? files : 'off'}
      </span>
    </div>
  );
}
