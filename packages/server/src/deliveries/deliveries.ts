import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import { newId, refuse } from '@tolvik/core';
import { type Measured, RenderError } from '@tolvik/render';
import { putBlobs, readBlobs } from '../db/blobs';
import { type Database, isDiskFull, isUnreachable, transaction } from '../db/database';
import {
  type DeliveryFileRow,
  type DeliveryRow,
  dropOvertaken,
  type FileResult,
  findDelivery,
  finishIfComplete,
  holdBlobs,
  insertDelivery,
  insertDeliveryFiles,
  markFiles,
  newestDelivery,
  nextDeliveryNumber,
  runningDeliveries,
  setDeliveryState,
} from '../db/deliveries';
import { measuredOf, type NewRender, putRenders, readRender } from '../db/renders';
import { beat, claimFiles, DEAD_AFTER_MS, forget, hopelessFiles, releaseFiles } from '../db/workers';
import { announce } from '../events/hub';
import type { FileMaker } from '../projects/file-maker';
import { composedOf } from '../projects/file-maker';
import { type Answered, type ChosenFiles, chosenOf, type DeliveryStart, pictureKey } from '../projects/open-project';
import type { OpenProjects, ProjectHandle } from '../projects/open-projects';
import { ThreadGone } from '../projects/project-thread';

const gzipped = promisify(gzip);
const gunzipped = promisify(gunzip);

/** Files taken at once: large enough that asking costs nothing, small enough that a death loses little. */
const CHUNK = 50;
/** Files composed at once, so that a project's thread answers others in between. */
const COMPOSED_AT_ONCE = 10;
const IDLE_MS = 400;
const BEAT_MS = DEAD_AFTER_MS / 4;
const LOOPS = 2;

type Result = FileResult & { render?: NewRender };

/** Errors that may be gone at the next try; any other is the files' own. */
const isPassing = (error: unknown) =>
  error instanceof ThreadGone ||
  (error instanceof RenderError && error.code === 'stopped') ||
  isUnreachable(error) ||
  isDiskFull(error);

function failed(rows: readonly DeliveryFileRow[], error: unknown): Map<number, Result> {
  if (isPassing(error)) throw error;
  const message = error instanceof Error ? error.message : String(error);
  return new Map(rows.map(({ position }) => [position, { position, error: message, measured: null }]));
}

/**
 * Starts deliveries and works on them. Rows are the queue: a worker takes some that wait and owns them as long as it
 * is alive, which it says every two seconds; those of a dead one are taken by the next that looks.
 */
export class Deliveries {
  /** A delivery came to its end here, and its hand-overs are ordered. */
  onDone: () => void = () => {};
  private working: Promise<void>[] = [];
  private stopped = false;
  private readonly sleepers = new Set<() => void>();
  /** Under which names this process owns files. A loop that stumbled takes a new one, and lets the old one die. */
  private readonly owners = new Set<string>();
  private beating: NodeJS.Timeout | undefined;

  constructor(
    private readonly db: Database,
    private readonly projects: OpenProjects,
    private readonly maker: FileMaker,
    private readonly onError: (error: Error) => void,
  ) {}

  async start(role: 'all' | 'web' | 'worker'): Promise<void> {
    if (role === 'web') return;
    this.beating = setInterval(() => void beat(this.db, [...this.owners]).catch(() => {}), BEAT_MS);
    this.working = Array.from({ length: LOOPS }, () => this.work());
  }

  async stop(): Promise<void> {
    this.stopped = true;
    this.wake();
    await Promise.allSettled(this.working);
    clearInterval(this.beating);
    const owners = [...this.owners];
    await Promise.all(owners.map((owner) => releaseFiles(this.db, owner))).catch(() => {});
    await forget(this.db, owners).catch(() => {});
  }

