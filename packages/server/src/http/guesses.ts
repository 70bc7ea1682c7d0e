import { LRUCache } from 'lru-cache';

/** Tries of an address that cost nothing, and the longest that it has to wait after more of them, in s. */
const FREE_TRIES = 5;
const LONGEST_WAIT_S = 300;
/** Wrong keys of all addresses together in a minute, before those that nobody knows have to wait. */
const MOST_A_MINUTE = 60;
const MINUTE_MS = 60_000;
/** Tries of a known place that are looked at in a second; more of them wait in line, up to so many. */
const A_SECOND = 10;
const MOST_IN_LINE = 100;

/**
 * Limits guessing, of each address and of all together. A place where the key was right before is never refused for what
 * others tried: its tries are looked at one after the other, so many a second, however many wrong ones came before.
 */
export class Guesses {
  private readonly tries = new LRUCache<string, { failed: number; until: number }>({ max: 50_000, ttl: 3_600_000 });
  private readonly lines = new LRUCache<string, { free: number; waiting: number }>({ max: 10_000, ttl: MINUTE_MS });
  private readonly wrong: number[] = [];

  constructor(private readonly now: () => number = Date.now) {}

  /** How many seconds an address that nobody knows has to wait before its next try; 0 for none. */
  waitS(address: string): number {
    const now = this.now();
    while (this.wrong.length > 0 && this.wrong[0] <= now - MINUTE_MS) this.wrong.shift();
    const ofAll =
      this.wrong.length < MOST_A_MINUTE ? 0 : this.wrong[this.wrong.length - MOST_A_MINUTE] + MINUTE_MS - now;
    return Math.ceil(Math.max((this.tries.get(address)?.until ?? 0) - now, ofAll, 0) / 1000);
  }

  /** Comes back when the turn of a known place has come; false when too many wait in its line. */
  async turn(place: string): Promise<boolean> {
    const line = this.lines.get(place) ?? { free: 0, waiting: 0 };
    this.lines.set(place, line);
    if (line.waiting >= MOST_IN_LINE) return false;
    const now = this.now();
    line.free = Math.max(line.free + 1000 / A_SECOND, now);
    const waitMs = line.free - now - (1000 / A_SECOND) * (A_SECOND - 1);
    if (waitMs <= 0) return true;
    line.waiting++;
    await new Promise((resolve) => setTimeout(resolve, waitMs));
    line.waiting--;
    return true;
  }

  failed(address: string): void {
    const now = this.now();
    this.wrong.push(now);
    if (this.wrong.length > 10 * MOST_A_MINUTE) this.wrong.shift();
    const count = (this.tries.get(address)?.failed ?? 0) + 1;
    const waitS = count <= FREE_TRIES ? 0 : Math.min(LONGEST_WAIT_S, 2 ** (count - FREE_TRIES));
    this.tries.set(address, { failed: count, until: now + waitS * 1000 });
  }

  succeeded(address: string): void {
    this.tries.delete(address);
  }
}
