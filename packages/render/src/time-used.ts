import { readFileSync, readlinkSync } from 'node:fs';
import { basename } from 'node:path';

/** Ticks of a second in `/proc` (proc_pid_stat(5)): 100 on every Linux. */
const TICKS = 100;

/**
 * How long a process has worked, in ms of the processor's time; of a thread of this process with `thread`. Null where
 * the machine does not tell.
 */
export function workedMs(id: number | undefined, thread = false): number | null {
  if (id === undefined) return null;
  try {
    const stat = readFileSync(thread ? `/proc/self/task/${id}/stat` : `/proc/${id}/stat`, 'latin1');
    // What it is called stands in brackets, and may hold any letters.
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    return ((Number(fields[11]) + Number(fields[12])) * 1000) / TICKS;
  } catch {
    return null;
  }
}

/**
 * How long a process, or with `thread` a thread of this one, was ready to work while others had the processor, in ms
 * (`schedstat`, sched-stats in Linux's documentation). 0 where the machine does not tell.
 */
export function waitedMs(id: number | undefined, thread = false): number {
  if (id === undefined) return 0;
  try {
    const stat = readFileSync(thread ? `/proc/self/task/${id}/schedstat` : `/proc/${id}/schedstat`, 'latin1');
    return Number(stat.split(' ')[1]) / 1e6 || 0;
  } catch {
    return 0;
  }
}

/** What the system calls the thread that asks; null where it has no such name. */
export function ownThreadId(): number | null {
  try {
    return Number(basename(readlinkSync('/proc/thread-self')));
  } catch {
    return null;
  }
}

/** How many times as long as it may work something may take in all, on a machine that is busy with other things. */
const WAITS = 6;

/**
 * A limit on what something may work: on a busy machine what is light takes long, too, so it is the processor's time
 * that counts. What does not work at all is ended after `WAITS` times the limit, not counting how long it stood in line
 * for a processor.
 */
export class WorkLimit {
  private begun = Date.now();
  private worked = 0;
  private waited = 0;

  constructor(
    private readonly limitMs: number,
    /** How long it has worked by now, in ms; null where that is not known. */
    private readonly now: () => number | null,
    /** How long it has stood in line by now, in ms. */
    private readonly inLine: () => number = () => 0,
  ) {}

  /** Counts from now on. */
  begin(): void {
    this.begun = Date.now();
    this.worked = this.now() ?? 0;
    this.waited = this.inLine();
  }

  /** How many ms are left before it has to be looked at again; 0 when it has taken too long. */
  left(): number {
    const took = Date.now() - this.begun;
    if (took < this.limitMs) return this.limitMs - took;
    const worked = this.now();
    if (worked === null || took - (this.inLine() - this.waited) >= WAITS * this.limitMs) return 0;
    return Math.max(0, this.limitMs - (worked - this.worked));
  }
}
