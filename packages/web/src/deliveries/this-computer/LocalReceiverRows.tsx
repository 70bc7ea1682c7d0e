import type { Delivery } from '@tolvik/core';
import { Suspense, useEffect, useState } from 'react';
import { readLocalReceivers, useLocalReceivers } from '../../project/receivers/local-receivers';
import { useOpenSession, useSessionPart } from '../../project/session/context';
import { Arriving } from '../../ui/Arriving';
import { part } from '../../ui/part';
import { ReceiverRow } from '../receivers/ReceiverRow';
import { standingWords } from '../receivers/receivers';
import { changeLocal, isAllowed, specIn } from './local-receivers';
import { writing } from './writing';

// Comes when it is first opened.
const LocalReceiverSheet = part(async () => (await import('./LocalReceiverSheet')).LocalReceiverSheet);

/** Folders of this computer that take the deliveries of the open project. Those that are on are fed while this is seen. */
export function LocalReceiverRows({
  newest,
  newestOfAll,
}: {
  /** The newest delivery that somebody asked for. */
  newest: Delivery | undefined;
  /** The newest of all, those that edits made among them. */
  newestOfAll: Delivery | undefined;
}) {
  const session = useOpenSession();
  const version = useSessionPart('version');
  const { all, busy, trouble } = useLocalReceivers();
  const [open, setOpen] = useState<string | null>(null);
  useEffect(() => void readLocalReceivers(), []);
  const own = (all ?? []).filter(({ projectId }) => projectId === session.id);
  const behind = newest
    ? own.filter(
        ({ id, on, follows, standing }) =>
          on && !follows && !busy[id] && !trouble[id] && (standing?.delivery.number ?? 0) < newest.number,
      )
    : [];
  const waiting = behind.map(({ id }) => id).join(' ');
  // biome-ignore lint/correctness/useExhaustiveDependencies: fed once for each delivery and receiver
  useEffect(() => {
    for (const receiver of behind)
      void isAllowed(receiver).then(async (yes) => {
        const { removeLeftovers, replaceForeign } = receiver;
        if (!yes || !newest) return;
        const { writeLocal } = await writing();
        return writeLocal(receiver, newest.id, { removeLeftovers, replaceForeign }, specIn(session.doc));
      });
  }, [waiting, newest?.id]);
  const shown = own.find(({ id }) => id === open);
  return (
    <>
      {own.map((receiver) => {
        const { id, name, on, follows = false, standing } = receiver;
        const taken = follows ? newestOfAll : newest;
        const last = taken && { number: taken.number, edited: version > taken.version };
        return (
          <ReceiverRow
            key={id}
            name={name}
            place="a folder of this computer"
            on={on}
            follows={follows}
            standing={
              busy[id]
                ? { words: `being written: ${busy[id]}`, tone: 'plain' }
                : standingWords({ on, follows, standing, trouble: trouble[id] ?? null }, last)
            }
            onSwitch={(next) => void changeLocal(receiver, { on: next })}
            onOpen={() => setOpen(id)}
          />
        );
      })}
      <Suspense fallback={<Arriving />}>
        {shown && (
          <LocalReceiverSheet
            receiver={shown}
            newest={shown.follows ? newestOfAll : newest}
            onClose={() => setOpen(null)}
          />
        )}
      </Suspense>
    </>
  );
}
