/** So many at once; who comes later waits for a turn, in the order of coming. */
export class Turns {
  private readonly waiting: (() => void)[] = [];

  constructor(private free: number) {}

  async with<T>(work: () => Promise<T>): Promise<T> {
    if (this.free > 0) this.free--;
    else await new Promise<void>((resolve) => this.waiting.push(resolve));
    try {
      return await work();
    } finally {
      const next = this.waiting.shift();
      if (next) next();
      else this.free++;
    }
  }
}
