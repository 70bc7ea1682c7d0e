import { resolve } from 'node:path';
import { refuse } from '@tolvik/core';
import type { FolderProcesses } from '@tolvik/folders';
import type { Config } from '../config';
import type { Database } from '../db/database';
import { folderReceivers, type ReceiverRow } from '../db/receivers';

type Place = Pick<ReceiverRow, 'id' | 'root' | 'folder'>;

/** Where the disk has a root; links are followed, so that two names of one folder are one. */
const rootAt = (folders: FolderProcesses, root: string): Promise<string> =>
  folders.where({ root, folder: '' }).then(
    (found) => found?.whole ?? root,
    () => root,
  );

/**
 * One folder has one receiver, the first that was made: two would take each other's files for what is left over from
 * before. Refuses any other, of this project or another, in words that name the first.
 */
export async function soleReceiverOf(
  { db, config, folders }: { db: Database; config: Config; folders: FolderProcesses },
  receiver: Place & { address: string | null },
): Promise<void> {
  if (receiver.address !== null) return;
  // Few roots, each asked for once; below them no link is followed.
  const roots = new Map<string, Promise<string>>();
  const wholeOf = async ({ root, folder }: Place): Promise<string> => {
    const known = roots.get(root ?? '') ?? rootAt(folders, root ?? '');
    roots.set(root ?? '', known);
    return resolve(await known, folder ?? '');
  };
  const whole = await wholeOf(receiver);
  for (const other of await folderReceivers(db)) {
    if (other.id === receiver.id) return;
    if (!config.folders.includes(other.root ?? '') || (await wholeOf(other)) !== whole) continue;
    refuse('receiver.taken', `“${other.name}” of the project “${other.project}” writes to this folder`, {
      accepted: 'a folder of its own',
    });
  }
}