  /**
   * A new delivery of what the plan holds now, with the records it was planned from. Refuses while the plan has
   * trouble. Files that were made before are there at once. `byEdit`: nobody asked for it but receivers that follow.
   */
  async begin(project: ProjectHandle, chosen: ChosenFiles = {}, byEdit = false): Promise<string> {
    const { version, files, records, hashes } = await this.planned(project, chosen);
    const snapshot = await this.keepSnapshot(project.id, version, records);
    const id = newId();
    // By itself: within the transaction, edits would wait until all rows of the delivery are there.
    const number = await nextDeliveryNumber(this.db, project.id, byEdit);
    const waiting = await transaction(this.db, async (client) => {
      await insertDelivery(client, {
        id,
        projectId: project.id,
        number,
        version,
        whole: !chosen.pieceIds && !chosen.outputIds,
        byEdit,
        snapshot,
        total: files.length,
      });
      await holdBlobs(client, id, hashes);
      const rows = await insertDeliveryFiles(
        client,
        id,
        files.map((file) => ({
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
      await announce(client, project.id, {
        type: 'delivery',
        id,
        number,
        state: 'running',
        total: files.length,
        made: files.length - rows.length,
        failed: 0,
        byEdit,
      });
      return rows;
    });
    if (waiting.length > 0) this.wake();
    else await this.finish(id);
    return id;
  }

  /** What is to be delivered, once every file has its key; while the last are worked out, the first are being made. */
  private async planned(project: ProjectHandle, chosen: ChosenFiles): Promise<DeliveryStart> {
    const made = this.maker.asGiven(project);
    try {
      await project.plan((files) => made.give(chosenOf(files, chosen)));
      return await project.ask('delivery', chosen);
    } finally {
      made.end();
    }
  }

  /** The records kept by content; the newest delivery's snapshot serves again when nothing changed. */
  private async keepSnapshot(projectId: string, version: number, records: string): Promise<string> {
    const last = await newestDelivery(this.db, projectId);
    if (last?.version === version) return last.snapshot;
    const bytes = await gzipped(records, { level: 1 });
    const hash = createHash('sha256').update(bytes).digest('hex');
    await putBlobs(this.db, [{ hash, mediaType: 'application/gzip', bytes }]);
    return hash;
  }

  /** The bytes of a made file of a delivery; made again from its snapshot when they went to make room. */
  async bytesOf(delivery: DeliveryRow, row: DeliveryFileRow): Promise<Buffer | undefined> {
    if (row.state !== 'made') return undefined;
    const kept = await readRender(this.db, row.render_key);
    if (kept) return kept.bytes;
    const { render } = (await this.make(delivery, [row])).get(row.position) ?? {};
    if (render) await putRenders(this.db, [render]);
    return render?.bytes;
  }

  /** What one of its files looks like, as a PNG of a longest side in px; undefined when it was not made. */
  async pictureOf(
    delivery: DeliveryRow,
    row: DeliveryFileRow,
    { side, page = 1 }: { side?: number; page?: number } = {},
  ): Promise<Buffer | undefined> {
    const pages = row.measured?.pages ?? 1;
    if (row.state !== 'made' || page > pages) return undefined;
    // Pages have keys of their own.
    const kept = pages === 1 ? await readRender(this.db, pictureKey(row.render_key, side)) : undefined;
    if (kept) return kept.bytes;
    const project = await this.projectOf(delivery);
    const cell = { pieceId: row.piece_id, outputId: row.output_id, page: pages === 1 ? undefined : page };
    return (await this.maker.made(await project.ask('picture', { cell, side }), delivery.project_id)).bytes;
  }

  /** Lets what is left of a running delivery be; what was made stays. */
  async halt(id: string): Promise<void> {
    const row = await findDelivery(this.db, id);
    if (row && (await setDeliveryState(this.db, id, 'running', 'stopped'))) await this.tell(id);
  }

  /** Goes on with a stopped delivery where it stopped. */
  async goOn(id: string): Promise<void> {
    if (!(await setDeliveryState(this.db, id, 'stopped', 'running'))) return;
    this.wake();
    await this.tell(id);
  }

  /** Until there may be work: at once when it was put here, soon when another server put it. */
  private sleep(ms: number): Promise<void> {
    return new Promise((resolve) => {
      const up = () => {
        clearTimeout(timer);
        this.sleepers.delete(up);
        resolve();
      };
      const timer = setTimeout(up, ms);
      this.sleepers.add(up);
    });
  }

  private wake(): void {
    for (const up of this.sleepers) up();
  }

  private async work(): Promise<void> {
    let owner: string | null = null;
    /** The owner name under which this loop last failed for a passing reason; its files are released without a try being counted. */
    let before: string | null = null;
    while (!this.stopped) {
      try {
        if (before) await releaseFiles(this.db, before);
        before = null;
        if (!owner) {
          owner = newId();
          await beat(this.db, [owner]);
          this.owners.add(owner);
        }
        if (!(await this.takeSome(owner))) await this.sleep(IDLE_MS);
      } catch (error) {
        // On the way out what is owned is given back by `stop`.
        if (this.stopped) return;
        if (owner) this.owners.delete(owner);
        before ??= owner;
        owner = null;
        if (!isUnreachable(error)) this.onError(error as Error);
        await this.sleep(1000);
      }
    }
  }

  /** Takes files of a running delivery that nobody makes, and makes them; answers whether there were any. */
  private async takeSome(owner: string): Promise<boolean> {
    for (const delivery of await runningDeliveries(this.db)) {
      const rows = await transaction(this.db, (client) => claimFiles(client, delivery.id, owner, CHUNK));
      if (rows.length === 0) {
        const hopeless = await hopelessFiles(this.db, delivery.id);
        if (hopeless.length > 0) {
          const error = 'making it was begun 5 times, and each time ended whoever made it';
          await transaction(this.db, (client) =>
            markFiles(
              client,
              delivery.id,
              hopeless.map((position) => ({ position, error, measured: null })),
            ),
          );
        }
        // One whose last files were made by somebody who died before saying so.
        if (await this.complete(delivery.id)) await this.tell(delivery.id);
        continue;
      }
      await this.chunk(delivery, rows);
      return true;
    }
    return false;
  }

  /** Makes files, stores them in one statement, marks their rows. */
  private async chunk(delivery: DeliveryRow, rows: readonly DeliveryFileRow[]): Promise<void> {
    const have = await measuredOf(
      this.db,
      rows.map((row) => row.render_key),
    );
    const missing = rows.filter((row) => !have.has(row.render_key));
    const made =
      missing.length > 0
        ? await this.make(delivery, missing).catch((error) => failed(missing, error))
        : new Map<number, Result>();
    const results = rows.map(
      (row): Result =>
        made.get(row.position) ?? {
          position: row.position,
          error: null,
          measured: have.get(row.render_key) as Measured,
        },
    );
    await transaction(this.db, async (client) => {
      await putRenders(
        client,
        results.flatMap(({ render }) => (render ? [render] : [])),
      );
      await markFiles(client, delivery.id, results);
    });
    const finished = await this.complete(delivery.id);
    await this.tell(
      delivery.id,
      finished ? undefined : rows.at(-1)?.path,
      rows.map((row) => row.position),
    );
  }

  private async make(delivery: DeliveryRow, rows: readonly DeliveryFileRow[]): Promise<Map<number, Result>> {
    const project = await this.projectOf(delivery);
    const results: Promise<Result>[] = [];
    for (let at = 0; at < rows.length; at += COMPOSED_AT_ONCE) {
      const some = rows.slice(at, at + COMPOSED_AT_ONCE);
      const { answered } = await project.ask('jobs', {
        cells: some.map((row) => ({ pieceId: row.piece_id, outputId: row.output_id })),
        whole: true,
      });
      for (const [i, row] of some.entries()) results.push(this.makeOne(row, answered[i], delivery.project_id));
    }
    return new Map((await Promise.all(results)).map((result) => [result.position, result]));
  }

  private async makeOne(
    { position, render_key }: DeliveryFileRow,
    answered: Answered,
    projectId: string,
  ): Promise<Result> {
    try {
      const composed = composedOf(answered);
      if (composed.job.key !== render_key)
        return { position, error: 'the snapshot composes to another file than it did', measured: null };
      const render = await this.maker.render(composed, projectId, 'normal');
      return { position, error: null, measured: render.measured, render };
    } catch (error) {
      if (isPassing(error)) throw error;
      return { position, error: error instanceof Error ? error.message : String(error), measured: null };
    }
  }

  /** The project as it was when the delivery began. */
  async projectOf(delivery: DeliveryRow): Promise<ProjectHandle> {
    const { snapshot, project_id, version } = delivery;
    const current = await this.projects.get(project_id);
    if (current?.version === version) return current;
    return this.projects.snapshot(snapshot, project_id, current?.name ?? '', version, () =>
      this.snapshotText(snapshot),
    );
  }

  private async snapshotText(snapshot: string): Promise<string> {
    const [blob] = await readBlobs(this.db, [snapshot]);
    return (await gunzipped(blob.bytes)).toString('utf8');
  }

  /** The records that a delivery was made from, as JSON text. Refuses one that is not there. */
  async recordsOf(id: string): Promise<string> {
    const delivery = (await findDelivery(this.db, id)) ?? refuse('not.found', 'there is no such delivery');
    return this.snapshotText(delivery.snapshot);
  }

  /** Ends a delivery that has nothing left to make; tells of it once, whoever made the last of its files. */
  private async complete(id: string): Promise<boolean> {
    const finished = await finishIfComplete(this.db, id);
    if (finished) {
      this.onDone();
      const delivery = await findDelivery(this.db, id);
      if (delivery?.by_edit) await dropOvertaken(this.db, delivery.project_id);
    }
    return finished;
  }

  private async finish(id: string): Promise<void> {
    await this.complete(id);
    await this.tell(id);
  }

  private async tell(id: string, path?: string, positions?: number[]): Promise<void> {
    const d = await findDelivery(this.db, id);
    if (d)
      await announce(this.db, d.project_id, {
        type: 'delivery',
        id,
        number: d.number,
        state: d.state,
        total: d.total,
        made: d.made,
        failed: d.failed,
        byEdit: d.by_edit,
        path,
        positions,
      });
  }
}
