import { DEFS, LIMITS, type ProjectRecord, ROOT, refuse } from '@tolvik/core';
import type pg from 'pg';
import { BY_ROW, type Queryable } from './database';
import type { PreparedEdit } from './prepared-edit';

/** A project and what changed in it, all of one moment. `whole`: all its records, not only those that changed. */
export type Changes = { version: number; name: string; records: string; removed: string[]; whole: boolean };

/**
 * Records put after `since`, and the ids removed after it and not back since, as JSON text: a whole project is neither
 * taken apart nor put together here. One statement, so that the version is that of the records. `since` 0 reads all;
 * so does one that is older than what the journal remembers. Null when there is no such project.
 */
export async function readChanges(db: Queryable, projectId: string, since: number): Promise<Changes | null> {
  const { rows } = await db.query<{
    version: number;
    name: string;
    whole: boolean;
    records: string | null;
    removed: string[] | null;
  }>(
    `WITH project AS (SELECT id, version, name, $2::int = 0 OR $2 < journal_from AS whole FROM projects WHERE id = $1 AND deleted_at IS NULL)
     SELECT version, name, whole,
       (SELECT string_agg(body::text, ',') FROM records r WHERE r.project_id = p.id AND r.version > CASE WHEN p.whole THEN -1 ELSE $2 END) AS records,
       CASE WHEN NOT whole THEN (
         SELECT array_agg(DISTINCT gone.id) FROM edits e CROSS JOIN LATERAL unnest(e.removes) AS gone (id)
         WHERE e.project_id = p.id AND e.version > $2 AND NOT EXISTS (SELECT 1 FROM records r WHERE r.project_id = p.id AND r.id = gone.id ${BY_ROW})
       ) END AS removed
     FROM project p`,
    [projectId, since],
  );
  if (rows.length === 0) return null;
  const [{ version, name, whole, records, removed }] = rows;
  return { version, name, whole, records: `[${records ?? ''}]`, removed: removed ?? [] };
}

export type Clash = { version: number; records: ProjectRecord[]; removed: string[] };
export type EditOutcome = { version: number; repeated: boolean } | { clash: Clash };

/**
 * Carries out an edit inside a transaction, the project's row locked. An edit seen before answers
 * the version it made then. One that touches what changed after its base version is a clash. Refuses what would
 * leave the tree of layers broken: here, where two windows cannot pass each other.
 */
export async function applyEdit(
  client: pg.PoolClient,
  projectId: string,
  edit: PreparedEdit,
): Promise<EditOutcome | null> {
  const project = await client.query<{ version: number }>(
    'SELECT version FROM projects WHERE id = $1 AND deleted_at IS NULL FOR UPDATE',
    [projectId],
  );
  if (project.rows.length === 0) return null;
  const { version } = project.rows[0];
  const before = await client.query<{ version: number }>(
    'SELECT version FROM edits WHERE project_id = $1 AND id = $2',
    [projectId, edit.id],
  );
  if (before.rows.length > 0) return { version: before.rows[0].version, repeated: true };
  if (edit.baseVersion > version)
    refuse('edit.version', `the edit builds on version ${edit.baseVersion}, and this project is at ${version}`, {
      where: 'baseVersion',
      accepted: `a version up to ${version}`,
    });
  const { putIds, removes } = edit;
  if (edit.baseVersion < version) {
    const newer = await client.query<{ body: ProjectRecord }>(
      `SELECT r.body FROM unnest($3::text[]) AS touched (id) CROSS JOIN LATERAL (
         SELECT body, version FROM records WHERE project_id = $1 AND id = touched.id ${BY_ROW}
       ) AS r WHERE r.version > $2`,
      [projectId, edit.baseVersion, [...putIds, ...removes]],
    );
    const gone = await client.query<{ id: string }>(
      `SELECT DISTINCT gone.id FROM edits e CROSS JOIN LATERAL unnest(e.removes) AS gone (id)
       WHERE e.project_id = $1 AND e.version > $2 AND gone.id = ANY($3)
       AND NOT EXISTS (SELECT 1 FROM records r WHERE r.project_id = $1 AND r.id = gone.id ${BY_ROW})`,
      [projectId, edit.baseVersion, putIds],
    );
    if (newer.rows.length > 0 || gone.rows.length > 0) {
      return {
        clash: { version, records: newer.rows.map((row) => row.body), removed: gone.rows.map((row) => row.id) },
      };
    }
  }
  const next = version + 1;
  const moved = await layersThatMove(client, projectId, edit);
  if (removes.length > 0)
    await client.query('DELETE FROM records WHERE project_id = $1 AND id = ANY($2)', [projectId, removes]);
  if (putIds.length > 0) {
    await client.query(
      `INSERT INTO records (project_id, id, kind, body, version)
       SELECT $1, record ->> 'id', record ->> 'kind', record, $2 FROM jsonb_array_elements($3::jsonb) AS record
       ON CONFLICT (project_id, id) DO UPDATE SET kind = excluded.kind, body = excluded.body, version = excluded.version`,
      [projectId, next, edit.puts],
    );
  }
  await refuseBrokenTree(client, projectId, edit, moved);
  await client.query('INSERT INTO edits (project_id, id, version, label, removes) VALUES ($1, $2, $3, $4, $5)', [
    projectId,
    edit.id,
    next,
    edit.label,
    removes,
  ]);
  await client.query('UPDATE projects SET version = $2, updated_at = now() WHERE id = $1', [projectId, next]);
  return { version: next, repeated: false };
}

