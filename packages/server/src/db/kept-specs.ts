import type { SpecFile } from '@tolvik/core';
import type { Queryable } from './database';

export type KeptSpecRow = { id: string; name: string; body: SpecFile };

export const MAX_KEPT_SPECS = 200;

export const listKeptSpecs = async (db: Queryable): Promise<KeptSpecRow[]> =>
  (
    await db.query<KeptSpecRow>('SELECT id, name, body FROM kept_specs ORDER BY lower(name), id LIMIT $1', [
      MAX_KEPT_SPECS,
    ])
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
