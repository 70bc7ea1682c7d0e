import { newId } from '@tolvik/core';
import type { Queryable } from './database';
import type { ReceiverRow } from './receivers';
import { DEAD_AFTER_MS } from './workers';

/** How long a server holds a hand-over from the last time it said so, in ms. */
export const LEASE_MS = DEAD_AFTER_MS;
/** How often one is taken without coming further before it is given up. */
export const MOST_TRIES = 8;
/** Ended ones are kept for so many days. */
const KEPT_DAYS = 30;

export type HandOverRow = {
  id: string;
  receiver_id: string;
  delivery_id: string;
  remove_leftovers: boolean | null;
  replace_foreign: boolean | null;
  state: 'waiting' | 'done' | 'failed' | 'stopped';
  worker_id: string | null;
  tries: number;
  /** Somebody asked for its end: whoever takes it ends it. */
  stop_asked: boolean;
  trouble: string | null;
  code: string | null;
};
export type DueHandOver = HandOverRow & { receiver: ReceiverRow };

/** Says where a server may hand over to, and that it is alive. */
export const beatWithPlaces = (
  db: Queryable,
  workerId: string,
  { folders, intakes }: { folders: readonly string[]; intakes: readonly string[] },
) =>
  db.query(
    `INSERT INTO workers (id, folders, intakes) VALUES ($1, $2, $3)
     ON CONFLICT (id) DO UPDATE SET beat_at = now(), folders = excluded.folders, intakes = excluded.intakes`,
    [workerId, folders, intakes],
  );

/** Where the servers that are alive may hand over to. */
export const placesAlive = async (db: Queryable): Promise<{ folders: string[]; intakes: string[] }[]> =>
  (
    await db.query<{ folders: string[]; intakes: string[] }>(
      `SELECT folders, intakes FROM workers
       WHERE folders IS NOT NULL AND beat_at > now() - make_interval(secs => $1)`,
      [DEAD_AFTER_MS / 1000],
    )
  ).rows;

/** SQLSTATE of a row that refers to one that is gone. */
const GONE = '23503';

/** Orders a hand-over; `allowed` for this one alone, where somebody said so. Answers its id, or null where its receiver or delivery is gone. */
export async function orderHandOver(
  db: Queryable,
  receiverId: string,
  deliveryId: string,
  allowed?: { removeLeftovers: boolean; replaceForeign: boolean },
): Promise<string | null> {
  const id = newId();
  try {
    await db.query(
      `INSERT INTO handovers (id, receiver_id, delivery_id, remove_leftovers, replace_foreign) VALUES ($1, $2, $3, $4, $5)`,
      [id, receiverId, deliveryId, allowed?.removeLeftovers ?? null, allowed?.replaceForeign ?? null],
    );
    return id;
  } catch (error) {
    if ((error as { code?: string }).code === GONE) return null;
    throw error;
  }
}

export const findHandOver = async (db: Queryable, id: string): Promise<HandOverRow | undefined> =>
  (await db.query<HandOverRow>('SELECT * FROM handovers WHERE id = $1', [id])).rows[0];

/** Whether a server is writing to a receiver at this moment. */
export const isUnderWay = async (db: Queryable, receiverId: string): Promise<boolean> =>
  (
    await db.query(
      `SELECT 1 FROM handovers WHERE receiver_id = $1 AND state = 'waiting' AND worker_id IS NOT NULL AND leased_until > now()`,
      [receiverId],
    )
  ).rowCount !== 0;

const IS_FREE = '(h.worker_id IS NULL OR h.leased_until < now()) AND (h.not_before IS NULL OR h.not_before < now())';

/** For each receiver the hand-over that is due: the first that waits, where nobody holds it. The oldest first. */
export async function dueHandOvers(db: Queryable): Promise<DueHandOver[]> {
  const { rows } = await db.query<HandOverRow & { receiver: ReceiverRow }>(
    `SELECT h.*, to_jsonb(r) AS receiver FROM handovers h JOIN receivers r ON r.id = h.receiver_id
       JOIN projects p ON p.id = r.project_id AND p.deleted_at IS NULL
     WHERE h.state = 'waiting' AND ${IS_FREE}
       AND NOT EXISTS (SELECT 1 FROM handovers b WHERE b.receiver_id = h.receiver_id AND b.state = 'waiting' AND b.number < h.number)
     ORDER BY h.number LIMIT 100`,
  );
  return rows;
}

/** Takes a hand-over; answers whether it is this server's now. The row itself tells, so that of two at once one has it. */
export const takeHandOver = async (db: Queryable, id: string, workerId: string): Promise<boolean> =>
  (
    await db.query(
      `UPDATE handovers h SET worker_id = $2, tries = tries + 1, leased_until = now() + make_interval(secs => $3)
       WHERE h.id = $1 AND h.state = 'waiting' AND ${IS_FREE}`,
      [id, workerId, LEASE_MS / 1000],
    )
  ).rowCount === 1;

