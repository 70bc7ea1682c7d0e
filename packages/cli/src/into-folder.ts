import {
  type Allowed,
  allowedSteps,
  FORMATS,
  type FolderNow,
  type Found,
  folderSteps,
  type Known,
  ofNoOther,
  type PlannedFile,
  type Receipt,
  type ReceiptFile,
  receiptAfter,
} from '@tolvik/core';
import { FolderWriter, lookAt, type SeenThere } from '@tolvik/folders';

/** Sources of the command line have no id of their own. */
const SOURCE_ID = 'source';

/** What became of a file that was made. */
export type Written = 'written' | 'same' | 'foreign';

/** Files into a folder one after the other as they are made: only what differs is written, by its receipt when it has one. */
export class IntoFolder {
  private readonly made: ReceiptFile[] = [];
  private now: FolderNow = { there: new Map(), last: null, begun: new Map() };
  /** What the receipt says of each path. */
  private written = new Map<string, Known>();
  private writer: Promise<FolderWriter> | null = null;

  private constructor(
    private readonly folder: string,
    private readonly withReceipt: boolean,
    private readonly allowed: Allowed,
  ) {}

  static async open(
    folder: string,
    paths: readonly string[],
    withReceipt: boolean,
    allowed: Allowed,
    seen?: SeenThere,
  ): Promise<IntoFolder> {
    const into = new IntoFolder(folder, withReceipt, allowed);
    into.now = await lookAt(folder, paths, seen);
    if (withReceipt) ofNoOther(into.now, SOURCE_ID);
    for (const file of into.now.last?.files ?? []) into.written.set(file.path, { files: [file], leftovers: [] });
    for (const file of into.now.last?.leftovers ?? []) into.written.set(file.path, { files: [], leftovers: [file] });
    return into;
  }

  /** One writer for all: it takes away what is half written when it begins. */
  private writing(): Promise<FolderWriter> {
    this.writer ??= FolderWriter.open(this.folder);
    return this.writer;
  }

  /** Whether a file lies there with these bytes. */
  has({ path }: PlannedFile, { sha256 }: Pick<ReceiptFile, 'sha256'>): boolean {
    const found = this.now.there.get(path);
    return found !== undefined && found !== 'other' && found.sha256 === sha256;
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
    const found = this.now.there.get(file.path);
    const there = new Map<string, Found>(found ? [[file.path, found]] : []);
    const { same, foreign } = folderSteps(there, this.written.get(file.path) ?? null, [made], {
      some: true,
      begun: this.now.begun,
    });
    if (same.length > 0 || !bytes) return 'same';
    // Without a receipt nobody knows whose a file is: what is asked for is written.
    if (foreign.length > 0 && this.withReceipt && !this.allowed.replaceForeign) return 'foreign';
    const writer = await this.writing();
    if (this.withReceipt) await writer.begin([made]);
    await writer.put(file.path, bytes);
    return 'written';
  }

  /** Takes away or names what is left over, and puts the receipt there; `some` when not all files were asked for. */
  async finish(project: string, some: boolean): Promise<{ leftovers: string[]; removed: number }> {
    if (!this.withReceipt) return { leftovers: [], removed: 0 };
    const { there, last, begun } = this.now;
    const steps = folderSteps(there, last, this.made, { some, begun });
    const { write, remove } = allowedSteps(steps, this.made, this.allowed);
    const head: Omit<Receipt, 'files' | 'leftovers'> = {
      version: 1,
      project: { id: SOURCE_ID, name: project.slice(0, 300) },
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
