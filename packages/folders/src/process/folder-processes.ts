import { type ChildProcess, fork } from 'node:child_process';
import { type ReceiptFile, Refusal } from '@tolvik/core';
import pLimit from 'p-limit';
import type { FromFolderProcess, Kind, Question, ToFolderProcess, Work } from './messages';

/** One that is not heard of for so long while it works is stuck, in ms. */
const STUCK_MS = 30_000;
/** What one may take to come up, in ms: on a busy machine that takes long. */
const BOOT_MS = 120_000;
/** One that has nothing to do is kept for the next for so long, in ms. */
const IDLE_MS = 20_000;
const LOOK_MS = 500;
/** Processes at once beside those that hand over. */
const MOST_AT_ONCE = 8;
/** Files are opened and synced by so many threads of the process. */
const THREADS = 16;
const FOREVER = Number.MAX_SAFE_INTEGER;

/** What a writing asks of whoever wants it, and what it tells. A method that throws ends it, and so does the signal. */
export type WritingFor = {
  bytesOf(file: ReceiptFile): Promise<Uint8Array>;
  note(sha256: readonly string[]): Promise<void>;
  /** Until when files may be put there without asking again, as `Date.now()` tells it. Throws when no longer. */
  mayUntil(): Promise<number> | number;
  onWrite(done: number, of: number): void;
  signal: AbortSignal;
};

/**
 * Processes that work on folders, each on one at a time: a disk that does not answer, and what a stranger's files cost to
 * read, are theirs alone. One that is stuck or no longer wanted is ended.
 */
export class FolderProcesses {
  /** What somebody asks for waits in line; hand-overs are few by themselves. */
  private readonly inLine = pLimit(MOST_AT_ONCE);
  private readonly idle: { child: ChildProcess; timer: NodeJS.Timeout }[] = [];
  private readonly all = new Set<ChildProcess>();
  /** Those that were heard of: only they can be stuck. */
  private readonly up = new WeakSet<ChildProcess>();
  private closed = false;

  /** `childPath` is the built child, `dist/folder-child.mjs`. */
  constructor(
    private readonly childPath: string,
    private readonly stuckMs = STUCK_MS,
  ) {}

  look = (taken: Work['look']['asked']) => this.inLine(() => this.run('look', taken));
  take = (asked: Work['take']['asked']) => this.inLine(() => this.run('take', asked));
  drawings = (asked: Work['drawings']['asked']) => this.inLine(() => this.run('drawings', asked));
  where = (asked: Work['where']['asked']) => this.inLine(() => this.run('where', asked));
  bring = (asked: Work['bring']['asked'], writing: WritingFor) => this.run('bring', asked, writing);

  close(): void {
    this.closed = true;
    for (const { timer } of this.idle.splice(0)) clearTimeout(timer);
    for (const child of this.all) child.kill('SIGKILL');
  }

  private async run<K extends Kind>(
    kind: K,
    asked: Work[K]['asked'],
    writing?: WritingFor,
  ): Promise<Work[K]['answer']> {
    if (this.closed) throw stopped();
    writing?.signal.throwIfAborted();
    const until = (await writing?.mayUntil()) ?? FOREVER;
    const child = this.freeChild();
    let watch: NodeJS.Timeout | undefined;
    let onAbort = () => {};
    try {
      const answer = await new Promise<unknown>((resolve, reject) => {
        let heard = Date.now();
        // What it asks for and does not have yet is no standing still of the disk.
        let owed = 0;
        watch = setInterval(() => {
          if (owed > 0) heard = Date.now();
          if (Date.now() - heard > (this.up.has(child) ? this.stuckMs : BOOT_MS)) reject(stuck());
        }, LOOK_MS);
        onAbort = () => reject(writing?.signal.reason);
        writing?.signal.addEventListener('abort', onAbort);
        child.once('exit', () => reject(this.closed ? stopped() : gone()));
        child.once('error', reject);
        child.on('message', (message: FromFolderProcess) => {
          heard = Date.now();
          this.up.add(child);
          if ('ask' in message) {
            owed++;
            answerTo(message, writing as WritingFor)
              .then((reply) => tell(child, reply), reject)
              .finally(() => owed--);
          } else if ('alive' in message) {
            if (message.of !== undefined) writing?.onWrite(message.done ?? 0, message.of);
          } else if ('ended' in message) resolve(message.ended);
          else reject(asError(message.failed));
        });
        tell(child, { kind, asked, until } as ToFolderProcess);
      });
      this.keep(child);
      return answer as Work[K]['answer'];
    } catch (error) {
      // Whatever it was at is not done any more.
      child.kill('SIGKILL');
      throw error;
    } finally {
      clearInterval(watch);
      writing?.signal.removeEventListener('abort', onAbort);
      child.removeAllListeners('message');
    }
  }

  private freeChild(): ChildProcess {
    for (let kept = this.idle.pop(); kept; kept = this.idle.pop()) {
      clearTimeout(kept.timer);
      kept.child.removeAllListeners();
      kept.child.on('exit', () => this.all.delete(kept.child));
      if (kept.child.connected && kept.child.exitCode === null) return kept.child;
    }
    const child = fork(this.childPath, [], {
      serialization: 'advanced',
      execArgv: ['--max-old-space-size=1024'],
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      env: { PATH: process.env.PATH ?? '', NODE_ENV: 'production', UV_THREADPOOL_SIZE: String(THREADS) },
    });
    this.all.add(child);
    child.on('exit', () => this.all.delete(child));
    return child;
  }

  private keep(child: ChildProcess): void {
    if (this.closed) return void child.kill('SIGKILL');
    child.on('error', () => {});
    const timer = setTimeout(() => {
      this.idle.splice(
        this.idle.findIndex((each) => each.child === child),
        1,
      );
      child.kill('SIGKILL');
    }, IDLE_MS);
    timer.unref();
    this.idle.push({ child, timer });
  }
}

async function answerTo(question: Question, writing: WritingFor): Promise<ToFolderProcess> {
  const { n } = question;
  if (question.ask === 'note') await writing.note(question.sha256);
  const bytes = question.ask === 'bytes' ? await writing.bytesOf(question.file) : undefined;
  return { n, until: await writing.mayUntil(), ...(bytes && { bytes }) };
}

const tell = (child: ChildProcess, message: ToFolderProcess): void => void child.send(message, () => {});

function asError(failed: Extract<FromFolderProcess, { failed: unknown }>['failed']): Error {
  if ('problem' in failed) return new Refusal(failed.problem);
  return Object.assign(new Error(failed.message), failed.code ? { code: failed.code } : {});
}

const refusal = (code: string, message: string) => new Refusal({ code, message });
const stuck = () => refusal('receiver.stuck', 'the disk does not answer');
const gone = () => refusal('receiver.gone', 'what was writing to the folder was ended');
const stopped = () => refusal('receiver.closing', 'the server is stopping');
