import type { Finding } from '@tolvik/core';
import { Button } from '../../ui/controls';
import { AcceptFindings } from './AcceptFindings';
import { useAccept, useMend } from './settle-findings';

const LOOK = {
  error: { sign: '!', colour: 'text-bad' },
  warning: { sign: '!', colour: 'text-warn' },
  hint: { sign: 'i', colour: 'text-ink-2' },
};

/** Findings of one piece, each with its mend, or with the reason why it is all right. */
export function FindingList({ findings }: { findings: readonly Finding[] }) {
  const mend = useMend();
  const { takeBack } = useAccept();
  if (findings.length === 0) return null;
  return (
    <section className="border-line border-b px-3.5 py-3">
      <h3 className="heading mb-1.5">Found</h3>
      <ul className="flex flex-col gap-2">
        {findings.map((finding, i) => {
          const { sign, colour } = finding.accepted ? { sign: '✓', colour: 'text-ink-3' } : LOOK[finding.severity];
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: a check may find the same twice
            <li key={i} className={`flex gap-2 ${colour}`}>
              <span className="font-bold">{sign}</span>
              <span className="min-w-0 flex-1 leading-[1.3]">
                {finding.message}
                {finding.accepted ? (
                  <span className="block text-note">
                    accepted: {finding.accepted}{' '}
                    <button type="button" className="underline hover:text-ink" onClick={() => takeBack(finding)}>
                      Look again
                    </button>
                  </span>
                ) : (
                  <span className="mt-1 flex items-center gap-2">
                    {finding.mend && (
                      <Button small onClick={() => mend([finding])}>
                        {finding.mend}
                      </Button>
                    )}
                    <AcceptFindings findings={[finding]} />
                  </span>
                )}
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
