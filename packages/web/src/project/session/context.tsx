import { useQuery } from '@tanstack/react-query';
import { type Plan, planFiles } from '@tolvik/core';
import { createContext, startTransition, useContext, useEffect, useState, useSyncExternalStore } from 'react';
import { asksAgain } from '../files/ask-again';
import { type Made, serverMade } from '../files/made';
import type { Session } from './session';

export const SessionContext = createContext<Session | null>(null);

/** The open project, for acting on it; nothing is drawn again because of it. */
export function useOpenSession(): Session {
  const session = useContext(SessionContext);
  if (!session) throw new Error('no project is open here');
  return session;
}

/** State of a session that listeners are notified of without a change of the document or of the selection. */
type Part =
  | 'saved'
  | 'delivery'
  | 'receiversTold'
  | 'sourceTold'
  | 'describedTold'
  | 'version'
  | 'undoLabel'
  | 'redoLabel';

/**
 * The open project; the component draws again whenever a record, its name or what is selected changes, and not when what is
 * told beside that does: `useSessionPart` is for those (`scripts/test/boundaries.test.ts` holds it).
 */
export function useSession(): Session {
  const session = useOpenSession();
  // State and not a store of React's: edits made on the plane are drawn there first (`planeFirst`), which a store cannot wait for.
  const [, setTick] = useState(session.tick);
  useEffect(() => {
    const follow = () => setTick(session.tick);
    follow();
    return session.subscribe(follow);
  }, [session]);
  return session;
}

/** Makes an edit on the plane: panels follow as soon as its frame is drawn. For edits that remove nothing panels may be showing. */
export const planeFirst = (edit: () => void): void => startTransition(edit);

/** One thing about the open project; the component draws again only when that changes. */
export function useSessionPart<K extends Part>(part: K): Session[K] {
  const session = useOpenSession();
  return useSyncExternalStore(session.subscribe, () => session[part]);
}

const plans = new WeakMap<Session, { revision: number; name: string; plan: Plan }>();

/** The plan of what the document holds now; computed once a revision. */
export function planOf(session: Session): Plan {
  const known = plans.get(session);
  if (known?.revision === session.doc.revision && known.name === session.name) return known.plan;
  const plan = planFiles(session.doc, session.name);
  plans.set(session, { revision: session.doc.revision, name: session.name, plan });
  return plan;
}

/**
 * Render keys and weights as the server knows them; asked for again when the project moves on, and until all weights are
 * known. `files` by cell, pages among them; `whole` holds files of several pages by their output.
 */
export function useMade(): Pick<Made, 'whole' | 'version'> & { files: Made['byCell'] } {
  const { id } = useOpenSession();
  const version = useSessionPart('version');
  const [askAgainAfter] = useState(asksAgain);
  const { data, refetch } = useQuery({
    ...serverMade(id),
    refetchInterval: ({ state }) => askAgainAfter(state.data, state.dataUpdatedAt, version),
  });
  const behind = !!data && data.version < version;
  useEffect(() => {
    if (behind) void refetch();
  }, [behind, refetch]);
  return { files: data?.byCell ?? NONE, whole: data?.whole ?? NONE, version: data?.version ?? 0 };
}
const NONE: Made['byCell'] = new Map();
