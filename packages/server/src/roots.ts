import { mkdir } from 'node:fs/promises';
import { resolve } from 'node:path';
import { refuse } from '@tolvik/core';
import { asPathBelow, type FolderBelow, type FolderProcesses, inWords, type Whereabouts } from '@tolvik/folders';
import type { Config } from './config';

/** The folder of a receiver: below one of the roots that deliveries may be written to. Refuses any other, and paths that climb. */
export async function folderOf({ folders, ownFolder }: Config, root: string, folder: string): Promise<FolderBelow> {
  if (!folders.includes(root))
    refuse('receiver.root', 'that folder is none of those this server may write to', {
      accepted: folders.length > 0 ? folders.join(', ') : 'none; TOLVIK_FOLDERS names some',
    });
  if (root === ownFolder) await inWords(root, () => mkdir(root, { recursive: true }));
  return { root, folder: asPathBelow(folder) };
}

type Disks = { config: Config; folders: FolderProcesses };

/** The same, and it is seen that it can be: refuses where a link or no folder is on the way, and where the root is not there. */
export async function checkedFolder({ config, folders }: Disks, root: string, folder: string): Promise<FolderBelow> {
  const at = await folderOf(config, root, folder);
  await folders.where(at);
  return at;
}

/** The folder that artwork is read from: below one of the roots that allow it. Refuses as `checkedFolder` does, and what is not there. */
export async function sourceOf(
  { config: { sources }, folders }: Disks,
  root: string,
  folder: string,
): Promise<Whereabouts & { at: FolderBelow }> {
  if (!sources.includes(root))
    refuse('source.root', 'that folder is none of those this server may read from', {
      accepted: sources.length > 0 ? sources.join(', ') : 'none; TOLVIK_SOURCES names some',
    });
  const at = { root, folder: asPathBelow(folder) };
  const found =
    (await folders.where(at)) ??
    refuse('source.gone', `${resolve(root, folder)} is not there`, { accepted: 'a folder that is there' });
  return { at, ...found };
}
