import { createHash } from 'node:crypto';
import {
  type Allowed,
  FORMATS,
  heldAgainst,
  NOTHING_BEGUN,
  type NotTaken,
  type Receipt,
  type ReceiptFile,
  refuse,
  type Standing,
  type StepsInShort,
  several,
  stepsInShort,
  writingFor,
} from '@tolvik/core';
import type { FolderProcesses } from '@tolvik/folders';
import type { Config } from '../config';
import type { Database } from '../db/database';
import { intakeFiles, keepAnswer } from '../db/intake-files';
import type { ReceiverRow } from '../db/receivers';
import { zipOf } from '../deliveries/archive';
import { folderOf } from '../roots';
import { allowedIntake } from './addresses';
import { Intake } from './intake';

export type BytesOf = (file: ReceiptFile) => Promise<Uint8Array>;
/** What a receiver takes of a delivery; `some` when the delivery is of some files and says nothing of the others. */
export type TakenOf = { wanted: Receipt; refused: readonly NotTaken[]; some: boolean };

/** A hand-over under way, as a place sees it. Whatever it throws ends it. */
export type UnderWay = {
  bytesOf: BytesOf;
  /** Notes the receipt that is about to be written, and the one that lies there. */
  note(sha256: readonly string[]): Promise<void>;
  /** Until when something may be changed there without asking again, as `Date.now()` tells it. Throws when no longer. */
  mayUntil(): number;
  onFile(done: number, of: number): void;
  signal: AbortSignal;
};

/** Where a receiver has its files: what would be done there, and how it is. Both throw refusals in words. */
export type Place = {
  look(taken: TakenOf): Promise<StepsInShort>;
  bring(taken: TakenOf, allowed: Allowed, underWay: UnderWay): Promise<Standing>;
};

/** Requests to one intake at once. */
const AT_ONCE = 4;
/** The most that one zip may hold, in bytes. */
const MOST_ZIPPED = 500 * 1_048_576;

/** The place of a receiver, as far as whoever runs the server allows it still. Throws a `Refusal` when it is not allowed. */
export async function placeOf(
  receiver: ReceiverRow,
  { config, db, folders }: { config: Config; db: Database; folders: FolderProcesses },
): Promise<Place> {
  if (receiver.address !== null) return new IntakePlace(db, config, receiver);
  const at = await folderOf(config, receiver.root, receiver.folder);
  const { receipts } = receiver;
  return {
    look: (taken) => folders.look({ ...taken, at, receipts }),
    bring: (taken, allowed, { bytesOf, note, mayUntil, onFile, signal }) =>
      folders.bring(
        { taken: { ...taken, at, receipts }, allowed },
        { bytesOf, note, mayUntil, onWrite: onFile, signal },
      ),
  };
}

/** An intake over HTTP. What it has it says to nobody: it is what it took. */
class IntakePlace implements Place {
  private readonly intake: Intake;

  constructor(
    private readonly db: Database,
    config: Config,
    private readonly receiver: ReceiverRow & { address: string },
  ) {
    this.intake = new Intake(allowedIntake(config, receiver.address), receiver.headers);
  }

  look = async (taken: TakenOf): Promise<StepsInShort> => stepsInShort(await this.held(taken));

  async bring(taken: TakenOf, allowed: Allowed, underWay: UnderWay): Promise<Standing> {
    const { write, standing, inStep } = writingFor(await this.held(taken), allowed, new Date().toISOString());
    if (inStep) return standing;
    underWay.onFile(0, write.length);
    const refused = this.receiver.as_zip
      ? await this.sendZip(taken, write, underWay)
      : await this.sendEach(taken, write, underWay);
    return { ...standing, written: standing.written - refused, refused: standing.refused + refused };
  }

  private async held({ wanted, refused, some }: TakenOf) {
    const taken = (await intakeFiles(this.db, this.receiver.id)).filter((file) => file.refused === null);
    const there = new Map(taken.map(({ path, bytes, sha256 }) => [path, { bytes, sha256 }]));
    const last = { files: [], leftovers: taken.map(({ path, bytes, sha256 }) => ({ path, bytes, sha256 })) };
    return heldAgainst({ there, last, begun: NOTHING_BEGUN }, { wanted, refused }, some);
  }

  private keep(taken: TakenOf, { path, sha256, bytes }: ReceiptFile, refused: string | null) {
    return keepAnswer(this.db, this.receiver.id, taken.wanted.delivery.id, { path, sha256, bytes, refused });
  }

  private async sendZip(taken: TakenOf, write: readonly ReceiptFile[], { signal, ...rest }: UnderWay): Promise<number> {
    const zip = await zipped(write, signal, rest);
    const inZip = new Map((await this.intake.postZip(zip, signal)).map((each) => [each.path, each.why]));
    for (const file of write) await this.keep(taken, file, inZip.get(file.path) ?? null);
    return write.filter(({ path }) => inZip.has(path)).length;
  }

  private async sendEach(
    taken: TakenOf,
    write: readonly ReceiptFile[],
    { bytesOf, mayUntil, onFile, signal }: UnderWay,
  ): Promise<number> {
    let done = 0;
    let refused = 0;
    const late = aWhileAfter(signal);
    await several(write, AT_ONCE, async (file) => {
      signal.throwIfAborted();
      const bytes = await bytesOf(file);
      mayUntil();
      const { mediaType } = FORMATS[file.format];
      const why = await this.intake.put({ path: file.path, mediaType, bytes }, late);
      await this.keep(taken, file, why);
      if (why !== null) refused++;
      onFile(++done, write.length);
    });
    return refused;
  }
}

/** How long files that are on their way may take to be answered for when a sending is ended, in ms. */
const GRACE_MS = 1500;

/** Aborts a while after another does, for the same reason: what is nearly done comes to its end. */
function aWhileAfter(signal: AbortSignal): AbortSignal {
  const control = new AbortController();
  const abort = () => setTimeout(() => control.abort(signal.reason), GRACE_MS).unref();
  if (signal.aborted) abort();
  else signal.addEventListener('abort', abort, { once: true });
  return control.signal;
}

/** Files as one zip, in memory. Refuses more than there may be. */
async function zipped(
  files: readonly ReceiptFile[],
  signal: AbortSignal,
  { bytesOf, onFile }: Pick<UnderWay, 'bytesOf' | 'onFile'>,
): Promise<Buffer> {
  const all = files.reduce((sum, { bytes }) => sum + bytes, 0);
  if (all > MOST_ZIPPED)
    refuse(
      'receiver.zip',
      `the files are ${Math.round(all / 1_048_576)} MB, and one zip holds up to ${MOST_ZIPPED / 1_048_576}`,
      { accepted: 'a request for each file' },
    );
  let done = 0;
  return zipOf(files, async (file) => {
    signal.throwIfAborted();
    const bytes = await bytesOf(file);
    onFile(++done, files.length);
    return bytes;
  });
}

/** SHA-256 in hex. */
export const sha256Of = (bytes: Uint8Array | string): string => createHash('sha256').update(bytes).digest('hex');
