import { type Problem, Refusal, type StoredBlob } from '@tolvik/core';
import { readBlobs } from '../db/blobs';
import type { Database } from '../db/database';
import { findProject } from '../db/projects';
import { readChanges } from '../db/records';
import type { KeyedFile } from './keyed-plan';
import type { PlanAnswer } from './open-project';
import type { Pictures } from './pictures';
import { ProjectThread, type ThreadLimits } from './project-thread';
import type { WorkName, Works } from './project-work';

/** Projects held at once, and what their heaps may hold all told. */
const KEPT = 8;
/** For so long after an answer a project is not let go of. */
const IN_USE_MS = 15_000;
const KEPT_BYTES = 1536 * 1_048_576;
/** For how long a project that was too heavy is not tried again unless it changes. */
const HEAVY_MS = 60_000;
/** Files whose keys are worked out in one go: some 10 ms, so that who waits for another answer hardly notices. */
const KEYED_AT_ONCE = 60;

/** One project at a version, in its thread. What it answers is of that version or a newer one, and says which. */
export class ProjectHandle {
  name = '';
  version = 0;
  private planned: { version: number; answer: Promise<PlanAnswer> } | null = null;

  constructor(
    readonly id: string,
    readonly thread: ProjectThread,
  ) {}

  ask<K extends WorkName>(name: K, ask: Works[K]['ask'], transfer?: ArrayBuffer[]): Promise<Works[K]['answer']> {
    return this.thread.ask(name, ask, transfer);
  }

  /**
   * The plan with the key of every file; computed once for each version, in parts, so that others are answered in
   * between. `heard` is told of each part as it comes, when it is this call that has the plan worked out.
   */
  plan(heard?: (files: readonly KeyedFile[]) => void): Promise<PlanAnswer> {
    if (this.planned?.version !== this.version || this.thread.ended) {
      const answer = this.inParts(heard);
      const planned = { version: this.version, answer };
      this.planned = planned;
      answer.catch(() => this.planned === planned && (this.planned = null));
    }
    return (this.planned as { answer: Promise<PlanAnswer> }).answer;
  }

  private async inParts(heard?: (files: readonly KeyedFile[]) => void): Promise<PlanAnswer> {
    let files: KeyedFile[] = [];
    let of = 0;
    for (;;) {
      const part = await this.ask('plan', { from: files.length, most: KEYED_AT_ONCE });
      // The project moved on, so that it is another plan.
      if (of !== part.of && files.length > 0) files = [];
      else {
        files.push(...part.files);
        heard?.(part.files);
        if (files.length >= part.total) return { ...part, files };
      }
      of = part.of;
    }
  }
}

/**
 * Projects in memory, each in a thread and brought up to the database's version whenever it is asked for; what
 * another server wrote is read as a difference. The least recently asked for are let go.
 */
export class OpenProjects {
  private readonly open = new Map<string, ProjectHandle>();
  private readonly turns = new Map<string, Promise<unknown>>();
  private readonly heavy = new Map<string, { version: number; problem: Problem; until: number }>();
  /** Comes up while nobody waits for it. */
  private spare: ProjectThread | null = null;
  private closed = false;

  constructor(
    private readonly db: Database,
    private readonly pictures: Pictures,
    private readonly limits: ThreadLimits,
  ) {
    this.spare = new ProjectThread(limits);
  }

  /** The project as the database has it now; undefined when there is none. Refuses one that was too heavy. */
  get(id: string): Promise<ProjectHandle | undefined> {
    return this.inTurn(id, () => this.bringUpToDate(id));
  }

  /** A project as it was at some time, from its records as JSON text. */
  snapshot(
    key: string,
    projectId: string,
    name: string,
    version: number,
    records: () => Promise<string>,
  ): Promise<ProjectHandle> {
    return this.inTurn(key, async () => {
      const known = this.open.get(key);
      if (known && !known.thread.ended) return this.used(key, known);
      const handle = new ProjectHandle(projectId, this.newThread());
      await this.load(handle, name, version, await records(), []);
      return this.used(key, handle);
    });
  }

