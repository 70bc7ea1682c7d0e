import { type ChildProcess, fork } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { dirname } from 'node:path';
import type { Rendered, RenderJob } from '../job';
import { WorkLimit, waitedMs, workedMs } from '../time-used';
import type { FromChild, ToChild } from './messages';

export type PoolOptions = {
  /** The built render child, `dist/render-child.mjs`. */
  childPath: string;
  /** How many processes; one a core by default. */
  size?: number;
  /** How many files one process has before another is started; 1 by default. Who makes few files waits for fewer to come up. */
  fewest?: number;
  /** How long one file may take. */
  timeoutMs?: number;
  /** How much memory one process may hold, in MB; where /proc exists it is looked at while a file is made. */
  memoryMb?: number;
};

/** Why a file could not be made. `code` is for programs, the message for people. */
export class RenderError extends Error {
  constructor(
    readonly code: 'failed' | 'timeout' | 'memory' | 'crashed' | 'stopped',
    message: string,
  ) {
    super(message);
    this.name = 'RenderError';
  }
}

/** `high`: somebody is looking at it; `normal`: an export; `low`: made ahead of need. */
export type Priority = 'high' | 'normal' | 'low';

type Task = {
  id: number;
  job: RenderJob;
  resolve(result: Rendered): void;
  reject(error: RenderError): void;
  priority: Priority;
  /** For whom it is made: who has slow files gets no process that was started so that others need not wait. */
  owner: string;
  signal?: AbortSignal;
  /** It was lost with others once, so now it is made by itself: if it is lost again, it is to blame. */
  alone?: boolean;
};

type Worker = {
  child: ChildProcess;
  tasks: Task[];
  /** When what it works on was begun, as far as it said; null while it has nothing or comes up. */
  startedAt: number | null;
  /** What the file under way may work, and since when that is counted. */
  limit: WorkLimit;
  counted: number | null;
  idleSince: number;
  /** What it has been drawing for so long that nothing may wait behind it. */
  slow: Task | null;
  /** Started beyond the pool's size because all others were slow. */
  spare: boolean;
  retired: boolean;
};

/** Jobs handed to a process ahead, so that it never waits for the next, and how few it may have before it gets more. */
const AHEAD = 12;
const REFILL_BELOW = 6;
/** Made ahead of need: few at a time, so that somebody who waits comes soon. */
const AHEAD_OF_NEED = 3;
/** Processes that may be started while all others are drawing something slow. */
const SPARES = 2;
const WATCH_MS = 200;
/**
 * One process a core: the engine's helping threads would only take turns with what the others draw, which cost a third
 * of the time. Little of what a file leaves behind outlives it, so that a large nursery is rarely copied.
 */
const ON_ONE_CORE = ['--single-threaded', '--max-semi-space-size=32'];
/** What a process may take to come up or to take its next job, on top of a file's time. */
const BOOT_MS = 30_000;

/**
 * Child processes that render. A file that takes too long or too much memory takes its process with
 * it; the other jobs that process had are given to the next, and the pool goes on. Nothing waits behind a slow
 * file: its process gives back what it has, and when all are slow a spare one is started for other owners.
 */
export class RenderPool {
  private readonly waiting: Record<Priority, Task[]> = { high: [], normal: [], low: [] };
  private readonly workers: Worker[] = [];
  private readonly size: number;
  private readonly fewest: number;
  private readonly timeoutMs: number;
  private readonly memoryMb: number;
  /** Owners for whom nothing is begun ahead of need, until the timer ends it. */
  private readonly held = new Map<string, NodeJS.Timeout>();
  private nextId = 1;
  private closed = false;
  private readonly watch: NodeJS.Timeout;
  private readonly confined: readonly string[];

  constructor(private readonly options: PoolOptions) {
    this.size = options.size ?? availableParallelism();
    this.fewest = options.fewest ?? 1;
    this.timeoutMs = options.timeoutMs ?? 20_000;
    this.memoryMb = options.memoryMb ?? 1536;
    this.confined = confinement(options.childPath);
    this.watch = setInterval(() => this.check(), WATCH_MS);
    this.watch.unref();
  }

  /** Makes one file for an owner (a project). Rejects with a `RenderError`. An aborted signal takes it out of the line. */
  render(job: RenderJob, priority: Priority = 'normal', signal?: AbortSignal, owner = ''): Promise<Rendered> {
    if (this.closed) return Promise.reject(new RenderError('stopped', 'rendering has stopped'));
    return new Promise((resolve, reject) => {
      this.waiting[priority].push({ id: this.nextId++, job, priority, owner, resolve, reject, signal });
      this.dispatch();
    });
  }

