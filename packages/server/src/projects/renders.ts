import { LRUCache } from 'lru-cache';
import type { Database } from '../db/database';
import {
  type NewRender,
  putRenders,
  type RenderRow,
  readRender,
  readRenders,
  touchRenders,
  type Weight,
  weightsOf,
} from '../db/renders';

/** What is seen on a screen is small; what is larger is read from the database each time. */
const MOST_BYTES_EACH = 256 * 1024;
const MOST_BYTES = 48 * 1_048_576;
const MOST_WEIGHTS = 200_000;
const TOUCH_EVERY_MS = 5000;

/**
 * Everything that was rendered, by render key. What belongs to a key never changes, so small files and
 * all weights are kept at hand; when they were last used is written to the database now and then.
 */
export class Renders {
  private readonly recent = new LRUCache<string, RenderRow>({
    maxSize: MOST_BYTES,
    maxEntrySize: MOST_BYTES_EACH,
    sizeCalculation: ({ bytes }) => Math.max(1, bytes.length),
  });
  private readonly weights = new LRUCache<string, Weight>({ max: MOST_WEIGHTS });
  private readonly used = new Set<string>();
  private readonly timer: ReturnType<typeof setInterval>;

  constructor(
    private readonly db: Database,
    private readonly onError: (error: Error) => void,
  ) {
    this.timer = setInterval(() => void this.flush().catch(this.onError), TOUCH_EVERY_MS);
    this.timer.unref();
  }

  /** A rendered file; undefined when it was not rendered yet, or let go. */
  async read(key: string): Promise<RenderRow | undefined> {
    this.used.add(key);
    const known = this.recent.get(key);
    if (known) return known;
    const row = await readRender(this.db, key);
    if (row) this.recent.set(key, row);
    return row;
  }

  /** Of several files those that were rendered and have at most so many bytes each. */
  async readSmall(keys: readonly string[], mostBytes: number): Promise<RenderRow[]> {
    const found: RenderRow[] = [];
    const missing: string[] = [];
    for (const key of keys) {
      const known = this.recent.get(key);
      if (known) found.push(known);
      else missing.push(key);
    }
    if (missing.length > 0)
      for (const row of await readRenders(this.db, missing, mostBytes)) {
        this.recent.set(row.key, row);
        found.push(row);
      }
    const small = found.filter(({ bytes }) => bytes.length <= mostBytes);
    for (const { key } of small) this.used.add(key);
    return small;
  }

  async put(renders: readonly NewRender[]): Promise<void> {
    await putRenders(this.db, renders);
    for (const { key, mediaType, bytes, measured } of renders) {
      // A copy: what comes from another process may be a view of a whole batch.
      if (bytes.length <= MOST_BYTES_EACH)
        this.recent.set(key, { key, media_type: mediaType, bytes: Buffer.from(bytes), measured });
    }
  }

  /** What these keys weigh, as far as they were rendered. */
  async weightsOf(keys: readonly string[]): Promise<Map<string, Weight>> {
    const found = new Map<string, Weight>();
    const missing: string[] = [];
    for (const key of keys) {
      const known = this.weights.get(key);
      if (known) found.set(key, known);
      else if (key) missing.push(key);
    }
    if (missing.length === 0) return found;
    for (const [key, weight] of await weightsOf(this.db, missing)) {
      this.weights.set(key, weight);
      found.set(key, weight);
    }
    return found;
  }

  /** Writes down what was used; the longest unused are let go first. */
  async flush(): Promise<void> {
    if (this.used.size === 0) return;
    const keys = [...this.used];
    this.used.clear();
    await touchRenders(this.db, keys);
  }

  async close(): Promise<void> {
    clearInterval(this.timer);
    await this.flush().catch(this.onError);
  }
}
