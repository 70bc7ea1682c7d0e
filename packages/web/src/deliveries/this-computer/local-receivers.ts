import {
  ALL_FILES,
  type Allowed,
  FolderWriter,
  type Held,
  heldAgainst,
  lookAtDisk,
  newId,
  type ProjectDocument,
  printReceipt,
  type ReceiptFile,
  receipt,
  sha256Hex,
  takenOf,
  writeToDisk,
  writingFor,
} from '@tolvik/core';
import { request } from '../../api/client';
import type { DeliveryDetail } from '../../api/types';
import { getState, keepLocal, type LocalReceiver, setState } from '../../project/receivers/local-receivers';
import { inWords, PickedDisk } from './folder';

type Handle = FileSystemDirectoryHandle & {
  queryPermission?(how: { mode: 'readwrite' }): Promise<PermissionState>;
  requestPermission?(how: { mode: 'readwrite' }): Promise<PermissionState>;
};
/** The spec of an output as the project has it now. */
export type SpecOf = (outputId: string) => string | undefined;
export const specIn =
  (doc: ProjectDocument): SpecOf =>
  (outputId) =>
    doc.find('output', outputId)?.specId;
type Picker = { showDirectoryPicker?(how: { mode: 'readwrite'; id?: string }): Promise<FileSystemDirectoryHandle> };

/** Whether this browser lets a page write to a folder. */
export const canPickFolder = (): boolean => typeof (window as Picker).showDirectoryPicker === 'function';

/** Has somebody pick a folder; null when they did not. */
export async function pickReceiver(projectId: string): Promise<LocalReceiver | null> {
  let handle: FileSystemDirectoryHandle;
  try {
    handle = await (window as unknown as Required<Picker>).showDirectoryPicker({ mode: 'readwrite', id: 'tolvik' });
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') return null;
    throw inWords(error, 'that folder');
  }
  for (const each of getState().all ?? [])
    if (each.projectId === projectId && (await each.handle.isSameEntry(handle)))
      throw new Error(`${each.name} is that folder already`);
  const receiver: LocalReceiver = {
    id: newId(),
    projectId,
    name: handle.name,
    handle,
    on: true,
    removeLeftovers: false,
    replaceForeign: false,
    rules: null,
    standing: null,
    receipts: [],
  };
  await keepLocal(receiver);
  return receiver;
}

export const changeLocal = (receiver: LocalReceiver, fields: Partial<LocalReceiver>): Promise<void> =>
  keepLocal({ ...receiver, ...fields });

/** Whether it may be written to now; asked of somebody only right after they did something. */
export async function isAllowed({ handle }: LocalReceiver, ask = false): Promise<boolean> {
  const { queryPermission, requestPermission } = handle as Handle;
  const how = { mode: 'readwrite' } as const;
  if (!queryPermission) return true;
  if ((await queryPermission.call(handle, how)) === 'granted') return true;
  return ask && (await requestPermission?.call(handle, how)) === 'granted';
}

/** What would be done so that the folder holds a delivery; changes nothing. */
export async function lookLocal(
  { handle, name, rules, takes = ALL_FILES, receipts }: LocalReceiver,
  delivery: DeliveryDetail,
  specOf: SpecOf,
): Promise<Held> {
  const whole = receipt.parse(await request<unknown>(`/deliveries/${delivery.id}/receipt.json`));
  const measured = new Map(delivery.files.map(({ path, now }) => [path, now?.measured ?? undefined]));
  const taken = takenOf(whole, { rules, takes }, (path) => measured.get(path), specOf);
  try {
    const isOwn = (text: string) => !receipts || receipts.includes(sha256Hex(text));
    const now = await lookAtDisk(new PickedDisk(handle), taken.wanted.files, isOwn);
    return heldAgainst(now, taken, !delivery.whole);
  } catch (error) {
    throw inWords(error, name);
  }
}

export const deliveryNow = (id: string): Promise<DeliveryDetail> => request<DeliveryDetail>(`/deliveries/${id}`);

/** Says what is wrong with a writing, or that nothing is any more. */
export function sayTrouble(id: string, words: string | null): void {
  const { [id]: _before, ...others } = getState().trouble;
  setState({ trouble: words === null ? others : { ...others, [id]: words } });
}

/** Brings the folder to a delivery; one window at a time. */
export const writeLocal = (
  receiver: LocalReceiver,
  deliveryId: string,
  allowed: Allowed,
  specOf: SpecOf,
): Promise<void> =>
  navigator.locks.request(`local-receiver ${receiver.id}`, () => writeNow(receiver, deliveryId, allowed, specOf));

/** 32 random hexadecimal digits. */
const newWriting = (): string => crypto.randomUUID().replaceAll('-', '');

async function writeNow(receiver: LocalReceiver, deliveryId: string, allowed: Allowed, specOf: SpecOf): Promise<void> {
  const { id, name, handle } = receiver;
  if (getState().busy[id]) return;
  const say = (words: string) => setState({ busy: { ...getState().busy, [id]: words } });
  say('looking');
  let trouble: string | null = null;
  try {
    const delivery = await deliveryNow(deliveryId);
    const held = await lookLocal(receiver, delivery, specOf);
    const { inStep, standing, write, remove, receipt: next } = writingFor(held, allowed, new Date().toISOString());
    const positions = new Map(delivery.files.flatMap(({ path, now }) => (now ? [[path, now.position]] : [])));
    const bytesOf = async ({ path }: ReceiptFile): Promise<Blob> => {
      const answer = await fetch(`/api/deliveries/${delivery.id}/files/${positions.get(path)}`);
      if (!answer.ok) throw new Error(`${path} could not be fetched`);
      return answer.blob();
    };
    const known = () => (getState().all ?? []).find((each) => each.id === id) ?? receiver;
    if (!inStep) {
      const text = printReceipt(next);
      const writing = newWriting();
      const bringThere = async () => {
        const writer = await FolderWriter.open(new PickedDisk(handle), held.now, writing, allowed.replaceForeign);
        // Whichever of the two lies there after a tab was closed, it is known.
        await changeLocal(known(), { receipts: [sha256Hex(text), ...(known().receipts ?? []).slice(0, 1)] });
        await writeToDisk(writer, { write, remove, receipt: text }, bytesOf, (count) =>
          say(`${count} of ${write.length}`),
        );
      };
      await bringThere().catch((error: unknown) => {
        throw inWords(error, name);
      });
    }
    await changeLocal(known(), { standing });
  } catch (error) {
    trouble = (error as Error).message;
  } finally {
    const { [id]: _done, ...busy } = getState().busy;
    setState({ busy });
    sayTrouble(id, trouble);
  }
}
