import type { Edit, ProjectRecord } from '@tolvik/core';
import { del, entries, get, set, update } from 'idb-keyval';

/** An edit on its way, with the records it replaced, for settling a clash. */
export type Pending = { edit: Edit; before: ProjectRecord[] /** Sent at least once, so that its id may be known to the server. */; tried?: boolean };

/** An edit that could not be saved, with why: kept so that nothing is lost. */
export type Refused = { at: string; why: string; edit: Edit };

const MOST_REFUSED = 50;
const refusedKey = (projectId: string) => `refused ${projectId}`;

/**
 * The edits of one window that the server does not have yet, kept in the browser. Every window has a list of its own,
 * which it holds by a lock as long as it lives; lists that nobody holds are taken over by the next window.
 */
export class PendingEdits {
  private readonly window = crypto.randomUUID();
  private readonly prefix: string;
  private letGo: (() => void) | null = null;
  private adopted: string[] = [];
  private keeping: Promise<void> | null = null;
  private next: readonly Pending[] | null = null;

  constructor(private readonly projectId: string) {
    this.prefix = `pending ${projectId}`;
  }

  /** Edits that windows left behind when they were closed, in the order they were made. */
  async takeOver(): Promise<Pending[]> {
    this.hold();
    const left: Pending[] = [];
    const kept = await entries<string, Pending[]>().catch(() => []);
    for (const [key, edits] of kept) {
      if (typeof key !== 'string' || (key !== this.prefix && !key.startsWith(`${this.prefix} `)) || key === this.key) continue;
      if (!(await isFree(key))) continue;
      this.adopted.push(key);
      left.push(...edits);
    }
    return left;
  }

  private get key(): string {
    return `${this.prefix} ${this.window}`;
  }

  /** Holds a lock in this window's name, so that others know it lives. */
  private hold(): void {
    const locks = globalThis.navigator?.locks;
    if (!locks || this.letGo) return;
    void locks.request(this.key, () => new Promise<void>((resolve) => (this.letGo = resolve))).catch(() => {});
  }

  /** Keeps the list as it is now; while one write is under way, at most one more waits. */
  keep(list: readonly Pending[]): void {
    this.next = list;
    if (this.keeping) return;
    this.keeping = this.write().finally(() => (this.keeping = null));
  }

  private async write(): Promise<void> {
    while (this.next) {
      const list = this.next;
      this.next = null;
      await (list.length > 0 ? set(this.key, [...list]) : del(this.key)).catch(() => {});
      // What was taken over is in the own list now, or on the server.
      for (const key of this.adopted.splice(0)) await del(key).catch(() => {});
    }
  }

  close(): void {
    this.letGo?.();
    this.letGo = null;
  }

  /** Keeps a copy of what could not be saved, the newest `MOST_REFUSED`. */
  async keepRefused(refused: Refused): Promise<void> {
    await update<Refused[]>(refusedKey(this.projectId), (list = []) => [...list, refused].slice(-MOST_REFUSED)).catch(() => {});
  }
}

/** Whether no window holds a list. Without locks nobody can tell; then it is taken, which is harmless, since an edit counts once. */
async function isFree(key: string): Promise<boolean> {
  const locks = globalThis.navigator?.locks;
  if (!locks) return true;
  return locks.request(key, { ifAvailable: true }, (lock) => lock !== null);
}

export const refusedEdits = async (projectId: string): Promise<Refused[]> => (await get<Refused[]>(refusedKey(projectId)).catch(() => undefined)) ?? [];
export const forgetRefused = (projectId: string): Promise<void> => del(refusedKey(projectId));
