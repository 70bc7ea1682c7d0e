import { lstat } from 'node:fs/promises';
import { basename } from 'node:path';
import { type LinkedSource, Refusal, refuse } from '@tolvik/core';
import { type FSWatcher, watch } from 'chokidar';
import pLimit from 'p-limit';
import type { Reader } from '../bring-in/reader';
import type { Config } from '../config';
import type { Database } from '../db/database';
import { findSource, keepRead, keepTrouble, type SourceRow, sourcesOn } from '../db/sources';
import { announce } from '../events/hub';
import { InOrder } from '../in-order';
import { bringOnto } from '../projects/bring-onto';
import type { OpenProjects } from '../projects/open-projects';
import { sourceOf } from '../roots';
import { readDrawings, type SeenFiles } from './read-folder';

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
    private readonly config: Config,
    private readonly projects: OpenProjects,
    private readonly reader: Reader,
    private readonly onError: (error: Error) => void,
  ) {}

  async start(): Promise<void> {
    for (const { project_id } of await sourcesOn(this.db)) await this.follow(project_id);
    this.again = setInterval(() => void this.lookAgain(), LOOK_AGAIN_MS);
    this.again.unref();
  }

  async stop(): Promise<void> {
    this.stopped = true;
    clearInterval(this.again);
    await Promise.all([...this.watched.keys()].map((id) => this.leave(id)));
  }

  /** Watches the source that a project has now, or none any more, and reads it. */
  follow = (projectId: string): Promise<void> => this.changing.run(projectId, () => this.followNow(projectId));

  private async followNow(projectId: string): Promise<void> {
    await this.leaveNow(projectId);
    const row = await findSource(this.db, projectId);
    if (!row?.is_on || this.stopped) return;
    const watched: Watched = { watcher: null, identity: '', seen: new Map(), running: Promise.resolve() };
    this.watched.set(projectId, watched);
    try {
      const folder = await sourceOf(this.config, row.root, row.folder);
      watched.identity = await identityOf(folder);
      watched.watcher = watch(folder, {
        ignoreInitial: true,
        followSymlinks: false,
        depth: 0,
        awaitWriteFinish: { stabilityThreshold: STILL_MS, pollInterval: LOOK_MS },
      });
      watched.watcher.on('all', () => {
        clearTimeout(watched.timer);
        watched.timer = setTimeout(() => this.read(projectId), TOGETHER_MS);
      });
      watched.watcher.on('error', (error) => this.onError(error as Error));
      await new Promise<void>((ready) => watched.watcher?.once('ready', () => ready()));
    } catch (error) {
      return this.inTrouble(projectId, error);
    }
    this.read(projectId);
  }

  /** One reading after the other. */
  private read(projectId: string): void {
    const watched = this.watched.get(projectId);
    if (!watched) return;
    watched.running = watched.running.then(() =>
      this.inTurn(() => this.bringIn(projectId, watched)).catch((error: Error) =>
        this.inTrouble(projectId, error).catch(this.onError),
      ),
    );
  }

  private leave = (projectId: string): Promise<void> => this.changing.run(projectId, () => this.leaveNow(projectId));

  private async leaveNow(projectId: string): Promise<void> {
    const watched = this.watched.get(projectId);
    this.watched.delete(projectId);
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
    const rows = new Map((await sourcesOn(this.db)).map((row) => [row.project_id, row]));
    for (const projectId of rows.keys()) if (!this.watched.has(projectId)) await this.follow(projectId);
    for (const [projectId, { watcher, identity }] of [...this.watched]) {
      const row = rows.get(projectId);
      if (!row) {
        await this.leave(projectId);
        continue;
      }
      const folder = await sourceOf(this.config, row.root, row.folder).catch((error: Error) => error);
      if (folder instanceof Error) {
        // Told once, and not at each look.
        if (row.trouble !== folder.message) await this.inTrouble(projectId, folder);
      } else if (!watcher || row.trouble !== null || (await identityOf(folder)) !== identity)
        await this.follow(projectId);
    }
  }

  private async bringIn(projectId: string, { identity, seen }: Watched): Promise<void> {
    const lock = await this.db.connect();
    try {
      // Another server on this database watches, too: what it brought in is known after it.
      await lock.query('SELECT pg_advisory_lock(hashtextextended($1, 8))', [projectId]);
      try {
        const row = await findSource(this.db, projectId);
        if (!row?.is_on || this.stopped) return;
        const folder = await sourceOf(this.config, row.root, row.folder);
        if ((await identityOf(folder)) !== identity)
          refuse('source.replaced', `${folder} is another folder now; it is looked at again in a moment`);
        if (await this.bringNews(row, folder, seen)) this.read(projectId);
      } finally {
        await lock.query('SELECT pg_advisory_unlock(hashtextextended($1, 8))', [projectId]);
      }
    } finally {
      lock.release();
    }
  }

  /** Answers whether more waits for the next reading. */
  private async bringNews(
    { project_id: projectId, files: known, standing }: SourceRow,
    folder: string,
    seen: SeenFiles,
  ): Promise<boolean> {
    const isNews = (name: string, sha256: string) => known[name]?.sha256 !== sha256;
    const { drawings, more } = await readDrawings(folder, seen, isNews);
    const files: SourceRow['files'] = {};
    for (const { name, sha256, bytes, why } of drawings) files[name] = bytes ? { sha256, refused: why } : known[name];
    const news = drawings.flatMap(({ name, bytes, why }) => (bytes && !why ? [{ name, bytes }] : []));
    const project = news.length > 0 ? await this.projects.get(projectId) : undefined;
    let brought = 0;
    if (project) {
      const place = { as: 'replace', at: { x: 0, y: 0 }, ask: false, size: 'new' } as const;
      const from = basename(folder);
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
    await keepRead(this.db, projectId, files, now);
    await announce(this.db, projectId, { type: 'source' });
    return more;
  }

  private async inTrouble(projectId: string, error: unknown): Promise<void> {
    if (this.stopped) return;
    if (!(error instanceof Refusal)) this.onError(error as Error);
    await keepTrouble(this.db, projectId, error instanceof Error ? error.message : String(error));
    await announce(this.db, projectId, { type: 'source' });
  }
}

/** What a folder is, so that another in its place is told from it. */
async function identityOf(folder: string): Promise<string> {
  const { dev, ino } = await lstat(folder);
  return `${dev} ${ino}`;
}
