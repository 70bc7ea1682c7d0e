import type { Delivery, Receiver } from '@tolvik/core';
import { Suspense, useState } from 'react';
import { request } from '../../api/client';
import { useSessionPart } from '../../project/session/context';
import { Arriving } from '../../ui/Arriving';
import { Button } from '../../ui/controls';
import { useNotice } from '../../ui/notices';
import { part } from '../../ui/part';
import { LocalReceiverRows } from '../this-computer/LocalReceiverRows';
import { ReceiverRow } from './ReceiverRow';
import { placeOf, standingWords, useReceivers } from './receivers';

// Each comes when it is first opened.
const NewReceiverSheet = part(async () => (await import('./NewReceiverSheet')).NewReceiverSheet);
const ReceiverSheet = part(async () => (await import('./ReceiverSheet')).ReceiverSheet);

/** Who takes the deliveries, and how each stands. */
export function ReceiverList({ deliveries }: { deliveries: readonly Delivery[] }) {
  const version = useSessionPart('version');
  const tell = useNotice();
  const { data, refetch } = useReceivers();
  const [open, setOpen] = useState<string | 'new' | null>(null);
  const newest = deliveries.find(({ state, byEdit }) => state === 'done' && !byEdit);
  /** The newest that it gets: what edits make, those that follow alone. */
  const lastFor = ({ follows }: Receiver) => {
    const last = follows ? deliveries.find(({ state }) => state === 'done') : newest;
    return last && { number: last.number, edited: version > last.version };
  };
  const shown = data?.receivers.find(({ id }) => id === open);
  const switchOn = (id: string, on: boolean) =>
    void request(`/receivers/${id}`, { method: 'PATCH', json: { on } }).then(
      () => refetch(),
      (error: Error) => tell(error.message, { bad: true }),
    );
  return (
    <section aria-label="Receivers" className="border-line border-b">
      <div className="flex items-center justify-between px-3.5 pt-2.5 pb-1.5">
        <h2 className="heading">Receivers</h2>
        <Button small onClick={() => setOpen('new')}>
          New…
        </Button>
      </div>
      {data?.receivers.length === 0 && (
        <p className="px-3.5 pb-2.5 text-ink-2 text-note">
          A folder or an intake that takes every export: only what differs is written there.
        </p>
      )}
      <ul>
        {data?.receivers.map((receiver) => (
          <ReceiverRow
            key={receiver.id}
            name={receiver.name}
            place={placeOf(receiver)}
            mono
            on={receiver.on}
            follows={receiver.follows}
            standing={standingWords(receiver, lastFor(receiver))}
            onSwitch={(on) => switchOn(receiver.id, on)}
            onOpen={() => setOpen(receiver.id)}
          />
        ))}
        <LocalReceiverRows newest={newest} newestOfAll={deliveries.find(({ state }) => state === 'done')} />
      </ul>
      <Suspense fallback={<Arriving />}>
        {open === 'new' && data && (
          <NewReceiverSheet roots={data.roots} intakes={data.intakes} onClose={() => setOpen(null)} />
        )}
        {shown && <ReceiverSheet receiver={shown} onClose={() => setOpen(null)} />}
      </Suspense>
    </section>
  );
}
