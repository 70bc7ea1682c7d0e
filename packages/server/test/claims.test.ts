import { connect, type Database, migrate, transaction } from '../src/db/database';
import { CLAIM, claimFiles } from '../src/db/workers';
import { client, startOnOwnDatabase } from './running';

const FILES = 1500;
let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let db: Database;
beforeAll(async () => {
  // Nobody makes files here but who claims them below.
  server = await startOnOwnDatabase({ TOLVIK_ROLE: 'web' });
  db = connect(server.databaseUrl, () => {});
  await migrate(db);
});
afterAll(async () => {
  await db.end();
  await server.close();
});

/** A delivery with so many files in a state. */
async function delivery(projectId: string, number: number, state: string, files: number): Promise<string> {
  const id = `d${number}-${projectId}`;
  await db.query(
    "INSERT INTO blobs (hash, media_type, bytes) VALUES ($1, 'application/gzip', '') ON CONFLICT DO NOTHING",
    ['0'.repeat(64)],
  );
  await db.query(
    "INSERT INTO deliveries (id, project_id, number, state, version, snapshot, total) VALUES ($1, $2, $3, 'running', 0, $4, $5)",
    [id, projectId, number, '0'.repeat(64), files],
  );
  await db.query(
    "INSERT INTO delivery_files (delivery_id, position, path, piece_id, output_id, format, width_px, height_px, dpi, render_key, state) SELECT $1, i, 'f' || i, 'p', 'o', 'png', 1, 1, 96, 'k' || i, $3 FROM generate_series(0, $2::int - 1) i",
    [id, files, state],
  );
  return id;
}

test('workers get as many files as they ask for, each its own, whatever the statistics say', async () => {
  const { id: projectId } = (await client(server.url).post('/projects', { name: 'Claims' })).body;
  // What the database knows is from a delivery before: of this one it expects a row or two.
  await db.query('ALTER TABLE delivery_files SET (autovacuum_enabled = false)');
  await delivery(projectId, 1, 'made', 4000);
  await db.query('ANALYZE delivery_files');
  const deliveryId = await delivery(projectId, 2, 'waiting', FILES);
  await db.query(
    "INSERT INTO workers (id, beat_at) VALUES ('one', now() + interval '1 hour'), ('other', now() + interval '1 hour')",
  );

  const { rows } = await db.query<{ 'QUERY PLAN': string }>(
    `EXPLAIN (ANALYZE, TIMING OFF) ${CLAIM.replace(/\$1/g, `'${deliveryId}'`).replace(/\$2/g, "'one'").replace(/\$3/g, '50').replace(/\$4/g, '6')}`,
  );
  const looked = rows.map((row) => row['QUERY PLAN']).find((line) => line.includes('LockRows'));
  expect(looked).toMatch(/loops=1\b/);
  // … and no row is gone through that is not taken.
  expect(rows.filter((row) => /Rows Removed/.test(row['QUERY PLAN']))).toEqual([]);

  const claim = (worker: string) => transaction(db, (taking) => claimFiles(taking, deliveryId, worker, 50));
  const claimed: number[] = [];
  while (claimed.length < FILES - 50) {
    const both = await Promise.all([claim('one'), claim('other')]);
    for (const files of both) expect(files.length).toBeLessThanOrEqual(50);
    const positions = both.flat().map((row) => row.position);
    expect(positions.length).toBeGreaterThan(0);
    claimed.push(...positions);
  }
  expect(new Set(claimed).size).toBe(FILES - 50);
  expect(await claim('one')).toEqual([]);
});
