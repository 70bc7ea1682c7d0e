import { lstat } from 'node:fs/promises';
import { join } from 'node:path';
import { refuse } from '@tolvik/core';

/** Refuses where a part of the way below a folder is a link, or there and no folder. */
export async function noLinks(base: string, parts: readonly string[]): Promise<void> {
  let at = base;
  for (const part of parts) {
    at = join(at, part);
    const found = await lstat(at).catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return null;
      throw error;
    });
    if (!found) return;
    if (found.isSymbolicLink()) refuse('receiver.link', `${at} is a link, and may lead anywhere`);
    if (!found.isDirectory()) refuse('receiver.path', `${at} is no folder`);
  }
}