/** Holds a hand-over for another while and says how far it is. Null when it is no longer this server's. */
export async function holdHandOver(
  db: Queryable,
  id: string,
  workerId: string,
  { done, of }: { done: number; of: number | null },
): Promise<{ stopAsked: boolean } | null> {
  const { rows } = await db.query<{ stop_asked: boolean }>(
    `UPDATE handovers SET leased_until = now() + make_interval(secs => $3),
       tries = CASE WHEN $4 > done THEN 0 ELSE tries END, done = $4, total = $5
     WHERE id = $1 AND worker_id = $2 AND state = 'waiting' RETURNING stop_asked`,
    [id, workerId, LEASE_MS / 1000, done, of],
  );
  return rows[0] ? { stopAsked: rows[0].stop_asked } : null;
}

/** Ends a hand-over that is this server's; answers whether it was. `trouble` says why it did not come to its end, for people and, by a code, for programs. */
export const endHandOver = async (
  db: Queryable,
  id: string,
  workerId: string,
  state: 'done' | 'failed' | 'stopped',
  trouble: { words: string; code: string } | null,
): Promise<boolean> =>
  (
    await db.query(
      `UPDATE handovers SET state = $3, trouble = $4, code = $5, ended_at = now(), worker_id = NULL, leased_until = NULL
       WHERE id = $1 AND worker_id = $2 AND state = 'waiting'`,
      [id, workerId, state, trouble?.words.slice(0, 1000) ?? null, trouble?.code ?? null],
    )
  ).rowCount === 1;

/** Hands one back, to be taken by any server; not before so many ms, where trouble may pass until then. */
export const handBack = (db: Queryable, id: string, workerId: string, afterMs = 0) =>
  db.query(
    `UPDATE handovers SET worker_id = NULL, leased_until = NULL, not_before = now() + make_interval(secs => $3),
       tries = CASE WHEN $3 = 0 THEN greatest(0, tries - 1) ELSE tries END
     WHERE id = $1 AND worker_id = $2 AND state = 'waiting'`,
    [id, workerId, afterMs / 1000],
  );

/** Asks for the end of what is on its way to a receiver: what nobody holds ends here, of the rest its server is told. Answers how many there were. */
export async function askToStop(db: Queryable, receiverId: string, trouble: string): Promise<number> {
  const { rowCount } = await db.query(
    `UPDATE handovers h SET stop_asked = true,
       state = CASE WHEN worker_id IS NULL OR leased_until < now() THEN 'stopped' ELSE state END,
       trouble = CASE WHEN worker_id IS NULL OR leased_until < now() THEN $2 ELSE trouble END,
       ended_at = CASE WHEN worker_id IS NULL OR leased_until < now() THEN now() ELSE ended_at END
     WHERE receiver_id = $1 AND state = 'waiting'`,
    [receiverId, trouble],
  );
  return rowCount ?? 0;
}

/** The first waiting hand-over of each receiver of a project, with the number of its delivery. */
export type OnItsWay = { receiver_id: string; number: number; done: number; total: number | null };
export const onTheirWay = async (db: Queryable, projectId: string): Promise<OnItsWay[]> =>
  (
    await db.query<OnItsWay>(
      `SELECT DISTINCT ON (h.receiver_id) h.receiver_id, d.number, h.done, h.total
       FROM handovers h JOIN receivers r ON r.id = h.receiver_id JOIN deliveries d ON d.id = h.delivery_id
       WHERE r.project_id = $1 AND h.state = 'waiting' ORDER BY h.receiver_id, h.number`,
      [projectId],
    )
  ).rows;

/** Whether some hand-over of a delivery to a receiver waits or is under way. */
export const isOrdered = async (db: Queryable, receiverId: string, deliveryId: string): Promise<boolean> =>
  (
    await db.query("SELECT 1 FROM handovers WHERE receiver_id = $1 AND delivery_id = $2 AND state = 'waiting'", [
      receiverId,
      deliveryId,
    ])
  ).rowCount !== 0;

/** Whether a delivery waits for a receiver, or is on its way to one. */
export const isHandedOver = async (db: Queryable, deliveryId: string): Promise<boolean> =>
  (await db.query("SELECT 1 FROM handovers WHERE delivery_id = $1 AND state = 'waiting'", [deliveryId])).rowCount !== 0;

/** Notes a receipt before it is written, beside the one that lies there; false when the hand-over is no longer this server's. */
export const noteReceipt = async (
  db: Queryable,
  { id, receiver_id }: Pick<HandOverRow, 'id' | 'receiver_id'>,
  workerId: string,
  hashes: readonly string[],
): Promise<boolean> =>
  (
    await db.query(
      `UPDATE receivers SET receipts = $4 WHERE id = $1
         AND EXISTS (SELECT 1 FROM handovers WHERE id = $2 AND worker_id = $3 AND state = 'waiting')`,
      [receiver_id, id, workerId, hashes],
    )
  ).rowCount === 1;

export const purgeHandOvers = (db: Queryable) =>
  db.query('DELETE FROM handovers WHERE ended_at < now() - make_interval(days => $1)', [KEPT_DAYS]);
