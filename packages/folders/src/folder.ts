import { createHash, randomBytes } from 'node:crypto';
import { constants } from 'node:fs';
import { appendFile, type FileHandle, lstat, mkdir, open, readdir, rename, rm, unlink } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import {
  BEGUN_NAME,
  type FolderNow,
  type Found,
  PART_SUFFIX,
  pathsToLookAt,
  printBegun,
  printReceipt,
  RECEIPT_NAME,
  type Receipt,
  type ReceiptFile,
  readBegun,
  readReceipt,
  several,
  underOneName,
} from '@tolvik/core';
import { inWords } from './disk-trouble';
import { noLinks } from './no-links';

/** Files looked at or written at once. */
const AT_ONCE = 16;
const LARGEST_RECEIPT = 100 * 1_048_576;

const absent = (error: NodeJS.ErrnoException) => {
  if (error.code === 'ENOENT' || error.code === 'ENOTDIR') return null;
  throw error;
};

/** A small text of the folder, or '' where there is none; links are not followed. */
async function textOf(path: string): Promise<string> {
  let file: FileHandle | null = null;
  try {
    file = await open(path, constants.O_RDONLY | constants.O_NOFOLLOW);
    const { size } = await file.stat();
    return size > LARGEST_RECEIPT ? '' : await file.readFile('utf8');
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ELOOP') return '';
    absent(error as NodeJS.ErrnoException);
    return '';
  } finally {
    await file?.close();
  }
}

/** What of some paths is there, with what an earlier writing left: reads, and changes nothing. Throws refusals in words. */
export const lookAt = (folder: string, paths: Iterable<string>, seen: SeenThere = new Map()): Promise<FolderNow> =>
  inWords(folder, () => look(folder, paths, seen));

/** Files that were read before, so that who looks again and again reads only those that differ by any of their times or their size. */
export type SeenThere = Map<string, { stamp: string; sha256: string }>;

async function look(folder: string, paths: Iterable<string>, seen: SeenThere): Promise<FolderNow> {
  const wanted = new Set(paths);
  const last = readReceipt(await textOf(join(folder, RECEIPT_NAME)));
  const begun = readBegun(await textOf(join(folder, BEGUN_NAME)));
  const there = new Map<string, Found>();
  const ways = new Map<string, Promise<boolean>>();
  const isPlain = (way: string) => {
    let known = ways.get(way);
    if (!known)
      ways.set(
        way,
        (known = noLinks(folder, way === '.' ? [] : way.split('/')).then(
          () => true,
          () => false,
        )),
      );
    return known;
  };
  const files = new Map<string, string[]>();
  await several([...pathsToLookAt(wanted, last)], AT_ONCE, async (path) => {
    const at = join(folder, path);
    const found = await lstat(at, { bigint: true }).catch(absent);
    if (!found) return;
    if (!found.isFile() || !(await isPlain(dirname(path)))) return void there.set(path, 'other');
    const file = `${found.dev} ${found.ino}`;
    files.set(file, [...(files.get(file) ?? []), path]);
    const stamp = `${file} ${found.size} ${found.mtimeNs} ${found.ctimeNs}`;
    const known = seen.get(at);
    const sha256 = known?.stamp === stamp ? known.sha256 : await hashOf(at);
    seen.set(at, { stamp, sha256 });
    there.set(path, { bytes: Number(found.size), sha256 });
  });
  return { there, last: underOneName(there, last, wanted, files.values()), begun };
}

async function hashOf(path: string): Promise<string> {
  const file = await open(path, constants.O_RDONLY | constants.O_NOFOLLOW);
  try {
    const hash = createHash('sha256');
    for await (const chunk of file.createReadStream({ autoClose: false })) hash.update(chunk);
    return hash.digest('hex');
  } finally {
    await file.close();
  }
}

/** A file is written beside its place and put there whole. */
async function put(path: string, bytes: Uint8Array | string, synced = false): Promise<void> {
  const part = join(dirname(path), `.${basename(path).slice(0, 100)}.${randomBytes(6).toString('hex')}${PART_SUFFIX}`);
  const file = await open(part, 'wx', 0o644);
  try {
    await file.writeFile(bytes);
    if (synced) await file.sync();
    await file.close();
    await rename(part, path);
  } catch (error) {
    await file.close().catch(() => {});
    await unlink(part).catch(() => {});
    throw error;
  }
}

/**
 * Writes into a folder: each file whole or not there, the receipt last. Ended at any step, the next look knows what is
 * whole and what is its own. Throws refusals in words.
 */
export class FolderWriter {
  private readonly ways = new Map<string, Promise<void>>();
  private begun: Promise<void> = Promise.resolve();

  private constructor(private readonly folder: string) {}

  static open(folder: string): Promise<FolderWriter> {
    return inWords(folder, async () => {
      await mkdir(folder, { recursive: true });
      await sweep(folder);
      return new FolderWriter(folder);
    });
  }

  /** Says what is about to be written, before it is. */
  begin(files: readonly Pick<ReceiptFile, 'path' | 'sha256'>[]): Promise<void> {
    this.begun = this.begun.then(() => appendFile(join(this.folder, BEGUN_NAME), printBegun(files)));
    return inWords(this.folder, () => this.begun);
  }

  put(path: string, bytes: Uint8Array): Promise<void> {
    return inWords(this.folder, async () => {
      await this.way(dirname(path));
      await put(join(this.folder, path), bytes);
    });
  }

  remove(path: string): Promise<void> {
    return inWords(this.folder, async () => {
      await noLinks(this.folder, partsOf(dirname(path)));
      await unlink(join(this.folder, path)).catch(absent);
    });
  }

  finish(receipt: Receipt): Promise<void> {
    return inWords(this.folder, async () => {
      await put(join(this.folder, RECEIPT_NAME), printReceipt(receipt), true);
      await rm(join(this.folder, BEGUN_NAME), { force: true });
    });
  }

  /** The folder of a file: made, without a link on the way, rid of what a writing left half done. */
  private way(parent: string): Promise<void> {
    let made = this.ways.get(parent);
    if (!made) {
      made = (async () => {
        await noLinks(this.folder, partsOf(parent));
        await mkdir(join(this.folder, parent), { recursive: true });
        await sweep(join(this.folder, parent));
      })();
      this.ways.set(parent, made);
    }
    return made;
  }
}

const partsOf = (parent: string): string[] => (parent === '.' ? [] : parent.split('/'));

/** Writes files into a folder, takes others away, and puts the receipt there last. */
export async function writeInto(
  folder: string,
  { write, remove, receipt }: { write: readonly ReceiptFile[]; remove: readonly string[]; receipt: Receipt },
  bytesOf: (file: ReceiptFile) => Promise<Uint8Array>,
): Promise<void> {
  const writer = await FolderWriter.open(folder);
  if (write.length > 0) await writer.begin(write);
  await several(write, AT_ONCE, async (file) => writer.put(file.path, await bytesOf(file)));
  await several(remove, AT_ONCE, (path) => writer.remove(path));
  await writer.finish(receipt);
}

/** Takes away what a writing that was ended left half written. */
async function sweep(folder: string): Promise<void> {
  for (const name of await readdir(folder))
    if (name.endsWith(PART_SUFFIX)) await unlink(join(folder, name)).catch(absent);
}
