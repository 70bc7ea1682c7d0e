import { createHash } from 'node:crypto';
import { constants } from 'node:fs';
import { type FileHandle, lstat, open, readdir, rename, unlink } from 'node:fs/promises';
import { type Disk, type Found, refuse } from '@tolvik/core';
import { inWords } from './disk-trouble';
import { codeOf, type HeldFolder } from './held-folder';

const { O_RDONLY, O_WRONLY, O_APPEND, O_CREAT, O_EXCL, O_NOFOLLOW, O_NONBLOCK } = constants;

/** Folders held open at once. */
const MOST_HELD = 128;
const BLOCK = 1_048_576;

/** Files that were read before, so that who looks again and again reads only those that differ by any of their times or their size. */
export type SeenThere = Map<string, { stamp: string; sha256: string }>;

export type DiskOptions = {
  seen?: SeenThere;
  /** Asked right before a file gets or leaves its place, so that a writing that is called off changes nothing more. */
  mayPut?(): Promise<void> | void;
  /** Told by each operation that came to its end. */
  alive?(): void;
};

type Held = { folder: HeldFolder; users: number };
type Stats = Awaited<ReturnType<typeof statsOf>>;

/** What a name leads to, itself and not what it links to; null for nothing. */
const statsOf = (path: string) =>
  lstat(path, { bigint: true }).catch((error) => {
    if (codeOf(error) === 'ENOENT') return null;
    throw error;
  });
/** What a file is and holds, as far as its entry tells. */
const contentOf = (stats: Stats): string => (stats ? `${stats.dev} ${stats.ino} ${stats.size} ${stats.mtimeNs}` : '');
const stampOf = (stats: Stats): string => (stats ? `${contentOf(stats)} ${stats.ctimeNs}` : '');

/** A folder of this machine's disk. Every operation goes through folders that are held open, one name at a time. */
export class NodeDisk implements Disk<Uint8Array> {
  private readonly held = new Map<string, Held>();
  private readonly seen: SeenThere;
  /** What each path was when it was looked at: what is another by the time it is written is somebody else's. */
  private readonly looked = new Map<string, string>();
  private readonly identities = new Map<string, string>();

  constructor(
    private readonly root: HeldFolder,
    private readonly options: DiskOptions = {},
  ) {
    this.seen = options.seen ?? new Map();
  }

  async close(): Promise<void> {
    await Promise.all([...this.held.values()].map(({ folder }) => folder.close()));
    this.held.clear();
    await this.root.close();
  }

  text(name: string, mostBytes: number): Promise<{ text: string } | 'other' | null> {
    return inWords(this.root.where, async () => {
      const file = await openPlain(this.root.at(name), O_RDONLY);
      if (file === null || file === 'other') return file;
      try {
        const { size } = await file.stat();
        if (size > mostBytes) return 'other';
        return { text: (await bytesOf(file, size)).toString('utf8') };
      } finally {
        await file.close();
      }
    });
  }

  names(isMeant: (name: string) => boolean): Promise<string[]> {
    return inWords(this.root.where, async () => (await readdir(this.root.path)).filter(isMeant).sort());
  }

  find(path: string, isAskedFor: (bytes: number) => boolean): Promise<Found | null> {
    const [folder, name] = apart(path);
    return this.inFolder(folder, false, async (at) => {
      if (at === null) return this.note(path, null, null);
      if (at === 'other') return this.note(path, null, 'other');
      const stats = await statsOf(at.at(name));
      if (!stats) return this.note(path, null, null);
      if (!stats.isFile()) return this.note(path, stats, 'other');
      this.identities.set(path, `${stats.dev} ${stats.ino}`);
      const bytes = Number(stats.size);
      if (!isAskedFor(bytes)) return this.note(path, stats, { bytes, sha256: '' });
      const known = this.seen.get(path);
      const sha256 = known?.stamp === stampOf(stats) ? known.sha256 : await hashIn(at, name, stats, this.options.alive);
      if (sha256 === null) return this.note(path, stats, 'other');
      this.seen.set(path, { stamp: stampOf(stats), sha256 });
      return this.note(path, stats, { bytes, sha256 });
    });
  }

