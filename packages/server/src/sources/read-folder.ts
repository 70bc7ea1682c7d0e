import { createHash } from 'node:crypto';
import { constants } from 'node:fs';
import { open, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { refuse } from '@tolvik/core';
import { inWords } from '@tolvik/folders';

/** Drawings that one folder may feed. */
const MOST_FILES = 5000;
const ZIP = Buffer.from([0x50, 0x4b, 3, 4]);
const MOST_BYTES = 32 * 1_048_576;

export type Drawing = { name: string; sha256: string; bytes: Buffer | null /** Why it is not read. */; why?: string };

/**
 * The SVG files of a folder, by name; folders in it, links and hidden files are passed over. Bytes are there where
 * `isNews` says so of a name and its hash. Refuses a folder of too many, and tells what is wrong with the disk in words.
 */
export function readDrawings(folder: string, isNews: (name: string, sha256: string) => boolean): Promise<Drawing[]> {
  return inWords(folder, async () => {
    const names = (await readdir(folder, { withFileTypes: true }))
      .filter((entry) => entry.isFile() && /^[^.].*\.svg$/i.test(entry.name))
      .map(({ name }) => name)
      .sort(new Intl.Collator('en', { numeric: true }).compare);
    if (names.length > MOST_FILES)
      refuse('source.many', `${folder} holds ${names.length.toLocaleString('en')} drawings`, {
        accepted: `up to ${MOST_FILES.toLocaleString('en')}`,
      });
    const drawings: Drawing[] = [];
    for (const name of names) {
      const read = await readPlain(join(folder, name));
      if (!read) continue;
      const sha256 = createHash('sha256').update(read.bytes).digest('hex');
      const news = isNews(name, sha256);
      drawings.push({ name, sha256, bytes: news ? read.bytes : null, ...(read.why && { why: read.why }) });
    }
    return drawings;
  });
}

/** A file that is no link, whole; null when it went meanwhile. One that is too large is told and not read. */
async function readPlain(path: string): Promise<{ bytes: Buffer; why?: string } | null> {
  const file = await open(path, constants.O_RDONLY | constants.O_NOFOLLOW).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT' || error.code === 'ELOOP') return null;
    throw error;
  });
  if (!file) return null;
  try {
    const { size } = await file.stat();
    if (size > MOST_BYTES)
      return { bytes: Buffer.from(`${size}`), why: `it is larger than ${MOST_BYTES / 1_048_576} MB` };
    const bytes = await file.readFile();
    return bytes.subarray(0, 4).equals(ZIP) ? { bytes, why: 'it is a zip and no drawing' } : { bytes };
  } finally {
    await file.close();
  }
}
