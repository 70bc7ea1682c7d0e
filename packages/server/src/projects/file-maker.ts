import { FORMATS, refuse } from '@tolvik/core';
import { type Priority, RenderError, type RenderPool, renderJob } from '@tolvik/render';
import { LRUCache } from 'lru-cache';
import type { NewRender, RenderRow } from '../db/renders';
import type { KeyedFile } from './keyed-plan';
import type { Answered, Cell, Composed } from './open-project';
import type { ProjectHandle } from './open-projects';
import type { Pictures } from './pictures';
import type { Renders } from './renders';

/** Files asked of a project's thread at once: it answers others in between. */
const COMPOSED_AT_ONCE = 8;
const WARMED_AT_ONCE = 48;
/** Files made at once while the rest of an export is being planned, and how many such lots at a time. */
const LOT = 24;
const LOTS = 2;
const FAILED_FOR_MS = 600_000;

/**
 * Makes planned files, or takes them from what was made before. What is made is kept under the key of what was
 * composed, never under the one that was asked for. One file asked for twice is made once.
 */
export class FileMaker {
  private readonly underWay = new Map<string, Promise<NewRender>>();
  /** What cannot be made, and why; not tried ahead of need again for a while. */
  private readonly failures = new LRUCache<string, string>({ max: 10_000, ttl: FAILED_FOR_MS });
  private warming: { what: string; control: AbortController } | null = null;

  constructor(
    private readonly renders: Renders,
    private readonly pool: RenderPool,
    private readonly pictures: Pictures,
    private readonly onError: (error: Error) => void,
  ) {}

  /** Renders what was composed from a project, without storing it. */
  async render(
    { job, format }: Composed,
    projectId: string,
    priority: Priority,
    signal?: AbortSignal,
  ): Promise<NewRender> {
    const { key, pictures: shown } = job;
    const known = this.underWay.get(key);
    if (known) return known;
    const shared = priority !== 'low';
    const make = async (): Promise<NewRender> => {
      const pictures = new Map(
        (shown.length > 0 ? await this.pictures.read(shown) : []).map((each) => [each.hash, each]),
      );
      const { bytes, measured } = await this.pool
        .render(
          renderJob(job, (hash) => pictures.get(hash)),
          priority,
          signal,
          projectId,
        )
        .catch((error: unknown) => {
          if (error instanceof RenderError && error.code !== 'stopped') this.failures.set(key, error.message);
          throw error;
        });
      this.failures.delete(key);
      return { key, mediaType: FORMATS[format].mediaType, bytes, measured };
    };
    const made = make().finally(() => shared && this.underWay.delete(key));
    // What is made ahead of need may be called off, so nobody else waits for it.
    if (shared) this.underWay.set(key, made);
    return made;
  }

  /** Files composed and rendered, each or why not; in the order of the cells. */
  async renderAll(
    project: ProjectHandle,
    cells: readonly Cell[],
    priority: Priority,
    signal?: AbortSignal,
  ): Promise<PromiseSettledResult<NewRender>[]> {
    const results: Promise<PromiseSettledResult<NewRender>[]>[] = [];
    for (let at = 0; at < cells.length; at += COMPOSED_AT_ONCE) {
      if (signal?.aborted) break;
      const { answered } = await project.ask('jobs', { cells: cells.slice(at, at + COMPOSED_AT_ONCE), whole: true });
      results.push(
        Promise.allSettled(answered.map((each) => this.render(composedOf(each), project.id, priority, signal))),
      );
    }
    return (await Promise.all(results)).flat();
  }

  /** The bytes of something composed, from the cache or made now and kept. */
  async made(composed: Composed, projectId: string): Promise<RenderRow> {
    const cached = await this.renders.read(composed.job.key);
    if (cached) return cached;
    const made = await this.render(composed, projectId, 'high');
    await this.renders.put([made]);
    return { key: made.key, media_type: made.mediaType, bytes: made.bytes, measured: made.measured };
  }

  /** The bytes of a planned file; should the project have moved on meanwhile, those of what it is now. */
  async file(project: ProjectHandle, file: KeyedFile, whole: boolean): Promise<RenderRow> {
    const cached = await this.renders.read(file.key);
    if (cached) return cached;
    const { pieceId, outputId } = file;
    const { answered } = await project.ask('jobs', { cells: [{ pieceId, outputId }], whole });
    return this.made(composedOf(answered[0]), project.id);
  }

  /**
   * Makes what the plan lacks while nobody waits for it, so that weights become known and an export
   * finds its files made. Asked again for the same version it goes on; for another one, that takes its place.
   */
  warm(project: ProjectHandle, version: number, files: readonly KeyedFile[]): void {
    const what = `${project.id} ${version}`;
    if (this.warming?.what === what) return;
    this.warming?.control.abort();
    const control = new AbortController();
    this.warming = { what, control };
    void this.warmAll(project, version, files, control.signal)
      .catch((error) => !control.signal.aborted && this.onError(error))
      .finally(() => {
        if (this.warming?.control === control) this.warming = null;
      });
  }

  private async warmAll(
    project: ProjectHandle,
    version: number,
    files: readonly KeyedFile[],
    signal: AbortSignal,
  ): Promise<void> {
    for (let at = 0; at < files.length; at += WARMED_AT_ONCE) {
      const chunk = files.slice(at, at + WARMED_AT_ONCE).filter((file) => file.key);
      const have = await this.renders.weightsOf(chunk.map((file) => file.key));
      const missing = chunk.filter((file) => !have.has(file.key) && !this.failures.has(file.key));
      if (missing.length === 0) continue;
      if (signal.aborted || project.version !== version) return;
      const results = await this.renderAll(
        project,
        missing.map(({ pieceId, outputId }) => ({ pieceId, outputId })),
        'low',
        signal,
      );
      await this.keep(results);
      if (signal.aborted || project.version !== version) return;
    }
  }

  /**
   * Makes files of a project as they are given, until it is ended; what is under way then is finished. For an export
   * whose last files are still being planned: what can be made already is made meanwhile, and kept.
   */
  asGiven(project: ProjectHandle): { give(files: readonly KeyedFile[]): void; end(): void } {
    const waiting: KeyedFile[] = [];
    let lots = 0;
    const makeLots = async () => {
      lots++;
      try {
        while (waiting.length > 0) {
          const lot = waiting.splice(0, LOT);
          const have = await this.renders.weightsOf(lot.map((file) => file.key));
          const cells = lot
            .filter((file) => !have.has(file.key))
            .map(({ pieceId, outputId }) => ({ pieceId, outputId }));
          await this.keep(await this.renderAll(project, cells, 'normal'));
        }
      } finally {
        lots--;
      }
    };
    return {
      give: (files) => {
        for (const file of files) if (file.key && file.clashCount === 0) waiting.push(file);
        // What goes wrong goes wrong again when the export itself makes the file, and is told there.
        while (lots < LOTS && waiting.length > lots * LOT) void makeLots().catch(() => {});
      },
      end: () => void waiting.splice(0),
    };
  }

  private keep = (results: readonly PromiseSettledResult<NewRender>[]): Promise<void> =>
    this.renders.put(results.flatMap((result) => (result.status === 'fulfilled' ? [result.value] : [])));

  /** Why a file could not be made, when it was tried not long ago. */
  failureOf = (key: string): string | undefined => this.failures.get(key);

  stop(): void {
    this.warming?.control.abort();
  }
}

/** What was composed; refuses with why it could not be. */
export function composedOf(answered: Answered): Composed {
  if (!('problem' in answered)) return answered;
  const { code, message, ...rest } = answered.problem;
  return refuse(code, message, rest);
}
