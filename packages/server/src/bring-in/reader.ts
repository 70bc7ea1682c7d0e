import { type Problem, refuse } from '@tolvik/core';
import { Piscina } from 'piscina';
import type { ReadAnswer, ReadRequest } from './read-worker';

const TIMEOUT_MS = 30_000;

/** Reads files in worker threads that can be ended, so that a crafted one never holds the server up. */
export class Reader {
  private readonly threads: Piscina<ReadRequest, ReadAnswer>;

  constructor(workerPath: string) {
    this.threads = new Piscina({ filename: workerPath, minThreads: 0, maxThreads: 2, idleTimeout: 10_000, resourceLimits: { maxOldGenerationSizeMb: 1024 } });
  }

  async read(request: ReadRequest): Promise<Exclude<ReadAnswer, { problem: Problem }>> {
    const answer = await this.threads.run(request, { signal: AbortSignal.timeout(TIMEOUT_MS) }).catch((error: Error): ReadAnswer => {
      if (error.name === 'AbortError' || error.name === 'TimeoutError')
        return { problem: { code: 'svg.time', message: `${request.name} takes longer than ${TIMEOUT_MS / 1000} s to read`, where: request.name } };
      return { problem: { code: 'svg.failed', message: `${request.name} could not be read: ${error.message}`, where: request.name } };
    });
    if ('problem' in answer) {
      const { code, message, ...rest } = answer.problem;
      return refuse(code, message, rest);
    }
    return answer;
  }

  close = () => this.threads.destroy();
}
