import { mkdir, realpath } from 'node:fs/promises';
import { resolve, sep } from 'node:path';
import { pathWithin, refuse } from '@tolvik/core';
import { inWords, noLinks } from '@tolvik/folders';
import type { Config } from '../config';

/**
 * The folder of a receiver on this server's disk: below one of the roots that whoever runs the server allows, with no
 * link on the way. Refuses other roots, paths that climb, links, and what is no folder.
 */
export async function folderOf(config: Config, root: string, folder: string): Promise<string> {
  if (!config.folders.includes(root))
    refuse('receiver.root', 'that folder is none of those this server may write to', {
      accepted: config.folders.length > 0 ? config.folders.join(', ') : 'none; TOLVIK_FOLDERS names some',
    });
  if (folder !== '' && !pathWithin.safeParse(folder).success)
    refuse('receiver.path', `${folder} is no path within a folder`, { accepted: 'names with slashes between' });
  return inWords(root, async () => {
    if (root === config.ownFolder) await mkdir(root, { recursive: true });
    const base = await realpath(root);
    const whole = resolve(base, folder);
    if (whole !== base && !whole.startsWith(base + sep)) refuse('receiver.path', `${folder} leads out of ${root}`);
    await noLinks(base, folder === '' ? [] : folder.split('/'));
    return whole;
  });
}
