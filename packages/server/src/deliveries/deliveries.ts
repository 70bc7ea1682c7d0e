import { gunzipSync, gzipSync } from 'node:zlib';
import { cellKey, type Fonts, newId, ProjectDocument, type ProjectRecord, refuse, sha256Hex } from '@tolvik/core';
import { type Measured, RenderError } from '@tolvik/render';
import PgBoss from 'pg-boss';
import { putBlobs, readBlobs } from '../db/blobs';
import { type Database, isUnreachable, transaction } from '../db/database';
import {
  type DeliveryFileRow,
  type DeliveryRow,
  type FileResult,
  findDelivery,
  finishIfComplete,
  insertDelivery,
  insertDeliveryFiles,
  markFiles,
  newestDelivery,
  runningDeliveries,
  setDeliveryState,
  waitingFiles,
} from '../db/deliveries';
import { measuredOf, type NewRender, putRenders } from '../db/renders';
import { announce } from '../events/hub';
import type { FileMaker } from '../projects/file-maker';
import { type KeyedFile, OpenProject } from '../projects/open-project';
import type { OpenProjects } from '../projects/open-projects';

const QUEUE = 'delivery-chunks';
/** Files in one job: large enough that the queue costs nothing, small enough that a death loses little. */
const CHUNK = 50;
const IDLE_MS = 400;

type ChunkJob = { deliveryId: string; positions: number[] };

export type ChosenFiles = { pieceIds?: readonly string[]; outputIds?: readonly string[] };

/** Starts deliveries and works on them: chunks of files are jobs in PostgreSQL, and any worker may take any. */
export class Deliveries {
  private readonly boss: PgBoss;
  private working: Promise<void>[] = [];
  private stopped = false;
  private readonly sleepers = new Set<() => void>();
  private snapshots = new Map<string, Promise<OpenProject>>();

  constructor(
    private readonly db: Database,
    databaseUrl: string,
    private readonly projects: OpenProjects,
    private readonly maker: FileMaker,
    private readonly fonts: Fonts,
    private readonly onError: (error: Error) => void,
  ) {
    this.boss = new PgBoss({ connectionString: databaseUrl, schedule: false, max: 3, application_name: 'tolvik-queue' });
    this.boss.on('error', onError);
  }

  async start(role: 'all' | 'web' | 'worker'): Promise<void> {
    await this.boss.start();
    await this.boss.createQueue(QUEUE, { name: QUEUE, policy: 'standard', retryLimit: 5, expireInSeconds: 900 });
    if (role === 'web') return;
    await this.resume();
    this.working = [this.work(), this.work()];
  }

  async stop(): Promise<void> {
    this.stopped = true;
    this.wake();
    await Promise.allSettled(this.working);
    await this.boss.stop({ graceful: false, close: true }).catch(() => {});
  }

  /**
   * A new delivery of what the plan holds now. Refuses while the plan has trouble. Files that were
   * made before are there at once.
   */
  async begin(project: OpenProject, chosen: ChosenFiles = {}): Promise<string> {
    const { plan, files } = project.plan();
    const pieces = chosen.pieceIds && new Set(chosen.pieceIds);
    const outputs = chosen.outputIds && new Set(chosen.outputIds);
    const wanted = files.filter((file) => (!pieces || pieces.has(file.pieceId)) && (!outputs || outputs.has(file.outputId)));
    if (wanted.length === 0) refuse('delivery.empty', 'there are no files to export', { accepted: 'at least one piece and one output that are on' });
    const troubled = wanted.filter((file) => file.problem || file.clashes.length > 0);
    if (troubled.length > 0) {
      const first = troubled[0];
      const nameOf = (id: string) => plan.pieces.find((piece) => piece.id === id)?.name ?? id;
      refuse('delivery.held', first.problem ? `${nameOf(first.pieceId)}: ${first.problem}` : `${troubled.length} files share a path with another, the first is ${first.path}`, {
        where: first.path,
        accepted: 'a plan in which every file has its own path and can be made',
      });
    }
    const snapshot = await this.snapshot(project);
    const id = newId();
    const waiting = await transaction(this.db, async (client) => {
      const number = await insertDelivery(client, { id, projectId: project.id, version: project.version, snapshot, total: wanted.length });
      const rows = await insertDeliveryFiles(
        client,
        id,
        wanted.map((file) => ({
          path: file.path,
          piece_id: file.pieceId,
          output_id: file.outputId,
          format: file.format,
          width_px: file.widthPx,
          height_px: file.heightPx,
          dpi: file.dpi,
          render_key: file.key,
          error: null,
        })),
      );
      await announce(client, project.id, { type: 'delivery', id, number, state: 'running', total: wanted.length, made: wanted.length - rows.length, failed: 0 });
      return rows;
    });
    if (waiting.length > 0)
      await this.enqueue(
        id,
        waiting.sort((a, b) => a - b),
      );
    else await this.finish(id);
    return id;
  }

  /** The project's records as they are, kept by content; the newest delivery's snapshot serves again when nothing changed. */
  private async snapshot(project: OpenProject): Promise<string> {
    const last = await newestDelivery(this.db, project.id);
    if (last?.version === project.version) return last.snapshot;
    const bytes = gzipSync(JSON.stringify([...project.doc.all()]), { level: 1 });
    const hash = sha256Hex(bytes);
    await putBlobs(this.db, [{ hash, mediaType: 'application/gzip', bytes }]);
    return hash;
  }

