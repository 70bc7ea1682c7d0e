import { CHECKS, type Finding } from '@tolvik/core';
import { AcceptFindings } from '../project/findings/AcceptFindings';
import { useMend } from '../project/findings/settle-findings';
import { planOf, useSession } from '../project/session/context';
import { Button } from '../ui/controls';
import { count, few } from '../ui/words';

type Props = {
  findings: readonly Finding[];
  /** The kind whose pieces alone are shown; null for all. */
  picked: string | null;
  onPick(check: string | null): void;
};

const SIGNS = { error: ['!', 'text-bad'], warning: ['!', 'text-warn'], hint: ['i', 'text-ink-2'] } as const;
const RANK = { error: 0, warning: 1, hint: 2 };
/** Kinds whose own sentence says more than a count of pieces. */
const OF_PROJECT = new Set(['colours-alike', 'output-idle', 'no-longer-made']);

/** What was found, a line for each kind: what, in how many, where, its mend for all alike, and a way to say that it is all right. */
export function FindingsList({ findings, picked, onPick }: Props) {
  const session = useSession();
  const mend = useMend();
  const names = new Map(planOf(session).pieces.map(({ id, name }) => [id, name]));
  const kinds = new Map<string, Finding[]>();
  for (const finding of findings)
    if (!finding.accepted) kinds.set(finding.check, [...(kinds.get(finding.check) ?? []), finding]);
  const calm = [...kinds.values()].every(([{ severity }]) => severity === 'hint') && (
    <p className="border-line border-b bg-paper px-4 py-2 text-ink-2">Nothing needs a look any more.</p>
  );
  if (kinds.size === 0) return calm;
  const sorted = [...kinds].sort(([, [a]], [, [b]]) => RANK[a.severity] - RANK[b.severity]);
  return (
    <>
      {calm}
      <ul
        aria-label="What was found"
        className="max-h-[176px] flex-none overflow-y-auto border-line border-b bg-paper py-1"
      >
        {sorted.map(([check, list]) => {
          const mendable = list.filter((finding) => finding.mend);
          const [sign, colour] = SIGNS[list[0].severity];
          const alone = list.length === 1 || OF_PROJECT.has(check);
          const plural = CHECKS.find(({ name }) => name === check)?.plural ?? list[0].message;
          const where = [...new Set(list.flatMap(({ pieceId }) => names.get(pieceId) ?? []))];
          const shown = picked === check;
          return (
            <li
              key={check}
              className={`grid grid-cols-[minmax(0,1fr)_auto_auto] items-center gap-x-3 pr-4 ${shown ? 'bg-spruce-pale' : 'hover:bg-rail'}`}
            >
              <button
                type="button"
                aria-pressed={shown}
                disabled={where.length === 0}
                title={where.length > 0 ? 'Show just these pieces' : undefined}
                onClick={() => onPick(shown ? null : check)}
                className="grid grid-cols-[10px_26px_minmax(0,auto)_minmax(0,1fr)] items-baseline gap-x-2 py-[5px] pl-4 text-left focus-visible:-outline-offset-2"
              >
                <strong className={colour}>{sign}</strong>
                <span className={`text-right font-mono text-[12px] ${colour}`}>{list.length}</span>
                <span className={`truncate font-semibold ${colour}`}>{alone ? list[0].message : plural}</span>
                <span className="truncate text-ink-2 text-note">
                  {OF_PROJECT.has(check)
                    ? list
                        .slice(1)
                        .map(({ message }) => message)
                        .join('; ')
                    : few(where)}
                </span>
              </button>
              <span>
                {mendable.length > 0 && (
                  <Button small onClick={() => void mend(mendable)}>
                    {new Set(mendable.map((finding) => finding.mend)).size === 1 ? mendable[0].mend : 'Mend'}
                    {mendable.length > 1 ? `, all ${count(mendable.length, 'place')}` : ''}
                  </Button>
                )}
              </span>
              <span className="w-[74px] text-right">
                <AcceptFindings findings={list} />
              </span>
            </li>
          );
        })}
      </ul>
    </>
  );
}
