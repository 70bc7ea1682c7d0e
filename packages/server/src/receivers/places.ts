import { FORMATS, type FolderNow, type NotTaken, type Receipt, type ReceiptFile, refuse, several } from '@tolvik/core';
import { lookAt, writeInto } from '@tolvik/folders';
import type { Config } from '../config';
import type { Database } from '../db/database';
import { intakeFiles, keepAnswer } from '../db/intake-files';
import type { ReceiverRow } from '../db/receivers';
import { zipOf } from '../deliveries/archive';
import { folderOf } from '../roots';
import { allowedIntake } from './addresses';
import { Intake } from './intake';

export type Writing = { write: readonly ReceiptFile[]; remove: readonly string[]; receipt: Receipt };
export type BytesOf = (file: ReceiptFile) => Promise<Uint8Array>;

/** Where a receiver has its files: what is there, and how it gets more. */
export type Place = {
  /** Names it among all, so that one at a time is written there. */
  key: string;
  /** What of some paths is there. Throws refusals in words. */
  now(paths: readonly string[]): Promise<FolderNow>;
  /** Brings it there, telling how many files have come where that takes its time. Answers what was refused when it came. */
  write(writing: Writing, bytesOf: BytesOf, onFile: (done: number) => void, signal: AbortSignal): Promise<NotTaken[]>;
};

/** The most that one zip may hold, in bytes. */
const MOST_ZIPPED = 500 * 1_048_576;

/** Files as one zip, in memory. Refuses more than there may be. */
async function zipped(
  files: readonly ReceiptFile[],
  bytesOf: BytesOf,
  onFile: (done: number) => void,
): Promise<Buffer> {
  const all = files.reduce((sum, { bytes }) => sum + bytes, 0);
  if (all > MOST_ZIPPED)
    refuse(
      'receiver.zip',
      `the files are ${Math.round(all / 1_048_576)} MB, and one zip holds up to ${MOST_ZIPPED / 1_048_576}`,
      {
        accepted: 'a request for each file',
      },
    );
  let done = 0;
  return zipOf(files, async (file) => {
    const bytes = await bytesOf(file);
    onFile(++done);
    return bytes;
  });
}

/** Requests to one intake at once. */
const AT_ONCE = 4;

/** The place of a receiver, as far as whoever runs the server allows it still. Throws a `Refusal` when it is not allowed. */
export async function placeOf(receiver: ReceiverRow, { config, db }: { config: Config; db: Database }): Promise<Place> {
  if (receiver.address === null) {
    const folder = await folderOf(config, receiver.root, receiver.folder);
    return {
      key: `${receiver.root}/${receiver.folder}`,
      now: (paths) => lookAt(folder, paths),
      async write(writing, bytesOf) {
        await writeInto(folder, writing, bytesOf);
        return [];
      },
    };
  }
  const intake = new Intake(allowedIntake(config, receiver.address), receiver.headers);
  return {
    key: `${receiver.id} ${receiver.address}`,
    // What an intake has it says to nobody; it is what it took.
    async now() {
      const taken = (await intakeFiles(db, receiver.id)).filter(({ refused }) => refused === null);
      const there = new Map(taken.map(({ path, bytes, sha256 }) => [path, { bytes, sha256 }]));
      const last = { files: [], leftovers: taken.map(({ path, bytes, sha256 }) => ({ path, bytes, sha256 })) };
      return { there, last, begun: new Map() };
    },
    async write({ write, receipt }, bytesOf, onFile, signal) {
      if (receiver.as_zip) {
        const inZip = new Map(
          (await intake.postZip(await zipped(write, bytesOf, onFile))).map((each) => [each.path, each]),
        );
        for (const { path, sha256, bytes } of write) {
          const why = inZip.get(path)?.why ?? null;
          await keepAnswer(db, receiver.id, receipt.delivery.id, { path, sha256, bytes, refused: why });
        }
        return write.flatMap(({ path }) => inZip.get(path) ?? []);
      }
      const refused: NotTaken[] = [];
      let done = 0;
      await several(write, AT_ONCE, async (file) => {
        if (signal.aborted) return;
        const { path, sha256, bytes } = file;
        const why = await intake.put({ path, mediaType: FORMATS[file.format].mediaType, bytes: await bytesOf(file) });
        await keepAnswer(db, receiver.id, receipt.delivery.id, { path, sha256, bytes, refused: why });
        if (why !== null) refused.push({ path, why });
        onFile(++done);
      });
      // Those under way came to their end, and what they answered is kept.
      if (signal.aborted)
        refuse('receiver.stopped', 'it was stopped', { accepted: 'sending again, which goes on from there' });
      return refused;
    },
  };
}
