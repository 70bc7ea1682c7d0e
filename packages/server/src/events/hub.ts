import type { ProjectEvent } from '@tolvik/core';
import pg from 'pg';
import type { Queryable } from '../db/database';

/** What everyone who has a project open is told. */
const CHANNEL = 'tolvik';

/** Tells every server on this database; carried out when the surrounding transaction commits. */
export const announce = (db: Queryable, projectId: string, event: ProjectEvent) =>
  db.query('SELECT pg_notify($1, $2)', [CHANNEL, JSON.stringify({ projectId, event })]);

type Listener = (event: ProjectEvent) => void;

/** Hands events from the database to whoever listens here; takes the line up again when it breaks. */
export class EventHub {
  /** Some project was edited, here or by another server. */
  onEdited: (projectId: string) => void = () => {};
  private readonly listeners = new Map<string, Set<Listener>>();
  private client: pg.Client | null = null;
  private closed = false;

  constructor(
    private readonly url: string,
    private readonly onError: (error: Error) => void,
  ) {}

  async start(): Promise<void> {
    if (this.closed) return;
    const client = new pg.Client({ connectionString: this.url, connectionTimeoutMillis: 4000 });
    this.client = client;
    client.on('error', (error) => {
      this.onError(error);
      this.retry(client);
    });
    client.on('end', () => this.retry(client));
    client.on('notification', ({ payload }) => {
      const { projectId, event } = JSON.parse(payload ?? '{}') as { projectId: string; event: ProjectEvent };
      if (event.type === 'edited') this.onEdited(projectId);
      for (const listener of this.listeners.get(projectId) ?? []) listener(event);
    });
    try {
      await client.connect();
      await client.query(`LISTEN ${CHANNEL}`);
    } catch (error) {
      this.onError(error as Error);
      this.retry(client);
    }
  }

  private retry(client: pg.Client): void {
    if (this.client !== client || this.closed) return;
    this.client = null;
    client.end().catch(() => {});
    setTimeout(() => void this.start(), 1000).unref();
  }

  /** Answers a function that stops listening. */
  listen(projectId: string, listener: Listener): () => void {
    const set = this.listeners.get(projectId) ?? new Set();
    set.add(listener);
    this.listeners.set(projectId, set);
    return () => {
      set.delete(listener);
      if (set.size === 0) this.listeners.delete(projectId);
    };
  }

  async close(): Promise<void> {
    this.closed = true;
    await this.client?.end().catch(() => {});
  }
}
