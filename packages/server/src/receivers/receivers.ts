import { createHash } from 'node:crypto';
import {
  type Allowed,
  FORMATS,
  type Format,
  type Held,
  heldAgainst,
  pathWithin,
  type Receipt,
  type ReceiptFile,
  refuse,
  takenOf,
  writingFor,
} from '@tolvik/core';
import pLimit from 'p-limit';
import type { Config } from '../config';
import type { Database } from '../db/database';
import {
  type DeliveryFileRow,
  type DeliveryRow,
  deliveryFiles,
  dropEarlierByEdit,
  findDelivery,
  lastDone,
} from '../db/deliveries';
import { findProject } from '../db/projects';
import { hashesOf, listReceivers, type ReceiverRow, setStanding, specsOfOutputs } from '../db/receivers';
import { readRender } from '../db/renders';
import type { Deliveries } from '../deliveries/deliveries';
import { announce } from '../events/hub';
import { InOrder } from '../in-order';
import { type BytesOf, type Place, placeOf } from './places';

/** How often it is told how far a sending has come, in ms. */
const TELL_MS = 500;
const MOST_SENT_AT_ONCE = 3;
const MOST_WRITTEN_AT_ONCE = 3;

export type Looked = { delivery: DeliveryRow; place: Place; held: Held };

/** Who takes deliveries: folders of this server and intakes, brought to what a delivery holds. */
export class Receivers {
  constructor(
    readonly db: Database,
    readonly config: Config,
    private readonly deliveries: Deliveries,
    private readonly onError: (error: Error) => void,
  ) {}

  private readonly inTurn = { folders: pLimit(MOST_WRITTEN_AT_ONCE), intakes: pLimit(MOST_SENT_AT_ONCE) };
  /** How far sendings that are under way here have come. */
  private readonly sending = new Map<string, { done: number; of: number }>();

  /** Receivers of a project are fed with one delivery after the other. */
  private readonly feeding = new InOrder();
  /** The newest delivery that an edit made, by project. */
  private readonly newestByEdit = new Map<string, string>();

  /** Sendings that somebody stopped, by receiver. */
  private readonly stopped = new Map<string, AbortController>();

  /** Ends a sending that is under way here: what was taken stays taken, and the next sending goes on from there. */
  stop = (receiverId: string): void => this.stopped.get(receiverId)?.abort();

  progressOf = (receiverId: string): { done: number; of: number } | null => this.sending.get(receiverId) ?? null;

  /** What would be done so that a receiver holds the newest delivery; changes nothing. */
  async look(receiver: ReceiverRow): Promise<Looked> {
    const delivery =
      (await lastDone(this.db, receiver.project_id)) ??
      refuse('receiver.nothing', 'nothing was exported yet', { accepted: 'a project with a delivery' });
    return this.lookFor(receiver, delivery);
  }

  private async lookFor(receiver: ReceiverRow, delivery: DeliveryRow): Promise<Looked> {
    const place = await placeOf(receiver, this);
    const rows = await madeFiles(this.db, delivery);
    const measured = new Map(rows.map((row) => [row.path, row.measured ?? undefined]));
    const specs = await specsOfOutputs(this.db, receiver.project_id);
    const taken = takenOf(
      await this.receiptOf(delivery, rows),
      receiver,
      (path) => measured.get(path),
      (outputId) => specs.get(outputId),
    );
    const now = await place.now(taken.wanted.files.map(({ path }) => path));
    return { delivery, place, held: heldAgainst(now, taken, !delivery.whole) };
  }

  /** What a delivery holds, as the receipt of a folder that got all of it says it. */
  async receiptOf(delivery: DeliveryRow, rows?: readonly DeliveryFileRow[]): Promise<Receipt> {
    const project = await findProject(this.db, delivery.project_id);
    return {
      version: 1,
      project: { id: delivery.project_id, name: project?.name ?? '' },
      delivery: {
        id: delivery.id,
        number: delivery.number,
        at: (delivery.finished_at ?? delivery.created_at).toISOString(),
      },
      files: await this.wanted(delivery, rows ?? (await madeFiles(this.db, delivery))),
      leftovers: [],
    };
  }

  private async wanted(delivery: DeliveryRow, rows: readonly DeliveryFileRow[]): Promise<ReceiptFile[]> {
    const known = await hashesOf(
      this.db,
      rows.map((row) => row.render_key),
    );
    const wanted: ReceiptFile[] = [];
    for (const row of rows) {
      // Paths of a plan are safe by how they are made; what leaves this machine's hands is looked at once more.
      if (!pathWithin.safeParse(row.path).success) refuse('receiver.path', `${row.path} is no path within a folder`);
      let facts = known.get(row.render_key);
      if (!facts) {
        // Its bytes went to make room, and are made again.
        const bytes =
          (await this.deliveries.bytesOf(delivery, row)) ??
          refuse('receiver.file', `${row.path} could not be made again`);
        facts = { sha256: createHash('sha256').update(bytes).digest('hex'), bytes: bytes.length };
      }
      wanted.push({
        path: row.path,
        ...facts,
        widthPx: row.width_px,
        heightPx: row.height_px,
        dpi: FORMATS[row.format as Format].raster ? row.dpi : null,
        format: row.format as Format,
        piece: row.piece_id,
        output: row.output_id,
      });
    }
    return wanted;
  }

  /**
   * Brings a receiver to a delivery, the newest unless another is said; one at a time for a place. Few are sent to at
   * once: an intake may hang, and each sending holds a connection to the database.
   */
  write(receiver: ReceiverRow, allowed: Allowed, order: { deliveryId?: string; waits?: boolean } = {}): Promise<void> {
    const write = () => this.writeAlone(receiver, allowed, order);
    return this.inTurn[receiver.address === null ? 'folders' : 'intakes'](write);
  }

