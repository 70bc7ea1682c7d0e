import type { SpecFile } from '@tolvik/core';
import type { Queryable } from './database';

/** `isFirst`: the one that new projects begin with. */
export type KeptSpecRow = { id: string; name: string; body: SpecFile; isFirst: boolean };

export const MAX_KEPT_SPECS = 200;

export const listKeptSpecs = async (db: Queryable): Promise<KeptSpecRow[]> =>
  (
    await db.query<KeptSpecRow>(
      'SELECT id, name, body, is_first AS "isFirst" FROM kept_specs ORDER BY lower(name), id LIMIT $1',
      [MAX_KEPT_SPECS],
    )
  ).rows;

/** Answers false when as many are kept as may be. */
export async function keepSpec(db: Queryable, id: string, body: SpecFile): Promise<boolean> {
  const { rowCount } = await db.query(
    'INSERT INTO kept_specs (id, name, body) SELECT $1, $2, $3 WHERE (SELECT count(*) FROM kept_specs) < $4',
    [id, body.spec.name, JSON.stringify(body), MAX_KEPT_SPECS],
  );
  return rowCount === 1;
}

export const dropKeptSpec = async (db: Queryable, id: string): Promise<boolean> =>
  ((await db.query('DELETE FROM kept_specs WHERE id = $1', [id])).rowCount ?? 0) > 0;

/** The kept spec that new projects begin with; null when they begin with the ready-made one. */
export const firstSpec = async (db: Queryable): Promise<SpecFile | null> =>
  (await db.query<{ body: SpecFile }>('SELECT body FROM kept_specs WHERE is_first')).rows[0]?.body ?? null;

/** Makes it the one that new projects begin with, or no longer; within a transaction. Answers null when it is gone. */
export async function beginWithSpec(db: Queryable, id: string, isFirst: boolean): Promise<KeptSpecRow | null> {
  if (isFirst) await db.query('UPDATE kept_specs SET is_first = false WHERE is_first AND id <> $1', [id]);
  const { rows } = await db.query<KeptSpecRow>(
    'UPDATE kept_specs SET is_first = $2 WHERE id = $1 RETURNING id, name, body, is_first AS "isFirst"',
    [id, isFirst],
  );
  return rows[0] ?? null;
}
