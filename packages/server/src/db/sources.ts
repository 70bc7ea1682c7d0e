import type { LinkedSource } from '@tolvik/core';
import type { Queryable } from './database';

/** A folder that feeds a project, and what was brought in of it. */
export type SourceRow = {
  id: string;
  project_id: string;
  root: string;
  folder: string;
  is_on: boolean;
  /** What was last read of each file, by its name; with why it was refused, where it was. */
  files: Record<string, KnownFile>;
  standing: LinkedSource['standing'];
  trouble: string | null;
};
/** `taken` is the folder that feeds the artboard of its name in its place. */
export type KnownFile = { sha256: string; refused?: string; taken?: string };

export const findSource = async (db: Queryable, id: string): Promise<SourceRow | undefined> =>
  (await db.query<SourceRow>('SELECT * FROM sources WHERE id = $1', [id])).rows[0];

/** The folders that feed a project, the one that was linked first first. */
export const sourcesOf = async (db: Queryable, projectId: string): Promise<SourceRow[]> =>
  (await db.query<SourceRow>('SELECT * FROM sources WHERE project_id = $1 ORDER BY linked_at, id', [projectId])).rows;

export const sourcesOn = async (db: Queryable): Promise<SourceRow[]> =>
  (
    await db.query<SourceRow>(
      'SELECT s.* FROM sources s JOIN projects p ON p.id = s.project_id WHERE s.is_on AND p.deleted_at IS NULL',
    )
  ).rows;

/** Answers whether it was linked: one that feeds the project already is not again. */
export const addSource = async (
  db: Queryable,
  { id, projectId, root, folder }: { id: string; projectId: string; root: string; folder: string },
): Promise<boolean> =>
  (
    await db.query(
      `INSERT INTO sources (id, project_id, root, folder, linked_at) VALUES ($1, $2, $3, $4, clock_timestamp())
       ON CONFLICT (project_id, root, folder) DO NOTHING`,
      [id, projectId, root, folder],
    )
  ).rowCount === 1;

export const switchSource = (db: Queryable, id: string, on: boolean) =>
  db.query('UPDATE sources SET is_on = $2 WHERE id = $1', [id, on]);

export const dropSource = (db: Queryable, id: string) => db.query('DELETE FROM sources WHERE id = $1', [id]);

/** What was read of it, and how it stands then. */
export const keepRead = (db: Queryable, id: string, files: SourceRow['files'], standing: LinkedSource['standing']) =>
  db.query('UPDATE sources SET files = $2, standing = $3, trouble = NULL WHERE id = $1', [
    id,
    JSON.stringify(files),
    JSON.stringify(standing),
  ]);

export const keepTrouble = (db: Queryable, id: string, trouble: string) =>
  db.query('UPDATE sources SET trouble = $2 WHERE id = $1', [id, trouble.slice(0, 1000)]);
