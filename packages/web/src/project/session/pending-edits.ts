import type { Edit, ProjectRecord } from '@tolvik/core';
import { del, get, keys, set, update } from 'idb-keyval';
import { OneAtATime } from './one-at-a-time';

/** An edit on its way, with the records it replaced, for settling a clash. */
export type Pending = {
  edit: Edit;
  before: ProjectRecord[] /** Sent at least once, so that its id may be known to the server. */;
  tried?: boolean;
};

/** An edit that could not be saved, with why: kept so that nothing is lost. */
export type Refused = { at: string; why: string; edit: Edit };

const MOST_REFUSED = 50;
const refusedKey = (projectId: string) => `refused ${projectId}`;

/** A window's list as it is kept: with when that window was last heard of, where there are no locks to tell. */
type Kept = { at: number; edits: Pending[] };
const BEAT_MS = 2000;
const DEAD_AFTER_MS = 7000;

/**
 * The edits of one window that the server does not have yet, kept in the browser. Every window has a list of its own,
 * which it holds by a lock as long as it lives; lists that nobody holds are taken over by the next window.
 */
export class PendingEdits {
  private readonly key: string;
  private letGo: (() => void) | null = null;
  private readonly adopted: string[] = [];
  private readonly writing = new OneAtATime(() => this.write());
  private next: readonly Pending[] | null = null;
  private held: readonly Pending[] = [];
  private beat: ReturnType<typeof setInterval> | undefined;
  private closed = false;

  constructor(private readonly projectId: string) {
    this.key = `${this.prefix} ${crypto.randomUUID()}`;
  }

  private get prefix(): string {
    return `pending ${this.projectId}`;
  }

  /** Edits that windows left behind when they were closed, in the order they were made. */
  async takeOver(): Promise<Pending[]> {
    this.hold();
    const left: Pending[] = [];
    for (const key of await keys().catch(() => [])) {
      if (
        typeof key !== 'string' ||
        !key.startsWith(`${this.prefix} `) ||
        key === this.key ||
        this.adopted.includes(key)
      )
        continue;
      const kept = await get<Kept>(key).catch(() => undefined);
      if (!kept || !(await isFree(key, kept))) continue;
      this.adopted.push(key);
      left.push(...kept.edits);
    }
    return left;
  }

  /** Holds a lock in this window's name, so that others know it lives; where there are none, says so now and then. */
  private hold(): void {
    const locks = globalThis.navigator?.locks;
    if (this.letGo || this.beat) return;
    if (locks)
      void locks.request(this.key, () => new Promise<void>((resolve) => (this.letGo = resolve))).catch(() => {});
    else this.beat = setInterval(() => this.held.length > 0 && this.keep(this.held), BEAT_MS);
  }

  /** Keeps the list as it is now; while one write is under way, at most one more waits. */
  keep(list: readonly Pending[]): void {
    this.next = list;
    void this.writing.ask();
  }

  private async write(): Promise<void> {
    if (!this.next) return;
    this.held = this.next;
    this.next = null;
    // An answer may arrive after the window has gone: what it then keeps is anybody's, too.
    const kept: Kept = { at: this.closed ? 0 : Date.now(), edits: [...this.held] };
    await (kept.edits.length > 0 ? set(this.key, kept) : del(this.key)).catch(() => {});
    // Edits taken over from closed windows are in this window's list now, or on the server: the old lists can go.
    for (const key of this.adopted.splice(0)) await del(key).catch(() => {});
  }

  /** The window goes: what it has not sent is anybody's. */
  close(): void {
    this.closed = true;
    clearInterval(this.beat);
    this.beat = undefined;
    this.letGo?.();
    this.letGo = null;
    if (this.held.length === 0 && !this.next) return;
    void this.writing
      .ask()
      .then(() => update<Kept>(this.key, (kept) => (kept ? { ...kept, at: 0 } : { at: 0, edits: [] })))
      .catch(() => {});
  }

  /** Keeps a copy of what could not be saved, the newest `MOST_REFUSED`. */
  async keepRefused(refused: Refused): Promise<void> {
    await update<Refused[]>(refusedKey(this.projectId), (list = []) => [...list, refused].slice(-MOST_REFUSED)).catch(
      () => {},
    );
  }
}

/** Whether no window holds a list. */
async function isFree(key: string, { at }: Kept): Promise<boolean> {
  const locks = globalThis.navigator?.locks;
  return locks ? locks.request(key, { ifAvailable: true }, (lock) => lock !== null) : Date.now() - at > DEAD_AFTER_MS;
}

/** When a window that begins has to look again for lists whose windows may have died; null where locks tell at once. */
export const lookAgainAfterMs = (): number | null => (globalThis.navigator?.locks ? null : DEAD_AFTER_MS + BEAT_MS);

export const refusedEdits = async (projectId: string): Promise<Refused[]> =>
  (await get<Refused[]>(refusedKey(projectId)).catch(() => undefined)) ?? [];
export const forgetRefused = (projectId: string): Promise<void> => del(refusedKey(projectId));
