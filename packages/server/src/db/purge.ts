import { purgeAccess } from './access';
import { type Database, transaction } from './database';
import { purgeHandOvers } from './handovers';
import { evictRenders } from './renders';

/** Rules of what is kept, and for how long. */
export const KEPT = {
  /** Deleted projects can be brought back for so long. */
  deletedDays: 30,
  /** Edits are remembered one by one for so long; who was away longer reads the project anew. */
  journalDays: 30,
  /** Pictures, fonts and snapshots that nothing refers to; undo may still want them until then. */
  blobDays: 30,
};

/** Any number that no other program on the same database uses for its advisory locks. */
const PURGE_LOCK = 70_511_871;

export type Purged = { projects: number; edits: number; blobs: number; renders: number };

/** Takes away what no rule keeps. One server at a time does it; the others answer null. */
export async function purge(db: Database, cacheBytes: number, rules: typeof KEPT = KEPT): Promise<Purged | null> {
  const purged = await transaction(db, async (client) => {
    const { rows } = await client.query<{ mine: boolean }>('SELECT pg_try_advisory_xact_lock($1) AS mine', [
      PURGE_LOCK,
    ]);
    if (!rows[0].mine) return null;
    const count = async (sql: string, days: number) => (await client.query(sql, [days])).rowCount ?? 0;
    const projects = await count(
      'DELETE FROM projects WHERE deleted_at < now() - make_interval(days => $1)',
      rules.deletedDays,
    );
    const edits = await count(
      `WITH gone AS (DELETE FROM edits WHERE created_at < now() - make_interval(days => $1) RETURNING project_id, version),
       upTo AS (SELECT project_id, max(version) AS version FROM gone GROUP BY project_id),
       noted AS (UPDATE projects p SET journal_from = greatest(p.journal_from, upTo.version) FROM upTo WHERE p.id = upTo.project_id)
       SELECT 1 FROM gone`,
      rules.journalDays,
    );
    const blobs = await count(
      `DELETE FROM blobs b WHERE put_at < now() - make_interval(days => $1) AND NOT held
         AND NOT EXISTS (SELECT 1 FROM records r WHERE r.body #>> '{attrs,href}' = 'blob:' || b.hash)
         AND NOT EXISTS (SELECT 1 FROM records r WHERE r.kind = 'font' AND r.body ->> 'hash' = b.hash)
         AND NOT EXISTS (SELECT 1 FROM deliveries d WHERE d.snapshot = b.hash)
         AND NOT EXISTS (SELECT 1 FROM delivery_blobs d WHERE d.hash = b.hash)`,
      rules.blobDays,
    );
    await purgeHandOvers(client);
    await purgeAccess(client);
    return { projects, edits, blobs };
  });
  return purged && { ...purged, renders: await evictRenders(db, cacheBytes) };
}

/** Bytes that the database takes on its disk. */
export const databaseBytes = async (db: Database): Promise<number> =>
  Number((await db.query<{ size: string }>('SELECT pg_database_size(current_database()) AS size')).rows[0].size);
