import { FORMATS, outputSizeWords, type Piece, type SaidOutput, saidTitle } from '@tolvik/core';
import { count, few } from '../ui/words';

const MOST_SHOWN = 14;

type Part = { who: string | null; pieces: readonly Piece[]; outputs: readonly SaidOutput[] };

/** What words make, before it is made: for all, or for some and then for all others. */
export function SaidOutputs({ parts }: { parts: readonly Part[] }) {
  if (parts.length === 1 && parts[0].who === null)
    return <Outputs of="Outputs that are made" outputs={parts[0].outputs} />;
  return (
    <ul className="flex max-h-[200px] flex-col gap-1.5 overflow-y-auto">
      {parts.map(({ who, pieces, outputs }) => (
        <li key={who ?? ''}>
          <span className="font-semibold">
            {who === null
              ? 'All others'
              : few(
                  pieces.map(({ name }) => name),
                  4,
                )}
          </span>
          {who !== null && pieces.length > 1 && <span className="text-ink-2">, {count(pieces.length, 'piece')}</span>}
          {outputs.length === 0 ? (
            <span className="text-ink-2"> {pieces.length === 1 ? 'makes' : 'make'} no files</span>
          ) : (
            <Outputs of={`Outputs of ${who ?? 'all others'}`} outputs={outputs} />
          )}
        </li>
      ))}
    </ul>
  );
}

function Outputs({ of, outputs }: { of: string; outputs: readonly SaidOutput[] }) {
  return (
    <ul aria-label={of} className="grid grid-cols-2 gap-x-3">
      {outputs.slice(0, MOST_SHOWN).map((output) => (
        <li key={saidTitle(output)} className="flex items-center gap-1.5 truncate">
          <span
            className={`size-[11px] shrink-0 border border-ink-3 ${output.background === 'piece' ? 'checker' : ''}`}
            style={output.background.startsWith('#') ? { background: output.background } : undefined}
          />
          <span className="font-semibold">{FORMATS[output.settings.format].title}</span>
          <span className="text-ink-2">{outputSizeWords(output) === '1×' ? '' : outputSizeWords(output)}</span>
          <span className="truncate font-mono text-[10.5px] text-ink-3">{saidTitle(output)}</span>
        </li>
      ))}
      {outputs.length > MOST_SHOWN && <li className="text-ink-2">and {outputs.length - MOST_SHOWN} more</li>}
    </ul>
  );
}
