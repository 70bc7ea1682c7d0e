import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { Receiver, ReceiverSteps } from '@tolvik/core';
import { useState } from 'react';
import { request } from '../../api/client';
import { Button } from '../../ui/controls';
import { useNotice } from '../../ui/notices';
import { Sheet } from '../../ui/Sheet';
import { Ticked } from '../../ui/Tick';
import { IntakeHeaders } from './IntakeHeaders';
import { RulesFields } from './RulesFields';
import { placeOf } from './receivers';
import { allowedCounts, buttonWords, StepsList } from './StepsList';
import { TakesFields } from './TakesFields';

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
    queryKey: ['receiver steps', id, receiver.standing?.at, JSON.stringify([receiver.rules, receiver.takes])],
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
  const change = (fields: Partial<Pick<Receiver, 'rules' | 'takes' | 'follows'> & { asZip: boolean }>) =>
    void settle(() => request(`/receivers/${id}`, { method: 'PATCH', json: fields }));
  const { writes, removes } = allowedCounts(steps, allowed);
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
            Remove receiver
          </Button>
          {receiver.onItsWay && (
            <Button
              kind="danger"
              onClick={() => void request(`/receivers/${id}/stop`, { method: 'POST' })}
              title={`What has come stays; ${receiver.kind === 'intake' ? 'sending' : 'writing'} again goes on from there`}
            >
              {receiver.kind === 'intake' ? 'Stop sending' : 'Stop writing'}
            </Button>
          )}
          <Button onClick={onClose}>Close</Button>
          <Button kind="go" disabled={busy || writes + removes === 0} onClick={() => void write()}>
            {buttonWords(writes, removes, receiver.kind === 'intake' ? 'Send' : 'Write')}
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
      {!steps && !error && (
        <p className="text-ink-2">
          {receiver.kind === 'intake' ? 'Looking at what it has taken…' : 'Looking at the folder…'}
        </p>
      )}
      {steps && <StepsList steps={steps} allowed={allowed} onAllow={allow} keepsAll={receiver.kind === 'intake'} />}
      <Ticked
        className="mt-4 border-line border-t pt-3"
        checked={receiver.follows}
        onChange={(follows) => change({ follows })}
        label="Follow the project"
        note={`What an edit changes is ${receiver.kind === 'intake' ? 'sent' : 'written'} a moment later, with nobody asking${receiver.on ? '' : '; while it is on'}.`}
      />
      <TakesFields takes={receiver.takes} onChange={(takes) => change({ takes })} />
      <RulesFields rules={receiver.rules} onChange={(rules) => change({ rules })} />
      {receiver.kind === 'intake' && (
        <Ticked
          className="mt-4 border-line border-t pt-3"
          checked={receiver.asZip}
          onChange={(asZip) => change({ asZip })}
          label="Send one zip"
          note="In place of a request for each file, for intakes that take zips."
        />
      )}
      {receiver.kind === 'intake' && (
        <IntakeHeaders
          names={receiver.headerNames}
          onChange={(headers) => void settle(() => request(`/receivers/${id}`, { method: 'PATCH', json: { headers } }))}
        />
      )}
    </Sheet>
  );
}
