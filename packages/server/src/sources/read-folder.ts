import { createHash } from 'node:crypto';
import { constants } from 'node:fs';
import { lstat, open, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { refuse } from '@tolvik/core';
import { inWords } from '@tolvik/folders';

/** Drawings that one folder may feed. */
const MOST_FILES = 5000;
const MOST_BYTES = 32 * 1_048_576;
/** Of drawings that are news, in bytes at once; what is more comes with the next reading. */
const MOST_AT_ONCE = 128 * 1_048_576;
const ZIP = Buffer.from([0x50, 0x4b, 3, 4]);

export type Drawing = { name: string; sha256: string; bytes: Buffer | null /** Why it is not read. */; why?: string };
/** What files were when they were last read, by name: unless time or size is another, they are not read again. */
export type SeenFiles = Map<string, { size: number; mtimeMs: number; sha256: string }>;
/** The drawings of a folder; `more` when some that are news were left for the next reading. */
export type Drawings = { drawings: Drawing[]; more: boolean };

/**
 * The SVG files of a folder, by name; folders in it, links and hidden files are passed over. Bytes are there where
 * `isNews` says so of a name and its hash. Refuses a folder of too many, and tells what is wrong with the disk in words.
 */
export function readDrawings(
  folder: string,
  seen: SeenFiles,
  isNews: (name: string, sha256: string) => boolean,
): Promise<Drawings> {
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
    let held = 0;
    let more = false;
    for (const name of names) {
      const path = join(folder, name);
      const { size, mtimeMs } = (await lstat(path).catch(() => null)) ?? { size: -1, mtimeMs: 0 };
      const known = seen.get(name);
      if (known && known.size === size && known.mtimeMs === mtimeMs && !isNews(name, known.sha256)) {
        drawings.push({ name, sha256: known.sha256, bytes: null });
        continue;
      }
      if (held > MOST_AT_ONCE) {
        more = true;
        // It is there, as it was known before.
        drawings.push({ name, sha256: known?.sha256 ?? '', bytes: null });
        continue;
      }
      const read = await readPlain(path);
      if (!read) continue;
      const sha256 = createHash('sha256').update(read.bytes).digest('hex');
      seen.set(name, { size, mtimeMs, sha256 });
      const news = isNews(name, sha256);
      if (news) held += read.bytes.length;
      drawings.push({ name, sha256, bytes: news ? read.bytes : null, ...(read.why && { why: read.why }) });
    }
    return { drawings, more };
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
