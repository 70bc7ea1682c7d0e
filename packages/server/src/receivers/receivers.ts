import {
  type Allowed,
  FORMATS,
  type Format,
  pathWithin,
  type Receipt,
  type ReceiptFile,
  refuse,
  type Standing,
  type StepsInShort,
  takenOf,
} from '@tolvik/core';
import type { FolderProcesses } from '@tolvik/folders';
import type { Config } from '../config';
import type { Database } from '../db/database';
import { type DeliveryFileRow, type DeliveryRow, deliveryFiles, lastDone } from '../db/deliveries';
import { findProject } from '../db/projects';
import { hashesOf, listReceivers, type ReceiverRow, setStanding, specsOfOutputs } from '../db/receivers';
import { readRender } from '../db/renders';
import type { Deliveries } from '../deliveries/deliveries';
import { announce } from '../events/hub';
import { placeOf, sha256Of, type TakenOf, type UnderWay } from './places';
import { soleReceiverOf } from './sole';

/** What receivers take of deliveries, what would be done there, and how they are brought to it. */
export class Receivers {
  constructor(
    readonly db: Database,
    readonly config: Config,
    readonly folders: FolderProcesses,
    private readonly deliveries: Deliveries,
  ) {}

  /** What would be done so that a receiver holds the newest delivery; changes nothing. */
  async look(receiver: ReceiverRow): Promise<{ delivery: DeliveryRow; steps: StepsInShort }> {
    const delivery =
      (await lastDone(this.db, receiver.project_id)) ??
      refuse('receiver.nothing', 'nothing was exported yet', { accepted: 'a project with a delivery' });
    await soleReceiverOf(this, receiver);
    const place = await placeOf(receiver, this);
    const rows = await madeFiles(this.db, delivery);
    return { delivery, steps: await place.look(await this.taken(receiver, delivery, rows)) };
  }

  /** Brings a receiver to a delivery; answers how it stands then. Throws refusals in words, and whatever ends it. */
  async bring(
    receiver: ReceiverRow,
    delivery: DeliveryRow,
    allowed: Allowed,
    underWay: Omit<UnderWay, 'bytesOf'>,
  ): Promise<Standing> {
    await soleReceiverOf(this, receiver);
    const place = await placeOf(receiver, this);
    const rows = await madeFiles(this.db, delivery);
    const rowOf = new Map(rows.map((row) => [row.path, row]));
    const bytesOf = async ({ path }: ReceiptFile): Promise<Uint8Array> => {
      const row = rowOf.get(path) as DeliveryFileRow;
      const bytes =
        (await readRender(this.db, row.render_key))?.bytes ?? (await this.deliveries.bytesOf(delivery, row));
      return bytes ?? refuse('receiver.file', `${path} could not be made again`);
    };
    return place.bring(await this.taken(receiver, delivery, rows), allowed, { ...underWay, bytesOf });
  }

  /** What a receiver takes of a delivery. */
  private async taken(
    receiver: ReceiverRow,
    delivery: DeliveryRow,
    rows: readonly DeliveryFileRow[],
  ): Promise<TakenOf> {
    const whole = await this.receiptOf(delivery, rows);
    const { rules, takes } = receiver;
    const facts = new Map(rows.flatMap(({ path, measured }) => (measured ? [[path, measured]] : [])));
    const specs = await specsOfOutputs(this.db, receiver.project_id);
    const ofFile = [(path: string) => facts.get(path), (outputId: string) => specs.get(outputId)] as const;
    // Patterns times files may take long, so they are matched where it holds up nobody.
    const taken = rules?.names.patterns.length
      ? await this.folders.take({ whole, by: { rules, takes }, facts, specs })
      : takenOf(whole, receiver, ...ofFile);
    return { ...taken, some: !delivery.whole };
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
        facts = { sha256: sha256Of(bytes), bytes: bytes.length };
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

  /** Keeps why a receiver does not get what it should, and tells of it. */
  async inTrouble(receiver: Pick<ReceiverRow, 'id' | 'project_id'>, message: string): Promise<void> {
    await setStanding(this.db, receiver.id, null, message);
    await announce(this.db, receiver.project_id, { type: 'receivers' });
  }

  /** Who follows a project. */
  followersOf = async (projectId: string): Promise<ReceiverRow[]> =>
    (await listReceivers(this.db, projectId)).filter(({ is_on, follows }) => is_on && follows);
}

const madeFiles = async (db: Database, delivery: DeliveryRow): Promise<DeliveryFileRow[]> =>
  (await deliveryFiles(db, delivery.id)).filter(({ state }) => state === 'made');
