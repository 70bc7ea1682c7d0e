import type { Queryable } from './database';

/** What an intake answered last for a path; `refused` in words, null when it was taken. */
export type IntakeFile = { path: string; sha256: string; bytes: number; refused: string | null };

export const intakeFiles = async (db: Queryable, receiverId: string): Promise<IntakeFile[]> =>
  (
    await db.query<IntakeFile>(
      'SELECT path, sha256, bytes::float8 AS bytes, refused FROM intake_files WHERE receiver_id = $1 ORDER BY path',
      [receiverId],
    )
  ).rows;

/** Keeps what an intake answered for a file of a delivery, in place of what it answered for that path before. */
export const keepAnswer = (
  db: Queryable,
  receiverId: string,
  deliveryId: string,
  { path, sha256, bytes, refused }: IntakeFile,
) =>
  db.query(
    `INSERT INTO intake_files (receiver_id, path, sha256, bytes, refused, delivery_id) VALUES ($1, $2, $3, $4, $5, $6)
     ON CONFLICT (receiver_id, path) DO UPDATE SET sha256 = excluded.sha256, bytes = excluded.bytes,
       refused = excluded.refused, delivery_id = excluded.delivery_id, answered_at = now()`,
    [receiverId, path, sha256, bytes, refused, deliveryId],
  );

/** What was answered for the files that a delivery sent, by receiver: how many were taken, and what was not. */
export const answersFor = async (
  db: Queryable,
  deliveryId: string,
): Promise<{ id: string; name: string; taken: number; refused: { path: string; why: string }[] }[]> =>
  (
    await db.query<{ id: string; name: string; taken: number; refused: { path: string; why: string }[] }>(
      `SELECT r.id, r.name, count(*) FILTER (WHERE f.refused IS NULL)::int AS taken,
         coalesce(json_agg(json_build_object('path', f.path, 'why', f.refused) ORDER BY f.path)
           FILTER (WHERE f.refused IS NOT NULL), '[]') AS refused
       FROM intake_files f JOIN receivers r ON r.id = f.receiver_id WHERE f.delivery_id = $1
       GROUP BY r.id, r.name, r.created_at ORDER BY r.created_at, r.id`,
      [deliveryId],
    )
  ).rows;
