import { refuse } from '@tolvik/core';
import type { Measured } from '@tolvik/render';
import { BY_ROW, type Queryable } from './database';

/** Deliveries that a project keeps at the most. */
export const MOST_DELIVERIES = 5000;

export type DeliveryRow = {
  id: string;
  project_id: string;
  number: number;
  title: string;
  note: string;
  state: 'running' | 'done' | 'stopped';
  version: number;
  /** Whether it was of all files, or of some that were chosen. */
  whole: boolean;
  /** Whether an edit made it, for receivers that follow the project. */
  by_edit: boolean;
  snapshot: string;
  total: number;
  made: number;
  failed: number;
  /** Weight of the made files; the driver gives large integers as text. */
  bytes: string;
  created_at: Date;
  finished_at: Date | null;
};

export type DeliveryFileRow = {
  position: number;
  path: string;
  piece_id: string;
  output_id: string;
  format: string;
  width_px: number;
  height_px: number;
  dpi: number;
  render_key: string;
  state: 'waiting' | 'made' | 'failed';
  error: string | null;
  measured: Measured | null;
};

export type NewDeliveryFile = Omit<DeliveryFileRow, 'state' | 'error' | 'measured' | 'position'> & {
  error: string | null;
};

export const listDeliveries = async (db: Queryable, projectId: string): Promise<DeliveryRow[]> =>
  (await db.query<DeliveryRow>('SELECT * FROM deliveries WHERE project_id = $1 ORDER BY number DESC', [projectId]))
    .rows;

export const findDelivery = async (db: Queryable, id: string): Promise<DeliveryRow | undefined> =>
  (await db.query<DeliveryRow>('SELECT * FROM deliveries WHERE id = $1', [id])).rows[0];

/** Says what a delivery is called and what is to be said of it. */
export const describeDelivery = (db: Queryable, id: string, { title, note }: { title?: string; note?: string }) =>
  db.query('UPDATE deliveries SET title = coalesce($2, title), note = coalesce($3, note) WHERE id = $1', [
    id,
    title ?? null,
    note ?? null,
  ]);

/** The newest delivery of a project, whatever became of it. */
export const newestDelivery = async (db: Queryable, projectId: string): Promise<DeliveryRow | undefined> =>
  (
    await db.query<DeliveryRow>('SELECT * FROM deliveries WHERE project_id = $1 ORDER BY number DESC LIMIT 1', [
      projectId,
    ])
  ).rows[0];

/** The newest delivery that came to its end. */
export const lastDone = async (db: Queryable, projectId: string): Promise<DeliveryRow | undefined> =>
  (
    await db.query<DeliveryRow>(
      "SELECT * FROM deliveries WHERE project_id = $1 AND state = 'done' ORDER BY number DESC LIMIT 1",
      [projectId],
    )
  ).rows[0];

/**
 * The number of the next delivery of a project, which no other had or gets. Refuses one more than is kept, but of
 * deliveries that edits make: each takes the place of the one before.
 */
export async function nextDeliveryNumber(db: Queryable, projectId: string, byEdit: boolean): Promise<number> {
  const { rows } = await db.query<{ number: number }>(
    `UPDATE projects SET last_delivery_number = last_delivery_number + 1
     WHERE id = $1 AND ($2 OR (SELECT count(*) FROM deliveries WHERE project_id = $1) < $3)
     RETURNING last_delivery_number AS number`,
    [projectId, byEdit, MOST_DELIVERIES],
  );
  return (
    rows[0]?.number ??
    refuse('deliveries.full', `the project keeps ${MOST_DELIVERIES.toLocaleString('en')} deliveries`, {
      accepted: 'a new delivery once another is deleted',
    })
  );
}

export const insertDelivery = (
  db: Queryable,
  delivery: {
    id: string;
    projectId: string;
    number: number;
    version: number;
    whole: boolean;
    byEdit: boolean;
    snapshot: string;
    total: number;
  },
) =>
  db.query(
    `INSERT INTO deliveries (id, project_id, number, state, version, whole, snapshot, total, by_edit)
     VALUES ($1, $2, $3, 'running', $4, $5, $6, $7, $8)`,
    [
      delivery.id,
      delivery.projectId,
      delivery.number,
      delivery.version,
      delivery.whole,
      delivery.snapshot,
      delivery.total,
      delivery.byEdit,
    ],
  );

