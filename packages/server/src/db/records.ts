import type { Edit, ProjectRecord } from '@tolvik/core';
import type pg from 'pg';
import type { Queryable } from './database';

/** Records put after `since`, and the ids removed after it; `since` 0 reads all. */
export async function readChanges(db: Queryable, projectId: string, since: number): Promise<{ records: ProjectRecord[]; removed: string[] }> {
  const { rows } = await db.query<{ body: ProjectRecord }>('SELECT body FROM records WHERE project_id = $1 AND version > $2', [projectId, since]);
  if (since === 0) return { records: rows.map((row) => row.body), removed: [] };
  const present = new Set(rows.map((row) => row.body.id));
  return { records: rows.map((row) => row.body), removed: (await removedSince(db, projectId, since)).filter((id) => !present.has(id)) };
}

/** The same as JSON text, as the database has it: a whole project is not parsed only to be written again. */
export async function changesAsJson(db: Queryable, projectId: string, since: number): Promise<{ records: string; removed: string }> {
  const { rows } = await db.query<{ id: string; body: string }>('SELECT id, body::text AS body FROM records WHERE project_id = $1 AND version > $2', [projectId, since]);
  const present = new Set(rows.map((row) => row.id));
  const gone = since === 0 ? [] : await removedSince(db, projectId, since);
  return { records: `[${rows.map((row) => row.body).join(',')}]`, removed: JSON.stringify(gone.filter((id) => !present.has(id))) };
}

async function removedSince(db: Queryable, projectId: string, since: number): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>('SELECT DISTINCT unnest(removes) AS id FROM edits WHERE project_id = $1 AND version > $2', [projectId, since]);
  return rows.map((row) => row.id);
}

export type Clash = { version: number; records: ProjectRecord[]; removed: string[] };
export type EditOutcome = { version: number; repeated: boolean } | { clash: Clash };

/**
 * Carries out an edit inside a transaction, the project's row locked. An edit seen before answers
 * the version it made then. One that touches what changed after its base version is a clash.
 */
export async function applyEdit(client: pg.PoolClient, projectId: string, edit: Edit): Promise<EditOutcome | null> {
  const project = await client.query<{ version: number }>('SELECT version FROM projects WHERE id = $1 AND deleted_at IS NULL FOR UPDATE', [projectId]);
  if (project.rows.length === 0) return null;
  const { version } = project.rows[0];
  const before = await client.query<{ version: number }>('SELECT version FROM edits WHERE project_id = $1 AND id = $2', [projectId, edit.id]);
  if (before.rows.length > 0) return { version: before.rows[0].version, repeated: true };
  const touched = [...edit.puts.map((record) => record.id), ...edit.removes];
  if (edit.baseVersion < version) {
    const newer = await client.query<{ body: ProjectRecord }>('SELECT body FROM records WHERE project_id = $1 AND version > $2 AND id = ANY($3)', [projectId, edit.baseVersion, touched]);
    const putIds = edit.puts.map((record) => record.id);
    const gone = await client.query<{ id: string }>(
      `SELECT DISTINCT gone.id FROM edits e CROSS JOIN LATERAL unnest(e.removes) AS gone (id)
       WHERE e.project_id = $1 AND e.version > $2 AND gone.id = ANY($3)
       AND NOT EXISTS (SELECT 1 FROM records r WHERE r.project_id = $1 AND r.id = gone.id)`,
      [projectId, edit.baseVersion, putIds],
    );
    if (newer.rows.length > 0 || gone.rows.length > 0) {
      return { clash: { version, records: newer.rows.map((row) => row.body), removed: gone.rows.map((row) => row.id) } };
    }
  }
  const next = version + 1;
  if (edit.removes.length > 0) await client.query('DELETE FROM records WHERE project_id = $1 AND id = ANY($2)', [projectId, edit.removes]);
  if (edit.puts.length > 0) {
    await client.query(
      `INSERT INTO records (project_id, id, kind, body, version)
       SELECT $1, id, kind, body::jsonb, $2 FROM unnest($3::text[], $4::text[], $5::text[]) AS put (id, kind, body)
       ON CONFLICT (project_id, id) DO UPDATE SET kind = excluded.kind, body = excluded.body, version = excluded.version`,
      [projectId, next, edit.puts.map((r) => r.id), edit.puts.map((r) => r.kind), edit.puts.map((r) => JSON.stringify(r))],
    );
  }
  await client.query('INSERT INTO edits (project_id, id, version, label, removes) VALUES ($1, $2, $3, $4, $5)', [projectId, edit.id, next, edit.label, edit.removes]);
  await client.query('UPDATE projects SET version = $2, updated_at = now() WHERE id = $1', [projectId, next]);
  return { version: next, repeated: false };
}
