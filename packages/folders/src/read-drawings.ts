import { createHash } from 'node:crypto';
import { constants } from 'node:fs';
import { lstat, readdir } from 'node:fs/promises';
import { refuse } from '@tolvik/core';
import { type FolderBelow, identityOf, openBelow } from './below';
import { inWords } from './disk-trouble';
import type { HeldFolder } from './held-folder';
import { bytesOf, openPlain } from './node-disk';

/** Drawings that one folder may feed. */
const MOST_FILES = 5000;
const MOST_BYTES = 32 * 1_048_576;
/** Of drawings that are news, in bytes at once; what is more comes with the next reading. */
const MOST_AT_ONCE = 128 * 1_048_576;
const ZIP = Buffer.from([0x50, 0x4b, 3, 4]);

export type Drawing = {
  name: string;
  sha256: string;
  bytes: Uint8Array | null /** Why it is not read. */;
  why?: string;
};
/** What files were when they were last read, by name: unless time or size is another, they are not read again. */
export type SeenFiles = Map<string, { size: number; mtimeMs: number; sha256: string }>;
/** The drawings of a folder; `more` when some that are news were left for the next reading. `seen` is as it is now. */
export type Drawings = { drawings: Drawing[]; more: boolean; seen: SeenFiles };
export type DrawingsAsked = {
  at: FolderBelow;
  /** The folder's device and inode, where another in its place is not to be read. */
  identity: string;
  seen: SeenFiles;
  /** By name the hash of what is no news. */
  known: ReadonlyMap<string, string>;
};

/**
 * The SVG files of a folder, by name; folders in it, links, pipes and hidden files are passed over. Bytes are there
 * where a hash is not the one that is known. Refuses a folder of too many, one that is not there or another by now, and
 * tells what is wrong with the disk in words.
 */
export async function readDrawings({ at, identity, seen, known }: DrawingsAsked): Promise<Drawings> {
  const folder = await openBelow(at, false);
  if (!folder)
    return refuse('source.gone', `${at.folder || at.root} is not there`, { accepted: 'a folder that is there' });
  try {
    if ((await identityOf(folder.path)) !== identity)
      refuse('source.replaced', `${folder.where} is another folder now; it is looked at again in a moment`);
    return await inWords(folder.where, () => drawingsIn(folder, seen, (name, hash) => known.get(name) !== hash));
  } finally {
    await folder.close();
  }
}

async function drawingsIn(
  folder: HeldFolder,
  seen: SeenFiles,
  isNews: (name: string, sha256: string) => boolean,
): Promise<Drawings> {
  const names = (await readdir(folder.path, { withFileTypes: true }))
    .filter((entry) => entry.isFile() && /^[^.].*\.svg$/i.test(entry.name))
    .map(({ name }) => name)
    .sort(new Intl.Collator('en', { numeric: true }).compare);
  if (names.length > MOST_FILES)
    refuse('source.many', `${folder.where} holds ${names.length.toLocaleString('en')} drawings`, {
      accepted: `up to ${MOST_FILES.toLocaleString('en')}`,
    });
  const drawings: Drawing[] = [];
  let held = 0;
  let more = false;
  for (const name of names) {
    const { size, mtimeMs } = (await lstat(folder.at(name)).catch(() => null)) ?? { size: -1, mtimeMs: 0 };
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
    const read = await readPlain(folder.at(name));
    if (!read) continue;
    const sha256 = createHash('sha256').update(read.bytes).digest('hex');
    seen.set(name, { size, mtimeMs, sha256 });
    const news = isNews(name, sha256);
    if (news) held += read.bytes.length;
    drawings.push({ name, sha256, bytes: news ? read.bytes : null, ...(read.why && { why: read.why }) });
  }
  return { drawings, more, seen };
}

/** A plain file, whole; null when it went meanwhile or is none. One that is too large is told and not read. */
async function readPlain(path: string): Promise<{ bytes: Buffer; why?: string } | null> {
  const file = await openPlain(path, constants.O_RDONLY);
  if (file === null || file === 'other') return null;
  try {
    const { size } = await file.stat();
    if (size > MOST_BYTES)
      return { bytes: Buffer.from(`${size}`), why: `it is larger than ${MOST_BYTES / 1_048_576} MB` };
    const bytes = await bytesOf(file, size);
    return bytes.subarray(0, 4).equals(ZIP) ? { bytes, why: 'it is a zip and no drawing' } : { bytes };
  } finally {
    await file.close();
  }
}
