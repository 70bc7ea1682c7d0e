import type { IntakeRules, Receiver, Takes } from '@tolvik/core';
import { del, entries, set } from 'idb-keyval';
import { create } from 'zustand';

/** A folder of this computer that takes deliveries; known to this browser alone. */
export type LocalReceiver = {
  id: string;
  projectId: string;
  name: string;
  handle: FileSystemDirectoryHandle;
  on: boolean;
  /** Whether what an edit changes is written a moment later. Not there in those that were kept before there was such a choice. */
  follows?: boolean;
  removeLeftovers: boolean;
  replaceForeign: boolean;
  /** Not there in those that were kept before there was such a choice. */
  takes?: Takes;
  rules: IntakeRules | null;
  standing: Receiver['standing'];
  /** SHA-256 of the receipts that were written there last. Not there in those that were kept before they were noted: any counts. */
  receipts?: string[];
};

const KEY = 'local-receiver ';

type State = {
  /** Of all projects; null until they were read. */
  all: readonly LocalReceiver[] | null;
  /** What is being written, and trouble of the last writing, by id. */
  busy: Readonly<Record<string, string>>;
  trouble: Readonly<Record<string, string>>;
};
export const useLocalReceivers = create<State>()(() => ({ all: null, busy: {}, trouble: {} }));
export const { getState, setState } = useLocalReceivers;

let reading: Promise<void> | null = null;
export const readLocalReceivers = (): Promise<void> =>
  (reading ??= (async () => {
    const found = await entries<string, LocalReceiver>().catch(() => []);
    setState({ all: found.flatMap(([key, each]) => (String(key).startsWith(KEY) ? [each] : [])) });
  })());

export async function keepLocal(receiver: LocalReceiver): Promise<void> {
  await set(`${KEY}${receiver.id}`, receiver);
  setState({ all: [...(getState().all ?? []).filter(({ id }) => id !== receiver.id), receiver] });
}

export async function dropLocal({ id }: LocalReceiver): Promise<void> {
  await del(`${KEY}${id}`);
  setState({ all: (getState().all ?? []).filter((each) => each.id !== id) });
}
