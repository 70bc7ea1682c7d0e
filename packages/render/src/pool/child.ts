import { constants, setPriority } from 'node:os';
import { Worker } from 'node:worker_threads';
import sharp from 'sharp';
import { renderFile } from '../render-file';
import type { FromChild, Result, ToChild } from './messages';

/**
 * A render process: takes jobs one after the other and answers with bytes or with why not. It has no
 * network, no database and no files; if a file takes it down, only it goes.
 */

// Whoever looks at a window on this machine comes first.
setPriority(constants.priority.PRIORITY_BELOW_NORMAL);

// Who drew for a server that is gone ends too, even in the middle of a drawing: a thread of its own looks.
const parent = Number(process.env.TOLVIK_PARENT ?? process.ppid);
new Worker(`setInterval(() => process.ppid !== ${parent} && process.kill(process.pid, 'SIGKILL'), 500)`, { eval: true }).unref();

// One file at a time on one core: more threads would only take turns.
sharp.concurrency(1);
sharp.cache(false);

/** Results wait for each other at the most this long. */
const BATCH_MS = 8;

const queue: ToChild = [];
let busy = false;

const send = (message: FromChild) => process.send?.(message);

async function work(): Promise<void> {
  if (busy) return;
  busy = true;
  let results: Result[] = [];
  let sentAt = 0;
  for (let next = queue.shift(); next; next = queue.shift()) {
    if (performance.now() - sentAt > BATCH_MS) {
      send({ results, started: next.id });
      results = [];
      sentAt = performance.now();
    }
    try {
      results.push({ id: next.id, ...(await renderFile(next.job)) });
    } catch (error) {
      results.push({ id: next.id, failure: error instanceof Error ? error.message : String(error) });
    }
  }
  send({ results });
  busy = false;
}

process.on('message', (jobs: ToChild) => {
  queue.push(...jobs);
  void work();
});
process.on('disconnect', () => process.exit(0));
// The parent decides when to stop; a Ctrl+C in the terminal reaches it too.
process.on('SIGINT', () => {});
