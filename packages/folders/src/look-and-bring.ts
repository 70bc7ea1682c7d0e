import { createHash, randomBytes } from 'node:crypto';
import {
  type Allowed,
  FolderWriter,
  type Held,
  heldAgainst,
  lookAtDisk,
  NOTHING_BEGUN,
  type NotTaken,
  printReceipt,
  type Receipt,
  type ReceiptFile,
  type Standing,
  type StepsInShort,
  stepsInShort,
  writeToDisk,
  writingFor,
} from '@tolvik/core';
import { type FolderBelow, openBelow } from './below';
import { type DiskOptions, NodeDisk } from './node-disk';

/** What a receiver takes of a delivery, and for which folder. */
export type Taken = {
  at: FolderBelow;
  wanted: Receipt;
  refused: readonly NotTaken[];
  /** Whether the delivery is of some files, and says nothing of the others. */
  some: boolean;
  /** SHA-256 of the receipts that are known to be this project's in this folder; null where nobody noted them: any is. */
  receipts: readonly string[] | null;
};

const sha256Of = (text: string): string => createHash('sha256').update(text).digest('hex');

async function heldBy(
  { wanted, refused, some, receipts }: Taken,
  disk: NodeDisk | null,
): Promise<Held & { own: string | null }> {
  let own: string | null = null;
  const isOwn = (text: string) => {
    const hash = sha256Of(text);
    if (receipts !== null && !receipts.includes(hash)) return false;
    own = hash;
    return true;
  };
  const now = disk
    ? await lookAtDisk(disk, wanted.files, isOwn)
    : { there: new Map(), last: null, begun: NOTHING_BEGUN };
  return { ...heldAgainst(now, { wanted, refused }, some), own };
}

/** What would be done so that a folder holds what is wanted; changes nothing. */
export async function lookInto(taken: Taken, alive?: () => void): Promise<StepsInShort> {
  const folder = await openBelow(taken.at, false);
  const disk = folder && new NodeDisk(folder, { alive });
  try {
    return stepsInShort(await heldBy(taken, disk));
  } finally {
    await disk?.close();
  }
}

/** What a writing asks of whoever wants it. Each may throw, which ends it. */
export type Asks = Pick<DiskOptions, 'mayPut' | 'alive'> & {
  bytesOf(file: ReceiptFile): Promise<Uint8Array>;
  /** Before a receipt gets its place: its SHA-256 is noted, and that of the one before, so that either is known later. */
  note(sha256: readonly string[]): Promise<void>;
  onWrite(done: number, of: number): void;
};

/** Brings a folder to what is wanted; answers how it stands then. Not a byte is written where all is as it should be. */
export async function bringTo(taken: Taken, allowed: Allowed, asks: Asks): Promise<Standing> {
  const folder = await openBelow(taken.at, true);
  if (!folder) throw new Error('a folder that is made is there');
  const disk = new NodeDisk(folder, asks);
  try {
    const held = await heldBy(taken, disk);
    const { inStep, standing, receipt, write, remove } = writingFor(held, allowed, new Date().toISOString());
    if (inStep && held.now.begun.writings.length === 0) return standing;
    const writing = randomBytes(16).toString('hex');
    const writer = await FolderWriter.open(disk, held.now, writing, allowed.replaceForeign);
    const text = printReceipt(receipt);
    await asks.note([sha256Of(text), ...(held.own === null ? [] : [held.own])]);
    asks.onWrite(0, write.length);
    await writeToDisk(writer, { write, remove, receipt: text }, asks.bytesOf, (done) =>
      asks.onWrite(done, write.length),
    );
    return standing;
  } finally {
    await disk.close();
  }
}
