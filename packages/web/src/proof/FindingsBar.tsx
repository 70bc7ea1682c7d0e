import type { Finding } from '@tolvik/core';
import { AcceptFindings } from '../project/AcceptFindings';
import { useMend } from '../project/findings';
import { Button } from '../ui/controls';
import { count } from '../ui/words';

/** What is said of several pieces of which a check has found the same. */
const KINDS: Record<string, string> = {
  'cannot-be-made': 'cannot be made',
  'name-twice': 'have a name that is taken',
  'too-little-contrast': 'cannot be seen on their ground',
  'off-grid': 'lie between pixels',
  'off-multiple': 'are no multiple of the grid',
  'nothing-inside': 'have nothing inside',
  'pokes-out': 'have artwork poking out',
  'small-inside': 'are mostly empty',
  'off-centre': 'carry their weight off the middle',
  'default-name': 'have a default name',
  'name-changed': 'have a name that cannot stay',
  'set-differs': 'differ from the rest of their set',
  'only-a-picture': 'are only a bitmap in SVG',
  'picture-enlarged': 'enlarge a picture',
  'heavy-svg': 'are very heavy SVG',
  'pdf-flattens': 'become a picture in PDF',
  'colours-alike': 'colours are nearly another',
  'output-idle': 'outputs make nothing',
  hairline: 'have lines that vanish',
  'live-text': 'have text in a font that is not here',
};

/** Kinds whose own sentence says more than a count. */
const SPOKEN = new Set(['colours-alike', 'output-idle', 'no-longer-made']);
const MOST_SPOKEN = 3;

/** What was found, kind by kind, each with the mend for all alike and a way to say that it is all right. */
export function FindingsBar({ findings, hints }: { findings: readonly Finding[]; hints: boolean }) {
  const mend = useMend();
  const kinds = new Map<string, Finding[]>();
  for (const finding of findings)
    if (!finding.accepted && (finding.severity === 'hint') === hints)
      kinds.set(finding.check, [...(kinds.get(finding.check) ?? []), finding]);
  if (kinds.size === 0)
    return hints ? null : (
      <p className="border-line border-b bg-paper px-4 py-2 text-ink-2">Nothing needs a look any more.</p>
    );
  return (
    <ul
      aria-label={hints ? 'Worth knowing' : 'What was found'}
      className="flex flex-none flex-wrap gap-x-6 gap-y-1.5 border-line border-b bg-paper px-4 py-2"
    >
      {[...kinds].map(([check, list]) => {
        const mendable = list.filter((finding) => finding.mend);
        const spoken = SPOKEN.has(check);
        return (
          <li
            key={check}
            className={`flex items-center gap-2 ${hints ? 'text-ink-2' : list[0].severity === 'error' ? 'text-bad' : 'text-warn'}`}
          >
            <strong className="font-semibold">
              {hints ? 'i' : '!'} {spoken ? '' : list.length}
            </strong>
            <span className="max-w-[70ch]">
              {spoken
                ? list
                    .slice(0, MOST_SPOKEN)
                    .map((finding) => finding.message)
                    .join('; ')
                : (KINDS[check] ?? list[0].message)}
              {spoken && list.length > MOST_SPOKEN && ` and ${list.length - MOST_SPOKEN} more`}
            </span>
            {mendable.length > 0 && (
              <Button small onClick={() => mend(mendable)}>
                {new Set(mendable.map((finding) => finding.mend)).size === 1 ? mendable[0].mend : 'Mend'}
                {mendable.length > 1 ? `, all ${count(mendable.length, 'place')}` : ''}
              </Button>
            )}
            <AcceptFindings findings={list} />
          </li>
        );
      })}
    </ul>
  );
}
