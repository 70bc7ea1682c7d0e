import { mkdir, realpath } from 'node:fs/promises';
import { resolve } from 'node:path';
import { refuse } from '@tolvik/core';
import { asPathBelow, type FolderBelow, identityOf, inWords, openBelow } from '@tolvik/folders';
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

/** The same, and it is seen that it can be: refuses where a link or no folder is on the way, and where the root is not there. */
export async function checkedFolder(config: Config, root: string, folder: string): Promise<FolderBelow> {
  const at = await folderOf(config, root, folder);
  await inWords(root, () => realpath(root));
  await (await openBelow(at, false))?.close();
  return at;
}

/** The folder that artwork is read from: below one of the roots that allow it. Refuses as `checkedFolder` does, and what is not there. */
export async function sourceOf(
  { sources }: Config,
  root: string,
  folder: string,
): Promise<{ at: FolderBelow; whole: string; identity: string }> {
  if (!sources.includes(root))
    refuse('source.root', 'that folder is none of those this server may read from', {
      accepted: sources.length > 0 ? sources.join(', ') : 'none; TOLVIK_SOURCES names some',
    });
  const at = { root, folder: asPathBelow(folder) };
  await inWords(root, () => realpath(root));
  const held = await openBelow(at, false);
  if (!held)
    return refuse('source.gone', `${resolve(root, folder)} is not there`, { accepted: 'a folder that is there' });
  try {
    return { at, whole: held.where, identity: await identityOf(held.path) };
  } finally {
    await held.close();
  }
}
