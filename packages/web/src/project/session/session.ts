import {
  artworkChangedSince,
  asEdit,
  type Change,
  type Edit,
  newId,
  ProjectDocument,
  type ProjectRecord,
  withFollowerSizes,
} from '@tolvik/core';
import { ApiError, request } from '../../api/client';
import type { Changes, Delivery, ProjectEvent } from '../../api/types';
import { Arrived } from './arrived';
import type { Before } from './expire';
import { inParts } from './in-parts';
import { type Step, takenBack } from './merge';
import { OneAtATime } from './one-at-a-time';
import { pauseAfter } from './pause-after';
import { lookAgainAfterMs, type Pending, PendingEdits } from './pending-edits';
import { type Rebased, rebase } from './rebase';
import { ServerEvents } from './server-events';
import { stepOf, UndoPiles, type Way } from './undo-piles';

export type SavedState =
  | { kind: 'saved'; at: Date | null }
  | { kind: 'saving' }
  | { kind: 'waiting'; why: string }
  | { kind: 'refused'; why: string };

export type Progress = Pick<Delivery, 'id' | 'number' | 'state' | 'total' | 'made' | 'failed' | 'byEdit'> & {
  path?: string;
  positions?: readonly number[];
};

const SAVING: SavedState = { kind: 'saving' };
const SAVE_AFTER_MS = 120;
/** An edit that the server stumbles over so often is set aside, so that those behind it get through. */
const MOST_STUMBLES = 5;

/** Bursts are joined up to this many records. */
const BURST_RECORDS = 5000;

const recordsOf = ({ edit }: Pending): number => edit.puts.length + edit.removes.length;

/** Two edits as one that has their effect: the second after the first. */
function joined(first: Edit, second: Edit): Edit {
  const puts = new Map(first.puts.map((record) => [record.id, record]));
  const removes = new Set(first.removes);
  for (const id of second.removes) {
    puts.delete(id);
    removes.add(id);
  }
  for (const record of second.puts) {
    puts.set(record.id, record);
    removes.delete(record.id);
  }
  // An id stands for what it stood for when it was first kept: what is joined is another edit.
  return { ...first, id: newId(), label: second.label, puts: [...puts.values()], removes: [...removes] };
}

type Listener = () => void;

/**
 * One open project in this window: its document, what is selected, undo, and the line of edits to the
 * server. Edits apply here at once; each is kept in the browser until the server has it. No React.
 */
export class Session {
  readonly doc = new ProjectDocument();
  name = '';
  version = 0;
  selection: ReadonlySet<string> = new Set();
  delivery: Progress | null = null;
  /** How often it was told that a receiver was written to, or is another. */
  receiversTold = 0;
  /** How often it was told that the linked source was read, or is another. */
  sourceTold = 0;
  /** How often it was told that a delivery is described otherwise. */
  describedTold = 0;
  /** Sentences for the person, newest last; shown once. */
  onNotice: (words: string, bad?: boolean) => void = () => {};
  /** Called with every applied change and what was there before it, so that others (the painter) can follow. */
  onApplied: (change: { puts: readonly ProjectRecord[]; removes: readonly string[] }, before: Before) => void =
    () => {};

  private readonly pending: Pending[] = [];
  /** How the line to the server stands; `saved` tells of it. */
  private stored: SavedState = { kind: 'saved', at: null };
  /** How many changes are being worked out and are no edits yet. */
  private worked = 0;
  private readonly listeners = new Set<Listener>();
  private sending = false;
  private readonly store: PendingEdits;
  private readonly piles: UndoPiles;
  private readonly arrived = new Arrived();
  /** Tries in a row that came to nothing. */
  private failures = 0;
  /** What is here has to be read anew before anything more is sent. */
  private outOfStep = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly events: ServerEvents;
  private lookAgain: ReturnType<typeof setTimeout> | undefined;
  private readonly fetching = new OneAtATime(() => this.fetchChanges());
  /** What a change that the server told of is called here when it is undone. */
  private undoneAs: string | undefined;
  private followAgain: ReturnType<typeof setTimeout> | undefined;
  /** Times in a row that what the server told of could not be fetched. */
  private missed = 0;
  private closed = false;
  /** Counts what views of the document depend on: its records, its name, what is selected. */
  tick = 0;

