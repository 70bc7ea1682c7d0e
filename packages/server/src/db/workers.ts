import type pg from 'pg';
import type { Database, Queryable } from './database';
import type { DeliveryFileRow } from './deliveries';

/** Who has not been heard of for so long is taken for dead, and what it was making is made by another. */
export const DEAD_AFTER_MS = 8000;

/** How often a file is begun before it is taken for one that ends whoever makes it. */
const MOST_TRIES = 5;

/** Says that these workers are alive; who has been dead for an hour is forgotten. */
export async function beat(db: Queryable, ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  await db.query('INSERT INTO workers (id) SELECT unnest($1::text[]) ON CONFLICT (id) DO UPDATE SET beat_at = now()', [
    ids,
  ]);
  await db.query("DELETE FROM workers WHERE beat_at < now() - interval '1 hour'");
}

export const forget = (db: Queryable, ids: readonly string[]) =>
  db.query('DELETE FROM workers WHERE id = ANY($1)', [ids]);

/**
 * Gives a worker ($2) up to so many ($3) files of a delivery ($1) whose owner, if any, has not been heard of for so many
 * seconds ($4). They are looked for once and taken where they lie (they are locked, so none moves), whatever the statistics say: as a join the look may be
 * run again for every row, which took minutes for 12,000 files.
 */
export const CLAIM = `WITH free AS MATERIALIZED (
       SELECT ctid FROM delivery_files w
       WHERE delivery_id = $1 AND state = 'waiting' AND tries < ${MOST_TRIES}
         AND (worker_id IS NULL OR NOT EXISTS (SELECT 1 FROM workers a WHERE a.id = w.worker_id AND a.beat_at > now() - make_interval(secs => $4)))
         AND EXISTS (SELECT 1 FROM deliveries d WHERE d.id = $1 AND d.state = 'running')
       ORDER BY position LIMIT $3 FOR UPDATE SKIP LOCKED
     )
     UPDATE delivery_files f SET worker_id = $2, tries = tries + 1
     WHERE f.ctid = ANY (ARRAY(SELECT ctid FROM free))
     RETURNING f.position, f.path, f.piece_id, f.output_id, f.format, f.width_px, f.height_px, f.dpi, f.render_key, f.state, f.error, NULL AS measured`;

/**
 * Takes up to so many files of a running delivery that wait and that nobody alive is making, inside a transaction; from
 * its end on they are this worker's.
 */
export async function claimFiles(
  client: pg.PoolClient,
  deliveryId: string,
  workerId: string,
  most: number,
): Promise<DeliveryFileRow[]> {
  // In the order of the index, which ends with the last that is wanted: sorted, every waiting file is read each time.
  await client.query('SET LOCAL enable_sort = off');
  const { rows } = await client.query<DeliveryFileRow>(CLAIM, [deliveryId, workerId, most, DEAD_AFTER_MS / 1000]);
  return rows.sort((a, b) => a.position - b.position);
}

/** Gives back what a worker had taken and did not make, as if it had never taken it: it did not die of it. */
export const releaseFiles = (db: Queryable, workerId: string) =>
  db.query(
    `UPDATE delivery_files SET worker_id = NULL, tries = greatest(0, tries - 1) WHERE state = 'waiting' AND worker_id = $1`,
    [workerId],
  );

/** Positions of files that were begun too often, by workers that are dead now. */
export async function hopelessFiles(db: Database, deliveryId: string): Promise<number[]> {
  const { rows } = await db.query<{ position: number }>(
    `SELECT position FROM delivery_files w WHERE delivery_id = $1 AND state = 'waiting' AND tries >= ${MOST_TRIES}
       AND NOT EXISTS (SELECT 1 FROM workers a WHERE a.id = w.worker_id AND a.beat_at > now() - make_interval(secs => $2))`,
    [deliveryId, DEAD_AFTER_MS / 1000],
  );
  return rows.map((row) => row.position);
}
