import { refuse } from '@tolvik/core';
import { WorkLimit, waitedMs, workedMs } from '@tolvik/render';
import { Piscina } from 'piscina';
import { Turns } from '../turns';
import type { ReadAnswer, ReadAnswers, ReadRequest, ReadTask } from './read-worker';

const TIMEOUT_MS = 15_000;
const MEMORY_MB = 1024;

/** A signal for when a thread has worked for too long at what it has; what the machine does beside it does not count. */
function afterWorking(thread: Int32Array): { signal: AbortSignal; done(): void } {
  const ended = new AbortController();
  const idOf = () => Atomics.load(thread, 0) || undefined;
  const limit = new WorkLimit(
    TIMEOUT_MS,
    () => {
      const worked = workedMs(idOf(), true);
      return worked === null ? null : worked - thread[1];
    },
    () => waitedMs(idOf(), true),
  );
  limit.begin();
  let timer: NodeJS.Timeout;
  const look = () => {
    const left = limit.left();
    if (left === 0) ended.abort();
    else timer = setTimeout(look, left);
  };
  look();
  return { signal: ended.signal, done: () => clearTimeout(timer) };
}

/** Reads files and large edits in worker threads that can be ended, so that a crafted one never holds the server up. */
export class Reader {
  private readonly threads: Piscina<ReadTask, ReadAnswer>;
  /** A file's time runs from when a thread has it, not from when it came. */
  private readonly turns: Turns;

  constructor(workerPath: string, threads: number) {
    this.threads = new Piscina({
      filename: workerPath,
      minThreads: 0,
      maxThreads: threads,
      idleTimeout: 10_000,
      resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB, stackSizeMb: 4 },
    });
    this.turns = new Turns(threads);
  }

  async read<K extends ReadRequest['kind']>(request: ReadRequest & { kind: K }): Promise<ReadAnswers[K]> {
    const { name } = request;
    const answer = await this.turns.take(() => {
      const thread = new Int32Array(new SharedArrayBuffer(8));
      const { signal, done } = afterWorking(thread);
      return this.threads
        .run({ ...request, thread }, { signal })
        .finally(done)
        .catch((error: Error & { code?: string }): ReadAnswer => {
          if (error.name === 'AbortError' || error.name === 'TimeoutError')
            return {
              problem: {
                code: 'read.time',
                message: `${name} takes longer than ${TIMEOUT_MS / 1000} s to read`,
                where: name,
                accepted: 'a lighter file',
              },
            };
          if (error.code === 'ERR_WORKER_OUT_OF_MEMORY')
            return {
              problem: {
                code: 'read.memory',
                message: `${name} takes more than ${MEMORY_MB} MB of memory to read`,
                where: name,
                accepted: 'a lighter file',
              },
            };
          return {
            problem: { code: 'read.failed', message: `${name} could not be read: ${error.message}`, where: name },
          };
        });
    });
    if ('problem' in answer) {
      const { code, message, ...rest } = answer.problem;
      return refuse(code, message, rest);
    }
    return answer as ReadAnswers[K];
  }

  close = () => this.threads.destroy();
}
