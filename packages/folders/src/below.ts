import { lstat } from 'node:fs/promises';
import { pathWithin, refuse } from '@tolvik/core';
import { inWords } from './disk-trouble';
import { codeOf, HeldFolder } from './held-folder';

/** A folder that may be worked in: one that somebody named, and a path below it that others may have chosen. */
export type FolderBelow = { root: string; folder: string };

/** Refuses a path that could lead out of its folder. */
export function asPathBelow(folder: string): string {
  if (folder !== '' && !pathWithin.safeParse(folder).success)
    refuse('receiver.path', `${folder} is no path within a folder`, { accepted: 'names with slashes between' });
  return folder;
}

/**
 * Opens a folder below a root, one name at a time, so that no link is followed below it. Null where it is not there and
 * `make` does not say to make it. Refuses links, what is no folder, and trouble of the disk in words.
 */
export function openBelow({ root, folder }: FolderBelow, make: boolean): Promise<HeldFolder | null> {
  return inWords(root, async () => {
    let at: HeldFolder;
    try {
      at = await HeldFolder.open(root);
    } catch (error) {
      if (codeOf(error) === 'ENOENT' && !make) return null;
      throw error;
    }
    for (const name of asPathBelow(folder).split('/').filter(Boolean)) {
      const within = at;
      const next = await within
        .into(name, make)
        .then((found) => (found === 'other' ? refuseOther(within, name) : found))
        .finally(() => within.close());
      if (next === null) return null;
      at = next;
    }
    return at;
  });
}

/** Refuses what has the name of a folder and is none, in words that say what it is. */
export async function refuseOther(within: HeldFolder, name: string): Promise<never> {
  const where = `${within.where}/${name}`;
  const found = await lstat(within.at(name)).catch(() => null);
  if (found?.isSymbolicLink()) refuse('receiver.link', `${where} is a link, and may lead anywhere`);
  return refuse('receiver.path', `${where} is no folder`);
}
