import { Worker } from 'node:worker_threads';
import { type Bounds, inkSteps, NoOutline, outlineOf, type Way } from '@tolvik/core';
import { WorkLimit } from '../time-used';
import { pathKernel } from './kernel';

/** One try: a composed SVG of light and dark shapes, of which the light ones within `page` are wanted as one path. */
export type Asked = { svg: string; page: Bounds; way: Way };

/** Answers path data in px. Rejects with `NoOutline`. */
export type Outliner = (asked: Asked) => Promise<string>;

/** In this thread, which a drawing may hold up. */
export const outlineHere: Outliner = async ({ svg, page, way }) =>
  outlineOf(inkSteps(svg), page, await pathKernel(), way).d;

/** What one try may work, and the thread's coming up. */
const LIMIT_MS = 2500;

/** What this process has worked, in ms of the processor's time, its threads too. */
const worked = () => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
};

export type Answer = { d: string } | { why: string; isFinal: boolean };

/**
 * In a thread of its own, started when it is first asked: nothing can stop the kernel from within, and some drawings keep
 * it busy for minutes. One question at a time. Rejects with `NoOutline`, also when the thread took too long.
 */
export function outlineInThread(path: string, limitMs = LIMIT_MS): Outliner {
  let thread: Worker | null = null;
  return (asked) =>
    new Promise((resolve, reject) => {
      const worker = (thread ??= new Worker(path));
      worker.ref();
      const end = (answer: Answer, isGone: boolean) => {
        clearTimeout(timer);
        worker.off('message', answered).off('error', broke).off('exit', ended);
        worker.unref();
        if (isGone) {
          thread = null;
          void worker.terminate();
        }
        if ('d' in answer) resolve(answer.d);
        else reject(new NoOutline(answer.why, answer.isFinal));
      };
      const answered = (answer: Answer) => end(answer, false);
      const broke = (error: Error) => end({ why: error.message, isFinal: false }, true);
      const ended = () => end({ why: 'the kernel ended its thread', isFinal: false }, true);
      // Whoever waits does not work, so that what the process works is the thread's.
      const limit = new WorkLimit(limitMs, worked);
      limit.begin();
      const look = () => {
        const left = limit.left();
        if (left > 0) timer = setTimeout(look, left);
        else end({ why: `it took longer than ${limitMs / 1000} s`, isFinal: false }, true);
      };
      let timer = setTimeout(look, limitMs);
      worker.on('message', answered).on('error', broke).on('exit', ended);
      worker.postMessage(asked);
    });
}