  /** Starts every process now, so that the first files do not wait for them. */
  warmUp(): void {
    while (this.workers.length < this.size) this.start();
  }

  /** Begins nothing for an owner ahead of need for so long, from now: somebody needs the machine. */
  holdAhead(owner: string, ms: number): void {
    clearTimeout(this.held.get(owner));
    const timer = setTimeout(() => {
      this.held.delete(owner);
      this.dispatch();
    }, ms);
    timer.unref();
    this.held.set(owner, timer);
  }

  async close(): Promise<void> {
    this.closed = true;
    clearInterval(this.watch);
    for (const timer of this.held.values()) clearTimeout(timer);
    const stopped = () => new RenderError('stopped', 'rendering has stopped');
    for (const line of Object.values(this.waiting)) for (const task of line.splice(0)) task.reject(stopped());
    await Promise.all(
      this.workers.splice(0).map(
        (worker) =>
          new Promise<void>((resolve) => {
            worker.retired = true;
            for (const task of worker.tasks.splice(0)) task.reject(stopped());
            worker.child.once('exit', () => resolve());
            worker.child.kill('SIGKILL');
          }),
      ),
    );
  }

  private dispatch(): void {
    if (this.closed) return;
    const batches = new Map<Worker, Task[]>();
    for (;;) {
      const worker = this.readiest();
      const task = worker && this.nextFor(worker);
      if (!worker || !task) break;
      if (worker.tasks.length === 0) worker.idleSince = Date.now();
      worker.tasks.push(task);
      batches.set(worker, [...(batches.get(worker) ?? []), task]);
    }
    for (const [worker, tasks] of batches) tell(worker, { jobs: tasks.map(({ id, job }) => ({ id, job })) });
  }

  /** The process with the least to do that may get more; a new one while there are fewer than wanted. */
  private readiest(): Worker | null {
    const { high, normal, low } = this.waiting;
    if (high.length + normal.length + low.length === 0) return null;
    let best: Worker | null = null;
    for (const worker of this.workers) {
      const closed =
        worker.slow || worker.tasks.some((task) => task.alone) || (worker.spare && !this.forSpare(high, normal, low));
      if (!closed && (!best || worker.tasks.length < best.tasks.length)) best = worker;
    }
    if ((!best || best.tasks.length >= this.fewest) && this.workers.length < this.size) return this.start();
    if (
      !best &&
      this.workers.every(({ slow }) => slow) &&
      this.workers.length < this.size + SPARES &&
      this.forSpare(high, normal, low)
    )
      return this.start(true);
    return best;
  }

  private nextFor({ tasks, spare }: Worker): Task | null {
    const { high, normal, low } = this.waiting;
    for (;;) {
      const line = spare ? this.forSpare(high, normal, low) : high.length > 0 ? high : normal.length > 0 ? normal : low;
      const room = line === low ? AHEAD_OF_NEED : AHEAD;
      const at = (line ?? []).findIndex(
        (task) => (!spare || this.mayUseSpare(task)) && (line !== low || !this.held.has(task.owner)),
      );
      const task = line?.[at];
      if (!line || !task || tasks.length >= room || (task.alone && tasks.length > 0)) return null;
      line.splice(at, 1);
      if (!task.signal?.aborted) return task;
      task.reject(new RenderError('stopped', 'it was called off'));
    }
  }

  /** The first line in which something waits for an owner that keeps no process busy. */
  private forSpare = (...lines: Task[][]): Task[] | undefined =>
    lines.find((line) => line.some((task) => this.mayUseSpare(task)));

  private mayUseSpare = ({ owner }: Task): boolean => !this.workers.some(({ slow }) => slow?.owner === owner);

  private start(spare = false): Worker {
    const child = fork(this.options.childPath, [], {
      serialization: 'advanced',
      execArgv: ['--max-old-space-size=1024', ...ON_ONE_CORE, ...this.confined],
      stdio: ['ignore', 'pipe', 'ignore', 'ipc'],
      env: {
        PATH: process.env.PATH ?? '',
        NODE_ENV: 'production',
        UV_THREADPOOL_SIZE: '1',
        TOLVIK_PARENT: String(process.pid),
      },
    });
    const worker: Worker = {
      child,
      tasks: [],
      startedAt: null,
      limit: new WorkLimit(
        this.timeoutMs,
        () => workedMs(child.pid),
        () => waitedMs(child.pid),
      ),
      counted: null,
      idleSince: Date.now(),
      slow: null,
      spare,
      retired: false,
    };
    this.workers.push(worker);
    child.stdout
      ?.setEncoding('latin1')
      .on('data', (text: string) => this.isSlow(worker, Number(text.trim().split('\n').at(-1))))
      .on('error', () => {});
    child.on('message', (message: FromChild) => this.hear(worker, message));
    child.on('error', () => this.lost(worker, new RenderError('crashed', 'the render process could not be reached')));
    child.on('exit', () => this.lost(worker, new RenderError('crashed', 'drawing it ended the render process')));
    return worker;
  }

