import { createHash } from 'node:crypto';
import {
  FolderWriter,
  folderSteps,
  lookAtDisk,
  RECEIPT_NAME,
  type Receipt,
  type ReceiptFile,
  receiptAfter,
  writeToDisk,
} from '@tolvik/core';
import { PickedDisk } from '../src/deliveries/this-computer/folder';

/** A folder by the File System standard, in memory; as of a disk that ignores case, or one that does not. */
class Folder {
  readonly kind = 'directory';
  readonly inside = new Map<string, { name: string; is: Folder | FileOf }>();
  constructor(private readonly ignoresCase: boolean) {}

  private key = (name: string) => (this.ignoresCase ? name.toLowerCase() : name);
  private at<T extends Folder | FileOf>(name: string, kind: T['kind'], create: (() => T) | false): T {
    const known = this.inside.get(this.key(name));
    if (known && known.is.kind !== kind) throw new DOMException('', 'TypeMismatchError');
    if (known) return known.is as T;
    if (!create) throw new DOMException('', 'NotFoundError');
    const made = create();
    this.inside.set(this.key(name), { name, is: made });
    return made;
  }
  getDirectoryHandle = async (name: string, { create = false } = {}) =>
    this.at<Folder>(name, 'directory', create && (() => new Folder(this.ignoresCase)));
  getFileHandle = async (name: string, { create = false } = {}) =>
    this.at<FileOf>(name, 'file', create && (() => new FileOf()));
  async removeEntry(name: string) {
    if (!this.inside.delete(this.key(name))) throw new DOMException('', 'NotFoundError');
  }
  async *[Symbol.asyncIterator]() {
    for (const { name, is } of this.inside.values()) yield [name, is] as const;
  }
}

class FileOf {
  readonly kind = 'file';
  content = new Blob([]);
  getFile = async () => this.content;
  async createWritable() {
    const parts: (Blob | string)[] = [];
    const close = async () => {
      this.content = new Blob(parts);
    };
    return { write: async (part: Blob | string) => void parts.push(part), close, abort: async () => {} };
  }
}

const hashOf = (text: string) => createHash('sha256').update(text).digest('hex');
const file = (path: string, text: string): ReceiptFile => ({
  path,
  bytes: text.length,
  sha256: hashOf(text),
  format: 'svg',
  widthPx: 24,
  heightPx: 24,
  dpi: null,
  piece: 'piece',
  output: 'output',
});
const HEAD = {
  version: 1,
  project: { id: 'harbour', name: 'Harbour' },
  delivery: { id: 'one', number: 1, at: '2026-11-26T12:00:00.000Z' },
} as unknown as Omit<Receipt, 'files' | 'leftovers'>;

/** Brings a folder to some files, leftovers taken away; answers what had to be done. */
async function bring(folder: Folder, files: Record<string, string>) {
  const root = folder as unknown as FileSystemDirectoryHandle;
  const wanted = Object.entries(files).map(([path, text]) => file(path, text));
  const disk = new PickedDisk(root);
  const now = await lookAtDisk(disk, wanted);
  const { there, last, begun } = now;
  const steps = folderSteps(there, last, wanted, { begun });
  const allowed = { removeLeftovers: true, replaceForeign: false };
  const receipt = receiptAfter(HEAD, last, wanted, steps, allowed);
  const write = [...steps.fresh, ...steps.changed];
  const writer = await FolderWriter.open(disk, now, '0'.repeat(32));
  await writeToDisk(writer, { write, remove: steps.leftovers, receipt }, async ({ path }) => new Blob([files[path]]));
  return steps;
}

async function filesIn(folder: Folder, path = ''): Promise<Record<string, string>> {
  const found: Record<string, string> = {};
  for (const { name, is } of folder.inside.values()) {
    if (is instanceof Folder) Object.assign(found, await filesIn(is, `${path}${name}/`));
    else if (name !== RECEIPT_NAME) found[path + name] = await is.content.text();
  }
  return found;
}

test('a file that is called the same but for its letter case is not taken away with its old name', async () => {
  const folder = new Folder(true);
  await bring(folder, { 'Anchor.svg': 'one', 'Icons/boat.svg': 'two' });
  const steps = await bring(folder, { 'anchor.svg': 'one, changed', 'icons/Boat.svg': 'two' });
  expect(steps).toMatchObject({ fresh: [], leftovers: [], foreign: [] });
  expect(Object.values(await filesIn(folder)).sort()).toEqual(['one, changed', 'two']);
  // And again there is nothing to do.
  expect(await bring(folder, { 'anchor.svg': 'one, changed', 'icons/Boat.svg': 'two' })).toMatchObject({
    fresh: [],
    changed: [],
    leftovers: [],
  });
});

test('where case tells names apart, the old one is left over and goes', async () => {
  const folder = new Folder(false);
  await bring(folder, { 'Anchor.svg': 'one', 'Icons/boat.svg': 'two' });
  const steps = await bring(folder, { 'anchor.svg': 'one', 'icons/boat.svg': 'two' });
  expect(steps.leftovers.sort()).toEqual(['Anchor.svg', 'Icons/boat.svg']);
  expect(await filesIn(folder)).toEqual({ 'anchor.svg': 'one', 'icons/boat.svg': 'two' });
});

test('what somebody else put there under another case is theirs', async () => {
  const folder = new Folder(true);
  (await folder.getFileHandle('Anchor.svg', { create: true })).content = new Blob(['of somebody']);
  const steps = await bring(folder, { 'anchor.svg': 'ours' });
  expect(steps.foreign).toEqual([{ path: 'anchor.svg', wanted: true }]);
  expect(await filesIn(folder)).toEqual({ 'Anchor.svg': 'of somebody' });
});
