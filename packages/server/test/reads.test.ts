import type { ProjectRecord } from '@tolvik/core';
import type pg from 'pg';
import { connect, type Database, migrate, transaction } from '../src/db/database';
import {
  deliveryFigures,
  deliveryFiles,
  deliveryRows,
  filesBefore,
  finishIfComplete,
  markFiles,
} from '../src/db/deliveries';
import { prepareEdit } from '../src/db/prepared-edit';
import { applyEdit, readChanges } from '../src/db/records';
import { claimFiles } from '../src/db/workers';
import { ownDatabase } from './running';

/** Far fewer than the large project has of anything, and more than an edit of two layers has to look at. */
const FEW = 60;

let db: Database;

/** A project of groups with ten layers each and a journal of a thousand edits, and a delivery with half of its files made. */
const project = (id: string, groups: number) =>
  db.query(
    `INSERT INTO projects (id, name, version) VALUES ('${id}', 'p', 1000);
     INSERT INTO records (project_id, id, kind, body, version)
       SELECT '${id}', '${id}g' || n, 'layer', jsonb_build_object('id', '${id}g' || n, 'kind', 'layer', 'name', 'g', 'parentId', 'root'), n % 1000
       FROM generate_series(1, ${groups}) AS n;
     INSERT INTO records (project_id, id, kind, body, version)
       SELECT '${id}', '${id}l' || n, 'layer', jsonb_build_object('id', '${id}l' || n, 'kind', 'layer', 'name', 'l', 'parentId', '${id}g' || (n / 10 + 1)), n % 1000
       FROM generate_series(0, ${groups * 10 - 1}) AS n;
     INSERT INTO edits (project_id, id, version, label, removes) SELECT '${id}', '${id}e' || n, n, 'e', ARRAY['${id}gone' || n] FROM generate_series(1, 1000) AS n;
     INSERT INTO blobs VALUES ('${id}', 'application/gzip', '');
     INSERT INTO deliveries (id, project_id, number, state, version, snapshot, total) VALUES ('${id}', '${id}', 1, 'running', 1, '${id}', ${groups * 10});
     INSERT INTO delivery_files (delivery_id, position, path, piece_id, output_id, format, width_px, height_px, dpi, render_key, state)
       SELECT '${id}', n, n || '.png', 'a', 'b', 'png', 1, 1, 96, '${id}k' || n, CASE WHEN n < ${groups * 5} THEN 'made' ELSE 'waiting' END
       FROM generate_series(0, ${groups * 10 - 1}) AS n;
     INSERT INTO renders (key, media_type, bytes, size, measured) SELECT '${id}k' || n, 'image/png', '', 700, '{"bytes": 700}' FROM generate_series(0, ${groups * 10 - 1}) AS n;
     UPDATE delivery_files SET measured = '{"bytes": 700}' WHERE delivery_id = '${id}' AND state = 'made' AND position % 2 = 0;`,
  );

/** Rows of these tables that a transaction has read until now, those that it looked at for nothing among them. */
async function rowsRead(client: Pick<Database, 'query'>): Promise<number> {
  const { rows } = await client.query<{ read: number }>(
    `SELECT sum(coalesce(seq_tup_read, 0) + coalesce(idx_tup_fetch, 0))::int AS read FROM pg_stat_xact_user_tables
     WHERE relname IN ('records', 'edits', 'delivery_files', 'renders')`,
  );
  return rows[0].read;
}

async function readBy(work: (client: pg.PoolClient) => Promise<unknown>): Promise<number> {
  return transaction(db, async (client) => {
    const before = await rowsRead(client);
    await work(client);
    return (await rowsRead(client)) - before;
  });
}

const layer = (id: string, parentId: string) =>
  ({ id, kind: 'layer', name: 'l', parentId }) as unknown as ProjectRecord;