  private hear(worker: Worker, { results, started }: FromChild): void {
    worker.startedAt = started === undefined ? null : Date.now();
    worker.idleSince = Date.now();
    for (const result of results) {
      const at = worker.tasks.findIndex((task) => task.id === result.id);
      if (at < 0) continue;
      const [task] = worker.tasks.splice(at, 1);
      if ('failure' in result) task.reject(new RenderError('failed', result.failure));
      else {
        const { bytes, measured } = result;
        task.resolve({ bytes: Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength), measured });
      }
    }
    if (worker.slow && !worker.tasks.includes(worker.slow)) worker.slow = null;
    if (worker.spare && worker.tasks.length === 0 && this.workers.filter(({ slow }) => !slow).length > 1)
      this.retire(worker);
    if (worker.tasks.length < REFILL_BELOW) this.dispatch();
  }

  /** A process has been drawing one file for a while: what it got ahead goes to others. */
  private isSlow(worker: Worker, id: number): void {
    const slow = worker.tasks.find((task) => task.id === id);
    if (!slow || worker.retired) return;
    worker.slow = slow;
    const others = worker.tasks.filter((task) => task !== slow);
    worker.tasks = [slow];
    tell(worker, { back: others.map((task) => task.id) });
    for (const task of others.reverse()) this.waiting[task.priority].unshift(task);
    this.dispatch();
  }

  private retire(worker: Worker): void {
    worker.retired = true;
    this.workers.splice(this.workers.indexOf(worker), 1);
    worker.child.kill('SIGKILL');
  }

  /**
   * A process is gone with what it had. A single file that took too much is to blame; else nobody knows which
   * was, or whether any, so each is made again by itself, before all others.
   */
  private lost(worker: Worker, error: RenderError): void {
    if (worker.retired) return;
    worker.retired = true;
    const at = this.workers.indexOf(worker);
    if (at >= 0) this.workers.splice(at, 1);
    const tasks = worker.tasks.splice(0);
    // One that ended by itself with a single file may have been ended from outside, so that is tried once more.
    const known = tasks.length === 1 && (tasks[0].alone || error.code !== 'crashed');
    if (known) tasks[0].reject(error);
    else this.waiting.high.unshift(...tasks.map((task) => ({ ...task, alone: true })));
    this.dispatch();
  }

  private check(): void {
    for (const worker of [...this.workers]) {
      if (worker.tasks.length === 0) continue;
      let error: RenderError | null = null;
      const since = worker.startedAt ?? worker.idleSince + BOOT_MS;
      if (worker.counted !== since) {
        worker.counted = since;
        worker.limit.begin();
      }
      if (Date.now() - since > this.timeoutMs && worker.limit.left() === 0)
        error = new RenderError('timeout', `drawing it took longer than ${this.timeoutMs / 1000} s`);
      else if (residentMb(worker.child.pid) > this.memoryMb)
        error = new RenderError('memory', `drawing it took more than ${this.memoryMb} MB`);
      if (!error) continue;
      this.lost(worker, error);
      worker.child.kill('SIGKILL');
    }
  }
}

/** Sends a process something; one that is just going is noticed by its end. */
const tell = ({ child }: Worker, message: ToChild): void => void child.send(message, () => {});

/**
 * What Node.js lets a render process do with its permission model: read the code it runs, and nothing else; write
 * nothing, start nothing. The libraries written in other languages are not held by it; `guard` is for them.
 */
function confinement(childPath: string): string[] {
  const known = process.allowedNodeEnvironmentFlags;
  const flag = ['--permission', '--experimental-permission'].find((each) => known.has(each));
  if (!flag || !known.has('--allow-addons')) return [];
  const readable = [`${dirname(childPath)}/`];
  for (let folder = dirname(dirname(childPath)); ; folder = dirname(folder)) {
    for (const path of [`${folder}/node_modules/`, `${folder}/package.json`]) if (existsSync(path)) readable.push(path);
    if (folder === dirname(folder)) break;
  }
  return [flag, '--allow-addons', '--allow-worker', ...readable.map((path) => `--allow-fs-read=${path}`)];
}

/** Resident memory of a process in MB; 0 where it cannot be read. */
function residentMb(pid: number | undefined): number {
  if (!pid) return 0;
  try {
    return (Number(readFileSync(`/proc/${pid}/statm`, 'latin1').split(' ')[1]) * 4096) / 1_048_576;
  } catch {
    return 0;
  }
}
