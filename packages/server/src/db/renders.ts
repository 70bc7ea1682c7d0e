import type { Seen } from '@tolvik/core';
import type { Measured } from '@tolvik/render';
import type { Queryable } from './database';

export type RenderRow = { key: string; media_type: string; bytes: Buffer; measured: Measured };
export type NewRender = { key: string; mediaType: string; bytes: Buffer; measured: Measured };

export async function readRender(db: Queryable, key: string): Promise<RenderRow | undefined> {
  return (await db.query<RenderRow>('SELECT key, media_type, bytes, measured FROM renders WHERE key = $1', [key]))
    .rows[0];
}

/** Of several keys those that were rendered, at most so many bytes each. */
export const readRenders = async (db: Queryable, keys: readonly string[], mostBytes: number): Promise<RenderRow[]> =>
  (
    await db.query<RenderRow>(
      'SELECT key, media_type, bytes, measured FROM renders WHERE key = ANY($1) AND size <= $2',
      [keys, mostBytes],
    )
  ).rows;

/** Which of these keys have been rendered, with what was measured. */
export async function measuredOf(db: Queryable, keys: readonly string[]): Promise<Map<string, Measured>> {
  const { rows } = await db.query<{ key: string; measured: Measured }>(
    'SELECT key, measured FROM renders WHERE key = ANY($1)',
    [keys],
  );
  return new Map(rows.map((row) => [row.key, row.measured]));
}

/** Bytes of a rendered file, and what of it can be told from its ground, where it has one. */
export type Weight = { bytes: number; seen?: Seen };

/** What these keys weigh, as far as they were rendered. */
export async function weightsOf(db: Queryable, keys: readonly string[]): Promise<Map<string, Weight>> {
  const { rows } = await db.query<{ key: string; size: number; seen: Seen | null }>(
    "SELECT key, size, measured->'seen' AS seen FROM renders WHERE key = ANY($1)",
    [keys],
  );
  return new Map(rows.map(({ key, size, seen }) => [key, { bytes: Number(size), seen: seen ?? undefined }]));
}

/** Bytes of renders that go into one statement; a message of the database holds up to 1 GB, and all of it lies in memory twice. */
const BYTES_AT_ONCE = 16 * 1_048_576;

/** Divides a list so that what is together weighs no more than so many bytes, or is a single one. */
export function byBytes<T>(list: readonly T[], bytesOf: (one: T) => number, most = BYTES_AT_ONCE): T[][] {
  const parts: T[][] = [];
  let held = Number.POSITIVE_INFINITY;
  for (const one of list) {
    const bytes = bytesOf(one);
    if (held + bytes > most) {
      parts.push([]);
      held = 0;
    }
    held += bytes;
    (parts.at(-1) as T[]).push(one);
  }
  return parts;
}

/** Stores many renders in few statements; those that are there stay. */
export async function putRenders(db: Queryable, renders: readonly NewRender[]): Promise<void> {
  for (const part of byBytes(renders, ({ bytes }) => bytes.length)) {
    // One parameter a value: the driver sends bytes as they are, while an array of them would go as hex text.
    const values = part.map(
      (_, i) =>
        `($${i * 4 + 1}, $${i * 4 + 2}, $${i * 4 + 3}::bytea, length($${i * 4 + 3}::bytea), $${i * 4 + 4}::jsonb)`,
    );
    await db.query(
      `INSERT INTO renders (key, media_type, bytes, size, measured) VALUES ${values.join(', ')} ON CONFLICT DO NOTHING`,
      part.flatMap((r) => [r.key, r.mediaType, r.bytes, JSON.stringify(r.measured)]),
    );
  }
}

/**
 * Drops renders until the rest fits: first those that no delivery holds, the longest unused first; then those of
 * deliveries, which can be made again from what the delivery was made of. What is being made now stays.
 */
export async function evictRenders(db: Queryable, maxBytes: number): Promise<number> {
  const { rowCount } = await db.query(
    `DELETE FROM renders WHERE key IN (
       SELECT key FROM (
         SELECT key, used_at, sum(size) OVER (ORDER BY EXISTS (SELECT 1 FROM delivery_files f WHERE f.render_key = r.key) DESC, used_at DESC, key) AS upTo FROM renders r
       ) AS ordered WHERE upTo > $1 AND used_at < now() - interval '10 minutes'
         AND NOT EXISTS (SELECT 1 FROM delivery_files f JOIN deliveries d ON d.id = f.delivery_id AND d.state = 'running' WHERE f.render_key = ordered.key))`,
    [maxBytes],
  );
  return rowCount ?? 0;
}

/** Notes that these were used now, when that was not noted within the last hour. */
export const touchRenders = (db: Queryable, keys: readonly string[]) =>
  db.query("UPDATE renders SET used_at = now() WHERE key = ANY($1) AND used_at < now() - interval '1 hour'", [keys]);
