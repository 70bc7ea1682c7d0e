import type { FileChange } from '../api/types';

/** Which rows alone are shown; null for all. */
export type Only = FileChange | 'failed' | 'refused' | null;

const KINDS: { only: NonNullable<Only>; words: string; colour: string; sign?: string }[] = [
  { only: 'same', words: 'the same', colour: 'text-ink-3' },
  { only: 'changed', words: 'changed', colour: 'text-ochre' },
  { only: 'renamed', words: 'renamed', colour: 'text-ochre' },
  { only: 'new', words: 'new', colour: 'text-spruce' },
  { only: 'gone', words: 'no longer made', colour: 'text-bad' },
  { only: 'failed', words: 'failed', colour: 'text-bad', sign: '!' },
  { only: 'refused', words: 'refused', colour: 'text-bad' },
];

/** How many files there are of each kind; picking one shows them alone. */
export function DeliveryCounts({
  counts,
  only,
  onOnly,
  note,
}: {
  counts: Record<NonNullable<Only>, number>;
  only: Only;
  onOnly(only: Only): void;
  note: string;
}) {
  // That something failed or was refused is told only where it did.
  const shown = KINDS.filter((kind) => (kind.only !== 'failed' && kind.only !== 'refused') || counts[kind.only] > 0);
  return (
    <div className="flex items-center gap-7 border-line border-b px-5 py-2.5">
      {shown.map((kind) => (
        <button
          key={kind.only}
          type="button"
          aria-pressed={only === kind.only}
          disabled={counts[kind.only] === 0}
          onClick={() => onOnly(only === kind.only ? null : kind.only)}
          className={`rounded-sm px-1 ${only === kind.only ? 'bg-rail' : ''} disabled:opacity-45`}
        >
          <span className={`mr-1 font-bold text-[20px] ${kind.colour}`}>
            {kind.sign && `${kind.sign} `}
            {counts[kind.only]}
          </span>{' '}
          <span className="text-ink-2">{kind.words}</span>
        </button>
      ))}
      {note && <span className="ml-auto text-ink-2">{note}</span>}
    </div>
  );
}
