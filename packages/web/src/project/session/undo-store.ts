import { newId } from '@tolvik/core';
import { delMany, get, keys, setMany } from 'idb-keyval';
import type { Step } from './merge';
import { OneAtATime } from './one-at-a-time';

/** What can be taken back and done again; the last of each comes first. */
export type Piles = { undo: readonly Step[]; redo: readonly Step[] };

/** The steps of one window as they are kept: by their ids, each step under a key of its own. */
type Kept = { at: number; undo: string[]; redo: string[] };

const MOST_STEPS = 200;
/** Records before and after, of all the steps that are kept. */
const MOST_RECORDS = 50_000;
const KEPT_MS = 7 * 24 * 3600_000;
/** A page that is loaded anew may begin before the old one has let go. */
const LET_GO_MS = 1000;

const LIST = 'undo ';
const stepKey = (id: string) => `undo-step ${id}`;

/**
 * The steps of one window, kept in the browser from one load of the page to the next. The window is known by a name in
 * its session storage; a lock tells it from another that was opened as its copy. Without either, nothing is kept.
 */
export class UndoStore {
  private key: string | null = null;
  private letGo: (() => void) | null = null;
  private closed = false;
  private stored = new Set<string>();
  private next: Piles | null = null;
  private readonly writing = new OneAtATime(() => this.write());

  constructor(private readonly projectId: string) {}

  /** What this window could take back before it was loaded anew. */
  async open(): Promise<Piles> {
    const none: Piles = { undo: [], redo: [] };
    const window = await this.hold();
    if (!window || this.closed) return none;
    this.key = `${LIST}${this.projectId} ${window}`;
    await forgetOld(this.key).catch(() => {});
    try {
      const kept = await get<Kept>(this.key);
      if (!kept) return none;
      this.stored = new Set([...kept.undo, ...kept.redo]);
      const steps = async (ids: readonly string[]) => {
        const found = await Promise.all(ids.map((id) => get<Step>(stepKey(id))));
        return found.filter((step) => step !== undefined);
      };
      return { undo: await steps(kept.undo), redo: await steps(kept.redo) };
    } catch {
      return none;
    }
  }

  /** This window's name, held by a lock; a copy of a window that lives gets one of its own. */
  private async hold(): Promise<string | null> {
    const locks = globalThis.navigator?.locks;
    const names = globalThis.sessionStorage;
    if (!locks || !names) return null;
    const held = (name: string) =>
      new Promise<boolean>((resolve) => {
        locks
          .request(`window ${this.projectId} ${name}`, { signal: AbortSignal.timeout(LET_GO_MS) }, () => {
            resolve(true);
            return this.closed ? undefined : new Promise<void>((done) => (this.letGo = done));
          })
          .catch(() => resolve(false));
      });
    try {
      const before = names.getItem('window');
      if (before && (await held(before))) return before;
      const own = newId();
      names.setItem('window', own);
      return (await held(own)) ? own : null;
    } catch {
      return null;
    }
  }

  /** Keeps the piles as they are now; while one write is under way, at most one more waits. */
  keep(piles: Piles): void {
    if (!this.key) return;
    this.next = piles;
    void this.writing.ask();
  }

  private async write(): Promise<void> {
    if (!this.next || !this.key) return;
    const undo = newest(this.next.undo, MOST_RECORDS);
    const redo = newest(this.next.redo, MOST_RECORDS - undo.records);
    this.next = null;
    const steps = [...undo.steps, ...redo.steps];
    const ids = (list: readonly Step[]) => list.map(({ id }) => id);
    const kept: Kept = { at: Date.now(), undo: ids(undo.steps), redo: ids(redo.steps) };
    const wanted = new Set(ids(steps));
    const gone = [...this.stored].filter((id) => !wanted.has(id));
    try {
      await setMany([
        ...steps.flatMap((step): [string, Step][] => (this.stored.has(step.id) ? [] : [[stepKey(step.id), step]])),
        [this.key, kept],
      ]);
      await delMany(gone.map(stepKey));
      this.stored = wanted;
    } catch {
      // A browser that keeps nothing: undo ends with the page.
    }
  }

  close(): void {
    this.closed = true;
    this.letGo?.();
    this.letGo = null;
  }
}

/** The newest steps of a pile that fit in, oldest first; what lies under one that does not fit is of no use. */
function newest(pile: readonly Step[], room: number): { steps: Step[]; records: number } {
  const steps: Step[] = [];
  let records = 0;
  for (let i = pile.length - 1; i >= 0 && steps.length < MOST_STEPS; i--) {
    records += pile[i].did.length;
    if (records > room) break;
    steps.unshift(pile[i]);
  }
  return { steps, records: Math.min(records, room) };
}

/** Forgets what windows left that were not seen for a week. */
async function forgetOld(mine: string): Promise<void> {
  for (const key of await keys()) {
    if (typeof key !== 'string' || !key.startsWith(LIST) || key === mine) continue;
    const kept = await get<Kept>(key);
    if (kept && Date.now() - kept.at > KEPT_MS) await delMany([key, ...[...kept.undo, ...kept.redo].map(stepKey)]);
  }
}
