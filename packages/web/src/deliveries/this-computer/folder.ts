import {
  BEGUN_NAME,
  type FolderNow,
  type Found,
  foldPath,
  groupBy,
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

/** A folder that somebody picked on this computer, looked at and written to by the File System standard (WHATWG). */

/** Files looked at or written at once. */
const AT_ONCE = 8;
const LARGEST_RECEIPT = 100 * 1_048_576;

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

async function textAt(root: FileSystemDirectoryHandle, name: string): Promise<string> {
  const file = await fileAt(root, name);
  return file === null || file === 'other' || file.size > LARGEST_RECEIPT ? '' : file.text();
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

/** What of some paths is there, with what an earlier writing left: reads, and changes nothing. */
export async function lookAt(root: FileSystemDirectoryHandle, paths: Iterable<string>): Promise<FolderNow> {
  const wanted = new Set(paths);
  const last = readReceipt(await textAt(root, RECEIPT_NAME));
  const begun = readBegun(await textAt(root, BEGUN_NAME));
  const there = new Map<string, Found>();
  await several([...pathsToLookAt(wanted, last)], AT_ONCE, async (path) => {
    const file = await fileAt(root, path);
    if (file === null) return;
    if (file === 'other') return void there.set(path, 'other');
    const sha256 = hex(await crypto.subtle.digest('SHA-256', await file.arrayBuffer()));
    there.set(path, { bytes: file.size, sha256 });
  });
  const oneFile: string[][] = [];
  for (const alike of groupBy(there.keys(), foldPath).values()) {
    if (alike.length < 2) continue;
    const spelled = await Promise.all(alike.map((path) => isSpelled(root, path)));
    if (spelled.includes(false)) oneFile.push(alike);
  }
  return { there, last: underOneName(there, last, wanted, oneFile), begun };
}

/** Writes a file beside its place and puts it there whole when it is closed, as the standard has it. */
async function put(root: FileSystemDirectoryHandle, path: string, content: Blob | string): Promise<void> {
  const parent = await parentOf(root, path, true);
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

async function remove(root: FileSystemDirectoryHandle, path: string): Promise<void> {
  const parent = await parentOf(root, path, false);
  if (parent === null || parent === 'other') return;
  await parent.removeEntry(nameOf(path)).catch((error: unknown) => {
    if (!isNamed(error, 'NotFoundError')) throw error;
  });
}

/** Writes files, takes others away, and puts the receipt there last; ended at any step, the next look knows what is its own. */
export async function writeInto(
  root: FileSystemDirectoryHandle,
  { write, remove: gone, receipt }: { write: readonly ReceiptFile[]; remove: readonly string[]; receipt: Receipt },
  bytesOf: (file: ReceiptFile) => Promise<Blob>,
  onDone: (count: number) => void = () => {},
): Promise<void> {
  if (write.length > 0) await put(root, BEGUN_NAME, (await textAt(root, BEGUN_NAME)) + printBegun(write));
  let done = 0;
  await several(write, AT_ONCE, async (file) => {
    await put(root, file.path, await bytesOf(file));
    onDone(++done);
  });
  await several(gone, AT_ONCE, (path) => remove(root, path));
  await put(root, RECEIPT_NAME, printReceipt(receipt));
  await remove(root, BEGUN_NAME);
}
