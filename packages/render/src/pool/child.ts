import { constants, setPriority } from 'node:os';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import sharp from 'sharp';
import type { RenderJob } from '../job';
import { outlineInThread } from '../outlines/outliner';
import { renderFile } from '../render-file';
import type { FromChild, Result, ToChild } from './messages';

/**
 * A render process: takes jobs one after the other and answers with bytes or with why not. It has no
 * network, no database and no files; if a file takes it down, only it goes.
 */

/** A file that is still being made at the second look is slow. */
const LOOK_MS = 500;

// Whoever looks at a window on this machine comes first.
setPriority(constants.priority.PRIORITY_BELOW_NORMAL);

/** The job under way, for the thread that looks; 0 for none. */
const current = new Int32Array(new SharedArrayBuffer(4));

// Drawing stops this thread, so another one looks: who drew for a server that is gone ends too, even in the middle of
// a drawing, and a file that is slow is told by a line of its own, so that nothing has to wait behind it.
const parent = Number(process.env.TOLVIK_PARENT ?? process.ppid);
const look = `
  const { workerData: current } = require('node:worker_threads');
  const { writeSync } = require('node:fs');
  let last = 0;
  let told = 0;
  setInterval(() => {
    if (process.ppid !== ${parent}) process.kill(process.pid, 'SIGKILL');
    const now = Atomics.load(current, 0);
    if (now !== 0 && now === last && now !== told) {
      told = now;
      try { writeSync(1, now + '\\n'); } catch {}
    }
    last = now;
  }, ${LOOK_MS})`;
new Worker(look, { eval: true, workerData: current }).unref();

// One file at a time on one core: more threads would only take turns.
sharp.concurrency(1);
sharp.cache(false);

/** What depends on a drawing and cannot be stopped has a thread, which can. */
const outliner = outlineInThread(fileURLToPath(new URL('./outline-thread.mjs', import.meta.url)));

/** What every first file of a process costs besides itself is spent before any is begun: it is no file's own. */
const FIRST: RenderJob = {
  svg: '<svg xmlns="http://www.w3.org/2000/svg" width="8" height="8" viewBox="0 0 8 8"><path d="M1 1h6v6z"/></svg>',
  settings: { format: 'png', effort: 'faster' },
  widthPx: 8,
  heightPx: 8,
  dpi: 96,
  ground: null,
};
let ready: Promise<unknown> | null = null;

/** Results wait for each other at the most this long. */
const BATCH_MS = 8;

let queue: NonNullable<ToChild['jobs']> = [];
let busy = false;

const send = (message: FromChild) => process.send?.(message);

async function work(): Promise<void> {
  if (busy) return;
  busy = true;
  ready ??= renderFile(FIRST).catch(() => {});
  await ready;
  let results: Result[] = [];
  let sentAt = 0;
  for (let next = queue.shift(); next; next = queue.shift()) {
    if (performance.now() - sentAt > BATCH_MS) {
      send({ results, started: next.id });
      results = [];
      sentAt = performance.now();
    }
    Atomics.store(current, 0, next.id);
    try {
      results.push({ id: next.id, ...(await renderFile(next.job, outliner)) });
    } catch (error) {
      results.push({ id: next.id, failure: error instanceof Error ? error.message : String(error) });
    }
  }
  Atomics.store(current, 0, 0);
  send({ results });
  busy = false;
}

process.on('message', ({ jobs = [], back = [] }: ToChild) => {
  if (back.length > 0) queue = queue.filter(({ id }) => !back.includes(id));
  queue.push(...jobs);
  void work();
});
process.on('disconnect', () => process.exit(0));
// The parent decides when to stop; a Ctrl+C in the terminal reaches it too.
process.on('SIGINT', () => {});
