import { Refusal } from '@tolvik/core';
import { LRUCache } from 'lru-cache';
import type { Database } from '../db/database';
import { lastDone, newestDelivery } from '../db/deliveries';
import { isOrdered } from '../db/handovers';
import { projectsBehind } from '../db/receivers';
import type { Deliveries } from '../deliveries/deliveries';
import type { OpenProjects } from '../projects/open-projects';
import type { HandOvers } from './hand-overs';
import type { Receivers } from './receivers';

/** How long after the last edit of a project what changed is delivered, in ms. */
const SETTLED_MS = 1000;
/** Interval at which projects are checked for undelivered edits whose notification was lost, in ms. */
const LOOK_AGAIN_MS = 5000;

/** Delivers to receivers that follow a project, a moment after each edit, with nobody asking. */
export class Following {
  private readonly timers = new Map<string, NodeJS.Timeout>();
  /** The versions that could not be delivered as they are: an edit mends them. */
  private readonly refused = new LRUCache<string, number>({ max: 10_000 });
  private again: NodeJS.Timeout | undefined;
  private stopped = false;

  constructor(
    private readonly db: Database,
    private readonly projects: OpenProjects,
    private readonly deliveries: Deliveries,
    private readonly receivers: Receivers,
    private readonly handOvers: HandOvers,
    private readonly onError: (error: Error) => void,
  ) {}

  /**
   * Takes up what was edited when nobody was there to deliver it, and looks again now and then: a word of an edit, or a
   * try, may be lost with the database.
   */
  async start(): Promise<void> {
    for (const { id } of await projectsBehind(this.db, true)) this.changed(id);
    this.again = setInterval(() => void this.lookAgain().catch(() => {}), LOOK_AGAIN_MS);
    this.again.unref();
  }

  private async lookAgain(): Promise<void> {
    for (const { id, version } of await projectsBehind(this.db, false))
      if (!this.timers.has(id) && this.refused.get(id) !== version) this.changed(id);
  }

  stop(): void {
    this.stopped = true;
    clearInterval(this.again);
    for (const timer of this.timers.values()) clearTimeout(timer);
  }

  /** A project was edited, or is followed from now on. */
  changed(projectId: string): void {
    if (this.stopped) return;
    clearTimeout(this.timers.get(projectId));
    const timer = setTimeout(() => {
      this.timers.delete(projectId);
      this.deliver(projectId).catch((error: Error) => !this.stopped && this.onError(error));
    }, SETTLED_MS);
    this.timers.set(projectId, timer);
  }

  /** One server at a time for a project: the others look again a moment later, and find what it made. */
  private async deliver(projectId: string): Promise<void> {
    if ((await this.receivers.followersOf(projectId)).length === 0) return;
    const lock = await this.db.connect();
    try {
      const { rows } = await lock.query<{ mine: boolean }>(
        'SELECT pg_try_advisory_lock(hashtextextended($1, 9)) AS mine',
        [projectId],
      );
      if (!rows[0].mine) return this.changed(projectId);
      try {
        await this.deliverAlone(projectId);
      } finally {
        await lock.query('SELECT pg_advisory_unlock(hashtextextended($1, 9))', [projectId]);
      }
    } finally {
      lock.release();
    }
  }

  private async deliverAlone(projectId: string): Promise<void> {
    // One at a time: what is edited meanwhile goes along with the next.
    if ((await newestDelivery(this.db, projectId))?.state === 'running') return this.changed(projectId);
    const project = await this.projects.get(projectId);
    if (!project) return;
    const followers = await this.receivers.followersOf(projectId);
    const last = await lastDone(this.db, projectId);
    if (last?.whole && last.version === project.version) {
      // Made already, by an export or by another server: those that do not have it, and do not wait for it, get it.
      const behind = new Set<string>();
      for (const { id, trouble, standing } of followers)
        if ((trouble !== null || standing?.delivery.id !== last.id) && !(await isOrdered(this.db, id, last.id)))
          behind.add(id);
      if (behind.size > 0) await this.handOvers.order(last, ({ id }) => behind.has(id));
      return;
    }
    try {
      await this.deliveries.begin(project, {}, true);
    } catch (error) {
      // Files that share a path, for one: it is told where the receivers stand, until an edit mends it.
      if (!(error instanceof Refusal)) throw error;
      this.refused.set(projectId, project.version);
      for (const receiver of followers) await this.receivers.inTrouble(receiver, error.message);
    }
  }
}
