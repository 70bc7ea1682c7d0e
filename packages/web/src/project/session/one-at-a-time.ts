/**
 * Work that may be asked for at any moment and is done once at a time: what is asked for while it is being done is done
 * again after it, once. Whoever asks waits for work that began after asking.
 */
export class OneAtATime {
  private asked = false;
  private running: Promise<void> | null = null;

  constructor(private readonly work: () => Promise<void>) {}

  /** Whether the work is being done. */
  get isBusy(): boolean {
    return this.running !== null;
  }

  /** Asks for the work; ends when it is done. Rejects as the work does; what was asked for in between stays asked for. */
  ask(): Promise<void> {
    this.asked = true;
    this.running ??= this.run();
    return this.running;
  }

  private async run(): Promise<void> {
    try {
      while (this.asked) {
        this.asked = false;
        await this.work();
      }
    } finally {
      // In the same step as the last look at `asked`: nobody can ask in between and be forgotten.
      this.running = null;
    }
  }
}
