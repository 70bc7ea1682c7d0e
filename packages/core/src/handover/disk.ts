import { refuse } from '../basics/problem';
import { several } from '../basics/several';
import { foldPath } from '../plan/names';
import { underOneName } from './one-name';
import {
  type Begun,
  begunName,
  LONGEST_BEGUN,
  LONGEST_RECEIPT,
  partName,
  printBegun,
  printReceipt,
  RECEIPT_NAME,
  type Receipt,
  type ReceiptFile,
  readBegun,
  readReceipt,
  writingOfBegun,
  writingOfPart,
} from './receipt';
import type { Found } from './steps';
import { asOwned, type FolderNow, pathsToLookAt } from './writing';

/** Files looked at or written at once. */
const AT_ONCE = 16;
/** The largest file that is ever read to tell whose it is, in bytes; none of ours is larger. */
const LARGEST_FILE = 1_073_741_824;
/** Limit on the bytes that are hashed, in all, of files whose length differs from the wanted one. */
const MOST_DOUBTFUL = 8 * LARGEST_FILE;
/** Writings of before whose ends are looked for. */
const MOST_WRITINGS = 50;

/**
 * A folder, whatever it lies on. Paths lie within it, with slashes; no operation follows a link, waits for a pipe, or
 * leaves the folder, whatever others do to it meanwhile. Trouble of the disk is thrown as a `Refusal` in words.
 */
export type Disk<Content> = {
  /** The text of a file at the top, null where there is none, `other` where it cannot be one of ours: no file, too long. */
  text(name: string, mostBytes: number): Promise<{ text: string } | 'other' | null>;
  /** Names at the top, as far as they are meant. */
  names(isMeant: (name: string) => boolean): Promise<string[]>;
  /** The entry at a path, null for none. The hash of a file is computed only where `isAskedFor` accepts its length; else it is ''. */
  find(path: string, isAskedFor: (bytes: number) => boolean): Promise<Found | null>;
  /** Of some paths those that lead to one file, for each such file. */
  oneFile(paths: readonly string[]): Promise<readonly (readonly string[])[]>;
  /** Puts a file there whole, by way of a name of its own beside it. Makes folders. */
  put(path: string, content: Content | string, part: string): Promise<void>;
  /** Adds to a text at the top. */
  append(name: string, text: string): Promise<void>;
  /** Removes a file; nothing where there is none. */
  remove(path: string): Promise<void>;
  /** Removes files of a folder by their names. */
  sweep(folder: string, isMeant: (name: string) => boolean): Promise<void>;
};

/** A file of which it is asked whether it lies there; its length may not be known yet. */
export type Asked = { path: string; bytes?: number };

/** Looks at what of some files is there, with what earlier writings left. Changes nothing. `isOwn` tells of the text of a receipt whether this project wrote it here. */
export async function lookAtDisk(
  disk: Disk<never>,
  asked: readonly Asked[],
  isOwn: (receipt: string) => boolean = () => true,
): Promise<FolderNow> {
  const wanted = new Set(asked.map(({ path }) => path));
  const receipt = await disk.text(RECEIPT_NAME, LONGEST_RECEIPT);
  const text = receipt === null || receipt === 'other' ? '' : receipt.text;
  const read = text ? readReceipt(text) : null;
  const { last, disowned } = asOwned(read, wanted, read !== null && isOwn(text));
  const begun = await begunOn(disk);
  const wantedBytes = new Map(asked.map(({ path, bytes }) => [path, bytes]));
  const lengths = lengthsOf(last, begun);
  let doubtful = MOST_DOUBTFUL;
  const there = new Map<string, Found>();
  await several([...pathsToLookAt(wanted, last), ...(disowned ?? [])], AT_ONCE, async (path) => {
    const known = lengths.get(foldPath(path));
    const isAskedFor = (bytes: number) => {
      if (bytes === wantedBytes.get(path)) return true;
      if (!known?.has(bytes) || bytes > LARGEST_FILE || bytes > doubtful) return false;
      doubtful -= bytes;
      return true;
    };
    const found = await disk.find(path, isAskedFor);
    if (found) there.set(path, found);
  });
  const oneFile = await disk.oneFile([...there.keys()]);
  return {
    there,
    last: underOneName(there, last, wanted, oneFile),
    disowned,
    begun,
    otherReceipt: receipt !== null && read === null,
  };
}

