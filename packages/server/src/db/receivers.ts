import type { IntakeRules, Receiver, Takes } from '@tolvik/core';
import { type Database, type Queryable, transaction } from './database';

export const MAX_RECEIVERS = 50;

export type ReceiverRow = {
  id: string;
  project_id: string;
  name: string;
  is_on: boolean;
  remove_leftovers: boolean;
  replace_foreign: boolean;
  follows: boolean;
  /** Of an intake: whether its files come as one zip. */
  as_zip: boolean;
  takes: Takes;
  rules: IntakeRules | null;
  standing: Receiver['standing'];
  trouble: string | null;
  /** SHA-256 of the receipts that this project wrote there; null where nobody noted them. */
  receipts: string[] | null;
} & ReceiverPlace;

/** A folder below one of the server's, or an address with the headers that go along. */
export type ReceiverPlace =
  | { address: null; root: string; folder: string }
  | { address: string; headers: Record<string, string>; root: null; folder: null };

export const listReceivers = async (db: Queryable, projectId: string): Promise<ReceiverRow[]> =>
  (await db.query<ReceiverRow>('SELECT * FROM receivers WHERE project_id = $1 ORDER BY created_at, id', [projectId]))
    .rows;

export const findReceiver = async (db: Queryable, id: string): Promise<ReceiverRow | undefined> =>
  (await db.query<ReceiverRow>('SELECT * FROM receivers WHERE id = $1', [id])).rows[0];

/** Answers false when the project has as many as it may. One project's are made one after the other, so that none is too many. */
export const insertReceiver = (
  db: Database,
  { id, projectId, name, ...place }: { id: string; projectId: string; name: string } & ReceiverPlace,
): Promise<boolean> =>
  transaction(db, async (client) => {
    await client.query('SELECT 1 FROM projects WHERE id = $1 FOR UPDATE', [projectId]);
    const { rowCount } = await client.query(
      `INSERT INTO receivers (id, project_id, name, root, folder, address, headers)
       SELECT $1, $2, $3, $4, $5, $6, $7 WHERE (SELECT count(*) FROM receivers WHERE project_id = $2) < $8`,
      [
        id,
        projectId,
        name,
        place.root,
        place.folder,
        place.address,
        place.address === null ? {} : place.headers,
        MAX_RECEIVERS,
      ],
    );
    return rowCount === 1;
  });

export const changeReceiver = (
  db: Queryable,
  id: string,
  fields: {
    name?: string;
    on?: boolean;
    removeLeftovers?: boolean;
    replaceForeign?: boolean;
    follows?: boolean;
    asZip?: boolean;
    takes?: Takes;
    rules?: IntakeRules | null;
    headers?: Record<string, string>;
  },
) =>
  db.query(
    `UPDATE receivers SET name = coalesce($2, name), is_on = coalesce($3, is_on),
       remove_leftovers = coalesce($4, remove_leftovers), replace_foreign = coalesce($5, replace_foreign),
       rules = CASE WHEN $6 THEN $7::jsonb ELSE rules END,
       headers = CASE WHEN address IS NULL THEN headers ELSE coalesce($8, headers) END,
       follows = coalesce($9, follows), takes = coalesce($10, takes), as_zip = coalesce($11, as_zip) WHERE id = $1`,
    [
      id,
      fields.name ?? null,
      fields.on ?? null,
      fields.removeLeftovers ?? null,
      fields.replaceForeign ?? null,
      fields.rules !== undefined,
      fields.rules ? JSON.stringify(fields.rules) : null,
      fields.headers ?? null,
      fields.follows ?? null,
      fields.takes ?? null,
      fields.asZip ?? null,
    ],
  );

/** How a writing ended. One that did not come to its end leaves the standing of before. */
export const setStanding = (db: Queryable, id: string, standing: Receiver['standing'], trouble: string | null) =>
  db.query('UPDATE receivers SET standing = coalesce($2, standing), trouble = $3 WHERE id = $1', [
    id,
    standing && JSON.stringify(standing),
    trouble?.slice(0, 1000) ?? null,
  ]);

/** Receivers of any project that are folders, the first made first. */
export const folderReceivers = async (db: Queryable): Promise<(ReceiverRow & { project: string })[]> =>
  (
    await db.query<ReceiverRow & { project: string }>(
      `SELECT r.*, p.name AS project FROM receivers r JOIN projects p ON p.id = r.project_id
       WHERE r.address IS NULL AND p.deleted_at IS NULL ORDER BY r.created_at, r.id`,
    )
  ).rows;

export const deleteReceiver = (db: Queryable, id: string) => db.query('DELETE FROM receivers WHERE id = $1', [id]);

/** SHA-256 in hex and length of rendered files, by their keys. */
export async function hashesOf(
  db: Queryable,
  keys: readonly string[],
): Promise<Map<string, { sha256: string; bytes: number }>> {
  const { rows } = await db.query<{ key: string; sha256: string; bytes: number }>(
    "SELECT key, encode(sha256(bytes), 'hex') AS sha256, length(bytes) AS bytes FROM renders WHERE key = ANY($1)",
    [keys],
  );
  return new Map(rows.map(({ key, sha256, bytes }) => [key, { sha256, bytes }]));
}

/** Specs of outputs as the project has them now, by the outputs' ids. */
export async function specsOfOutputs(db: Queryable, projectId: string): Promise<Map<string, string>> {
  const { rows } = await db.query<{ id: string; spec: string }>(
    "SELECT id, body ->> 'specId' AS spec FROM records WHERE project_id = $1 AND kind = 'output'",
    [projectId],
  );
  return new Map(rows.map(({ id, spec }) => [id, spec]));
}

/**
 * Projects that some receiver follows, where no delivery of the newest version was begun, or a follower holds another than
 * the last and waits for none. Those in trouble are left out unless `inTrouble` says so: they wait for an edit.
 */
export const projectsBehind = async (db: Queryable, inTrouble: boolean): Promise<{ id: string; version: number }[]> =>
  (
    await db.query<{ id: string; version: number }>(
      `SELECT DISTINCT p.id, p.version FROM projects p JOIN receivers r ON r.project_id = p.id AND r.follows AND r.is_on
       LEFT JOIN LATERAL (
         SELECT id FROM deliveries WHERE project_id = p.id AND whole AND state = 'done' ORDER BY number DESC LIMIT 1
       ) AS last ON true
       WHERE p.deleted_at IS NULL AND (
         p.version > coalesce((SELECT max(version) FROM deliveries WHERE project_id = p.id AND whole), 0)
         OR (
           r.standing #>> '{delivery,id}' IS DISTINCT FROM last.id AND (r.trouble IS NULL OR $1)
           AND NOT EXISTS (SELECT 1 FROM handovers h WHERE h.receiver_id = r.id AND h.state = 'waiting')
         )
       )`,
      [inTrouble],
    )
  ).rows;
