import { type Change, newId, type ProjectRecord } from '@tolvik/core';
import { type Did, joinedSteps, type Step, withoutIdle } from './merge';
import { UndoStore } from './undo-store';

const MOST_STEPS = 1000;

export type Way = 'undo' | 'redo';

/** What one window can take back and do again: two piles of steps, the newest last, kept from one load of the page to the next. */
export class UndoPiles {
  private piles: Record<Way, Step[]> = { undo: [], redo: [] };
  private readonly store: UndoStore;

  constructor(projectId: string) {
    this.store = new UndoStore(projectId);
  }

  /** Puts what this window could take back before it was loaded anew below what it did since. */
  async load(): Promise<void> {
    const { undo, redo } = await this.store.open();
    const now = this.piles;
    this.piles = { undo: [...undo, ...now.undo], redo: now.undo.length + now.redo.length > 0 ? now.redo : [...redo] };
  }

  /** A step was done: it can be taken back, and nothing be done again. */
  did(step: Step): void {
    const last = this.piles.undo.at(-1);
    const isMore = step.joins !== undefined && last?.joins === step.joins;
    const undo = isMore ? [...this.piles.undo.slice(0, -1), joinedSteps(last, step)] : [...this.piles.undo, step];
    this.piles = { undo: undo.slice(-MOST_STEPS), redo: [] };
    this.keep();
  }

  label(way: Way): string | null {
    return this.piles[way].at(-1)?.label ?? null;
  }

  /** Takes the newest step off a pile. `tookBack` puts what taking it back did on the other. */
  take(way: Way): Step | undefined {
    const step = this.piles[way].pop();
    this.keep();
    return step;
  }

  tookBack(way: Way, step: Step): void {
    this.piles[way === 'undo' ? 'redo' : 'undo'].push(step);
    this.keep();
  }

  /** Steps whose edits came to nothing are no steps. */
  prune(current: (id: string) => ProjectRecord | undefined): void {
    this.piles = { undo: withoutIdle(this.piles.undo, current), redo: withoutIdle(this.piles.redo, current) };
    this.keep();
  }

  close(): void {
    this.store.close();
  }

  private keep(): void {
    this.store.keep({ undo: [...this.piles.undo], redo: [...this.piles.redo] });
  }
}

/** What a change did, record by record; `inverse` is how things were before. */
export function stepOf({ label, puts, removes }: Change, inverse: Pick<Change, 'puts' | 'removes'>): Step {
  const before = new Map(inverse.puts.map((record) => [record.id, record]));
  const did = new Map<string, Did>();
  for (const id of removes) did.set(id, { id, before: before.get(id) });
  for (const after of puts) did.set(after.id, { id: after.id, before: before.get(after.id), after });
  return { id: newId(), label, did: [...did.values()] };
}