/** All rows of a delivery in one statement; what is rendered already is made from the start. Answers the positions that wait. */
export async function insertDeliveryFiles(
  db: Queryable,
  deliveryId: string,
  files: readonly NewDeliveryFile[],
): Promise<number[]> {
  const column = <K extends keyof NewDeliveryFile>(name: K) => files.map((file) => file[name]);
  const { rows } = await db.query<{ position: number; state: string }>(
    `INSERT INTO delivery_files (delivery_id, position, path, piece_id, output_id, format, width_px, height_px, dpi, render_key, error, state, measured)
     SELECT $1, f.position - 1, path, piece_id, output_id, format, width_px, height_px, dpi, render_key, error,
       CASE WHEN error IS NOT NULL THEN 'failed' WHEN r.key IS NOT NULL THEN 'made' ELSE 'waiting' END, r.measured
     FROM unnest($2::text[], $3::text[], $4::text[], $5::text[], $6::float8[], $7::float8[], $8::real[], $9::text[], $10::text[])
       WITH ORDINALITY AS f (path, piece_id, output_id, format, width_px, height_px, dpi, render_key, error, position)
     LEFT JOIN renders r ON r.key = f.render_key
     RETURNING position, state`,
    [
      deliveryId,
      column('path'),
      column('piece_id'),
      column('output_id'),
      column('format'),
      column('width_px'),
      column('height_px'),
      column('dpi'),
      column('render_key'),
      column('error'),
    ],
  );
  await db.query(
    `UPDATE deliveries d SET made = f.made, failed = f.failed, bytes = f.bytes FROM (
       SELECT count(*) FILTER (WHERE f.state = 'made') AS made, count(*) FILTER (WHERE f.state = 'failed') AS failed, coalesce(sum(r.size) FILTER (WHERE f.state = 'made'), 0) AS bytes
       FROM delivery_files f LEFT JOIN renders r ON r.key = f.render_key WHERE f.delivery_id = $1
     ) f WHERE d.id = $1`,
    [deliveryId],
  );
  return rows.filter((row) => row.state === 'waiting').map((row) => row.position);
}

/** The render of a file that does not say itself what was measured of it, as older ones do not: others need no look. */
const RENDER = `LEFT JOIN LATERAL (SELECT measured FROM renders WHERE f.measured IS NULL AND key = f.render_key ${BY_ROW}) AS r ON true`;
/** Of a file f, with its render r. */
const COLUMNS =
  'f.position, f.path, f.piece_id, f.output_id, f.format, f.width_px, f.height_px, f.dpi, f.render_key, f.state, f.error, coalesce(f.measured, r.measured) AS measured';
const FILES = `SELECT ${COLUMNS} FROM delivery_files f ${RENDER}`;

export const deliveryFiles = async (db: Queryable, deliveryId: string): Promise<DeliveryFileRow[]> =>
  (await db.query<DeliveryFileRow>(`${FILES} WHERE f.delivery_id = $1 ORDER BY f.position`, [deliveryId])).rows;

/** A file of an earlier delivery, with which one it was. */
export type EarlierFile = DeliveryFileRow & { delivery_id: string; delivery_number: number };

/**
 * What there was of each path before a delivery: its last file in the deliveries since the last that was of all files,
 * that one among them. Only what was made counts.
 */
export const filesBefore = async (db: Queryable, projectId: string, number: number): Promise<EarlierFile[]> =>
  (
    await db.query<EarlierFile>(
      `SELECT DISTINCT ON (f.path) ${COLUMNS}, d.id AS delivery_id, d.number AS delivery_number
       FROM deliveries d CROSS JOIN LATERAL (SELECT * FROM delivery_files WHERE delivery_id = d.id AND state = 'made' ${BY_ROW}) AS f ${RENDER}
       WHERE d.project_id = $1 AND d.number < $2 AND d.state = 'done'
         AND d.number >= coalesce((SELECT max(number) FROM deliveries WHERE project_id = $1 AND number < $2 AND state = 'done' AND whole), 0)
       ORDER BY f.path, d.number DESC`,
      [projectId, number],
    )
  ).rows;

