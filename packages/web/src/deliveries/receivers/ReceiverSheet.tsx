import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { IntakeRules, Receiver, ReceiverSteps } from '@tolvik/core';
import { type ReactNode, useState } from 'react';
import { request } from '../../api/client';
import { Button } from '../../ui/controls';
import { useNotice } from '../../ui/notices';
import { Sheet } from '../../ui/Sheet';
import { Tick } from '../../ui/Tick';
import { count } from '../../ui/words';
import { RulesFields } from './RulesFields';
import { placeOf } from './receivers';

type Paths = ReceiverSteps['fresh'];

/** What would be written to a receiver, taken away and left alone, before it is done; and what it may do with every export. */
export function ReceiverSheet({ receiver, onClose }: { receiver: Receiver; onClose(): void }) {
  const { id, name } = receiver;
  const tell = useNotice();
  const queries = useQueryClient();
  const [allowed, setAllowed] = useState({
    removeLeftovers: receiver.removeLeftovers,
    replaceForeign: receiver.replaceForeign,
  });
  const [busy, setBusy] = useState(false);
  const { data: steps, error } = useQuery({
    queryKey: ['receiver steps', id, receiver.standing?.at, JSON.stringify(receiver.rules)],
    queryFn: () => request<ReceiverSteps>(`/receivers/${id}/steps`),
    staleTime: 0,
    retry: false,
  });
  const settle = async (work: () => Promise<unknown>) => {
    setBusy(true);
    try {
      await work();
      await queries.invalidateQueries({ queryKey: ['receivers'] });
      await queries.invalidateQueries({ queryKey: ['receiver steps', id] });
      return true;
    } catch (problem) {
      tell((problem as Error).message, { bad: true });
      return false;
    } finally {
      setBusy(false);
    }
  };
  const allow = (fields: Partial<typeof allowed>) => {
    setAllowed({ ...allowed, ...fields });
    // Nothing waits for it: what is written says itself what is allowed.
    void request(`/receivers/${id}`, { method: 'PATCH', json: fields }).catch((problem: Error) =>
      tell(problem.message, { bad: true }),
    );
  };
  const rule = (rules: IntakeRules | null) =>
    void settle(() => request(`/receivers/${id}`, { method: 'PATCH', json: { rules } }));
  const writes = steps
    ? steps.fresh.count + steps.changed.count + (allowed.replaceForeign ? steps.foreign.count : 0)
    : 0;
  const removes = steps && allowed.removeLeftovers ? steps.leftovers.count : 0;
  const write = () => settle(() => request(`/receivers/${id}/write`, { method: 'POST', json: allowed }));
  const drop = async () => {
    if (await settle(() => request(`/receivers/${id}`, { method: 'DELETE' }))) onClose();
  };
  return (
    <Sheet
      open
      onClose={onClose}
      title={name}
      about={placeOf(receiver)}
      footer={
        <>
          <Button className="mr-auto" disabled={busy} onClick={() => void drop()} title="Its files stay where they are">
            Have it no longer
          </Button>
          <Button onClick={onClose}>Close</Button>
          <Button kind="go" disabled={busy || writes + removes === 0} onClick={() => void write()}>
            {writes + removes === 0
              ? 'Nothing to write'
              : [
                  writes > 0 && `Write ${count(writes, 'file')}`,
                  removes > 0 && `${writes > 0 ? 'take' : 'Take'} ${removes} away`,
                ]
                  .filter(Boolean)
                  .join(', ')}
          </Button>
        </>
      }
    >
      {receiver.trouble && (
        <p role="alert" className="mb-3 border-bad border-l-2 bg-bad-pale px-3 py-1.5 text-bad">
          The last writing did not come to its end: {receiver.trouble}.
        </p>
      )}
      {error && (
        <p role="alert" className="text-bad">
          {error.message}
        </p>
      )}
      {!steps && !error && <p className="text-ink-2">Looking at the folder…</p>}
      {steps && (
        <ul aria-label="What will be done" className="flex flex-col">
          <Step title="new" paths={steps.fresh} />
          <Step title="changed" paths={steps.changed} />
          <Step title="the same" paths={{ count: steps.same, first: [] }} quiet />
          <Step title="left over from before" paths={steps.leftovers}>
            <label className="flex items-center gap-1.5">
              <Tick
                checked={allowed.removeLeftovers}
                onChange={(removeLeftovers) => allow({ removeLeftovers })}
                label="Take away what is left over, now and with every export"
              />
              Take away, now and with every export
            </label>
          </Step>
          <Step title="of somebody else, in the way" paths={steps.foreign} bad>
            <label className="flex items-center gap-1.5">
              <Tick
                checked={allowed.replaceForeign}
                onChange={(replaceForeign) => allow({ replaceForeign })}
                label="Replace what is of somebody else, now and with every export"
              />
              Replace, now and with every export
            </label>
          </Step>
          <Step title="changed by somebody else, no longer made, left alone" paths={steps.leftAlone} quiet />
          <Step
            title="not taken by its rules"
            paths={{
              count: steps.refused.count,
              first: steps.refused.first.map(({ path, why }) => `${path}: it ${why}`),
            }}
            bad
          />
        </ul>
      )}
      <RulesFields rules={receiver.rules} onChange={rule} />
    </Sheet>
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
