import { lstat, mkdir, realpath, stat } from 'node:fs/promises';
import { dirname } from 'node:path';
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

/** Where a folder is, links on the way to its root followed, and what tells it from another in its place. */
export type Whereabouts = { whole: string; identity: string };

/** The whereabouts of a folder, null where it is not there. Refuses links and what is no folder below its root, and a root that is not there. */
export async function whereaboutsOf(at: FolderBelow): Promise<Whereabouts | null> {
  await inWords(at.root, () => realpath(at.root));
  const held = await openBelow(at, false);
  if (!held) return null;
  try {
    return { whole: held.where, identity: await identityOf(held.path) };
  } finally {
    await held.close();
  }
}

/** What a folder is, so that another in its place is told from it. */
export async function identityOf(path: string): Promise<string> {
  const { dev, ino } = await lstat(`${path}/.`);
  return `${dev} ${ino}`;
}

/** Refuses what has the name of a folder and is none, in words that say what it is. */
export async function refuseOther(within: HeldFolder, name: string): Promise<never> {
  const where = `${within.where}/${name}`;
  const found = await lstat(within.at(name)).catch(() => null);
  if (found?.isSymbolicLink()) refuse('receiver.link', `${where} is a link, and may lead anywhere`);
  return refuse('receiver.path', `${where} is no folder`);
}

/** Makes a folder and those on its way, one after the other: where a system takes none, as below `/proc`, it fails at once. */
export async function makeFolder(path: string): Promise<void> {
  try {
    await mkdir(path);
  } catch (error) {
    const code = codeOf(error);
    if (code === 'EEXIST') {
      if (!(await stat(path)).isDirectory()) throw Object.assign(new Error('no folder'), { code: 'ENOTDIR' });
    } else if (code === 'ENOENT' && dirname(path) !== path && !(await isThere(dirname(path)))) {
      await makeFolder(dirname(path));
      await makeFolder(path);
    } else throw error;
  }
}

const isThere = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  );
