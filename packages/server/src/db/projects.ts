import { refuse } from '@tolvik/core';
import type { Queryable } from './database';

/** Projects on one shelf, which is told as a whole. */
export const MOST_PROJECTS = 5000;

export type ProjectRow = {
  id: string;
  name: string;
  version: number;
  journal_from: number;
  created_at: Date;
  updated_at: Date;
};

export type ShelfRow = Omit<ProjectRow, 'journal_from'> & {
  artboards: number;
  slices: number;
  editions: number;
  files: number;
  last_delivery: { number: number; version: number; at: string; files: number } | null;
};

type Counts = Pick<ShelfRow, 'artboards' | 'slices' | 'editions' | 'files'>;

const COUNTS = `
  SELECT
    (SELECT count(*)::int FROM records r WHERE r.project_id = $1 AND r.kind = 'artboard') AS artboards,
    (SELECT count(*)::int FROM records r WHERE r.project_id = $1 AND r.kind = 'slice') AS slices,
    (SELECT count(*)::int FROM records r WHERE r.project_id = $1 AND r.kind = 'edition') AS editions,
    (SELECT (count(*) FILTER (WHERE coalesce(o.body #>> '{settings,pages}', '') NOT IN ('together', 'sheet'))
        + count(DISTINCT o.id) FILTER (WHERE o.body #>> '{settings,pages}' IN ('together', 'sheet')))::int
       FROM records r CROSS JOIN LATERAL jsonb_array_elements_text(r.body -> 'specIds') AS follows
       JOIN records o ON o.project_id = $1 AND o.kind = 'output' AND o.body ->> 'specId' = follows.value
       WHERE r.project_id = $1 AND r.kind IN ('artboard', 'slice', 'edition')
         AND (r.body -> 'on')::boolean AND (o.body -> 'on')::boolean AND NOT r.body -> 'offOutputIds' ? o.id) AS files`;

const SHELF = `
  SELECT p.id, p.name, p.version, p.created_at, p.updated_at, CASE WHEN p.counted_of = p.version THEN p.counts END AS counts,
    (SELECT json_build_object('number', d.number, 'version', d.version, 'at', d.finished_at, 'files', d.total)
       FROM deliveries d WHERE d.project_id = p.id AND d.state = 'done' ORDER BY d.number DESC LIMIT 1) AS last_delivery
  FROM projects p WHERE p.deleted_at IS NULL ORDER BY p.created_at, p.id`;

/** All projects with what stands in each; a large one is counted once for each of its versions. */
export async function listProjects(db: Queryable): Promise<ShelfRow[]> {
  const { rows } = await db.query<Omit<ShelfRow, keyof Counts> & { counts: Counts | null }>(SHELF);
  const listed: ShelfRow[] = [];
  for (const { counts, ...row } of rows)
    listed.push({ ...row, ...(counts ?? (await countsOf(db, row.id, row.version))) });
  return listed;
}

async function countsOf(db: Queryable, id: string, version: number): Promise<Counts> {
  const [counts] = (await db.query<Counts>(COUNTS, [id])).rows;
  // Counted for this version, unless it has moved on meanwhile.
  await db.query('UPDATE projects SET counted_of = $2, counts = $3 WHERE id = $1 AND version = $2', [
    id,
    version,
    counts,
  ]);
  return counts;
}

export const findProject = async (db: Queryable, id: string): Promise<ProjectRow | undefined> =>
  (
    await db.query<ProjectRow>(
      'SELECT id, name, version, journal_from, created_at, updated_at FROM projects WHERE id = $1 AND deleted_at IS NULL',
      [id],
    )
  ).rows[0];

/** The render key of the cover as it was for a version of the project and of the renderer. */
export const keptCover = async (db: Queryable, id: string, of: string): Promise<string | undefined> =>
  (await db.query<{ cover_key: string }>('SELECT cover_key FROM projects WHERE id = $1 AND cover_of = $2', [id, of]))
    .rows[0]?.cover_key;

export const keepCover = (db: Queryable, id: string, of: string, key: string) =>
  db.query('UPDATE projects SET cover_of = $2, cover_key = $3 WHERE id = $1', [id, of, key]);

/** Refuses one more than a shelf holds. */
export async function insertProject(db: Queryable, id: string, name: string): Promise<void> {
  const { rowCount } = await db.query(
    'INSERT INTO projects (id, name) SELECT $1, $2 WHERE (SELECT count(*) FROM projects WHERE deleted_at IS NULL) < $3',
    [id, name, MOST_PROJECTS],
  );
  if (rowCount === 0)
    refuse('shelf.full', `the shelf holds ${MOST_PROJECTS.toLocaleString('en')} projects`, {
      accepted: 'a new project once another is deleted',
    });
}

export const renameProject = (db: Queryable, id: string, name: string) =>
  db.query('UPDATE projects SET name = $2, updated_at = now() WHERE id = $1', [id, name]);

/** Deleting hides; what is hidden can be brought back. */
export const setDeleted = async (db: Queryable, id: string, deleted: boolean): Promise<boolean> =>
  ((await db.query('UPDATE projects SET deleted_at = CASE WHEN $2 THEN now() END WHERE id = $1', [id, deleted]))
    .rowCount ?? 0) > 0;

/** How many projects there have ever been, deleted ones among them. */
export const countProjects = async (db: Queryable): Promise<number> =>
  (await db.query<{ n: number }>('SELECT count(*)::int AS n FROM projects')).rows[0].n;

/** Records of an empty project, as the JSON text of a list. */
export const insertRecords = async (db: Queryable, projectId: string, records: string): Promise<void> => {
  await db.query(
    `INSERT INTO records (project_id, id, kind, body, version)
     SELECT $1, r->>'id', r->>'kind', r, 1 FROM jsonb_array_elements($2::jsonb) AS r`,
    [projectId, records],
  );
  await db.query('UPDATE projects SET version = 1 WHERE id = $1', [projectId]);
};

export const copyRecords = async (db: Queryable, from: string, to: string): Promise<void> => {
  await db.query(
    'INSERT INTO records (project_id, id, kind, body, version) SELECT $2, id, kind, body, 1 FROM records WHERE project_id = $1',
    [from, to],
  );
  await db.query('UPDATE projects SET version = 1 WHERE id = $1', [to]);
};
