import { type Disk, type Found, foldPath, groupBy, LONGEST_BEGUN } from '@tolvik/core';

/** A folder that somebody picked on this computer, looked at and written to by the File System standard (WHATWG). */

const isNamed = (error: unknown, ...names: string[]): boolean =>
  error instanceof DOMException && names.includes(error.name);

/** Trouble of a disk in words that say what to do. */
export function inWords(error: unknown, folder: string): Error {
  if (isNamed(error, 'NotAllowedError', 'SecurityError'))
    return new Error(`the browser may no longer write to ${folder}; allow it again`);
  if (isNamed(error, 'NotFoundError')) return new Error(`${folder} is not there any more`);
  if (isNamed(error, 'QuotaExceededError')) return new Error(`there is no room left for ${folder}`);
  if (isNamed(error, 'NoModificationAllowedError', 'InvalidStateError'))
    return new Error(`a file in ${folder} is held open by another program`);
  return error instanceof Error ? error : new Error(String(error));
}

/** The folder that a path lies in, made where it is missing and `make` says so; null where there is none. */
async function parentOf(
  root: FileSystemDirectoryHandle,
  path: string,
  make: boolean,
): Promise<FileSystemDirectoryHandle | null | 'other'> {
  let at = root;
  for (const part of path.split('/').slice(0, -1)) {
    try {
      at = await at.getDirectoryHandle(part, { create: make });
    } catch (error) {
      if (isNamed(error, 'NotFoundError') && !make) return null;
      if (isNamed(error, 'TypeMismatchError')) return 'other';
      throw error;
    }
  }
  return at;
}

const nameOf = (path: string): string => path.slice(path.lastIndexOf('/') + 1);

/** A file as it lies there; null for none, `other` where a folder has its name. */
async function fileAt(root: FileSystemDirectoryHandle, path: string): Promise<File | 'other' | null> {
  const parent = await parentOf(root, path, false);
  if (parent === null || parent === 'other') return parent;
  try {
    return await (await parent.getFileHandle(nameOf(path))).getFile();
  } catch (error) {
    if (isNamed(error, 'NotFoundError')) return null;
    if (isNamed(error, 'TypeMismatchError')) return 'other';
    throw error;
  }
}

const hex = (bytes: ArrayBuffer): string =>
  [...new Uint8Array(bytes)].map((byte) => byte.toString(16).padStart(2, '0')).join('');

/** Whether the disk has a path letter for letter; one that ignores case leads to a file by other names, too. */
async function isSpelled(root: FileSystemDirectoryHandle, path: string): Promise<boolean> {
  let at: FileSystemDirectoryHandle | null = root;
  for (const part of path.split('/')) {
    let found: FileSystemHandle | null = null;
    const inside = at as unknown as AsyncIterable<[string, FileSystemHandle]> | null;
    for await (const [name, handle] of inside ?? []) if (name === part) found = handle;
    if (!found) return false;
    at = found.kind === 'directory' ? (found as FileSystemDirectoryHandle) : null;
  }
  return true;
}

/** A folder that somebody picked, as a disk that deliveries are written to. */
export class PickedDisk implements Disk<Blob> {
  constructor(private readonly root: FileSystemDirectoryHandle) {}

  async text(name: string, mostBytes: number): Promise<{ text: string } | 'other' | null> {
    const file = await fileAt(this.root, name);
    if (file === null || file === 'other') return file;
    return file.size > mostBytes ? 'other' : { text: await file.text() };
  }

  async names(isMeant: (name: string) => boolean): Promise<string[]> {
    const names: string[] = [];
    for await (const [name] of this.root as unknown as AsyncIterable<[string, FileSystemHandle]>)
      if (isMeant(name)) names.push(name);
    return names.sort();
  }

  async find(path: string, isAskedFor: (bytes: number) => boolean): Promise<Found | null> {
    const file = await fileAt(this.root, path);
    if (file === null || file === 'other') return file;
    if (!isAskedFor(file.size)) return { bytes: file.size, sha256: '' };
    return { bytes: file.size, sha256: hex(await crypto.subtle.digest('SHA-256', await file.arrayBuffer())) };
  }

  async oneFile(paths: readonly string[]): Promise<string[][]> {
    const oneFile: string[][] = [];
    for (const alike of groupBy(paths, foldPath).values()) {
      if (alike.length < 2) continue;
      const spelled = await Promise.all(alike.map((path) => isSpelled(this.root, path)));
      if (spelled.includes(false)) oneFile.push(alike);
    }
    return oneFile;
  }

  /** The standard writes beside the place itself, and puts the file there whole when it is closed: a part needs no name. */
  async put(path: string, content: Blob | string): Promise<void> {
    const parent = await parentOf(this.root, path, true);
    if (parent === null || parent === 'other') throw new Error(`a file stands where ${path} needs a folder`);
    const writable = await (await parent.getFileHandle(nameOf(path), { create: true })).createWritable();
    try {
      await writable.write(content);
      await writable.close();
    } catch (error) {
      await writable.abort().catch(() => {});
      throw error;
    }
  }

  async append(name: string, text: string): Promise<void> {
    const before = await this.text(name, LONGEST_BEGUN);
    await this.put(name, (before === null || before === 'other' ? '' : before.text) + text);
  }

  async remove(path: string): Promise<void> {
    const parent = await parentOf(this.root, path, false);
    if (parent === null || parent === 'other') return;
    await parent.removeEntry(nameOf(path)).catch((error: unknown) => {
      if (!isNamed(error, 'NotFoundError')) throw error;
    });
  }

  async sweep(): Promise<void> {}
}