  constructor(readonly id: string) {
    this.store = new PendingEdits(id);
    this.piles = new UndoPiles(id);
    this.events = new ServerEvents(
      id,
      (event) => this.heard(event),
      () => void this.catchUp(),
    );
  }

  subscribe = (listener: Listener): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private changed(): void {
    this.tick++;
    this.told();
  }

  /** Something beside the document: whether all is saved, the version on the server, an export. */
  private told(): void {
    for (const listener of this.listeners) listener();
  }

  async open(): Promise<void> {
    const loaded = this.piles.load();
    await this.pull();
    await this.takeOverLeft();
    await loaded;
    this.pruneSteps();
    const again = lookAgainAfterMs();
    if (again !== null) this.lookAgain = setTimeout(() => void this.takeOverLeft(), again);
    if (!this.closed) this.events.open();
  }

  /** Edits that other windows left behind are this one's now. */
  private async takeOverLeft(): Promise<void> {
    const left = await this.store.takeOver();
    if (left.length === 0 || this.closed) return;
    // Each may have got there before its window went: it keeps its id, and is not joined with others.
    for (const each of left) each.tried = true;
    this.show(rebase(left, (id) => this.doc.get(id)));
    this.pending.push(...left);
    this.stored = SAVING;
    this.keep();
    this.sendSoon(0);
    this.changed();
  }

  /** Whether all that was done is on the server: a change that is still being worked out is not. */
  get saved(): SavedState {
    return this.worked > 0 && this.stored.kind === 'saved' ? SAVING : this.stored;
  }

  /**
   * Does what ends in a change and takes a moment: code that has to come, shapes that are worked out. Until it is through
   * nothing is told as saved, and an export waits for it.
   */
  async comesOf<Made>(work: () => Promise<Made>): Promise<Made> {
    this.worked++;
    this.told();
    try {
      return await work();
    } finally {
      this.worked--;
      this.told();
    }
  }

  /** Waits while edits are on their way to the server; answers whether all are there. */
  whenSaved(): Promise<boolean> {
    if (this.saved.kind !== 'saving') return Promise.resolve(this.saved.kind === 'saved');
    return new Promise((resolve) => {
      const stop = this.subscribe(() => {
        if (this.saved.kind === 'saving') return;
        stop();
        resolve(this.saved.kind === 'saved');
      });
    });
  }

