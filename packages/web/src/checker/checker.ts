import type { ProjectRecord } from '@tolvik/core';
import { LastingWorker } from '../painter/lasting-worker';
import type { FromChecker, Known, Look, ToChecker } from './messages';

/** The page's side of the checks: a worker of their own that follows the document, up with the first look. */
export class Checker {
  private readonly worker: LastingWorker<ToChecker, FromChecker>;
  private readonly waiting = new Map<number, { known: Known; settle(look: Look): void }>();
  private nextId = 1;

  constructor(records: () => Iterable<ProjectRecord>) {
    const create = () => new Worker(new URL('./checker.worker.ts', import.meta.url), { type: 'module' });
    this.worker = new LastingWorker<ToChecker, FromChecker>(create, {
      begin: () => ({ kind: 'open', records: [...records()] }),
      message: ({ id, ...look }) => {
        this.waiting.get(id)?.settle(look);
        this.waiting.delete(id);
      },
      lost: () => {
        for (const [id, { known }] of this.waiting) this.send({ kind: 'check', id, ...known });
      },
      trouble: () => {},
    });
  }

  apply(change: { puts: readonly ProjectRecord[]; removes: readonly string[] }): void {
    if (this.worker.running) this.send({ kind: 'apply', ...change });
  }

  /** What the checks find in the document as it is now. */
  check(known: Known): Promise<Look> {
    const id = this.nextId++;
    return new Promise((resolve) => {
      this.waiting.set(id, { known, settle: resolve });
      this.send({ kind: 'check', id, ...known });
    });
  }

  close(): void {
    this.worker.close();
    this.waiting.clear();
  }

  private send(message: ToChecker): void {
    this.worker.send(message);
  }
}