/** Layers of an edit that are in the project under another parent, or are something else there. */
async function layersThatMove(
  client: pg.PoolClient,
  projectId: string,
  { putIds, kinds, layers }: PreparedEdit,
): Promise<string[]> {
  if (putIds.length === 0) return [];
  const { rows } = await client.query<{ id: string; kind: string; parent: string | null }>(
    `SELECT r.id, r.kind, r.parent FROM unnest($2::text[]) AS put (id) CROSS JOIN LATERAL (
       SELECT id, kind, body ->> 'parentId' AS parent FROM records WHERE project_id = $1 AND id = put.id ${BY_ROW}
     ) AS r`,
    [projectId, putIds],
  );
  if (rows.length === 0) return [];
  const kindOf = new Map(putIds.map((id, i) => [id, kinds[i]]));
  const parentOf = new Map(layers);
  for (const { id, kind } of rows)
    if (kind !== kindOf.get(id))
      refuse('edit.kind', `${id} is of the kind "${kind}", and no record becomes another kind`, {
        where: id,
        accepted: 'a new id',
      });
  return rows.flatMap(({ id, parent }) => (parentOf.has(id) && parentOf.get(id) !== parent ? [id] : []));
}

/** Refuses layers whose parents are missing, are no groups of layers, contain themselves, or nest too deep. */
async function refuseBrokenTree(
  client: pg.PoolClient,
  projectId: string,
  { layers, removes }: PreparedEdit,
  moved: readonly string[],
): Promise<void> {
  if (removes.length > 0) {
    const { rows } = await client.query<{ id: string; name: string }>(
      `SELECT r.id, r.name FROM unnest($2::text[]) AS gone (id) CROSS JOIN LATERAL (
         SELECT id, body ->> 'name' AS name FROM records WHERE project_id = $1 AND kind = 'layer' AND body ->> 'parentId' = gone.id LIMIT 1
       ) AS r LIMIT 1`,
      [projectId, removes],
    );
    if (rows.length > 0)
      refuse(
        'edit.orphan',
        `${rows[0].name || 'a layer'} would be left without the group it is in, which this edit removes`,
        {
          where: rows[0].id,
          accepted: 'a group removed together with all that is in it',
        },
      );
  }
  const parents = [...new Set(layers.map(([, parentId]) => parentId))].filter((id) => id !== ROOT && id !== DEFS);
  if (parents.length === 0) return;
  const { rows } = await client.query<{ id: string; parent: string }>(
    `WITH RECURSIVE up (id, parent) AS (
       SELECT NULL, id FROM unnest($2::text[]) AS id
       UNION
       SELECT above.id, above.parent FROM up CROSS JOIN LATERAL (
         SELECT id, kind, body ->> 'parentId' AS parent FROM records WHERE project_id = $1 AND id = up.parent ${BY_ROW}
       ) AS above WHERE above.kind = 'layer'
     ) SELECT id, parent FROM up WHERE id IS NOT NULL`,
    [projectId, parents],
  );
  const parentOf = new Map(rows.map(({ id, parent }) => [id, parent]));
  const heights = moved.length > 0 ? await heightsOf(client, projectId, moved) : new Map<string, number>();
  const depths = new Map<string, number>();
  for (const [id, parentId] of layers) {
    const depth = depthOf(id, parentId, parentOf, depths);
    if (depth + (heights.get(id) ?? 0) > LIMITS.nesting)
      refuse('edit.depth', `layers would be nested more than ${LIMITS.nesting} deep`, {
        where: id,
        accepted: `groups up to ${LIMITS.nesting} deep`,
      });
  }
}

/** How many groups are around a layer. */
function depthOf(
  id: string,
  parentId: string,
  parentOf: ReadonlyMap<string, string>,
  known: Map<string, number>,
): number {
  const path: string[] = [];
  let at = parentId;
  while (at !== ROOT && at !== DEFS && !known.has(at)) {
    const above = parentOf.get(at);
    if (above === undefined)
      refuse('edit.parent', `the group that ${id} would be in is not there`, {
        where: id,
        accepted: 'a group of this project',
      });
    if (at === id || path.length > LIMITS.nesting * 2)
      refuse('edit.ring', `${id} would be inside of itself`, { where: id, accepted: 'a group that it does not hold' });
    path.push(at);
    at = above as string;
  }
  let depth = known.get(at) ?? 0;
  for (const each of path.reverse()) known.set(each, ++depth);
  return depth + 1;
}

/** How many layers deep the things in these are; rings are cut off beyond what may be nested. */
async function heightsOf(
  client: pg.PoolClient,
  projectId: string,
  ids: readonly string[],
): Promise<Map<string, number>> {
  const { rows } = await client.query<{ top: string; height: number }>(
    `WITH RECURSIVE down (top, id, height) AS (
       SELECT id, id, 0 FROM unnest($2::text[]) AS id
       UNION ALL
       SELECT down.top, inside.id, down.height + 1 FROM down CROSS JOIN LATERAL (
         SELECT id FROM records WHERE project_id = $1 AND kind = 'layer' AND body ->> 'parentId' = down.id ${BY_ROW}
       ) AS inside WHERE down.height <= ${LIMITS.nesting}
     ) SELECT top, max(height)::int AS height FROM down GROUP BY top`,
    [projectId, ids],
  );
  return new Map(rows.map(({ top, height }) => [top, height]));
}