  private note(path: string, stats: Stats, found: Found | null): Found | null {
    this.looked.set(path, contentOf(stats));
    this.options.alive?.();
    return found;
  }

  async oneFile(paths: readonly string[]): Promise<string[][]> {
    const files = new Map<string, string[]>();
    for (const path of paths) {
      const file = this.identities.get(path);
      if (file !== undefined) files.set(file, [...(files.get(file) ?? []), path]);
    }
    return [...files.values()].filter((alike) => alike.length > 1);
  }

  put(path: string, content: Uint8Array | string, part: string): Promise<void> {
    const [folder, name] = apart(path);
    return this.inFolder(folder, true, async (at) => {
      if (at === null || at === 'other') return noFolder(this.root.where, folder);
      const file = await open(at.at(part), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW, 0o644);
      try {
        try {
          await file.writeFile(content);
          // What the receipt says has to be true after a loss of power, too.
          await file.sync();
        } finally {
          await file.close();
        }
        await this.options.mayPut?.();
        await this.asLooked(at, path, name);
        await rename(at.at(part), at.at(name));
      } catch (error) {
        await unlink(at.at(part)).catch(() => {});
        throw error;
      }
    });
  }

  append(name: string, text: string): Promise<void> {
    return inWords(this.root.where, async () => {
      const path = this.root.at(name);
      const file =
        (await openPlain(path, O_WRONLY | O_APPEND)) ??
        (await open(path, O_WRONLY | O_APPEND | O_CREAT | O_EXCL | O_NOFOLLOW, 0o644));
      try {
        // Under a second name it would be somebody else's file that grows.
        if (file === 'other' || (await file.stat()).nlink > 1)
          return refuse('receiver.path', `${name} in ${this.root.where} is of somebody else`, {
            accepted: 'a folder without it',
          });
        await file.writeFile(text);
      } finally {
        if (file !== 'other') await file.close();
      }
    });
  }

  remove(path: string): Promise<void> {
    const [folder, name] = apart(path);
    return this.inFolder(folder, false, async (at) => {
      if (at === 'other') return noFolder(this.root.where, folder);
      if (at === null) return;
      await this.options.mayPut?.();
      await this.asLooked(at, path, name);
      await unlink(at.at(name)).catch((error) => {
        if (codeOf(error) !== 'ENOENT') throw error;
      });
    });
  }

  sweep(folder: string, isMeant: (name: string) => boolean): Promise<void> {
    return this.inFolder(folder, false, async (at) => {
      if (at === null || at === 'other') return;
      for (const name of await readdir(at.path))
        if (isMeant(name) && (await statsOf(at.at(name)))?.isFile())
          await unlink(at.at(name)).catch((error) => {
            if (codeOf(error) !== 'ENOENT') throw error;
          });
    });
  }

  /** Refuses where somebody has put something else under a path since it was looked at. */
  private async asLooked(at: HeldFolder, path: string, name: string): Promise<void> {
    const known = this.looked.get(path);
    if (known !== undefined && contentOf(await statsOf(at.at(name))) !== known)
      refuse('folder.moved', `${path} in ${this.root.where} was changed while it was being written to`, {
        accepted: 'a moment later',
      });
    this.looked.delete(path);
  }

  /** Works in a folder below, which stays open for what comes next. */
  private inFolder<T>(
    folder: string,
    make: boolean,
    work: (at: HeldFolder | null | 'other') => Promise<T>,
  ): Promise<T> {
    return inWords(this.root.where, async () => {
      if (folder === '') return work(this.root);
      const found = await this.opened(folder, make);
      if (found === null || found === 'other') return work(found);
      try {
        return await work(found.folder);
      } finally {
        found.users--;
      }
    });
  }