export const deliveryRows = async (
  db: Queryable,
  deliveryId: string,
  positions: readonly number[],
): Promise<DeliveryFileRow[]> =>
  (
    await db.query<DeliveryFileRow>(
      `SELECT ${COLUMNS} FROM unnest($2::int[]) AS asked (position) CROSS JOIN LATERAL (
         SELECT * FROM delivery_files WHERE delivery_id = $1 AND position = asked.position ${BY_ROW}
       ) AS f ${RENDER} ORDER BY f.position`,
      [deliveryId, positions],
    )
  ).rows;

export const deliveryFile = async (
  db: Queryable,
  deliveryId: string,
  position: number,
): Promise<DeliveryFileRow | undefined> =>
  (await db.query<DeliveryFileRow>(`${FILES} WHERE f.delivery_id = $1 AND f.position = $2`, [deliveryId, position]))
    .rows[0];

export type FileResult = { position: number; error: string | null; measured: Measured | null };

/** Marks files that were waiting and counts them; one that somebody else has marked meanwhile is not counted twice. */
export async function markFiles(db: Queryable, deliveryId: string, made: readonly FileResult[]): Promise<void> {
  // Rows are locked in one order, whoever marks them: a worker that was taken for dead may be marking the same.
  const results = [...made].sort((a, b) => a.position - b.position);
  await db.query(
    `WITH waiting AS MATERIALIZED (
       SELECT r.ctid FROM unnest($2::int[]) AS u (position) CROSS JOIN LATERAL (
         SELECT ctid, state FROM delivery_files WHERE delivery_id = $1 AND position = u.position ${BY_ROW} FOR UPDATE
       ) AS r WHERE r.state = 'waiting'
     ), marked AS (
       UPDATE delivery_files f SET state = CASE WHEN u.error IS NULL THEN 'made' ELSE 'failed' END, error = u.error, measured = u.measured::jsonb
       FROM unnest($2::int[], $3::text[], $4::text[]) AS u (position, error, measured)
       WHERE f.ctid = ANY (ARRAY(SELECT ctid FROM waiting)) AND f.position = u.position
       RETURNING f.state, (f.measured ->> 'bytes')::bigint AS bytes
     )
     UPDATE deliveries d SET made = d.made + m.made, failed = d.failed + m.failed, bytes = d.bytes + m.bytes FROM (
       SELECT count(*) FILTER (WHERE state = 'made') AS made, count(*) FILTER (WHERE state = 'failed') AS failed, coalesce(sum(bytes) FILTER (WHERE state = 'made'), 0) AS bytes FROM marked
     ) m WHERE d.id = $1`,
    [
      deliveryId,
      results.map((r) => r.position),
      results.map((r) => r.error?.slice(0, 1000) ?? null),
      results.map((r) => r.measured && JSON.stringify(r.measured)),
    ],
  );
}

/**
 * Ends a running delivery that has nothing left to make, and orders its hand-overs in the same statement: to every
 * receiver that is on, of one that an edit made to those that follow. Of deliveries that edits made the newest alone
 * waits for a receiver. Answers whether it ended here.
 */
export async function finishIfComplete(db: Queryable, deliveryId: string): Promise<boolean> {
  const { rows } = await db.query<{ ended: string }>(
    `WITH ended AS (
       UPDATE deliveries d SET state = 'done', finished_at = now()
       WHERE id = $1 AND state = 'running'
         AND NOT EXISTS (SELECT 1 FROM delivery_files f WHERE f.delivery_id = d.id AND f.state = 'waiting' ${BY_ROW})
       RETURNING id, project_id, by_edit, number
     ), overtaken AS (
       DELETE FROM handovers h USING ended e, deliveries earlier
       WHERE h.state = 'waiting' AND h.worker_id IS NULL AND e.by_edit
         AND earlier.id = h.delivery_id AND earlier.project_id = e.project_id AND earlier.by_edit AND earlier.number < e.number
     ), ordered AS (
       INSERT INTO handovers (id, receiver_id, delivery_id)
       SELECT gen_random_uuid()::text, r.id, e.id FROM ended e JOIN receivers r ON r.project_id = e.project_id
       WHERE r.is_on AND (r.follows OR NOT e.by_edit) ORDER BY r.created_at, r.id
     )
     SELECT count(*) AS ended FROM ended`,
    [deliveryId],
  );
  return rows[0].ended !== '0';
}

