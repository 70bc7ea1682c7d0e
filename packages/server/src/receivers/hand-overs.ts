import { type Allowed, newId, Refusal, refuse, type Standing } from '@tolvik/core';
import { RenderError } from '@tolvik/render';
import type { Config } from '../config';
import { type Database, isDiskFull, isUnreachable, transaction } from '../db/database';
import { dropOvertaken, findDelivery, lastDone } from '../db/deliveries';
import {
  askToStop,
  beatWithPlaces,
  type DueHandOver,
  dueHandOvers,
  endHandOver,
  findHandOver,
  handBack,
  holdHandOver,
  isUnderWay,
  LEASE_MS,
  MOST_TRIES,
  noteReceipt,
  orderHandOver,
  placesAlive,
  takeHandOver,
} from '../db/handovers';
import { listReceivers, type ReceiverRow, setStanding } from '../db/receivers';
import { DEAD_AFTER_MS, forget } from '../db/workers';
import { announce } from '../events/hub';
import { ThreadGone } from '../projects/project-thread';
import { isAllowedIntake } from './addresses';
import type { Receivers } from './receivers';

/** Hand-overs under way here at once, of each kind: a disk or an intake that hangs holds up its own kind alone. */
const MOST_AT_ONCE = { folder: 3, intake: 3 };
const IDLE_MS = 400;
const BEAT_MS = DEAD_AFTER_MS / 4;
/** Interval at which a lease is renewed and progress is stored, in ms. */
const HOLD_MS = 500;
/** The part of a lease that is relied on: messages take time. */
const SAFE_MS = LEASE_MS - 1500;
const LONGEST_PAUSE_MS = 30_000;
/** How long somebody who pressed stop is kept waiting for it. */
const STOPPED_WITHIN_MS = 5000;
/** How long somebody who asked for a writing is kept waiting for its end. */
const LONGEST_WAIT_MS = 600_000;

/** Why a hand-over under way is ended here. */
type Why = 'stopped' | 'closing' | 'lost';
class Ended extends Error {
  constructor(readonly why: Why) {
    super(why === 'stopped' ? 'it was stopped' : 'another server goes on with it');
  }
}

/** Refusals that may be gone at the next try. */
const PASSING = new Set(['folder.moved', 'receiver.gone', 'receiver.closing']);
const isPassing = (error: unknown): boolean =>
  error instanceof ThreadGone ||
  (error instanceof RenderError && error.code === 'stopped') ||
  (error instanceof Refusal && PASSING.has(error.problem.code)) ||
  isUnreachable(error) ||
  isDiskFull(error);

/**
 * Hands deliveries over. Each hand-over is a row: any server that may write to its receiver takes it and holds it by a
 * lease, so that one whose server is gone is taken by the next that looks, goes on where it stopped, and is stopped from
 * any window. A receiver gets one after the other, in the order they were made.
 */
export class HandOvers {
  private readonly owner = newId();
  private readonly underWay = new Map<string, { control: AbortController; ended: Promise<void> }>();
  private readonly busy = { folder: 0, intake: 0 };
  private stopped = false;
  private looking: Promise<void> | null = null;
  private again = false;
  private timer: NodeJS.Timeout | undefined;
  private beating: NodeJS.Timeout | undefined;

  constructor(
    private readonly db: Database,
    private readonly config: Config,
    private readonly receivers: Receivers,
    private readonly onError: (error: Error) => void,
  ) {}

  async start(): Promise<void> {
    await this.beat();
    this.beating = setInterval(() => void this.beat().catch(() => {}), BEAT_MS);
    this.wake();
  }

  private beat = async (): Promise<void> => void (await beatWithPlaces(this.db, this.owner, this.config));

  /** Ends what is under way and hands it back; another server, or this one when it runs again, goes on. */
  async stop(): Promise<void> {
    this.stopped = true;
    clearTimeout(this.timer);
    clearInterval(this.beating);
    await this.looking;
    for (const { control } of this.underWay.values()) control.abort(new Ended('closing'));
    await Promise.all([...this.underWay.values()].map(({ ended }) => ended));
    await forget(this.db, [this.owner]).catch(() => {});
  }

  /** There may be something to hand over. */
  wake(): void {
    if (this.stopped) return;
    clearTimeout(this.timer);
    if (this.looking) {
      this.again = true;
      return;
    }
    this.looking = this.takeAll()
      .catch((error: Error) => void (!isUnreachable(error) && !this.stopped && this.onError(error)))
      .finally(() => {
        this.looking = null;
        if (this.stopped) return;
        const now = this.again;
        this.again = false;
        if (now) this.wake();
        else this.timer = setTimeout(() => this.wake(), IDLE_MS);
      });
  }

