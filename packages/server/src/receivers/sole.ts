import { realpath } from 'node:fs/promises';
import { resolve } from 'node:path';
import { refuse } from '@tolvik/core';
import type { Config } from '../config';
import type { Database } from '../db/database';
import { folderReceivers, type ReceiverRow } from '../db/receivers';

type Place = Pick<ReceiverRow, 'id' | 'root' | 'folder'>;

/** A folder as the disk has it: two roots may lead to one. */
async function wholeOf({ root, folder }: Place): Promise<string> {
  const base = await realpath(root ?? '').catch(() => root ?? '');
  return resolve(base, folder ?? '');
}

/**
 * One folder has one receiver, the first that was made: two would take each other's files for what is left over from
 * before. Refuses any other, of this project or another, in words that name the first.
 */
export async function soleReceiverOf(
  { db, config }: { db: Database; config: Config },
  receiver: Place & { address: string | null },
): Promise<void> {
  if (receiver.address !== null) return;
  const whole = await wholeOf(receiver);
  for (const other of await folderReceivers(db)) {
    if (other.id === receiver.id) return;
    if (!config.folders.includes(other.root ?? '') || (await wholeOf(other)) !== whole) continue;
    refuse('receiver.taken', `“${other.name}” of the project “${other.project}” writes to this folder`, {
      accepted: 'a folder of its own',
    });
  }
}
