import type { Finding, ProjectRecord } from '@tolvik/core';
import type { FromChecker, Known, ToChecker } from './messages';

/** The page's side of the checks: a worker of their own that follows the document, up with the first look. */
export class Checker {
  private worker: Worker | null = null;
  private readonly waiting = new Map<number, (findings: Finding[]) => void>();
  private nextId = 1;

  constructor(private readonly records: () => Iterable<ProjectRecord>) {}

  apply(change: { puts: readonly ProjectRecord[]; removes: readonly string[] }): void {
    if (this.worker) this.send({ kind: 'apply', ...change });
  }

  /** What the checks find in the document as it is now. */
  check(known: Known): Promise<Finding[]> {
    const id = this.nextId++;
    return new Promise((resolve) => {
      this.waiting.set(id, resolve);
      this.send({ kind: 'check', id, ...known });
    });
  }

  close(): void {
    this.worker?.terminate();
    this.worker = null;
    this.waiting.clear();
  }

  private send(message: ToChecker): void {
    (this.worker ?? this.start()).postMessage(message);
  }

  private start(): Worker {
    const worker = new Worker(new URL('./checker.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<FromChecker>) => {
      this.waiting.get(data.id)?.(data.findings);
      this.waiting.delete(data.id);
    };
    this.worker = worker;
    this.send({ kind: 'open', records: [...this.records()] });
    return worker;
  }
}