  private async takeAll(): Promise<void> {
    for (const due of await dueHandOvers(this.db)) {
      const kind = due.receiver.address === null ? 'folder' : 'intake';
      if (this.stopped) return;
      if (this.underWay.has(due.id) || this.busy[kind] >= MOST_AT_ONCE[kind]) continue;
      // What no server may write is taken all the same, so that somebody is told why.
      if (!this.mayWrite(due.receiver) && (await this.otherMayWrite(due.receiver))) continue;
      const from = Date.now();
      if (!(await takeHandOver(this.db, due.id, this.owner))) continue;
      this.busy[kind]++;
      const control = new AbortController();
      const ended = this.carryOut(due, from, control).finally(() => {
        this.busy[kind]--;
        this.underWay.delete(due.id);
        this.wake();
      });
      this.underWay.set(due.id, { control, ended });
    }
  }

  private mayWrite = (receiver: ReceiverRow): boolean => mayWrite(this.config, receiver);
  private otherMayWrite = async (receiver: ReceiverRow): Promise<boolean> =>
    (await placesAlive(this.db)).some((places) => mayWrite(places, receiver));

  /** Carries out what was taken, and says how it ended; never throws. */
  private async carryOut(due: DueHandOver, takenAt: number, control: AbortController): Promise<void> {
    const hold = new Hold(this.db, due, this.owner, takenAt, control);
    try {
      // Its end was asked of a server that is gone.
      if (due.stop_asked) throw new Ended('stopped');
      if (due.tries >= MOST_TRIES)
        refuse('receiver.hopeless', `it was begun ${MOST_TRIES} times, and each time ended whoever handed it over`);
      const delivery = (await findDelivery(this.db, due.delivery_id)) ?? refuse('not.found', 'the delivery is gone');
      const allowed: Allowed = {
        removeLeftovers: due.remove_leftovers ?? due.receiver.remove_leftovers,
        replaceForeign: due.replace_foreign ?? due.receiver.replace_foreign,
      };
      const standing = await this.receivers.bring(due.receiver, delivery, allowed, {
        note: async (hashes) => {
          if (!(await noteReceipt(this.db, due, this.owner, hashes))) throw new Ended('lost');
        },
        mayUntil: () => hold.until(),
        onFile: (done, of) => hold.came(done, of),
        signal: control.signal,
      });
      hold.end();
      await this.conclude(due, 'done', standing);
    } catch (error) {
      hold.end();
      await this.afterTrouble(due, control.signal.aborted ? control.signal.reason : error);
    } finally {
      hold.end();
    }
  }

  private async afterTrouble(due: DueHandOver, error: unknown): Promise<void> {
    const why = error instanceof Ended ? error.why : null;
    try {
      if (why === 'lost') return;
      if (why === 'closing') return void (await handBack(this.db, due.id, this.owner));
      if (isPassing(error) && due.tries < MOST_TRIES)
        return void (await handBack(this.db, due.id, this.owner, Math.min(LONGEST_PAUSE_MS, 250 * 2 ** due.tries)));
      const words = error instanceof Error ? error.message : String(error);
      const code =
        error instanceof Refusal ? error.problem.code : why === 'stopped' ? 'receiver.stopped' : 'receiver.trouble';
      if (!why && !(error instanceof Refusal)) this.onError(error as Error);
      await this.conclude(due, why === 'stopped' ? 'stopped' : 'failed', null, { words, code });
    } catch (failed) {
      // The database is away: the lease runs out, and whoever looks then takes it.
      if (!isUnreachable(failed) && !this.stopped) this.onError(failed as Error);
    }
  }

  /** Ends a hand-over with how its receiver stands, where it is still this server's. */
  private async conclude(
    { id, receiver }: DueHandOver,
    state: 'done' | 'failed' | 'stopped',
    standing: Standing | null,
    trouble: { words: string; code: string } | null = null,
  ): Promise<void> {
    await transaction(this.db, async (client) => {
      if (!(await endHandOver(client, id, this.owner, state, trouble))) return;
      await setStanding(client, receiver.id, standing, trouble?.words ?? null);
      await announce(client, receiver.project_id, { type: 'receivers' });
    });
    await dropOvertaken(this.db, receiver.project_id);
  }

