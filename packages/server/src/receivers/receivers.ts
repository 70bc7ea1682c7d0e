import { createHash } from 'node:crypto';
import {
  type Allowed,
  allowedSteps,
  FORMATS,
  type FolderSteps,
  type Format,
  folderSteps,
  type IntakeRules,
  pathWithin,
  type Receipt,
  type ReceiptFile,
  receiptAfter,
  refusals,
  refuse,
} from '@tolvik/core';
import { type FolderNow, lookAt, writeInto } from '@tolvik/folders';
import type { Config } from '../config';
import type { Database } from '../db/database';
import { type DeliveryFileRow, type DeliveryRow, deliveryFiles, findDelivery, lastDone } from '../db/deliveries';
import { findProject } from '../db/projects';
import { hashesOf, listReceivers, type ReceiverRow, setStanding } from '../db/receivers';
import { readRender } from '../db/renders';
import type { Deliveries } from '../deliveries/deliveries';
import { announce } from '../events/hub';
import { folderOf } from './roots';

export type Looked = {
  delivery: DeliveryRow;
  folder: string;
  wanted: ReceiptFile[];
  now: FolderNow;
  steps: FolderSteps;
  /** What the receiver's rules do not take, and why. */
  refused: { path: string; why: string }[];
};

/** Who takes deliveries: folders of this server, brought to what a delivery holds. */
export class Receivers {
  constructor(
    private readonly db: Database,
    private readonly config: Config,
    private readonly deliveries: Deliveries,
    private readonly onError: (error: Error) => void,
  ) {}

  /** What would be done so that a receiver holds the newest delivery; changes nothing. */
  async look(receiver: ReceiverRow): Promise<Looked> {
    const delivery =
      (await lastDone(this.db, receiver.project_id)) ??
      refuse('receiver.nothing', 'nothing was exported yet', { accepted: 'a project with a delivery' });
    return this.lookFor(receiver, delivery);
  }

  private async lookFor(receiver: ReceiverRow, delivery: DeliveryRow): Promise<Looked> {
    const folder = await folderOf(this.config, receiver.root, receiver.folder);
    const made = (await deliveryFiles(this.db, delivery.id)).filter(({ state }) => state === 'made');
    const refused = receiver.rules ? refusedBy(receiver.rules, made) : [];
    const left = new Set(refused.map(({ path }) => path));
    const wanted = await this.wanted(
      delivery,
      made.filter(({ path }) => !left.has(path)),
    );
    const now = await lookAt(
      folder,
      wanted.map(({ path }) => path),
    );
    const steps = folderSteps(now.there, now.last, wanted, { some: !delivery.whole, begun: now.begun });
    return { delivery, folder, wanted, now, steps, refused };
  }

  /** What a delivery holds, as the receipt of a folder that got all of it says it. */
  async receiptOf(delivery: DeliveryRow): Promise<Receipt> {
    const rows = (await deliveryFiles(this.db, delivery.id)).filter(({ state }) => state === 'made');
    return { ...(await this.headOf(delivery)), files: await this.wanted(delivery, rows), leftovers: [] };
  }

  private async headOf(delivery: DeliveryRow): Promise<Omit<Receipt, 'files' | 'leftovers'>> {
    const project = await findProject(this.db, delivery.project_id);
    return {
      version: 1,
      project: { id: delivery.project_id, name: project?.name ?? '' },
      delivery: {
        id: delivery.id,
        number: delivery.number,
        at: (delivery.finished_at ?? delivery.created_at).toISOString(),
      },
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

  /** Brings a receiver to a delivery, the newest unless another is said; one at a time for a folder. */
  async write(receiver: ReceiverRow, allowed: Allowed, deliveryId?: string): Promise<void> {
    const lock = await this.db.connect();
    try {
      const { rows } = await lock.query<{ got: boolean }>(
        'SELECT pg_try_advisory_lock(hashtextextended($1, 7)) AS got',
        [`${receiver.root}/${receiver.folder}`],
      );
      if (!rows[0].got) refuse('receiver.busy', `${receiver.name} is being written to`, { accepted: 'a moment later' });
      try {
        await this.writeNow(receiver, allowed, deliveryId);
      } finally {
        await lock.query('SELECT pg_advisory_unlock(hashtextextended($1, 7))', [`${receiver.root}/${receiver.folder}`]);
      }
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error);
      await setStanding(this.db, receiver.id, null, message);
      await announce(this.db, receiver.project_id, { type: 'receivers' });
      throw error;
    } finally {
      lock.release();
    }
  }

  private async writeNow(receiver: ReceiverRow, allowed: Allowed, deliveryId?: string): Promise<void> {
    const chosen = deliveryId ? await findDelivery(this.db, deliveryId) : undefined;
    const { delivery, folder, wanted, now, steps, refused } = chosen
      ? await this.lookFor(receiver, chosen)
      : await this.look(receiver);
    const { write, remove } = allowedSteps(steps, wanted, allowed);
    const at = new Date().toISOString();
    const head = await this.headOf(delivery);
    const receipt = receiptAfter(head, now.last, wanted, steps, allowed, !delivery.whole);
    const rowOf = new Map((await deliveryFiles(this.db, delivery.id)).map((row) => [row.path, row]));
    const bytesOf = async ({ path }: ReceiptFile): Promise<Uint8Array> => {
      const row = rowOf.get(path) as DeliveryFileRow;
      const bytes =
        (await readRender(this.db, row.render_key))?.bytes ?? (await this.deliveries.bytesOf(delivery, row));
      return bytes ?? refuse('receiver.file', `${path} could not be made again`);
    };
    // Where all is as it should be, not a byte is written.
    const inStep = write.length + remove.length === 0 && now.last?.delivery.id === delivery.id;
    if (!inStep) await writeInto(folder, { write, remove, receipt }, bytesOf);
    const replaced = allowed.replaceForeign ? steps.foreign.filter(({ wanted: is }) => is).length : 0;
    await setStanding(
      this.db,
      receiver.id,
      {
        delivery: { id: delivery.id, number: delivery.number },
        at,
        written: write.length,
        removed: remove.length,
        leftovers: steps.leftovers.length - remove.length,
        foreign: steps.foreign.length - replaced,
        refused: refused.length,
      },
      null,
    );
    await announce(this.db, receiver.project_id, { type: 'receivers' });
  }

  /** A delivery is done: every receiver that is on gets it, by its own settings; each trouble is its own. */
  async feed(deliveryId: string): Promise<void> {
    const delivery = await findDelivery(this.db, deliveryId);
    if (!delivery) return;
    for (const receiver of await listReceivers(this.db, delivery.project_id)) {
      if (!receiver.is_on) continue;
      const allowed = { removeLeftovers: receiver.remove_leftovers, replaceForeign: receiver.replace_foreign };
      await this.write(receiver, allowed, deliveryId).catch(this.onError);
    }
  }
}

/** Files, as they were written and measured, that rules do not take. */
const refusedBy = (rules: IntakeRules, rows: readonly DeliveryFileRow[]): { path: string; why: string }[] =>
  rows.flatMap(({ path, format, width_px, height_px, measured }) => {
    const [first] = refusals(rules, {
      path,
      format: format as Format,
      widthPx: measured?.widthPx ?? width_px,
      heightPx: measured?.heightPx ?? height_px,
      bytes: measured?.bytes,
      alpha: measured?.alpha,
      palette: measured?.colourType === 'palette',
    });
    return first ? [{ path, why: first.words }] : [];
  });