  /** A folder below, in use by one more. */
  private async opened(folder: string, make: boolean): Promise<Held | null | 'other'> {
    const known = this.held.get(folder);
    if (known) {
      known.users++;
      return known;
    }
    const [parent, name] = apart(folder);
    const above = parent === '' ? null : await this.opened(parent, make);
    if (parent !== '' && (above === null || above === 'other')) return above;
    const within = above === null || above === 'other' ? this.root : above.folder;
    const found = await within.into(name, make).finally(() => {
      if (above !== null && above !== 'other') above.users--;
    });
    if (found === null || found === 'other') return found;
    // Opened twice in one moment: one of them is enough.
    const other = this.held.get(folder);
    if (other) {
      other.users++;
      await found.close();
      return other;
    }
    const held = { folder: found, users: 1 };
    this.held.set(folder, held);
    for (const [path, { folder: idle, users }] of this.held) {
      if (this.held.size <= MOST_HELD) break;
      if (users > 0) continue;
      this.held.delete(path);
      await idle.close();
    }
    return held;
  }
}

/** A path as its folder and its name. */
function apart(path: string): [string, string] {
  const at = path.lastIndexOf('/');
  return [path.slice(0, Math.max(0, at)), path.slice(at + 1)];
}

const noFolder = (where: string, folder: string): never =>
  refuse('receiver.link', `${folder} in ${where} is a link or no folder, and may lead anywhere`);

/** Opens a file that is there, without waiting for anybody; null for none, `other` for what is no plain file. */
export async function openPlain(path: string, flags: number): Promise<FileHandle | null | 'other'> {
  const before = await statsOf(path);
  if (!before) return null;
  // A device may do something when it is opened.
  if (!before.isFile()) return 'other';
  let file: FileHandle;
  try {
    file = await open(path, flags | O_NOFOLLOW | O_NONBLOCK);
  } catch (error) {
    const code = codeOf(error);
    if (code === 'ENOENT') return null;
    if (['ELOOP', 'ENXIO', 'ENODEV', 'EACCES', 'EPERM', 'EISDIR'].includes(code)) return 'other';
    throw error;
  }
  // The open descriptor decides: the name may lead elsewhere by now.
  if ((await file.stat()).isFile()) return file;
  await file.close();
  return 'other';
}

/** So many bytes of a file and no more, however it grows meanwhile. */
export async function bytesOf(file: FileHandle, bytes: number): Promise<Buffer> {
  const blocks: Buffer[] = [];
  await blocksOf(file, bytes, (block) => blocks.push(Buffer.from(block)));
  return Buffer.concat(blocks);
}

/** The same, block by block; a block holds only until the next. */
async function blocksOf(file: FileHandle, bytes: number, take: (block: Uint8Array) => void): Promise<void> {
  const block = Buffer.allocUnsafe(Math.min(BLOCK, Math.max(1, bytes)));
  for (let at = 0; at < bytes; ) {
    const { bytesRead } = await file.read(block, 0, Math.min(block.length, bytes - at), at);
    if (bytesRead === 0) return;
    take(block.subarray(0, bytesRead));
    at += bytesRead;
  }
}

/** SHA-256 in hex of what was looked at; null when it cannot be read, or is another file by now. */
async function hashIn(
  at: HeldFolder,
  name: string,
  looked: NonNullable<Stats>,
  alive: () => void = () => {},
): Promise<string | null> {
  const file = await openPlain(at.at(name), O_RDONLY);
  if (file === null || file === 'other') return null;
  try {
    const hash = createHash('sha256');
    await blocksOf(file, Number(looked.size), (block) => {
      hash.update(block);
      alive();
    });
    return stampOf(await file.stat({ bigint: true })) === stampOf(looked) ? hash.digest('hex') : null;
  } finally {
    await file.close();
  }
}
