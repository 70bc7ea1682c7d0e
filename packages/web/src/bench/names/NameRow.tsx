import { type FileToMake, meansNothing, outputsOf, type Piece, planFile, type RenamePreview } from '@tolvik/core';
import type { ClipboardEvent, KeyboardEvent } from 'react';
import { PieceThumb } from '../../painter/PieceThumb';
import { useSession } from '../../project/session/context';
import { count } from '../../ui/words';

export const ROW_PX = 48;

type Props = Pick<RenamePreview, 'name' | 'trouble'> & {
  index: number;
  top: number;
  piece: Piece;
  /** What stands in the field; `name` is what the rule makes of it. */
  typed: string;
  onType(name: string): void;
  onKeys(event: KeyboardEvent<HTMLInputElement>): void;
  onPaste(event: ClipboardEvent): void;
};

/** A piece with its picture, its name to be typed, and the files that come of it. */
export function NameRow({ index, top, piece, typed, name, trouble, onType, onKeys, onPaste }: Props) {
  const session = useSession();
  const outputs = piece.on && !piece.problem ? outputsOf(session.doc, piece) : [];
  const off = new Set(piece.offOutputIds);
  const files: FileToMake[] = outputs
    .filter(({ id }) => !off.has(id))
    .map((output) => planFile(session.doc, session.name, { ...piece, name: name || piece.name }, output));
  const more = files.length > 1 ? `and ${files.length - 1} more` : '';
  return (
    <li
      data-row={index}
      className="absolute inset-x-0 grid grid-cols-[32px_44px_minmax(0,1fr)_minmax(0,1fr)] items-center gap-3 border-line border-b px-3"
      style={{ top, height: ROW_PX }}
    >
      <span className="text-right font-mono text-[11px] text-ink-3">{piece.number}</span>
      <PieceThumb pieceId={piece.id} side={36} dashed={piece.kind === 'slice'} />
      <input
        className={`field w-full font-mono text-[12px] ${trouble ? 'border-bad' : ''}`}
        aria-label={`Name of ${piece.name}`}
        aria-invalid={trouble !== null}
        autoComplete="off"
        spellCheck={false}
        maxLength={300}
        value={typed}
        onChange={(event) => onType(event.target.value)}
        onFocus={(event) => event.target.select()}
        onKeyDown={onKeys}
        onPaste={onPaste}
      />
      <span className="min-w-0 font-mono text-[11px]">
        {trouble ? (
          <span className="font-semibold text-bad">
            {trouble === 'empty' ? '! needs a name' : '! another piece has this name'}
          </span>
        ) : (
          <>
            <span className={`block truncate ${name === piece.name ? 'text-ink-3' : 'font-semibold'}`}>
              {files.length === 0 ? name : files[0].path}
            </span>
            <span className="block truncate text-[10.5px] text-ink-3">
              {meansNothing(name) ? 'says nothing of what it shows' : files.length === 0 ? count(0, 'file') : more}
            </span>
          </>
        )}
      </span>
    </li>
  );
}
