import { lstatSync } from 'node:fs';
import { resolve, sep } from 'node:path';
import { count, Refusal, refuse } from '@tolvik/core';
import { wholePath } from '@tolvik/folders';
import { watch } from 'chokidar';
import type { ExportOptions } from './export';
import { Maker, notesOf, plannedTrouble } from './make';
import { err } from './say';
import { open, type ReadBefore, type Selection } from './source';

/** A file that is still being written is waited for until it has kept its size so long. */
const STILL_MS = 120;
const LOOK_MS = 30;
/** Changes that come together are one: a program may save several files at once. */
const TOGETHER_MS = 40;

/**
 * Exports, and again a moment after each change of the source, until it is stopped: what did not change is neither read
 * nor made again. Trouble is told, and the next change is another try. Throws a `Refusal` where it cannot begin.
 */
export async function watchFiles(selection: Selection, options: ExportOptions): Promise<number> {
  const source = resolve(selection.source);
  const before: ReadBefore = new Map();
  await open(selection, before);
  const began = identityOf(source);
  await apart(source, options.out);
  const maker = new Maker(options.jobs);
  const pass = async () => {
    try {
      if (identityOf(source) !== began)
        refuse('source.replaced', `${source} is another folder or a link now; nothing is read from it`, {
          where: source,
        });
      await make(selection, options, maker, before);
    } catch (error) {
      say(`! ${error instanceof Refusal ? error.problem.message : (error as Error).message}`);
    }
  };
  const watcher = watch(source, {
    ignoreInitial: true,
    followSymlinks: false,
    depth: 0,
    awaitWriteFinish: { stabilityThreshold: STILL_MS, pollInterval: LOOK_MS },
  });
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running = Promise.resolve();
  watcher.on('all', () => {
    clearTimeout(timer);
    timer = setTimeout(() => {
      running = running.then(pass);
    }, TOGETHER_MS);
  });
  watcher.on('error', (error) => say(`! ${(error as Error).message}`));
  await new Promise<void>((ready) => watcher.once('ready', () => ready()));
  running = running.then(pass);
  await running;
  say(`watching ${source}; Ctrl+C ends it`);
  await new Promise<void>((ended) => {
    for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => ended());
  });
  clearTimeout(timer);
  await watcher.close();
  await running;
  await maker.close();
  return 0;
}

async function make(selection: Selection, options: ExportOptions, maker: Maker, before: ReadBefore): Promise<void> {
  const start = performance.now();
  const opened = await open(selection, before);
  for (const { message } of opened.refused) say(`! ${message}`);
  const trouble = plannedTrouble(opened);
  for (const words of trouble) say(words);
  if (trouble.length > 0) return say(`nothing was written: ${count(trouble.length, 'file')} cannot be made as planned`);
  const made = await maker.make(opened, options, { made: () => {}, trouble: say });
  const seconds = ((performance.now() - start) / 1000).toFixed(2);
  const sentence = [`${made.done - made.same} written`, `${made.same} the same`, ...notesOf(made), `${seconds} s`];
  say(sentence.join(', '));
}

const say = (words: string): void => {
  err(`${new Date().toTimeString().slice(0, 8)} ${words}`);
};

/** What a path is, so that another in its place is told from it; links are not followed. */
function identityOf(path: string): string {
  try {
    const stat = lstatSync(path);
    // A file is often replaced by being written anew under its name; a folder is not.
    return stat.isDirectory() ? `${stat.dev} ${stat.ino}` : stat.isSymbolicLink() ? 'link' : 'file';
  } catch {
    return 'gone';
  }
}

/** Refuses a folder to write to that is read from, too, also by way of links: what is written there would be the next source. */
async function apart(source: string, out: string): Promise<void> {
  const read = await wholePath(source);
  if ((await wholePath(resolve(out))) === read)
    refuse('watch.same', `${out} is the folder that is watched`, {
      accepted: `another folder, such as ${read}${sep}out`,
    });
}