  /** Sends at once what was only just done: the page is being left. */
  leave(): void {
    clearTimeout(this.timer);
    if (this.pending.length > 0) void this.send();
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.timer);
    clearTimeout(this.lookAgain);
    clearTimeout(this.followAgain);
    this.events.close();
    this.store.close();
    this.piles.close();
    this.listeners.clear();
  }

  private heard(event: ProjectEvent): void {
    if (event.type === 'edited') {
      if (event.version > this.version && !this.sending && this.pending.length === 0) {
        this.undoneAs = event.label;
        void this.follow();
      } else if (this.stored.kind === 'waiting') this.sendSoon(0);
    } else if (event.type === 'renamed') {
      this.name = event.name;
      this.changed();
    } else if (event.type === 'source') {
      this.sourceTold++;
      this.told();
    } else if (event.type === 'described') {
      this.describedTold++;
      this.told();
    } else if (event.type === 'receivers') {
      this.receiversTold++;
      this.told();
    } else {
      const { type: _, ...progress } = event;
      this.delivery = progress;
      this.told();
    }
  }

  /** After events were missed: what they would have told. */
  private async catchUp(): Promise<void> {
    await this.follow();
    try {
      const running = this.delivery?.state === 'running' ? this.delivery.id : null;
      if (!running) return;
      const { deliveries } = await request<{ deliveries: Delivery[] }>(`/projects/${this.id}/deliveries`);
      const now = deliveries.find(({ id }) => id === running);
      if (now && this.delivery?.id === running) {
        const { id, number, state, total, made, failed, byEdit } = now;
        this.delivery = { id, number, state, total, made, failed, byEdit };
        this.told();
      }
    } catch {
      // The next event, or the next time the stream opens, tries again.
    }
  }

  /** Fetches what changed on the server, and tries again until it is here: what was told once is not told again. */
  private async follow(): Promise<void> {
    clearTimeout(this.followAgain);
    try {
      await this.pull();
      this.missed = 0;
    } catch {
      this.missed++;
      if (!this.closed) this.followAgain = setTimeout(() => void this.follow(), pauseAfter(this.missed));
    }
  }

  /** Fetches what changed on the server since the version here. Changes of others to what is pending here are settled. */
  pull(): Promise<void> {
    return this.fetching.ask();
  }

  private async fetchChanges(): Promise<void> {
    const { undoneAs } = this;
    const changes = await request<Changes>(`/projects/${this.id}/records?since=${this.version}`);
    if (this.undoneAs === undoneAs) this.undoneAs = undefined;
    this.name = changes.name;
    if (changes.version <= this.version) return;
    // Away for longer than the server remembers single edits: all is there, and what is not there is gone.
    const there = changes.whole && this.version > 0 ? new Set(changes.records.map((record) => record.id)) : null;
    const removed = there ? [...this.doc.all()].flatMap(({ id }) => (there.has(id) ? [] : [id])) : changes.removed;
    const change = { label: undoneAs ?? '', puts: changes.records, removes: removed };
    const isNext = changes.version === this.version + 1;
    const before = this.version > 0 ? this.inverseOf(change) : null;
    if (before) this.arrived.note(this.version, changes.version, before);
    this.takeOver(changes.records, removed);
    this.version = changes.version;
    if (undoneAs && before && isNext) this.piles.did(stepOf(change, before));
    this.changed();
  }

  /** Their records replace mine, except that fields of pending edits stay as they are here. */
  private takeOver(records: readonly ProjectRecord[], removed: readonly string[]): void {
    const mine = new Set(
      this.pending.flatMap(({ edit }) => [...edit.puts.map((record) => record.id), ...edit.removes]),
    );
    const puts = records.filter((record) => !mine.has(record.id));
    this.applyHere({ puts, removes: removed.filter((id) => !mine.has(id)) });
    const theirs = new Map<string, ProjectRecord | undefined>(removed.map((id) => [id, undefined]));
    for (const record of records) theirs.set(record.id, record);
    this.show(
      rebase(
        this.pending,
        (id) => theirs.get(id),
        (id) => mine.has(id) && theirs.has(id),
      ),
    );
  }

  /** Shows edits as they are on top of what others made; where both changed one field, mine stays and it is said. */
  private show({ now, both }: Rebased): void {
    this.applyHere({
      puts: [...now.values()].filter((record) => record !== null),
      removes: [...now].flatMap(([id, record]) => (record === null && this.doc.get(id) ? [id] : [])),
    });
    for (const [id, fields] of both) {
      const record = now.get(id);
      this.onNotice(
        `${record && 'name' in record ? record.name : 'This'} was changed elsewhere at the same time (${[...fields].join(', ')}). Yours was kept; theirs can be set again.`,
      );
    }
  }

  private applyHere(change: { puts: ProjectRecord[]; removes: string[] }) {
    const { layerRevision } = this.doc;
    const inverse = this.doc.apply(change);
    this.onApplied(change, { records: inverse.puts, artwork: () => artworkChangedSince(this.doc, layerRevision) });
    return inverse;
  }

  /**
   * Makes a change: here at once, on the server soon, undone by what it did. What follows a resized artboard is resized
   * with it. Changes one after the other that say the same for `joins` are undone as one.
   */
  commit(change: Change, joins?: string): void {
    if (change.puts.length === 0 && change.removes.length === 0) return;
    const whole = withFollowerSizes(this.doc, change);
    // Each record once, as it is in the end: a change that says one twice could not be saved.
    const puts = [...new Map(whole.puts.map((record) => [record.id, record])).values()];
    this.piles.did({ ...this.make({ ...whole, puts }), ...(joins !== undefined && { joins }) });
    this.changed();
  }

  private make(change: Change): Step {
    const inverse = this.applyHere(change);
    const before = new Map(inverse.puts.map((record) => [record.id, record]));
    for (const part of inParts(change, (id) => this.doc.get(id) ?? before.get(id))) {
      const ids = new Set(part.puts.map((record) => record.id));
      this.pending.push({
        edit: asEdit(part, this.version),
        before: inverse.puts.filter((record) => ids.has(record.id)),
      });
    }
    this.stored = SAVING;
    this.keep();
    this.sendSoon(SAVE_AFTER_MS);
    return stepOf(change, inverse);
  }

  /** Nothing is on its way, and what is here is what the server had when it last answered. */
  get settled(): boolean {
    return this.pending.length === 0 && !this.sending && !this.outOfStep;
  }

  get undoLabel(): string | null {
    return this.piles.label('undo');
  }
  get redoLabel(): string | null {
    return this.piles.label('redo');
  }

  undo(): void {
    this.takeBack('undo');
  }

  redo(): void {
    this.takeBack('redo');
  }

  /** Takes back what a step did, as far as nobody has changed it since; what that does goes on the other pile. */
  private takeBack(way: Way): void {
    const step = this.piles.take(way);
    if (!step) return;
    const change: Change = { label: way === 'undo' ? `undo ${step.label}` : step.label, puts: [], removes: [] };
    for (const did of step.did) {
      const back = takenBack(did, this.doc.get(did.id));
      if (back) change.puts.push(back);
      else if (back === null) change.removes.push(did.id);
    }
    if (change.puts.length + change.removes.length > 0)
      this.piles.tookBack(way, { ...this.make(change), label: step.label });
    else this.onNotice(`There is nothing left to take back of “${step.label}”: it was changed elsewhere since.`);
    this.changed();
  }

  private pruneSteps(): void {
    this.piles.prune((id) => this.doc.get(id));
    this.changed();
  }

  /** What would take a change back, from how things are now. */
  private inverseOf({ puts, removes }: Pick<Change, 'puts' | 'removes'>): Pick<Change, 'puts' | 'removes'> {
    const touched = [...puts.map((record) => record.id), ...removes];
    return {
      puts: touched.flatMap((id) => this.doc.get(id) ?? []),
      removes: puts.filter((record) => !this.doc.get(record.id)).map((record) => record.id),
    };
  }

  /** What the server made on request, as it answered: it is here after this, however it came, and undone like any other. */
  async takeIn({ version, change }: { version: number; change: Change | null }): Promise<void> {
    while (this.version < version) await this.pull();
    const before = change && this.arrived.before(version);
    if (!before) return;
    this.piles.did(stepOf(change, before));
    this.changed();
  }

  select(ids: Iterable<string>): void {
    const next = new Set(ids);
    if (next.size === this.selection.size && [...next].every((id) => this.selection.has(id))) return;
    this.selection = next;
    this.changed();
  }

  private keep(): void {
    this.store.keep(this.pending);
  }

  private sendSoon(afterMs: number): void {
    clearTimeout(this.timer);
    // What a closed session has not sent is kept in the browser, for the next one.
    if (!this.closed) this.timer = setTimeout(() => void this.send(), afterMs);
  }

  /** The first edit of the line, with those behind it that were not sent yet taken in: a burst goes as one. */
  private nextToSend(): Pending {
    const [first] = this.pending;
    const { id } = first.edit;
    while (
      !first.tried &&
      this.pending.length > 1 &&
      !this.pending[1].tried &&
      recordsOf(first) + recordsOf(this.pending[1]) <= BURST_RECORDS
    ) {
      const [next] = this.pending.splice(1, 1);
      Object.assign(first, {
        edit: joined(first.edit, next.edit),
        before: [
          ...first.before,
          ...next.before.filter((record) => !first.before.some((known) => known.id === record.id)),
        ],
      });
    }
    // Kept under the id it is sent by: whoever takes it over does not make it a second time.
    if (first.edit.id !== id) this.keep();
    return first;
  }

  private async send(): Promise<void> {
    if (this.sending || this.closed) return;
    this.sending = true;
    try {
      if (this.outOfStep) await this.startOver();
      while (this.pending.length > 0) {
        await this.sendNext();
        // What a closed session has not sent is another window's from then on.
        if (this.closed) return;
      }
      if (this.stored.kind !== 'refused') this.stored = { kind: 'saved', at: new Date() };
      this.told();
      void this.follow();
    } catch (error) {
      // Whatever it was, all that is not saved is still here, and is tried again.
      this.failures++;
      this.stored = {
        kind: 'waiting',
        why: error instanceof ApiError ? error.message : 'something went wrong on the way',
      };
      this.sendSoon(pauseAfter(this.failures));
      this.told();
    } finally {
      this.sending = false;
    }
  }

  /** Sends the first edit of the line. Throws when it could not be sent, so that it is tried again. */
  private async sendNext(): Promise<void> {
    const first = this.nextToSend();
    first.edit.baseVersion = this.version;
    first.tried = true;
    try {
      const { version, repeated } = await request<{ version: number; repeated: boolean }>(
        `/projects/${this.id}/edits`,
        { method: 'POST', json: first.edit, keepalive: true },
      );
      this.failures = 0;
      this.pending.shift();
      // It was there already, and its answer was lost: what others did since came after it, whatever was settled here.
      if (repeated) {
        this.outOfStep = true;
        await this.startOver();
      }
      // Versions in between are other people's; they are fetched once the line is empty.
      else if (version === this.version + 1) this.version = version;
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      if (error.status === 409 && (error.problem.code === 'edit.clash' || error.problem.code === 'edit.version')) {
        if (error.problem.code === 'edit.version') this.outOfStep = true;
        return this.outOfStep ? this.startOver() : this.pull();
      }
      // Only what the server understood and does not take is set aside, or what it stumbles over again and again.
      if (error.isAway || (error.status >= 500 && this.failures < MOST_STUMBLES)) throw error;
      this.pending.shift();
      this.failures = 0;
      await this.store.keepRefused({ at: new Date().toISOString(), why: error.message, edit: first.edit });
      this.outOfStep = true;
      this.stored = { kind: 'refused', why: error.message };
      // First what the server has, then the word about it: who reads it sees what counts.
      await this.startOver().finally(() =>
        this.onNotice(
          `Not saved: ${error.message.replace(/\.$/, '')}. A copy of “${first.edit.label}” is kept: Ctrl+K, “Changes that could not be saved”.`,
        ),
      );
    }
    this.keep();
  }

  /** After a refusal: what the server has is what counts, with the edits still waiting on top. */
  private async startOver(): Promise<void> {
    const changes = await request<Changes>(`/projects/${this.id}/records?since=0`);
    this.applyHere({ puts: changes.records, removes: [...this.doc.all()].map((record) => record.id) });
    this.version = changes.version;
    this.show(rebase(this.pending, (id) => this.doc.get(id)));
    this.outOfStep = false;
    this.pruneSteps();
  }
}
