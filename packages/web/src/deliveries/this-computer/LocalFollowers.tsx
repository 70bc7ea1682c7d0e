import type { Delivery } from '@tolvik/core';
import { useEffect } from 'react';
import { request } from '../../api/client';
import { type LocalReceiver, readLocalReceivers, useLocalReceivers } from '../../project/receivers/local-receivers';
import { useOpenSession, useSessionPart } from '../../project/session/context';
import type { Session } from '../../project/session/session';
import { isAllowed, sayTrouble, specIn } from './local-receivers';
import { writing } from './writing';

/** How long after the last edit what changed is written; later than the server's own receivers, whose delivery serves here too. */
const SETTLED_MS = 1500;
const LOOK_AGAIN_MS = 300;

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const deliveriesOf = async (projectId: string): Promise<Delivery[]> =>
  (await request<{ deliveries: Delivery[] }>(`/projects/${projectId}/deliveries`)).deliveries;

/** The newest delivery, once none is under way. */
async function settledDelivery(projectId: string): Promise<Delivery | undefined> {
  for (;;) {
    const [newest] = await deliveriesOf(projectId);
    if (newest?.state !== 'running') return newest;
    await pause(LOOK_AGAIN_MS);
  }
}

/** A delivery of the project as it is now: one that there is, or a new one that the next such one takes the place of. */
async function deliveryOfNow(session: Session): Promise<Delivery> {
  await session.whenSaved();
  const known = await settledDelivery(session.id);
  if (known?.state === 'done' && known.whole && known.version >= session.version) return known;
  await request(`/projects/${session.id}/deliveries`, { method: 'POST', json: { byEdit: true } });
  const made = await settledDelivery(session.id);
  if (made?.state !== 'done' || !made.whole) throw new Error('the delivery for it was stopped');
  return made;
}

/** Brings folders that follow to what the project is now; windows that have it open take turns. */
async function keepInStep(session: Session, followers: readonly LocalReceiver[]): Promise<void> {
  const allowed: LocalReceiver[] = [];
  for (const receiver of followers) {
    if (await isAllowed(receiver)) allowed.push(receiver);
    else sayTrouble(receiver.id, 'the browser has to be asked before it may write there again');
  }
  if (allowed.length === 0) return;
  await navigator.locks.request(`local followers ${session.id}`, async () => {
    try {
      const { id } = await deliveryOfNow(session);
      const { writeLocal } = await writing();
      for (const receiver of allowed) {
        const { removeLeftovers, replaceForeign } = receiver;
        await writeLocal(receiver, id, { removeLeftovers, replaceForeign }, specIn(session.doc));
      }
    } catch (error) {
      // Files that share a path, for one: told where the folder stands, until an edit mends it.
      for (const { id } of allowed) sayTrouble(id, (error as Error).message);
    }
  });
}

/** Keeps the folders of this computer in step that follow the open project, on whatever stage one works. */
export function LocalFollowers() {
  const session = useOpenSession();
  const version = useSessionPart('version');
  const all = useLocalReceivers((state) => state.all);
  useEffect(() => void readLocalReceivers(), []);
  const followers = (all ?? []).filter((each) => each.projectId === session.id && each.on && each.follows);
  const ids = followers.map(({ id }) => id).join(' ');
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each version and each set of folders
  useEffect(() => {
    if (ids === '') return;
    const timer = setTimeout(() => void keepInStep(session, followers), SETTLED_MS);
    return () => clearTimeout(timer);
  }, [session, version, ids]);
  return null;
}
