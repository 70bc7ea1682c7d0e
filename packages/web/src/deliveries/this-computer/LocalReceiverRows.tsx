import type { Delivery } from '@tolvik/core';
import { Suspense, useEffect, useState } from 'react';
import { useSession } from '../../project/context';
import { readLocalReceivers, useLocalReceivers } from '../../project/local-receivers';
import { Arriving } from '../../ui/Arriving';
import { part } from '../../ui/part';
import { Tick } from '../../ui/Tick';
import { standingWords, TONES } from '../receivers/receivers';
import { changeLocal, isAllowed, writeLocal } from './local-receivers';

// Comes when it is first opened.
const LocalReceiverSheet = part(async () => (await import('./LocalReceiverSheet')).LocalReceiverSheet);

/** Folders of this computer that take the deliveries of the open project. Those that are on are fed while this is seen. */
export function LocalReceiverRows({ newest }: { newest: Delivery | undefined }) {
  const session = useSession();
  const { all, busy, trouble } = useLocalReceivers();
  const [open, setOpen] = useState<string | null>(null);
  useEffect(() => void readLocalReceivers(), []);
  const own = (all ?? []).filter(({ projectId }) => projectId === session.id);
  const behind = newest
    ? own.filter(
        ({ id, on, standing }) => on && !busy[id] && !trouble[id] && (standing?.delivery.number ?? 0) < newest.number,
      )
    : [];
  const waiting = behind.map(({ id }) => id).join(' ');
  // biome-ignore lint/correctness/useExhaustiveDependencies: fed once for each delivery and receiver
  useEffect(() => {
    for (const receiver of behind)
      void isAllowed(receiver).then((yes) => {
        const { removeLeftovers, replaceForeign } = receiver;
        if (yes && newest) return writeLocal(receiver, newest.id, { removeLeftovers, replaceForeign });
      });
  }, [waiting, newest?.id]);
  const shown = own.find(({ id }) => id === open);
  return (
    <>
      {own.map((receiver) => {
        const { id, name, on, standing } = receiver;
        const last = newest && { number: newest.number, edited: session.version > newest.version };
        const { words, tone } = busy[id]
          ? { words: `being written: ${busy[id]}`, tone: 'plain' as const }
          : standingWords({ on, standing, trouble: trouble[id] ?? null }, last);
        return (
          <li key={id} className="flex items-start gap-2.5 px-3.5 py-2 hover:bg-rail">
            <Tick
              checked={on}
              onChange={(next) => void changeLocal(receiver, { on: next })}
              label={`${name} takes every export`}
              className="mt-0.5"
            />
            <button
              type="button"
              onClick={() => setOpen(id)}
              className="min-w-0 flex-1 text-left leading-[1.35] focus-visible:-outline-offset-2"
            >
              <strong className={`block truncate font-semibold ${on ? '' : 'text-ink-3'}`}>{name}</strong>
              <span className="block truncate text-ink-3 text-note">a folder of this computer</span>
              <span className={`block text-note ${TONES[tone]}`}>{words}</span>
            </button>
          </li>
        );
      })}
      <Suspense fallback={<Arriving />}>
        {shown && <LocalReceiverSheet receiver={shown} newest={newest} onClose={() => setOpen(null)} />}
      </Suspense>
    </>
  );
}