/** The lengths that files of earlier writings have, in bytes, by path without case, as a disk may have it. */
function lengthsOf(last: FolderNow['last'], begun: Begun): Map<string, Set<number>> {
  const lengths = new Map<string, Set<number>>();
  const add = (path: string, bytes: number) => {
    const folded = foldPath(path);
    const known = lengths.get(folded);
    if (known) known.add(bytes);
    else lengths.set(folded, new Set([bytes]));
  };
  for (const { path, bytes } of [...(last?.files ?? []), ...(last?.leftovers ?? [])]) add(path, bytes);
  for (const [path, { bytes }] of begun.files) add(path, bytes);
  return lengths;
}

async function begunOn(disk: Disk<never>): Promise<Begun> {
  const names = (await disk.names((name) => writingOfBegun(name) !== null)).slice(0, MOST_WRITINGS);
  const files = new Map<string, { sha256: string; bytes: number }>();
  const writings: string[] = [];
  let left = LONGEST_BEGUN;
  for (const name of names) {
    const begun = await disk.text(name, left);
    if (begun === null || begun === 'other') continue;
    left -= begun.text.length;
    writings.push(writingOfBegun(name) as string);
    for (const [path, file] of readBegun(begun.text)) files.set(path, file);
  }
  return { files, writings };
}

/**
 * Writes into a folder: each file whole or not there, the receipt last. Ended at any step, the next look knows what is
 * whole and what is its own. Throws refusals in words.
 */
export class FolderWriter<Content> {
  private saying: Promise<void> = Promise.resolve();
  private parts = 0;

  private constructor(
    private readonly disk: Disk<Content>,
    private readonly writing: string,
    /** Writings of before that did not come to their end. */
    private readonly before: readonly string[],
  ) {}

  /**
   * Begins a writing; `writing` are 32 random hexadecimal digits that no other has. What earlier ones left half written
   * goes. Refuses where a file of somebody else has the place of the receipt, unless it may be replaced.
   */
  static async open<Content>(
    disk: Disk<Content>,
    { begun, otherReceipt }: Pick<FolderNow, 'begun' | 'otherReceipt'>,
    writing: string,
    replaceForeign = false,
  ): Promise<FolderWriter<Content>> {
    if (otherReceipt && !replaceForeign)
      refuse('folder.receipt', `${RECEIPT_NAME} is there and is no receipt`, {
        accepted: 'replacing what is of somebody else, or a folder without it',
      });
    const mine = new Set(begun.writings);
    if (mine.size > 0) {
      const isMeant = (name: string) => mine.has(writingOfPart(name) ?? '');
      await several([...new Set(['', ...[...begun.files.keys()].map(folderOf)])], AT_ONCE, (folder) =>
        disk.sweep(folder, isMeant),
      );
    }
    const writer = new FolderWriter(disk, writing, begun.writings);
    await disk.append(begunName(writing), '');
    return writer;
  }

  /** Says what is about to be written, before it is. */
  begin(files: readonly Pick<ReceiptFile, 'path' | 'sha256' | 'bytes'>[]): Promise<void> {
    this.saying = this.saying.then(() => this.disk.append(begunName(this.writing), printBegun(files)));
    return this.saying;
  }

  put(path: string, content: Content): Promise<void> {
    return this.disk.put(path, content, partName(this.writing, this.parts++));
  }

  remove(path: string): Promise<void> {
    return this.disk.remove(path);
  }

  /** Ends a writing, as it is done for one that keeps no receipt. */
  async end(): Promise<void> {
    for (const writing of [...this.before, this.writing]) await this.disk.remove(begunName(writing));
  }

  async finish(receipt: Receipt | string): Promise<void> {
    const text = typeof receipt === 'string' ? receipt : printReceipt(receipt);
    await this.disk.put(RECEIPT_NAME, text, partName(this.writing, this.parts++));
    await this.end();
  }
}

const folderOf = (path: string): string => path.slice(0, Math.max(0, path.lastIndexOf('/')));

export type FilesToWrite = { write: readonly ReceiptFile[]; remove: readonly string[]; receipt: Receipt | string };

/** Writes files into a folder, takes others away, and puts the receipt there last. */
export async function writeToDisk<Content>(
  writer: FolderWriter<Content>,
  { write, remove, receipt }: FilesToWrite,
  contentOf: (file: ReceiptFile) => Promise<Content>,
  onDone: (count: number) => void = () => {},
): Promise<void> {
  if (write.length > 0) await writer.begin(write);
  let done = 0;
  await several(write, AT_ONCE, async (file) => {
    await writer.put(file.path, await contentOf(file));
    onDone(++done);
  });
  await several(remove, AT_ONCE, (path) => writer.remove(path));
  await writer.finish(receipt);
}
