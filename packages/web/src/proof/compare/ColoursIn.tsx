import { coloursUsed, type Piece, sourcesOf } from '@tolvik/core';
import { useSession } from '../../project/session/context';

const MOST_COLOURS = 6;

/** The plain colours of a piece, the most used first. */
export function ColoursIn({ piece }: { piece: Piece }) {
  const { doc } = useSession();
  const source = piece.record.kind === 'artboard' && piece.record.follows;
  const colours = coloursUsed(doc, piece.record.kind === 'artboard' ? sourcesOf(doc, piece.record) : [piece.region]);
  if (colours.length === 0) return null;
  return (
    <span
      className="flex items-center gap-1"
      title={`Colours${source ? ' of its source' : ''}: ${colours.map(({ colour }) => colour).join(', ')}`}
    >
      {colours.slice(0, MOST_COLOURS).map(({ colour }) => (
        <span key={colour} className="size-3.5 border border-line-strong" style={{ background: colour }} />
      ))}
      {colours.length > MOST_COLOURS && `+${colours.length - MOST_COLOURS}`}
    </span>
  );
}
