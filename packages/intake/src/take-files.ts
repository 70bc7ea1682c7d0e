import { nameFromFile, type Problem, Refusal, refuse, type Told } from '@tolvik/core';
import { unzip } from './unzip';

/** A file as it came: its name, which may have folders in front, and its bytes. */
export type Incoming = { name: string; bytes: Buffer };

/** What became of a file: brought in, with what was left out of it, or refused and why. */
export type FileReport = { file: string; dropped: Told[]; problem?: Problem };

/** What a reader makes of a file; how many layers it has counts towards what may come in at once. */
export type ReadFile = { layers: number; dropped: Told[] };

export type TakeOptions<T extends ReadFile> = {
  read(file: Incoming): Promise<T> | T;
  /** Told after each file; `of` grows while zips are opened. */
  onRead?(done: number, of: number): void;
  signal?: AbortSignal;
};

export type Taken<T extends ReadFile> = { name: string; file: string; read: T; report: FileReport };

/** Layers that come in at once, all files together. */
const MAX_LAYERS = 250_000;
const isZip = ({ bytes }: Incoming) => bytes.length > 3 && bytes.readUInt32LE(0) === 0x04034b50;

/** Takes files one after the other, those in zips among them. A bad file never disturbs the others: its trouble is its own, and told. */
export async function takeFiles<T extends ReadFile>(
  files: Iterable<Incoming>,
  { read, onRead, signal }: TakeOptions<T>,
): Promise<{ taken: Taken<T>[]; report: FileReport[] }> {
  const report: FileReport[] = [];
  const taken: Taken<T>[] = [];
  const all = [...files];
  let layers = 0;
  let of = all.length;

  const take = async ({ name, bytes }: Incoming) => {
    signal?.throwIfAborted();
    const file = baseName(name);
    const told: FileReport = { file, dropped: [] };
    report.push(told);
    try {
      const made = await read({ name: file, bytes });
      if (layers + made.layers > MAX_LAYERS) {
        refuse('bring-in.layers', `${file} would make it more than ${MAX_LAYERS.toLocaleString('en')} layers at once`, {
          where: file,
          accepted: 'fewer files at a time',
        });
      }
      layers += made.layers;
      taken.push({ name: nameFromFile(file), file, read: made, report: told });
      told.dropped = made.dropped;
    } catch (error) {
      told.problem = problemOf(error, file);
    }
    onRead?.(report.length, Math.max(of, report.length));
  };

  for (const each of all) {
    if (!isZip(each)) {
      await take(each);
      continue;
    }
    of--;
    const zip = baseName(each.name);
    try {
      for await (const entry of unzip(each.bytes, zip)) {
        if ('problem' in entry) report.push({ file: entry.name, dropped: [], problem: entry.problem });
        else await take(entry);
      }
    } catch (error) {
      if (signal?.aborted) throw error;
      report.push({ file: zip, dropped: [], problem: problemOf(error, zip) });
    }
  }
  return { taken, report };
}

const baseName = (name: string) => name.split(/[/\\]/).at(-1)?.slice(0, 300) || 'unnamed';

/** Whatever went wrong with a file is told of that file; only a call that was given up is not. */
function problemOf(error: unknown, file: string): Problem {
  if (error instanceof Refusal) return error.problem;
  if (error instanceof Error && error.name === 'AbortError') throw error;
  return {
    code: 'read.failed',
    message: `${file} could not be read: ${error instanceof Error ? error.message : String(error)}`,
    where: file,
  };
}
