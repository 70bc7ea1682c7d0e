import pg from 'pg';
import { MIGRATIONS } from './migrations';

export type Queryable = Pick<pg.ClientBase, 'query'> | pg.Pool;
export type Database = pg.Pool;

/**
 * Has a subquery looked up by its index, row for row. Without it the planner may join instead, or go through all of a
 * project or a delivery for the few rows that were asked for: how many it has, the statistics do not say.
 */
export const BY_ROW = 'OFFSET 0';

/** Any number that no other program on the same database uses for its advisory locks. */
const MIGRATION_LOCK = 70_511_870;

/** A pool of connections; one that breaks is replaced at the next query. */
export function connect(url: string, onError: (error: Error) => void): Database {
  const pool = new pg.Pool({ connectionString: url, max: 12, connectionTimeoutMillis: 4000 });
  pool.on('error', onError);
  // A connection may break between two statements of a transaction, when nobody waits for it.
  pool.on('connect', (client) => client.on('error', onError));
  return pool;
}

export async function transaction<T>(db: Database, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  const client = await db.connect();
  try {
    await client.query('BEGIN');
    const result = await work(client);
    await client.query('COMMIT');
    client.release();
    return result;
  } catch (error) {
    // A connection that cannot even roll back is thrown away.
    await client.query('ROLLBACK').then(
      () => client.release(),
      (broken) => client.release(broken as Error),
    );
    throw error;
  }
}

/** Brings the database up to date; several servers may start at once. */
export async function migrate(db: Database): Promise<void> {
  await transaction(db, async (client) => {
    await client.query('SELECT pg_advisory_xact_lock($1)', [MIGRATION_LOCK]);
    await client.query(
      'CREATE TABLE IF NOT EXISTS migrations (number integer PRIMARY KEY, done_at timestamptz NOT NULL DEFAULT now())',
    );
    const { rows } = await client.query<{ number: number }>('SELECT number FROM migrations');
    const done = new Set(rows.map((row) => row.number));
    const newest = Math.max(0, ...done);
    if (newest > MIGRATIONS.length)
      throw new Error(
        `This database was last used by a newer Tolvik (step ${newest}; this one knows ${MIGRATIONS.length}). Start that one, or give this one a database of its own.`,
      );
    for (const [i, sql] of MIGRATIONS.entries()) {
      if (done.has(i + 1)) continue;
      await client.query(sql);
      await client.query('INSERT INTO migrations (number) VALUES ($1)', [i + 1]);
    }
  });
}

const UNREACHABLE =
  /ECONNREFUSED|ECONNRESET|ENOENT|EPIPE|timeout exceeded when trying to connect|Connection terminated|the database system is (starting up|shutting down)|terminating connection/i;

/** Whether an error means that the database cannot be had now, rather than that a query is wrong. */
export function isUnreachable(error: unknown): boolean {
  const { code = '', message = '' } = (error ?? {}) as { code?: string; message?: string };
  return /^(57P|08|53)/.test(code) || UNREACHABLE.test(`${code} ${message}`);
}

/** Whether the database could not write because there is no room on its disk, or because it may not write there (SQLSTATE 53100, 58030). */
export const isDiskFull = (error: unknown): boolean => {
  const { code = '', message = '' } = (error ?? {}) as { code?: string; message?: string };
  return code === '53100' || /No space left on device|could not extend file/i.test(message);
};
