import { basename } from 'node:path';
import { type LinkedSource, nameFromFile, Refusal } from '@tolvik/core';
import type { FolderBelow, FolderProcesses, SeenFiles } from '@tolvik/folders';
import { type FSWatcher, watch } from 'chokidar';
import pLimit from 'p-limit';
import type { Reader } from '../bring-in/reader';
import type { Config } from '../config';
import type { Database } from '../db/database';
import { findSource, keepRead, keepTrouble, type SourceRow, sourcesOf, sourcesOn } from '../db/sources';
import { announce } from '../events/hub';
import { InOrder } from '../in-order';
import { bringOnto } from '../projects/bring-onto';
import type { OpenProjects } from '../projects/open-projects';
import { sourceOf } from '../roots';

/** A file that is still being written is waited for until it has kept its size so long, in ms. */
const STILL_MS = 250;
const LOOK_MS = 50;
/** Changes that come together are one: a program may save several files at once. */
const TOGETHER_MS = 150;
/** How often it is looked whether a folder is there again, or is still the one that is watched, in ms. */
const LOOK_AGAIN_MS = 5000;
const MOST_NAMED = 50;
const MOST_READ_AT_ONCE = 2;

type Watched = {
  watcher: FSWatcher | null;
  identity: string;
  seen: SeenFiles;
  timer?: NodeJS.Timeout;
  running: Promise<void>;
};

/**
 * Folders that feed projects: a drawing that changed replaces the artwork of the artboard of its name as bringing in by
 * hand does, a new one becomes an artboard, one that is gone is told and what came of it stays.
 */
export class LinkedSources {
  private readonly watched = new Map<string, Watched>();
  /** Each reading holds a connection to the database while it uses others. */
  private readonly inTurn = pLimit(MOST_READ_AT_ONCE);
  /** Two who link a folder at once would leave one watched that nobody knows of. */
  private readonly changing = new InOrder();
  private looking = false;
  private again: NodeJS.Timeout | undefined;
  private stopped = false;

  constructor(
    private readonly db: Database,
    readonly config: Config,
    private readonly projects: OpenProjects,
    private readonly reader: Reader,
    readonly folders: FolderProcesses,
    private readonly onError: (error: Error) => void,
  ) {}

  async start(): Promise<void> {
    for (const { id } of await sourcesOn(this.db)) await this.follow(id);
    this.again = setInterval(() => void this.lookAgain(), LOOK_AGAIN_MS);
    this.again.unref();
  }

  async stop(): Promise<void> {
    this.stopped = true;
    clearInterval(this.again);
    await Promise.all([...this.watched.keys()].map((id) => this.leave(id)));
  }

  /** Watches a source as it is now, or no more when it is none, and reads it. */
  follow = (id: string): Promise<void> => this.changing.run(id, () => this.followNow(id));

  private async followNow(id: string): Promise<void> {
    await this.leaveNow(id);
    const row = await findSource(this.db, id);
    if (!row?.is_on || this.stopped) return;
    const watched: Watched = { watcher: null, identity: '', seen: new Map(), running: Promise.resolve() };
    this.watched.set(id, watched);
    try {
      const { whole, identity } = await sourceOf(this, row.root, row.folder);
      watched.identity = identity;
      watched.watcher = watch(whole, {
        ignoreInitial: true,
        followSymlinks: false,
        depth: 0,
        awaitWriteFinish: { stabilityThreshold: STILL_MS, pollInterval: LOOK_MS },
      });
      watched.watcher.on('all', () => {
        clearTimeout(watched.timer);
        watched.timer = setTimeout(() => this.read(id), TOGETHER_MS);
      });
      watched.watcher.on('error', (error) => this.onError(error as Error));
      await new Promise<void>((ready) => watched.watcher?.once('ready', () => ready()));
    } catch (error) {
      return this.inTrouble(row, error);
    }
    this.read(id);
  }

  /** One reading after the other. */
  private read(id: string): void {
    const watched = this.watched.get(id);
    if (!watched) return;
    watched.running = watched.running.then(() => this.inTurn(() => this.bringIn(id, watched)).catch(this.onError));
  }

  private leave = (id: string): Promise<void> => this.changing.run(id, () => this.leaveNow(id));

  private async leaveNow(id: string): Promise<void> {
    const watched = this.watched.get(id);
    this.watched.delete(id);
    if (!watched) return;
    clearTimeout(watched.timer);
    await watched.watcher?.close();
    await watched.running;
  }

  /**
   * Folders that were in trouble, or are another folder now, are begun anew; so are those that another server was told
   * of. Those that feed nothing any more are left. One look after the other.
   */
  private async lookAgain(): Promise<void> {
    if (this.looking) return;
    this.looking = true;
    try {
      await this.lookAgainNow();
    } catch (error) {
      this.onError(error as Error);
    } finally {
      this.looking = false;
    }
  }

