import { refuse } from '@tolvik/core';
import { Piscina } from 'piscina';
import { Turns } from '../turns';
import type { ReadAnswer, ReadAnswers, ReadRequest } from './read-worker';

const TIMEOUT_MS = 15_000;
const MEMORY_MB = 1024;

/** Reads files and large edits in worker threads that can be ended, so that a crafted one never holds the server up. */
export class Reader {
  private readonly threads: Piscina<ReadRequest, ReadAnswer>;
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
    const answer = await this.turns.take(() =>
      this.threads
        .run(request, { signal: AbortSignal.timeout(TIMEOUT_MS) })
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
        }),
    );
    if ('problem' in answer) {
      const { code, message, ...rest } = answer.problem;
      return refuse(code, message, rest);
    }
    return answer as ReadAnswers[K];
  }

  close = () => this.threads.destroy();
}