  /**
   * Brings a receiver to the newest delivery, with what somebody allowed for this time; comes back when it is done, and
   * refuses with why it did not come to its end.
   */
  async writeNow(receiver: ReceiverRow, allowed: Allowed): Promise<void> {
    const delivery =
      (await lastDone(this.db, receiver.project_id)) ??
      refuse('receiver.nothing', 'nothing was exported yet', { accepted: 'a project with a delivery' });
    if (await isUnderWay(this.db, receiver.id))
      refuse('receiver.busy', `${receiver.name} is being written to`, { accepted: 'a moment later' });
    const id =
      (await orderHandOver(this.db, receiver.id, delivery.id, allowed)) ??
      refuse('not.found', 'there is no such receiver');
    this.wake();
    for (const end = Date.now() + LONGEST_WAIT_MS; Date.now() < end && !this.stopped; ) {
      await (this.underWay.get(id)?.ended ?? new Promise((resolve) => setTimeout(resolve, 50)));
      const row = await findHandOver(this.db, id);
      if (!row) refuse('not.found', 'there is no such receiver');
      if (row?.state === 'done') return;
      if (row && row.state !== 'waiting')
        refuse(row.code ?? 'receiver.trouble', row.trouble ?? 'it did not come to its end');
    }
    refuse('receiver.waits', `${receiver.name} is still being written to`, { accepted: 'a look at it later' });
  }

  /** Orders a delivery for receivers of its project that are on; nothing for one that waits for it already. */
  async order(
    delivery: { id: string; project_id: string },
    isMeant: (receiver: ReceiverRow) => boolean,
  ): Promise<void> {
    for (const receiver of await listReceivers(this.db, delivery.project_id))
      if (receiver.is_on && isMeant(receiver)) await orderHandOver(this.db, receiver.id, delivery.id);
    await announce(this.db, delivery.project_id, { type: 'receivers' });
    this.wake();
  }

  /** Ends what is on its way to a receiver, whichever server has it: what was taken stays taken, and the next goes on from there. */
  async stopFor(receiver: ReceiverRow): Promise<void> {
    const words = new Ended('stopped').message;
    if ((await askToStop(this.db, receiver.id, words)) === 0) return;
    for (const end = Date.now() + STOPPED_WITHIN_MS; Date.now() < end; ) {
      if (!(await isUnderWay(this.db, receiver.id))) break;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    await this.receivers.inTrouble(receiver, words);
  }
}

/** A lease on a hand-over: taken anew while it is under way, and ended here once it is not. */
class Hold {
  private confirmedAt: number;
  private done = 0;
  private of: number | null = null;
  private told = '';
  private readonly timer: NodeJS.Timeout;
  private asking = false;

  constructor(
    private readonly db: Database,
    private readonly due: DueHandOver,
    private readonly owner: string,
    takenAt: number,
    private readonly control: AbortController,
  ) {
    this.confirmedAt = takenAt;
    this.timer = setInterval(() => void this.confirm(), HOLD_MS);
  }

  came(done: number, of: number): void {
    this.done = done;
    this.of = of;
  }

  /** Until when it is surely this server's, as `Date.now()` tells it. Throws when it may not be by now, as after a standstill. */
  until(): number {
    this.control.signal.throwIfAborted();
    const until = this.confirmedAt + SAFE_MS;
    if (Date.now() >= until) {
      this.control.abort(new Ended('lost'));
      this.control.signal.throwIfAborted();
    }
    return until;
  }

  end(): void {
    clearInterval(this.timer);
  }

  private async confirm(): Promise<void> {
    if (this.asking) return;
    this.asking = true;
    try {
      const from = Date.now();
      const held = await holdHandOver(this.db, this.due.id, this.owner, { done: this.done, of: this.of });
      if (!held) return this.control.abort(new Ended('lost'));
      this.confirmedAt = from;
      if (held.stopAsked) return this.control.abort(new Ended('stopped'));
      const now = `${this.done} ${this.of}`;
      if (now !== this.told) await announce(this.db, this.due.receiver.project_id, { type: 'receivers' });
      this.told = now;
    } catch {
      // The database is away; `until` tells when that has been so for too long.
    } finally {
      this.asking = false;
    }
  }
}

/** Whether a server with these places may write to a receiver. */
const mayWrite = (
  places: { folders: readonly string[]; intakes: readonly string[] },
  { address, root }: Pick<ReceiverRow, 'address' | 'root'>,
): boolean => (address === null ? places.folders.includes(root ?? '') : isAllowedIntake(places.intakes, address));
