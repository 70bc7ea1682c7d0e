import { refuse } from '@tolvik/core';

/** Lets so many work at once; others wait in line, up to a number of them. */
export class Turns {
  private working = 0;
  private readonly line: (() => void)[] = [];

  constructor(
    private readonly atOnce: number,
    private readonly mostWaiting = Number.POSITIVE_INFINITY,
  ) {}

  /** Does the work when its turn comes; refuses with `busy` when too many wait. */
  async take<T>(work: () => Promise<T>): Promise<T> {
    if (this.working >= this.atOnce) {
      if (this.line.length >= this.mostWaiting)
        refuse('busy', 'too many uploads are under way at the moment', { accepted: 'the same again in a moment' });
      await new Promise<void>((resolve) => this.line.push(resolve));
    } else this.working++;
    try {
      return await work();
    } finally {
      const next = this.line.shift();
      if (next) next();
      else this.working--;
    }
  }
}