  async close(): Promise<void> {
    this.closed = true;
    const threads = [...this.open.values()].map(({ thread }) => thread);
    this.open.clear();
    await Promise.all([...threads, ...(this.spare ? [this.spare] : [])].map((thread) => thread.close()));
  }

  private inTurn<T>(key: string, work: () => Promise<T>): Promise<T> {
    const turn = (this.turns.get(key) ?? Promise.resolve()).catch(() => {}).then(work);
    this.turns.set(key, turn);
    void turn.catch(() => {}).finally(() => this.turns.get(key) === turn && this.turns.delete(key));
    return turn;
  }

  private async bringUpToDate(id: string): Promise<ProjectHandle | undefined> {
    const row = await findProject(this.db, id);
    if (!row) {
      await this.letGo(id);
      return undefined;
    }
    const tried = this.heavy.get(id);
    if (tried && tried.version === row.version && tried.until > Date.now()) throw new Refusal(tried.problem);
    this.heavy.delete(id);
    let handle = this.open.get(id);
    if (handle?.thread.ended) {
      const { problem } = handle.thread.ended;
      const { version } = handle;
      await this.letGo(id);
      handle = undefined;
      if (problem && version === row.version) this.tooHeavy(id, version, problem);
    }
    handle ??= new ProjectHandle(id, this.newThread());
    try {
      if (handle.version !== row.version || handle.name !== row.name) {
        const changes = await readChanges(this.db, id, handle.version);
        if (!changes) {
          await this.letGo(id);
          return undefined;
        }
        // Away for longer than the journal remembers: read anew.
        if (changes.whole && handle.version > 0) {
          await handle.thread.close();
          handle = new ProjectHandle(id, this.newThread());
        }
        await this.load(handle, changes.name, changes.version, changes.records, changes.removed);
      }
    } catch (error) {
      void handle.thread.close();
      this.open.delete(id);
      if (error instanceof Refusal && error.problem.code === 'project.heavy')
        this.tooHeavy(id, row.version, error.problem);
      throw error;
    }
    return this.used(id, handle);
  }

  private tooHeavy(id: string, version: number, problem: Problem): never {
    this.heavy.set(id, { version, problem, until: Date.now() + HEAVY_MS });
    throw new Refusal(problem);
  }

  private async load(
    handle: ProjectHandle,
    name: string,
    version: number,
    records: string,
    removed: string[],
  ): Promise<void> {
    const wanted = await handle.ask('stage', { name, version, records, removed });
    const [pictures, fonts] = await Promise.all([
      this.pictures.infosOf(wanted.pictures),
      readBlobs(this.db, wanted.fonts),
    ]);
    await handle.ask('apply', { pictures, fonts: fonts.map((font): StoredBlob => ({ ...font })) });
    handle.name = name;
    handle.version = version;
  }

  private newThread(): ProjectThread {
    const thread = this.spare && !this.spare.ended ? this.spare : new ProjectThread(this.limits);
    this.spare = null;
    const soon = setTimeout(() => {
      if (!this.spare && !this.closed) this.spare = new ProjectThread(this.limits);
    }, 500);
    soon.unref();
    return thread;
  }

  /** Notes that a project was asked for, and lets go of those that were not for long. */
  private used(key: string, handle: ProjectHandle): ProjectHandle {
    this.open.delete(key);
    this.open.set(key, handle);
    let bytes = 0;
    for (const { thread } of this.open.values()) bytes += thread.heapBytes;
    let left = this.open.size;
    for (const [other, { thread }] of this.open) {
      if (other === key || (left <= KEPT && bytes <= KEPT_BYTES)) break;
      // A project that answered a moment ago, or that is being updated now, stays.
      if (thread.busy || this.turns.has(other) || Date.now() - thread.askedAt < IN_USE_MS) continue;
      bytes -= thread.heapBytes;
      left--;
      void this.letGo(other);
    }
    return handle;
  }

  private async letGo(key: string): Promise<void> {
    const handle = this.open.get(key);
    this.open.delete(key);
    await handle?.thread.close();
  }
}