  private async enqueue(deliveryId: string, positions: readonly number[]): Promise<void> {
    const jobs: { name: string; data: ChunkJob }[] = [];
    for (let at = 0; at < positions.length; at += CHUNK) jobs.push({ name: QUEUE, data: { deliveryId, positions: positions.slice(at, at + CHUNK) } });
    await this.boss.insert(jobs);
    this.wake();
  }

  /** Lets what is left of a running delivery be; what was made stays. */
  async halt(id: string): Promise<void> {
    const row = await findDelivery(this.db, id);
    if (row && (await setDeliveryState(this.db, id, 'running', 'stopped'))) await this.tell(id);
  }

  /** Goes on with a stopped delivery where it stopped. */
  async goOn(id: string): Promise<void> {
    if (!(await setDeliveryState(this.db, id, 'stopped', 'running'))) return;
    await this.requeue(id);
  }

  private async requeue(id: string): Promise<void> {
    const waiting = await waitingFiles(this.db, id);
    if (waiting.length > 0)
      await this.enqueue(
        id,
        waiting.map((file) => file.position),
      );
    else await this.finish(id);
  }

  /** After a start: deliveries that a dead server left half made go on. Files that are made are found made. */
  private async resume(): Promise<void> {
    for (const delivery of await runningDeliveries(this.db)) await this.requeue(delivery.id);
  }

  /** Until there may be work: at once when it was put here, soon when another server put it. */
  private sleep(): Promise<void> {
    return new Promise((resolve) => {
      const up = () => {
        clearTimeout(timer);
        this.sleepers.delete(up);
        resolve();
      };
      const timer = setTimeout(up, IDLE_MS);
      this.sleepers.add(up);
    });
  }

  private wake(): void {
    for (const up of this.sleepers) up();
  }

  private async work(): Promise<void> {
    while (!this.stopped) {
      try {
        const [job] = (await this.boss.fetch<ChunkJob>(QUEUE)) ?? [];
        if (!job) {
          await this.sleep();
          continue;
        }
        try {
          await this.chunk(job.data);
          await this.boss.complete(QUEUE, job.id);
        } catch (error) {
          if (this.stopped) return;
          this.onError(error as Error);
          await this.boss.fail(QUEUE, job.id, { message: (error as Error).message });
        }
      } catch (error) {
        if (this.stopped) return;
        if (!isUnreachable(error)) this.onError(error as Error);
        await new Promise((resolve) => setTimeout(resolve, 1000));
      }
    }
  }

  /** Makes the files of one chunk that are still waiting, stores them in one statement, marks their rows. */
  private async chunk({ deliveryId, positions }: ChunkJob): Promise<void> {
    const delivery = await findDelivery(this.db, deliveryId);
    if (delivery?.state !== 'running') return;
    const rows = await waitingFiles(this.db, deliveryId, positions);
    if (rows.length > 0) {
      const project = await this.projectOf(delivery);
      const have = await measuredOf(
        this.db,
        rows.map((row) => row.render_key),
      );
      const { byCell } = project.plan();
      const results = await Promise.all(rows.map((row) => this.makeOne(project, row, byCell.get(cellKey(row.piece_id, row.output_id)), have.get(row.render_key))));
      await transaction(this.db, async (client) => {
        await putRenders(
          client,
          results.flatMap(({ render }) => (render ? [render] : [])),
        );
        await markFiles(client, deliveryId, results);
      });
    }
    const finished = await finishIfComplete(this.db, deliveryId);
    await this.tell(deliveryId, finished ? undefined : rows.at(-1)?.path);
  }

  private async makeOne(project: OpenProject, row: DeliveryFileRow, file: KeyedFile | undefined, have: Measured | undefined): Promise<FileResult & { render?: NewRender }> {
    const { position } = row;
    if (have) return { position, error: null, bytes: have.bytes };
    if (!file || file.key !== row.render_key) return { position, error: 'the snapshot composes to another file than it did', bytes: 0 };
    try {
      const render = await this.maker.render(project, file, 'normal');
      return { position, error: null, bytes: render.bytes.length, render };
    } catch (error) {
      if (error instanceof RenderError && error.code === 'stopped') throw error;
      return { position, error: error instanceof Error ? error.message : String(error), bytes: 0 };
    }
  }

  /** The project as it was when the delivery began. */
  private async projectOf(delivery: DeliveryRow): Promise<OpenProject> {
    const current = await this.projects.get(delivery.project_id);
    if (current?.version === delivery.version) return current;
    const { snapshot } = delivery;
    let read = this.snapshots.get(snapshot);
    if (!read) {
      read = this.readSnapshot(delivery, current?.name ?? '');
      this.snapshots.set(snapshot, read);
      read.catch(() => this.snapshots.delete(snapshot));
      for (const key of this.snapshots.keys()) {
        if (this.snapshots.size <= 2) break;
        this.snapshots.delete(key);
      }
    }
    return read;
  }

  private async readSnapshot(delivery: DeliveryRow, name: string): Promise<OpenProject> {
    const [blob] = await readBlobs(this.db, [delivery.snapshot]);
    const records = JSON.parse(gunzipSync(blob.bytes).toString('utf8')) as ProjectRecord[];
    const project = new OpenProject(delivery.project_id, name, delivery.version, new ProjectDocument(records), this.fonts);
    await project.loadPictures(this.db);
    return project;
  }

  private async finish(id: string): Promise<void> {
    await finishIfComplete(this.db, id);
    await this.tell(id);
  }

  private async tell(id: string, path?: string): Promise<void> {
    const d = await findDelivery(this.db, id);
    if (d) await announce(this.db, d.project_id, { type: 'delivery', id, number: d.number, state: d.state, total: d.total, made: d.made, failed: d.failed, path });
  }
}
