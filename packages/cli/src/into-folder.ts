import { randomBytes } from 'node:crypto';
import {
  type Allowed,
  allowedSteps,
  FORMATS,
  type FolderNow,
  FolderWriter,
  type Found,
  folderSteps,
  type Known,
  lookAtDisk,
  NOTHING_BEGUN,
  ofNoOther,
  type PlannedFile,
  type Receipt,
  type ReceiptFile,
  receiptAfter,
} from '@tolvik/core';
import { HeldFolder, inWords, makeFolder, NodeDisk, openBelow, type SeenThere } from '@tolvik/folders';

/** What became of a file that was made. */
export type Written = 'written' | 'same' | 'foreign';
/** Whose the files are, as the receipt says it. */
export type Owner = Receipt['project'];

/** Files into a folder one after the other as they are made: only what differs is written, by its receipt when it has one. */
export class IntoFolder {
  private readonly made: ReceiptFile[] = [];
  private now: FolderNow = { there: new Map(), last: null, begun: NOTHING_BEGUN };
  /** What the receipt says of each path. */
  private written = new Map<string, Known>();
  private disk: Promise<NodeDisk> | null = null;
  private writer: Promise<FolderWriter<Uint8Array>> | null = null;

  private constructor(
    private readonly folder: string,
    private readonly owner: Owner,
    private readonly withReceipt: boolean,
    private readonly allowed: Allowed,
    private readonly seen: SeenThere,
  ) {}

  /** Looks at a folder, which need not be there; writes nothing. `close` has to follow. */
  static async open(
    folder: string,
    paths: readonly string[],
    { owner, withReceipt, allowed, seen }: { owner: Owner; withReceipt: boolean; allowed: Allowed; seen: SeenThere },
  ): Promise<IntoFolder> {
    const into = new IntoFolder(folder, owner, withReceipt, allowed, seen);
    const held = await openBelow({ root: folder, folder: '' }, false);
    if (!held) return into;
    const disk = new NodeDisk(held, { seen });
    into.disk = Promise.resolve(disk);
    into.now = await lookAtDisk(
      disk,
      paths.map((path) => ({ path })),
    );
    if (withReceipt) ofNoOther(into.now, owner);
    for (const file of into.now.last?.files ?? []) into.written.set(file.path, { files: [file], leftovers: [] });
    for (const file of into.now.last?.leftovers ?? []) into.written.set(file.path, { files: [], leftovers: [file] });
    return into;
  }

  async close(): Promise<void> {
    await (await this.disk)?.close();
  }

  /** The folder, made where it is missing. */
  private onDisk(): Promise<NodeDisk> {
    this.disk ??= inWords(this.folder, async () => {
      await makeFolder(this.folder);
      return new NodeDisk(await HeldFolder.open(this.folder), { seen: this.seen });
    });
    return this.disk;
  }

  /** One writer for all: it takes away what is half written when it begins. */
  private writing(): Promise<FolderWriter<Uint8Array>> {
    this.writer ??= this.onDisk().then((disk) => {
      const replaces = !this.withReceipt || this.allowed.replaceForeign;
      return FolderWriter.open(disk, this.now, randomBytes(16).toString('hex'), replaces);
    });
    return this.writer;
  }

  /** What lies at a path; its hash is there where its length is that of the file that was made. */
  private async found(
    path: string,
    { sha256, bytes }: Pick<ReceiptFile, 'sha256' | 'bytes'>,
  ): Promise<Found | undefined> {
    const known = this.now.there.get(path);
    if (!known || known === 'other' || known.sha256 !== '' || known.bytes !== bytes || !this.disk) return known;
    const read = await (await this.disk).find(path, (length) => length === bytes);
    if (read) this.now.there.set(path, read);
    return read && read !== 'other' && read.sha256 === sha256 ? read : known;
  }

  /** Whether a file lies there with these bytes. */
  async has({ path }: PlannedFile, file: Pick<ReceiptFile, 'sha256' | 'bytes'>): Promise<boolean> {
    const found = await this.found(path, file);
    return found !== undefined && found !== 'other' && found.sha256 === file.sha256;
  }

  /** Takes a file that was made; `bytes` may be missing where they lie there already. */
  async take(
    file: PlannedFile,
    { sha256, bytes: length }: Pick<ReceiptFile, 'sha256' | 'bytes'>,
    bytes: Buffer | null,
  ): Promise<Written> {
    const made: ReceiptFile = {
      path: file.path,
      bytes: length,
      sha256,
      widthPx: file.widthPx,
      heightPx: file.heightPx,
      dpi: FORMATS[file.format].raster ? file.dpi : null,
      format: file.format,
      piece: file.pieceId,
      output: file.outputId,
    };
    this.made.push(made);
    const found = await this.found(file.path, made);
    const there = new Map<string, Found>(found ? [[file.path, found]] : []);
    const { same, foreign } = folderSteps(there, this.written.get(file.path) ?? null, [made], {
      some: true,
      begun: this.now.begun,
    });
    if (same.length > 0 || !bytes) return 'same';
    // Without a receipt nobody knows whose a file is: what is asked for is written.
    if (foreign.length > 0 && this.withReceipt && !this.allowed.replaceForeign) return 'foreign';
    const writer = await this.writing();
    await writer.begin([made]);
    await writer.put(file.path, bytes);
    return 'written';
  }

  /** Takes away or names what is left over, and puts the receipt there; `some` when not all files were asked for. */
  async finish(some: boolean): Promise<{ leftovers: string[]; removed: number }> {
    if (!this.withReceipt) {
      await (await this.writer)?.end();
      return { leftovers: [], removed: 0 };
    }
    const { there, last, begun } = this.now;
    const steps = folderSteps(there, last, this.made, { some, begun });
    const { write, remove } = allowedSteps(steps, this.made, this.allowed);
    const head: Omit<Receipt, 'files' | 'leftovers'> = {
      version: 1,
      project: this.owner,
      delivery: { id: 'export', number: (last?.delivery?.number ?? 0) + 1, at: new Date().toISOString() },
    };
    // All as it was: not a byte is written.
    const leftovers = this.allowed.removeLeftovers ? [] : steps.leftovers;
    if (write.length + remove.length === 0 && last && !this.writer && sameFiles(last, this.made))
      return { leftovers, removed: 0 };
    const writer = await this.writing();
    for (const path of remove) await writer.remove(path);
    await writer.finish(receiptAfter(head, last, this.made, steps, this.allowed, some));
    return { leftovers, removed: remove.length };
  }
}

const sameFiles = ({ files }: Pick<Receipt, 'files'>, made: readonly ReceiptFile[]): boolean => {
  const known = new Map(files.map(({ path, sha256 }) => [path, sha256]));
  return made.every(({ path, sha256 }) => known.get(path) === sha256) && files.length === made.length;
};
