import type { Change, Meetings, ProjectRecord, Region } from '@tolvik/core';
import { LastingWorker } from './lasting-worker';
import type { FromPainter, Subject, ToPainter } from './messages';

/** A painted bitmap with what it shows. */
export type Painted = {
  bitmap: ImageBitmap;
  subject: Subject;
  crop: Region | null;
  widthPx: number;
  heightPx: number;
  stale: boolean /** When it was last asked for, by a clock of gets. */;
  used: number;
};

export type Outlined = { change: Change; missing: string[] };

const MAX_BYTES = 256 * 1_048_576;
/** How long one picture may take; then what draws is started anew without it. */
const LONGEST_MS = 10_000;
const LOOK_EVERY_MS = 2000;

const nameOf = (subject: Subject): string =>
  subject.kind === 'item' ? `item ${subject.layerId}` : `piece ${subject.pieceId}`;

/** The page's side of the painter: keeps what was painted, bounded in bytes, the longest unused dropped first. */
export class Painter {
  private readonly worker: LastingWorker<ToPainter, FromPainter>;
  /** Sentences for the person, when pictures cannot be made. */
  onTrouble: (words: string) => void = () => {};
  private records: () => Iterable<ProjectRecord> = () => [];
  private readonly painted = new Map<string, Painted>();
  private readonly asked = new Map<
    string,
    { id: number; subject: Subject; crop: Region | null; widthPx: number; heightPx: number }
  >();
  private readonly listeners = new Set<() => void>();
  private readonly onExpiredListeners = new Set<() => void>();
  private readonly outlining = new Map<number, (outlined: Outlined) => void>();
  private readonly meeting = new Map<number, (meetings: Meetings | null) => void>();
  /** By artboard, until its artwork changes. */
  private readonly met = new Map<string, Promise<Meetings | null>>();
  /** What takes too long to draw, until it changes. */
  private readonly heavy = new Set<string>();
  private begun: { slot: string; at: number } | null = null;
  private watch: ReturnType<typeof setInterval> | undefined;
  private nextId = 1;
  private bytes = 0;
  private clock = 0;
  private held = false;
  /** The clock at the last frame: what was used since is in view. */
  private frameFrom = 0;
  /** Counts up with every bitmap that comes or goes. */
  revision = 0;

  constructor(create = () => new Worker(new URL('./painter.worker.ts', import.meta.url), { type: 'module' })) {
    this.worker = new LastingWorker<ToPainter, FromPainter>(create, {
      begin: () => ({ kind: 'open', records: [...this.records()] }),
      message: (message) => {
        if (message.kind === 'failed') this.worker.failed();
        else if (message.kind === 'begun') this.began(message.slot);
        else this.receive(message);
      },
      lost: () => this.askAnew(),
      trouble: (again) =>
        !again && this.onTrouble('Pictures of the artwork cannot be drawn at the moment; it is tried again.'),
    });
  }

  /** The worker comes up with the first picture that is wanted; stages that want none do without it. */
  open(records: () => Iterable<ProjectRecord>): void {
    this.records = records;
  }

  private began(slot: string): void {
    this.begun = { slot, at: performance.now() };
    this.watch ??= setInterval(() => this.lookAtTime(), LOOK_EVERY_MS);
  }

  /** A picture that takes for ever is given up, so that the others come. */
  private lookAtTime(): void {
    if (!this.begun || performance.now() - this.begun.at < LONGEST_MS) return;
    const { slot } = this.begun;
    const asked = this.asked.get(slot);
    this.settleMeeting(Number(/^meetings (\d+)$/.exec(slot)?.[1]), null);
    if (asked) this.heavy.add(nameOf(asked.subject));
    this.asked.delete(slot);
    this.begun = null;
    this.onTrouble('Part of the artwork takes too long to draw and is left out of the picture. The rest goes on.');
    this.worker.restart();
  }

  /** After a worker was lost: whoever still wants what it was asked for asks again. */
  private askAnew(): void {
    const asked = [...this.asked];
    this.asked.clear();
    for (const [slot, { subject, crop, widthPx, heightPx }] of asked) this.want(slot, subject, crop, widthPx, heightPx);
    for (const id of this.meeting.keys()) this.settleMeeting(id, null);
    this.met.clear();
    for (const [id, settle] of this.outlining)
      settle({ change: { label: '', puts: [], removes: [] }, missing: [] }), this.outlining.delete(id);
    for (const listener of this.listeners) listener();
  }

  /** Follows an edit; bitmaps of what it may have changed are painted again when they are next wanted. */
  apply(change: { puts: readonly ProjectRecord[]; removes: readonly string[] }): void {
    if (this.worker.running) this.send({ kind: 'apply', ...change });
  }