export const setDeliveryState = async (
  db: Queryable,
  deliveryId: string,
  from: DeliveryRow['state'],
  to: DeliveryRow['state'],
): Promise<boolean> =>
  ((
    await db.query(
      "UPDATE deliveries SET state = $3, finished_at = CASE WHEN $3 = 'running' THEN NULL ELSE now() END WHERE id = $1 AND state = $2",
      [deliveryId, from, to],
    )
  ).rowCount ?? 0) > 0;

export const runningDeliveries = async (db: Queryable): Promise<DeliveryRow[]> =>
  (await db.query<DeliveryRow>("SELECT * FROM deliveries WHERE state = 'running' ORDER BY created_at LIMIT 100")).rows;

/** Which pictures and fonts a delivery shows, so that they stay as long as it does. */
export const holdBlobs = (db: Queryable, deliveryId: string, hashes: readonly string[]) =>
  db.query('INSERT INTO delivery_blobs (delivery_id, hash) SELECT $1, unnest($2::text[]) ON CONFLICT DO NOTHING', [
    deliveryId,
    hashes,
  ]);

/** Bytes of rendered files that only this delivery holds. */
export const bytesOnlyOf = async (db: Queryable, deliveryId: string): Promise<number> =>
  Number(
    (
      await db.query<{ bytes: string }>(
        `SELECT coalesce(sum(size), 0) AS bytes FROM renders r WHERE EXISTS (SELECT 1 FROM delivery_files f WHERE f.render_key = r.key AND f.delivery_id = $1)
         AND NOT EXISTS (SELECT 1 FROM delivery_files f WHERE f.render_key = r.key AND f.delivery_id <> $1)`,
        [deliveryId],
      )
    ).rows[0].bytes,
  );

/** Takes a delivery away, with the rendered files that only it held. */
export async function deleteDelivery(db: Queryable, deliveryId: string): Promise<void> {
  await db.query(
    `DELETE FROM renders r WHERE EXISTS (SELECT 1 FROM delivery_files f WHERE f.render_key = r.key AND f.delivery_id = $1)
     AND NOT EXISTS (SELECT 1 FROM delivery_files f WHERE f.render_key = r.key AND f.delivery_id <> $1)`,
    [deliveryId],
  );
  await db.query('DELETE FROM deliveries WHERE id = $1', [deliveryId]);
}

/**
 * Deliveries that edits made go when a newer one is done, unless somebody named them or they are being handed over. What
 * they rendered stays until room is made: an undo asks for it again.
 */
export const dropOvertaken = (db: Queryable, projectId: string) =>
  db.query(
    `DELETE FROM deliveries d
     WHERE project_id = $1 AND by_edit AND state <> 'running' AND title = '' AND note = ''
       AND number < (SELECT max(number) FROM deliveries WHERE project_id = $1 AND by_edit AND state = 'done')
       AND NOT EXISTS (SELECT 1 FROM handovers h WHERE h.delivery_id = d.id AND h.state = 'waiting')`,
    [projectId],
  );

export type FigureRow = {
  id: string;
  number: number;
  title: string;
  created_at: Date;
  finished_at: Date | null;
  format: string;
  files: string;
  bytes: string;
};

/** Made files and their weight by format, of the newest deliveries of all files that came to their end; the oldest first. */
export const deliveryFigures = async (db: Queryable, projectId: string, most: number): Promise<FigureRow[]> =>
  (
    await db.query<FigureRow>(
      `WITH newest AS (
         SELECT id, number, title, created_at, finished_at FROM deliveries
         WHERE project_id = $1 AND state = 'done' AND whole ORDER BY number DESC LIMIT $2
       )
       SELECT d.id, d.number, d.title, d.created_at, d.finished_at, f.format, count(*) AS files,
         coalesce(sum((coalesce(f.measured, r.measured) ->> 'bytes')::bigint), 0) AS bytes
       FROM newest d CROSS JOIN LATERAL (
         SELECT format, measured, render_key FROM delivery_files WHERE delivery_id = d.id AND state = 'made' ${BY_ROW}
       ) AS f ${RENDER}
       GROUP BY d.id, d.number, d.title, d.created_at, d.finished_at, f.format ORDER BY d.number, f.format`,
      [projectId, most],
    )
  ).rows;
