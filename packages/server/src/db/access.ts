import type { Queryable } from './database';

/** A browser that was let in is let in again for so many days, from the last time it was seen. */
export const SESSION_DAYS = 30;
/** A browser in which the key was right is known for so long: nobody else's wrong keys hold it up. */
const KNOWN_DAYS = 365;

/** A session as it is stored: the SHA-256 of its random token, and a keyed hash of the access key, so that a new key ends it. */
export type Kept = { hash: string; ofKey: string };

export const keepSession = (db: Queryable, { hash, ofKey }: Kept) =>
  db.query('INSERT INTO access_sessions (hash, of_key) VALUES ($1, $2) ON CONFLICT DO NOTHING', [hash, ofKey]);

/** Whether a session is there, which is noted once a day. */
export async function findSession(db: Queryable, { hash, ofKey }: Kept): Promise<boolean> {
  const { rows } = await db.query<{ old: boolean }>(
    `SELECT seen_at < now() - interval '1 day' AS old FROM access_sessions
     WHERE hash = $1 AND of_key = $2 AND seen_at > now() - make_interval(days => $3)`,
    [hash, ofKey, SESSION_DAYS],
  );
  if (rows[0]?.old) await db.query('UPDATE access_sessions SET seen_at = now() WHERE hash = $1', [hash]);
  return rows.length > 0;
}

export const endSession = (db: Queryable, hash: string) =>
  db.query('DELETE FROM access_sessions WHERE hash = $1', [hash]);

/** Notes an address or a browser (`place`) from which the key was right. */
export const knowPlace = (db: Queryable, place: string) =>
  db.query('INSERT INTO access_places (place) VALUES ($1) ON CONFLICT (place) DO UPDATE SET right_at = now()', [place]);

export const isKnownPlace = async (db: Queryable, place: string): Promise<boolean> =>
  (
    await db.query('SELECT 1 FROM access_places WHERE place = $1 AND right_at > now() - make_interval(days => $2)', [
      place,
      KNOWN_DAYS,
    ])
  ).rowCount !== 0;

export const forgetPlace = (db: Queryable, place: string) =>
  db.query('DELETE FROM access_places WHERE place = $1', [place]);

/** Takes away sessions and places that are too old to count. */
export async function purgeAccess(db: Queryable): Promise<void> {
  await db.query('DELETE FROM access_sessions WHERE seen_at < now() - make_interval(days => $1)', [SESSION_DAYS]);
  await db.query('DELETE FROM access_places WHERE right_at < now() - make_interval(days => $1)', [KNOWN_DAYS]);
}