beforeAll(async () => {
  db = connect(await ownDatabase(), () => {});
  await migrate(db);
  // What the database knows of its tables is from when there was one small project; the large one came later.
  await project('small', 3);
  await db.query('ANALYZE');
  await project('large', 300);
});
afterAll(() => db.end());

describe.each([
  ['as the database was when it last looked', ''],
  ['as the database is', 'ANALYZE'],
])('in a large project, with statistics %s', (_, first) => {
  beforeAll(async () => {
    if (first) await db.query(first);
  });

  test.each([
    ['an edit on the newest version', (version: number) => version, {}],
    ['an edit on an older version', (version: number) => version - 20, {}],
    ['an edit that moves a layer', (version: number) => version, { to: 'largeg200' }],
    ['an edit that removes a layer', (version: number) => version, { gone: ['largel2500'] }],
  ])('%s reads few rows', async (_what, base, { to = 'largeg41', gone = [] }: { to?: string; gone?: string[] }) => {
    const { rows } = await db.query<{ version: number }>("SELECT version FROM projects WHERE id = 'large'");
    // Its layers are of version 400 and 401: older than what the edits are based on.
    const puts = [layer('largel400', to), layer('largel401', 'largeg41')];
    await db.query("UPDATE records SET version = 400 WHERE project_id = 'large' AND id IN ('largel400', 'largel401')");
    const edit = prepareEdit({ label: 'e', puts, removes: gone }, base(rows[0].version));
    let outcome: unknown;
    const read = await readBy(async (client) => {
      outcome = await applyEdit(client, 'large', edit);
    });
    expect(outcome).toEqual({ version: rows[0].version + 1, repeated: false });
    expect(read).toBeLessThan(FEW);
  });

  test('an edit that comes twice is found at once', async () => {
    const edit = { ...prepareEdit({ label: 'e', puts: [], removes: [] }, 900), id: 'largee700' };
    let outcome: unknown;
    const read = await readBy(async (client) => {
      outcome = await applyEdit(client, 'large', edit);
    });
    expect(outcome).toEqual({ version: 700, repeated: true });
    expect(read).toBeLessThan(FEW);
  });

  test('what changed since a version is read alone', async () => {
    await db.query("UPDATE records SET version = version % 1000 WHERE project_id = 'large'");
    const read = await readBy(async (client) => {
      const changes = await readChanges(client, 'large', 997);
      expect(JSON.parse(changes?.records ?? '')).toHaveLength(6);
      expect(changes?.removed).toContain('largegone999');
    });
    expect(read).toBeLessThan(FEW);
  });

  test('files of a delivery are taken, marked and asked for by themselves', async () => {
    const read = await readBy(async (client) => {
      const files = await claimFiles(client, 'large', 'worker', 8);
      expect(files).toHaveLength(8);
      await markFiles(
        client,
        'large',
        files.map(({ position }) => ({ position, error: null, measured: null })),
      );
      const positions = files.map(({ position }) => position);
      expect((await deliveryRows(client, 'large', positions)).map(({ state }) => state)).toEqual(
        positions.map(() => 'made'),
      );
      expect(await finishIfComplete(client, 'large')).toBe(false);
    });
    expect(read).toBeLessThan(FEW);
  });

  test('what a delivery holds, held and weighs is asked without a look at others', async () => {
    const read = await readBy(async (client) => {
      await client.query("UPDATE deliveries SET state = 'done' WHERE id = 'small'");
      expect(await deliveryFiles(client, 'small')).toHaveLength(30);
      expect((await filesBefore(client, 'small', 2)).map(({ measured }) => measured?.bytes)).toEqual(
        Array(15).fill(700),
      );
      expect(await deliveryFigures(client, 'small', 60)).toMatchObject([
        { format: 'png', files: '15', bytes: '10500' },
      ]);
      await client.query("UPDATE deliveries SET state = 'running' WHERE id = 'small'");
    });
    // Its 30 files three times, and the renders of those that do not say what they weigh.
    expect(read).toBeLessThan(3 * 30 + FEW);
  });
});
