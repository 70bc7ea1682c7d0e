import { FORMATS, type SaidOutput, saidTitle, sizeWords } from '@tolvik/core';

const MOST_SHOWN = 14;

/** What words make, before it is made. */
export function SaidOutputs({ outputs }: { outputs: readonly SaidOutput[] }) {
  return (
    <ul aria-label="Outputs that are made" className="grid grid-cols-2 gap-x-3">
      {outputs.slice(0, MOST_SHOWN).map((output) => (
        <li key={saidTitle(output)} className="flex items-center gap-1.5 truncate">
          <span
            className={`size-[11px] shrink-0 border border-ink-3 ${output.background === 'piece' ? 'checker' : ''}`}
            style={output.background.startsWith('#') ? { background: output.background } : undefined}
          />
          <span className="font-semibold">{FORMATS[output.settings.format].title}</span>
          <span className="text-ink-2">
            {output.size.kind === 'factor' && output.size.factor === 1 ? '' : sizeWords(output.size)}
          </span>
          <span className="truncate font-mono text-[10.5px] text-ink-3">{saidTitle(output)}</span>
        </li>
      ))}
      {outputs.length > MOST_SHOWN && <li className="text-ink-2">and {outputs.length - MOST_SHOWN} more</li>}
    </ul>
  );
}