  private async lookAgainNow(): Promise<void> {
    const rows = new Map((await sourcesOn(this.db)).map((row) => [row.id, row]));
    for (const id of rows.keys()) if (!this.watched.has(id)) await this.follow(id);
    for (const [id, { watcher, identity }] of [...this.watched]) {
      const row = rows.get(id);
      if (!row) {
        await this.leave(id);
        continue;
      }
      const found = await sourceOf(this, row.root, row.folder).catch((error: Error) => error);
      if (found instanceof Error) {
        // Told once, and not at each look.
        if (row.trouble !== found.message) await this.inTrouble(row, found);
      } else if (!watcher || row.trouble !== null || found.identity !== identity) await this.follow(id);
    }
  }

  private async bringIn(id: string, watched: Watched): Promise<void> {
    const projectId = (await findSource(this.db, id))?.project_id;
    if (projectId === undefined) return;
    const lock = await this.db.connect();
    try {
      // Another server on this database watches, too, and so may other folders of the project: what they brought in is known after it.
      await lock.query('SELECT pg_advisory_lock(hashtextextended($1, 8))', [projectId]);
      try {
        const row = await findSource(this.db, id);
        if (!row?.is_on || this.stopped) return;
        try {
          const { at } = await sourceOf(this, row.root, row.folder);
          if (await this.bringNews(row, at, watched)) this.read(id);
        } catch (error) {
          await this.inTrouble(row, error);
        }
      } finally {
        await lock.query('SELECT pg_advisory_unlock(hashtextextended($1, 8))', [projectId]);
      }
    } finally {
      lock.release();
    }
  }

  /** Drawings that another folder feeds, which was linked before: by the names of their artboards, with that folder. */
  private async fedBefore({ id, project_id: projectId }: SourceRow): Promise<ReadonlyMap<string, string>> {
    const all = await sourcesOf(this.db, projectId);
    const before = all
      .slice(
        0,
        all.findIndex((row) => row.id === id),
      )
      .filter(({ is_on }) => is_on);
    return new Map(
      before.flatMap(({ root, folder, files }) =>
        Object.keys(files).map((name) => [boardOf(name), basename(folder || root)] as const),
      ),
    );
  }

  /** Answers whether more waits for the next reading. */
  private async bringNews(row: SourceRow, at: FolderBelow, watched: Watched): Promise<boolean> {
    const { id, project_id: projectId, files: known, standing } = row;
    const fedBefore = await this.fedBefore(row);
    const takenBy = (name: string) => fedBefore.get(boardOf(name));
    // A drawing that another folder fed until now is read again.
    const unchanged = Object.entries(known).filter(
      ([name, { taken }]) => (taken !== undefined) === (takenBy(name) !== undefined),
    );
    const { drawings, more, seen } = await this.folders.drawings({
      at,
      identity: watched.identity,
      seen: watched.seen,
      known: new Map(unchanged.map(([name, { sha256 }]) => [name, sha256])),
    });
    watched.seen = seen;
    const files: SourceRow['files'] = {};
    for (const { name, sha256, bytes, why } of drawings) {
      const taken = takenBy(name);
      const refused = taken === undefined ? why : `the folder ${taken} has one of that name already`;
      files[name] = bytes ? { sha256, refused, ...(taken !== undefined && { taken }) } : known[name];
    }
    const news = drawings.flatMap(({ name, bytes }) =>
      bytes && !files[name].refused ? [{ name, bytes: Buffer.from(bytes) }] : [],
    );
    const project = news.length > 0 ? await this.projects.get(projectId) : undefined;
    let brought = 0;
    if (project) {
      const place = { as: 'replace', at: { x: 0, y: 0 }, ask: false, size: 'new' } as const;
      const from = basename(row.folder || row.root);
      const came = await bringOnto({ db: this.db, reader: this.reader }, project, news, place, { from });
      for (const { file, problem } of came?.report ?? [])
        if (problem) files[file].refused = problem.message;
        else brought++;
    }
    const there = new Set(Object.keys(files));
    const gone = [...Object.keys(known), ...(standing?.gone ?? [])].filter((name) => !there.has(name));
    const refused = Object.entries(files).flatMap(([file, { refused: why }]) => (why ? [{ file, why }] : []));
    const now: LinkedSource['standing'] = {
      at: new Date().toISOString(),
      files: there.size,
      brought: brought > 0 || !standing ? brought : standing.brought,
      gone: [...new Set(gone)].slice(0, MOST_NAMED),
      refused: refused.slice(0, MOST_NAMED),
    };
    await keepRead(this.db, id, files, now);
    await announce(this.db, projectId, { type: 'source' });
    return more;
  }

  private async inTrouble({ id, project_id: projectId }: SourceRow, error: unknown): Promise<void> {
    if (this.stopped) return;
    if (!(error instanceof Refusal)) this.onError(error as Error);
    await keepTrouble(this.db, id, error instanceof Error ? error.message : String(error));
    await announce(this.db, projectId, { type: 'source' });
  }
}

/** By what name an artboard is fed by a drawing. */
const boardOf = (file: string): string => nameFromFile(file).toLowerCase();
