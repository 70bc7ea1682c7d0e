/** Work of one key is done one after the other, in the order it was given; what fails does not hold what follows. */
export class InOrder {
  private readonly last = new Map<string, Promise<unknown>>();

  async run<T>(key: string, work: () => Promise<T>): Promise<T> {
    const now = (this.last.get(key) ?? Promise.resolve()).then(work);
    const quietly = now.catch(() => {});
    this.last.set(key, quietly);
    try {
      return await now;
    } finally {
      if (this.last.get(key) === quietly) this.last.delete(key);
    }
  }
}
