import {
  type Allowed,
  allowedSteps,
  type FolderSteps,
  folderSteps,
  newId,
  type Receipt,
  receiptAfter,
  receipt as receiptSchema,
  refusals,
} from '@tolvik/core';
import { request } from '../../api/client';
import type { DeliveryDetail } from '../../api/types';
import { getState, keepLocal, type LocalReceiver, setState } from '../../project/local-receivers';
import { type FolderNow, inWords, lookAt, writeInto } from './folder';

type Handle = FileSystemDirectoryHandle & {
  queryPermission?(how: { mode: 'readwrite' }): Promise<PermissionState>;
  requestPermission?(how: { mode: 'readwrite' }): Promise<PermissionState>;
};
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

export type LocalLook = {
  delivery: DeliveryDetail;
  receipt: Receipt;
  now: FolderNow;
  steps: FolderSteps;
  refused: { path: string; why: string }[];
};

/** What would be done so that the folder holds a delivery; changes nothing. */
export async function lookLocal(receiver: LocalReceiver, deliveryId: string): Promise<LocalLook> {
  const [delivery, whole] = await Promise.all([
    request<DeliveryDetail>(`/deliveries/${deliveryId}`),
    request<unknown>(`/deliveries/${deliveryId}/receipt.json`).then((answer) => receiptSchema.parse(answer)),
  ]);
  const measured = new Map(delivery.files.flatMap(({ path, now }) => (now?.measured ? [[path, now.measured]] : [])));
  const { rules } = receiver;
  const refused = whole.files.flatMap((file) => {
    const facts = measured.get(file.path);
    const [first] = rules
      ? refusals(rules, { ...file, alpha: facts?.alpha, palette: facts?.colourType === 'palette' })
      : [];
    return first ? [{ path: file.path, why: first.words }] : [];
  });
  const left = new Set(refused.map(({ path }) => path));
  const receipt = { ...whole, files: whole.files.filter(({ path }) => !left.has(path)) };
  try {
    const now = await lookAt(
      receiver.handle,
      receipt.files.map(({ path }) => path),
    );
    const steps = folderSteps(now.there, now.last, receipt.files, { some: !delivery.whole, begun: now.begun });
    return { delivery, receipt, now, steps, refused };
  } catch (error) {
    throw inWords(error, receiver.name);
  }
}

/** Brings the folder to a delivery; where all is as it should be, not a byte is written. */
export async function writeLocal(receiver: LocalReceiver, deliveryId: string, allowed: Allowed): Promise<void> {
  const { id, name, handle } = receiver;
  if (getState().busy[id]) return;
  const say = (words: string) => setState({ busy: { ...getState().busy, [id]: words } });
  say('looking');
  let trouble = '';
  try {
    const { delivery, receipt: whole, now, steps, refused } = await lookLocal(receiver, deliveryId);
    const { write, remove } = allowedSteps(steps, whole.files, allowed);
    const { files: _files, leftovers: _leftovers, ...head } = whole;
    const receipt = receiptAfter(head, now.last, whole.files, steps, allowed, !delivery.whole);
    const positions = new Map(delivery.files.flatMap(({ path, now: file }) => (file ? [[path, file.position]] : [])));
    const inStep = write.length + remove.length === 0 && now.last?.delivery.id === delivery.id;
    if (!inStep)
      await writeInto(
        handle,
        { write, remove, receipt },
        async ({ path }) => {
          const answer = await fetch(`/api/deliveries/${delivery.id}/files/${positions.get(path)}`);
          if (!answer.ok) throw new Error(`${path} could not be fetched`);
          return answer.blob();
        },
        (count) => say(`${count} of ${write.length}`),
      ).catch((error: unknown) => {
        throw inWords(error, name);
      });
    const replaced = allowed.replaceForeign ? steps.foreign.filter(({ wanted }) => wanted).length : 0;
    await changeLocal((getState().all ?? []).find((each) => each.id === id) ?? receiver, {
      standing: {
        delivery: { id: delivery.id, number: delivery.number },
        at: new Date().toISOString(),
        written: write.length,
        removed: remove.length,
        leftovers: steps.leftovers.length - remove.length,
        foreign: steps.foreign.length - replaced,
        refused: refused.length,
      },
    });
  } catch (error) {
    trouble = (error as Error).message;
  } finally {
    const { [id]: _done, ...busy } = getState().busy;
    const { [id]: _before, ...before } = getState().trouble;
    setState({ busy, trouble: trouble ? { ...before, [id]: trouble } : before });
  }
}
