/** Pauses before a worker that failed is started again. */
const PAUSES_MS = [500, 2000, 5000, 15_000, 30_000];

/**
 * A worker that is started with the first message, and again when it fails to load or falls over. `begin` is sent
 * first each time; what was under way is told by `onLost`, and why it failed, once a row, by `onTrouble`.
 */
export class LastingWorker<To, From> {
  private worker: Worker | null = null;
  private failures = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private closed = false;

  constructor(
    private readonly create: () => Worker,
    private readonly on: { begin(): To; message(message: From): void; lost(): void; trouble(again: boolean): void },
  ) {}

  get running(): boolean {
    return this.worker !== null;
  }

  /** Sends, and starts the worker for it; while one that failed waits to be started again, nothing is sent. */
  send(message: To): void {
    if (this.closed || this.timer !== undefined) return;
    if (!this.worker) this.start();
    this.worker?.postMessage(message);
  }

  /** The worker says that something it needs did not load. */
  failed(): void {
    if (this.closed || !this.worker) return;
    this.worker.terminate();
    this.worker = null;
    this.on.trouble(this.failures > 0);
    const pause = PAUSES_MS[Math.min(this.failures++, PAUSES_MS.length - 1)];
    this.timer = setTimeout(() => {
      this.timer = undefined;
      this.on.lost();
    }, pause);
  }

  /** Ends what the worker is at, whatever that is; it begins anew at once. */
  restart(): void {
    if (this.closed || !this.worker) return;
    this.worker.terminate();
    this.worker = null;
    this.on.lost();
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.timer);
    this.worker?.terminate();
    this.worker = null;
  }

  private start(): void {
    const worker = this.create();
    this.worker = worker;
    worker.onmessage = ({ data }: MessageEvent<From>) => {
      this.failures = 0;
      this.on.message(data);
    };
    worker.onerror = (event) => {
      event.preventDefault?.();
      if (this.worker === worker) this.failed();
    };
    worker.postMessage(this.on.begin());
  }
}
