import type { LinkedSource } from '@tolvik/core';
import type { Queryable } from './database';

/** The folder that feeds a project, and what was brought in of it. */
export type SourceRow = {
  project_id: string;
  root: string;
  folder: string;
  is_on: boolean;
  /** What was last read of each file, by its name; with why it was refused, where it was. */
  files: Record<string, KnownFile>;
  standing: LinkedSource['standing'];
  trouble: string | null;
};
export type KnownFile = { sha256: string; refused?: string };

export const findSource = async (db: Queryable, projectId: string): Promise<SourceRow | undefined> =>
  (await db.query<SourceRow>('SELECT * FROM sources WHERE project_id = $1', [projectId])).rows[0];

export const sourcesOn = async (db: Queryable): Promise<SourceRow[]> =>
  (
    await db.query<SourceRow>(
      'SELECT s.* FROM sources s JOIN projects p ON p.id = s.project_id WHERE s.is_on AND p.deleted_at IS NULL',
    )
  ).rows;

/** Another folder in its place; what was known of the one before is forgotten. */
export const setSource = (db: Queryable, projectId: string, root: string, folder: string) =>
  db.query(
    `INSERT INTO sources (project_id, root, folder) VALUES ($1, $2, $3)
     ON CONFLICT (project_id) DO UPDATE SET root = $2, folder = $3, is_on = true, files = '{}', standing = NULL, trouble = NULL`,
    [projectId, root, folder],
  );

export const switchSource = (db: Queryable, projectId: string, on: boolean) =>
  db.query('UPDATE sources SET is_on = $2 WHERE project_id = $1', [projectId, on]);

export const dropSource = (db: Queryable, projectId: string) =>
  db.query('DELETE FROM sources WHERE project_id = $1', [projectId]);

/** What was read of it, and how it stands then. */
export const keepRead = (
  db: Queryable,
  projectId: string,
  files: SourceRow['files'],
  standing: LinkedSource['standing'],
) =>
  db.query('UPDATE sources SET files = $2, standing = $3, trouble = NULL WHERE project_id = $1', [
    projectId,
    JSON.stringify(files),
    JSON.stringify(standing),
  ]);

export const keepTrouble = (db: Queryable, projectId: string, trouble: string) =>
  db.query('UPDATE sources SET trouble = $2 WHERE project_id = $1', [projectId, trouble.slice(0, 1000)]);
