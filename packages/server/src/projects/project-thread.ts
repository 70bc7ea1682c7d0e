import { Worker } from 'node:worker_threads';
import { type Problem, Refusal } from '@tolvik/core';
import { WorkLimit, waitedMs, workedMs } from '@tolvik/render';
import { type FromThread, type ToThread, UP, type WorkName, type Works } from './project-work';

export type ThreadLimits = {
  /** The built worker, `dist/project-worker.mjs`. */
  workerPath: string;
  /** A module path that sees the font packages. */
  modulePath: string;
  /** How long it may work for one answer, in s of the processor's time. */
  seconds: number;
  /** How much one project may hold, in MB. */
  memoryMb: number;
};

/** How long a thread may take to come up, however busy the machine is. */
const BOOT_MS = 60_000;

/** The thread went for no fault of who asked: it was let go to make room, or fell over. The same may go well in a new one. */
export class ThreadGone extends Error {}

type Pending = { resolve(answer: unknown): void; reject(error: Error): void };

/**
 * What a thread holds before it holds a project, and what each character of its records takes at the most, in bytes:
 * up to 3.5 were measured, for records of all kinds, from 64 to 512 MB.
 */
const HEAP_AT_REST = 20 * 1_048_576;
const HEAP_FOR_EACH = 4;

/**
 * A thread with one project in it. Work is done one after the other; what takes too long or too much memory ends
 * the thread, and all who waited for it are told that the project is too heavy.
 */
export class ProjectThread {
  private readonly worker: Worker;
  private readonly pending = new Map<number, Pending>();
  private nextId = 1;
  private timer: NodeJS.Timeout | undefined;
  private up = false;
  /** What the system calls it, by which its time is told from that of others; null where it has no such name. */
  private threadId: number | null = null;
  private readonly limit: WorkLimit;
  /** Set once the thread has ended; why, when it was for what the project asked of it. */
  ended: { problem?: Problem } | null = null;
  /** What its heap held after its last answer. */
  heapBytes = 0;

  constructor(private readonly limits: ThreadLimits) {
    this.limit = new WorkLimit(
      limits.seconds * 1000,
      () => workedMs(this.threadId ?? undefined, true),
      () => waitedMs(this.threadId ?? undefined, true),
    );
    this.worker = new Worker(limits.workerPath, {
      workerData: { modulePath: limits.modulePath },
      resourceLimits: { maxOldGenerationSizeMb: limits.memoryMb, maxYoungGenerationSizeMb: 64, stackSizeMb: 4 },
      env: { NODE_ENV: process.env.NODE_ENV ?? 'production' },
    });
    this.worker.unref();
    this.worker.on('message', (message: FromThread) => this.hear(message));
    this.worker.on('error', (error: Error & { code?: string }) =>
      this.end(
        error.code === 'ERR_WORKER_OUT_OF_MEMORY'
          ? this.tooHeavy(`more than ${limits.memoryMb} MB of memory`)
          : undefined,
        error,
      ),
    );
    this.worker.on('exit', () => this.end(undefined));
  }

  get busy(): boolean {
    return this.pending.size > 0;
  }

  /** When it was last asked for something. */
  askedAt = Date.now();

  ask<K extends WorkName>(name: K, ask: Works[K]['ask'], transfer: ArrayBuffer[] = []): Promise<Works[K]['answer']> {
    if (this.ended) return Promise.reject(this.ended.problem ? new Refusal(this.ended.problem) : gone());
    this.askedAt = Date.now();
    if (name === 'stage' && this.isTooLong((ask as Works['stage']['ask']).records)) {
      const problem = this.tooHeavy(`more than ${this.limits.memoryMb} MB of memory`);
      this.end(problem);
      return Promise.reject(new Refusal(problem));
    }
    return new Promise((resolve, reject) => {
      const id = this.nextId++;
      this.pending.set(id, { resolve: resolve as (answer: unknown) => void, reject });
      if (this.pending.size === 1) this.startClock();
      this.worker.postMessage({ id, name, ask } satisfies ToThread, transfer);
    });
  }

  /** Whether records would not fit. Reading JSON is one step for the engine: out of memory in it, the process ends and not the thread. */
  private isTooLong(records: string): boolean {
    const held = Math.max(HEAP_AT_REST, this.heapBytes);
    return held + records.length * HEAP_FOR_EACH > this.limits.memoryMb * 1_048_576;
  }

  /** Ends the thread; who still waits is told that it ended. */
  async close(): Promise<void> {
    this.end(undefined);
    await this.worker.terminate();
  }

  private startClock(): void {
    this.limit.begin();
    // Coming up is not the project's time.
    this.lookAfter(this.limit.left() + (this.up ? 0 : BOOT_MS));
  }

  /** Ends the thread once it has worked for too long, and looks again while it has not. */
  private lookAfter(ms: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      const left = this.limit.left();
      if (left > 0) this.lookAfter(left);
      else this.end(this.tooHeavy(`longer than ${this.limits.seconds} s`));
    }, ms);
    this.timer.unref();
  }

  private hear(message: FromThread): void {
    const { id, heapBytes } = message;
    this.heapBytes = heapBytes;
    if (id === UP) {
      this.up = true;
      this.threadId = 'answer' in message ? (message.answer as number | null) : null;
      if (this.pending.size > 0) this.startClock();
      return;
    }
    const waiting = this.pending.get(id);
    this.pending.delete(id);
    if (this.pending.size > 0) this.startClock();
    else clearTimeout(this.timer);
    if ('answer' in message) waiting?.resolve(message.answer);
    else if ('problem' in message) waiting?.reject(new Refusal(message.problem));
    else waiting?.reject(new Error(message.error));
  }

  private tooHeavy(what: string): Problem {
    return {
      code: 'project.heavy',
      message: `this project's drawing takes ${what} to work out; take out what is heavy in it, such as clips within clips, very long text or very long paths`,
      accepted: 'a lighter drawing',
    };
  }

  private end(problem: Problem | undefined, error?: Error): void {
    if (this.ended) return;
    this.ended = { problem };
    clearTimeout(this.timer);
    for (const { reject } of this.pending.values()) reject(problem ? new Refusal(problem) : gone(error));
    this.pending.clear();
    void this.worker.terminate();
  }
}

const gone = (cause?: Error): ThreadGone =>
  new ThreadGone(`the project is not at hand at the moment${cause ? `: ${cause.message}` : ''}`);