  onPainted(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  onExpired(listener: () => void): () => void {
    this.onExpiredListeners.add(listener);
    return () => this.onExpiredListeners.delete(listener);
  }

  /** What there is for a slot now, fresh or not. */
  get(slot: string): Painted | undefined {
    const known = this.painted.get(slot);
    if (known) known.used = this.clock++;
    return known;
  }

  /** Asks for a slot unless the same is under way. */
  want(slot: string, subject: Subject, crop: Region | null, widthPx: number, heightPx: number, urgent = false): void {
    if (this.heavy.has(nameOf(subject))) return;
    const asked = this.asked.get(slot);
    if (asked && asked.widthPx === widthPx && asked.heightPx === heightPx && sameRegion(asked.crop, crop)) return;
    const id = this.nextId++;
    this.asked.set(slot, { id, subject, crop, widthPx, heightPx });
    this.send({ kind: 'paint', id, slot, subject, crop, widthPx, heightPx, urgent });
  }

  /** While a gesture is under way, only what is urgent is painted. */
  hold(held: boolean): void {
    if (this.held === held) return;
    this.held = held;
    if (this.worker.running) this.send({ kind: 'hold', held });
  }

  /** Text layers as paths, by the fonts that only the worker has. */
  outlines(layerIds: readonly string[]): Promise<Outlined> {
    const id = this.nextId++;
    return new Promise((resolve) => {
      this.outlining.set(id, resolve);
      this.send({ kind: 'outline', id, layerIds });
    });
  }

  /** Where the colours of an artboard's own artwork meet; null where that cannot be drawn. Measured once, until it changes. */
  meetings(artboardId: string): Promise<Meetings | null> {
    let met = this.met.get(artboardId);
    if (!met) {
      const id = this.nextId++;
      met = new Promise((resolve) => {
        this.meeting.set(id, resolve);
        this.send({ kind: 'meet', id, artboardId });
      });
      this.met.set(artboardId, met);
    }
    return met;
  }

  private settleMeeting(id: number, meetings: Meetings | null): void {
    this.meeting.get(id)?.(meetings);
    this.meeting.delete(id);
  }

  /** A frame is about to be drawn; what it gets is what is in view. */
  beginFrame(): void {
    this.frameFrom = this.clock;
  }

  /**
   * What is shown for these slots is no longer true; it stays until its successor comes. Pieces in view are asked
   * for at once: what follows a source is not a frame later than what was changed.
   */
  expire(test: (slot: { subject: Subject }) => boolean): void {
    // It changed, so it may be light now; whether it is, is seen when it is drawn.
    this.heavy.clear();
    for (const [slot, asked] of this.asked) if (test(asked)) this.asked.delete(slot);
    for (const pieceId of this.met.keys()) if (test({ subject: { kind: 'piece', pieceId } })) this.met.delete(pieceId);
    for (const [slot, painted] of this.painted) {
      if (!test(painted)) continue;
      painted.stale = true;
      const { subject, crop, widthPx, heightPx } = painted;
      if (subject.kind === 'piece' && painted.used >= this.frameFrom)
        this.want(slot, subject, crop, widthPx, heightPx, true);
    }
    for (const listener of this.onExpiredListeners) listener();
  }

  close(): void {
    clearInterval(this.watch);
    this.worker.close();
    for (const id of this.meeting.keys()) this.settleMeeting(id, null);
    for (const { bitmap } of this.painted.values()) bitmap.close();
    this.painted.clear();
  }

  private send(message: ToPainter): void {
    this.worker.send(message);
  }

  private receive(message: Extract<FromPainter, { kind: 'painted' | 'outlined' | 'met' }>): void {
    if (message.kind === 'met') {
      this.begun = null;
      return this.settleMeeting(message.id, message.meetings);
    }
    if (message.kind === 'outlined') {
      this.outlining.get(message.id)?.(message);
      this.outlining.delete(message.id);
      return;
    }
    const { id, slot, bitmap } = message;
    this.begun = null;
    const asked = this.asked.get(slot);
    if (asked?.id === id) this.asked.delete(slot);
    else if (asked && bitmap) {
      // Something newer is under way; this still beats nothing.
      if (this.painted.has(slot)) return bitmap.close();
    }
    if (!bitmap) return;
    // It was asked for before what it shows changed; whoever wants it asks again.
    if (!asked) return bitmap.close();
    const before = this.painted.get(slot);
    if (before) this.drop(slot, before);
    const { subject, crop, widthPx, heightPx } = asked;
    this.painted.set(slot, { bitmap, subject, crop, widthPx, heightPx, stale: asked.id !== id, used: this.clock++ });
    this.revision++;
    this.bytes += bitmap.width * bitmap.height * 4;
    if (this.bytes > MAX_BYTES) this.dropUnused();
    for (const listener of this.listeners) listener();
  }

  /** Lets go of what was not asked for the longest, down to nine tenths of what may be kept. */
  private dropUnused(): void {
    const oldestFirst = [...this.painted].sort(([, a], [, b]) => a.used - b.used);
    for (const [slot, painted] of oldestFirst) {
      if (this.bytes <= MAX_BYTES * 0.9) return;
      this.drop(slot, painted);
    }
  }

  private drop(slot: string, { bitmap }: Painted): void {
    this.painted.delete(slot);
    this.bytes -= bitmap.width * bitmap.height * 4;
    bitmap.close();
  }
}

const sameRegion = (a: Region | null, b: Region | null) =>
  a === b || (!!a && !!b && a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height);
