import {
  ALL_FILES,
  type Allowed,
  FolderWriter,
  type Held,
  heldAgainst,
  lookAtDisk,
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
import { getState, type LocalReceiver, setState } from '../../project/receivers/local-receivers';
import { inWords, PickedDisk } from './folder';
import { changeLocal, type SpecOf, sayTrouble } from './local-receivers';

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