  private async writeAlone(
    receiver: ReceiverRow,
    allowed: Allowed,
    { deliveryId, waits }: { deliveryId?: string; waits?: boolean },
  ): Promise<void> {
    const lock = await this.db.connect();
    try {
      const { key } = await placeOf(receiver, this);
      if (waits) await lock.query('SELECT pg_advisory_lock(hashtextextended($1, 7))', [key]);
      else {
        const { rows } = await lock.query<{ got: boolean }>(
          'SELECT pg_try_advisory_lock(hashtextextended($1, 7)) AS got',
          [key],
        );
        if (!rows[0].got)
          refuse('receiver.busy', `${receiver.name} is being written to`, { accepted: 'a moment later' });
      }
      try {
        await this.writeNow(receiver, allowed, deliveryId);
      } finally {
        await lock.query('SELECT pg_advisory_unlock(hashtextextended($1, 7))', [key]);
      }
    } catch (error) {
      await this.inTrouble(receiver, error);
      throw error;
    } finally {
      lock.release();
    }
  }

  private async writeNow(receiver: ReceiverRow, allowed: Allowed, deliveryId?: string): Promise<void> {
    const chosen = deliveryId ? await findDelivery(this.db, deliveryId) : undefined;
    const { delivery, place, held } = chosen ? await this.lookFor(receiver, chosen) : await this.look(receiver);
    const { inStep, standing, ...writing } = writingFor(held, allowed, new Date().toISOString());
    const rowOf = new Map((await deliveryFiles(this.db, delivery.id)).map((row) => [row.path, row]));
    const bytesOf: BytesOf = async ({ path }) => {
      const row = rowOf.get(path) as DeliveryFileRow;
      const bytes =
        (await readRender(this.db, row.render_key))?.bytes ?? (await this.deliveries.bytesOf(delivery, row));
      return bytes ?? refuse('receiver.file', `${path} could not be made again`);
    };
    let told = 0;
    const onFile = (done: number) => {
      this.sending.set(receiver.id, { done, of: writing.write.length });
      if (Date.now() - told < TELL_MS) return;
      told = Date.now();
      announce(this.db, receiver.project_id, { type: 'receivers' }).catch(this.onError);
    };
    const refused = inStep
      ? []
      : await this.stoppable(receiver.id, (signal) => place.write(writing, bytesOf, onFile, signal));
    const ended = {
      ...standing,
      written: standing.written - refused.length,
      refused: standing.refused + refused.length,
    };
    await setStanding(this.db, receiver.id, ended, null);
    await announce(this.db, receiver.project_id, { type: 'receivers' });
  }

  private async stoppable<T>(receiverId: string, work: (signal: AbortSignal) => Promise<T>): Promise<T> {
    const control = new AbortController();
    this.stopped.set(receiverId, control);
    try {
      return await work(control.signal);
    } finally {
      this.stopped.delete(receiverId);
      this.sending.delete(receiverId);
    }
  }

  /** Keeps why a receiver does not get what it should, and tells of it. */
  async inTrouble(receiver: ReceiverRow, error: unknown): Promise<void> {
    const message = error instanceof Error ? error.message : String(error);
    await setStanding(this.db, receiver.id, null, message);
    await announce(this.db, receiver.project_id, { type: 'receivers' });
  }

  /** Who follows a project. */
  followersOf = async (projectId: string): Promise<ReceiverRow[]> =>
    (await listReceivers(this.db, projectId)).filter(({ is_on, follows }) => is_on && follows);

  /**
   * A delivery is done: every receiver that is on gets it; of one that an edit made, those that follow. While some are
   * being fed, of those that edits made the newest waits and no other.
   */
  async feed(deliveryId: string): Promise<void> {
    const delivery = await findDelivery(this.db, deliveryId);
    if (!delivery) return;
    const { project_id: projectId, by_edit: byEdit } = delivery;
    if (byEdit) {
      await dropEarlierByEdit(this.db, delivery);
      this.newestByEdit.set(projectId, deliveryId);
    }
    await this.feeding.run(projectId, async () => {
      if (!byEdit || this.newestByEdit.get(projectId) === deliveryId)
        await this.bring(delivery, ({ follows }) => follows || !byEdit);
    });
  }

  /** Brings every receiver that is on to a delivery, however old it is; not those that follow, which hold what there is now. */
  handOver = (delivery: DeliveryRow): Promise<void> =>
    this.feeding.run(delivery.project_id, () => this.bring(delivery, ({ follows }) => !follows));

  /** Brings those that follow to a delivery that there is already. */
  toFollowers = (delivery: DeliveryRow): Promise<void> =>
    this.feeding.run(delivery.project_id, () => this.bring(delivery, ({ follows }) => follows));

  /** Each by its own settings, and each trouble its own. */
  private async bring(delivery: DeliveryRow, isMeant: (receiver: ReceiverRow) => boolean): Promise<void> {
    const all = await listReceivers(this.db, delivery.project_id);
    for (const receiver of all.filter((each) => each.is_on && isMeant(each))) {
      const allowed = { removeLeftovers: receiver.remove_leftovers, replaceForeign: receiver.replace_foreign };
      await this.write(receiver, allowed, { deliveryId: delivery.id, waits: true }).catch(this.onError);
    }
  }
}

const madeFiles = async (db: Database, delivery: DeliveryRow): Promise<DeliveryFileRow[]> =>
  (await deliveryFiles(db, delivery.id)).filter(({ state }) => state === 'made');
