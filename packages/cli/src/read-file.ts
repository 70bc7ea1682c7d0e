import { closeSync, constants, fstatSync, openSync, readSync } from 'node:fs';
import { refuse } from '@tolvik/core';

/** The largest file that is read, in bytes. */
const LARGEST = 512 * 1_048_576;

/** A plain file, whole. Refuses what is none, such as a pipe or a device, without waiting for it, and what is too large. */
export function readPlain(path: string, most = LARGEST): Buffer {
  let file: number;
  try {
    file = openSync(path, constants.O_RDONLY | constants.O_NONBLOCK);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code === 'ENOENT') return refuse('source.missing', `there is no file ${path}`, { where: path });
    return refuse('source.unreadable', `${path} cannot be read (${code})`, { where: path });
  }
  try {
    const stat = fstatSync(file);
    if (!stat.isFile())
      refuse('source.kind', `${path} is no plain file`, { where: path, accepted: 'a file on a disk' });
    if (stat.size > most)
      refuse('source.large', `${path} has ${Math.round(stat.size / 1_048_576).toLocaleString('en')} MB`, {
        where: path,
        accepted: `up to ${most / 1_048_576} MB`,
      });
    const bytes = Buffer.alloc(stat.size);
    let at = 0;
    while (at < bytes.length) {
      const read = readSync(file, bytes, at, bytes.length - at, at);
      if (read === 0) break;
      at += read;
    }
    return bytes.subarray(0, at);
  } finally {
    closeSync(file);
  }
}
