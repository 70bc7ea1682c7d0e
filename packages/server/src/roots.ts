import { lstat, mkdir, realpath } from 'node:fs/promises';
import { resolve, sep } from 'node:path';
import { pathWithin, refuse } from '@tolvik/core';
import { inWords, noLinks } from '@tolvik/folders';
import type { Config } from './config';

/** The folder of a receiver: below one of the roots that deliveries may be written to. Refuses as `below` does. */
export async function folderOf({ folders, ownFolder }: Config, root: string, folder: string): Promise<string> {
  if (!folders.includes(root))
    refuse('receiver.root', 'that folder is none of those this server may write to', {
      accepted: folders.length > 0 ? folders.join(', ') : 'none; TOLVIK_FOLDERS names some',
    });
  if (root === ownFolder) await inWords(root, () => mkdir(root, { recursive: true }));
  return below(root, folder);
}

/** The folder that artwork is read from: below one of the roots that allow it. Refuses as `below` does, and what is not there. */
export async function sourceOf({ sources }: Config, root: string, folder: string): Promise<string> {
  if (!sources.includes(root))
    refuse('source.root', 'that folder is none of those this server may read from', {
      accepted: sources.length > 0 ? sources.join(', ') : 'none; TOLVIK_SOURCES names some',
    });
  const whole = await below(root, folder);
  const found = await lstat(whole).catch(() => null);
  if (!found?.isDirectory()) refuse('source.gone', `${whole} is not there`, { accepted: 'a folder that is there' });
  return whole;
}

/**
 * A folder below a root on this server's disk, with no link on the way: paths that climb and links are refused.
 */
function below(root: string, folder: string): Promise<string> {
  if (folder !== '' && !pathWithin.safeParse(folder).success)
    refuse('receiver.path', `${folder} is no path within a folder`, { accepted: 'names with slashes between' });
  return inWords(root, async () => {
    const base = await realpath(root);
    const whole = resolve(base, folder);
    if (whole !== base && !whole.startsWith(base + sep)) refuse('receiver.path', `${folder} leads out of ${root}`);
    await noLinks(base, folder === '' ? [] : folder.split('/'));
    return whole;
  });
}
