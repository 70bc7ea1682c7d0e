import type { Allowed, ReceiverSteps } from '@tolvik/core';
import type { ReactNode } from 'react';
import { Tick } from '../../ui/Tick';
import { count } from '../../ui/words';

type Paths = ReceiverSteps['fresh'];

type Steps = Omit<ReceiverSteps, 'delivery'>;

/** How many files will be written and taken away, by what is allowed. */
export const allowedCounts = (steps: Steps | undefined, { removeLeftovers, replaceForeign }: Allowed) => ({
  writes: steps ? steps.fresh.count + steps.changed.count + (replaceForeign ? steps.foreign.count : 0) : 0,
  removes: steps && removeLeftovers ? steps.leftovers.count : 0,
});

/** "Write 12 files, take 3 away". */
export const buttonWords = (writes: number, removes: number, verb: 'Write' | 'Send' = 'Write'): string =>
  writes + removes === 0
    ? `Nothing to ${verb.toLowerCase()}`
    : [
        writes > 0 && `${verb} ${count(writes, 'file')}`,
        removes > 0 && `${writes > 0 ? 'take' : 'Take'} ${removes} away`,
      ]
        .filter(Boolean)
        .join(', ');

/** What will be written to a folder, taken away and left alone, with what is allowed there. */
export function StepsList({
  steps,
  allowed,
  onAllow,
  keepsAll,
}: {
  steps: Steps;
  allowed: Allowed;
  onAllow(fields: Partial<Allowed>): void;
  /** An intake keeps what it took; nothing is taken away from there. */
  keepsAll?: boolean;
}) {
  return (
    <ul aria-label="What will be done" className="flex flex-col">
      <Step title="new" paths={steps.fresh} />
      <Step title="changed" paths={steps.changed} />
      <Step title="the same" paths={{ count: steps.same, first: [] }} quiet />
      <Step title="left over from before" paths={steps.leftovers}>
        {!keepsAll && (
          <label className="flex items-center gap-1.5">
            <Tick
              checked={allowed.removeLeftovers}
              onChange={(removeLeftovers) => onAllow({ removeLeftovers })}
              label="Take away what is left over, now and with every export"
            />
            Take away, now and with every export
          </label>
        )}
      </Step>
      <Step title="of somebody else, in the way" paths={steps.foreign} bad>
        <label className="flex items-center gap-1.5">
          <Tick
            checked={allowed.replaceForeign}
            onChange={(replaceForeign) => onAllow({ replaceForeign })}
            label="Replace what is of somebody else, now and with every export"
          />
          Replace, now and with every export
        </label>
      </Step>
      <Step title="changed by somebody else, no longer made, left alone" paths={steps.leftAlone} quiet />
      <Step
        title="not taken by its rules"
        paths={{ count: steps.refused.count, first: steps.refused.first.map(({ path, why }) => `${path}: it ${why}`) }}
        bad
      />
    </ul>
  );
}

/** One kind of step with its files by name; nothing where there are none. */
function Step({
  title,
  paths,
  quiet,
  bad,
  children,
}: {
  title: string;
  paths: Paths;
  quiet?: boolean;
  bad?: boolean;
  children?: ReactNode;
}) {
  const { count: n, first } = paths;
  if (n === 0) return null;
  return (
    <li className="grid grid-cols-[64px_1fr] gap-x-3 border-line border-b py-2 last:border-b-0">
      <span className={`text-right font-mono text-[13px] ${bad ? 'text-bad' : quiet ? 'text-ink-3' : ''}`}>
        {n.toLocaleString('en')}
      </span>
      <div className="min-w-0">
        <span className={`font-semibold ${bad ? 'text-bad' : quiet ? 'text-ink-2' : ''}`}>{title}</span>
        {first.length > 0 && (
          <p className="max-h-[88px] overflow-auto whitespace-pre-line font-mono text-[10.5px] text-ink-2 leading-[1.5]">
            {first.join(bad ? '\n' : ', ')}
            {n > first.length && ` and ${n - first.length} more`}
          </p>
        )}
        {children && <div className="mt-1 text-ink-2">{children}</div>}
      </div>
    </li>
  );
}
