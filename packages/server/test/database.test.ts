import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readConfig, startServer } from '../src';
import { connect, migrate } from '../src/db/database';
import { MIGRATIONS } from '../src/db/migrations';
import { evictRenders, putRenders } from '../src/db/renders';
import { addSource, sourcesOf } from '../src/db/sources';
import { client, icon } from './running';

const DIST = join(__dirname, '../../../dist');

test('migrations run once, also when several servers start together', async () => {
  const db = connect(process.env.TEST_DATABASE_URL ?? '', () => {});
  await Promise.all([migrate(db), migrate(db), migrate(db)]);
  const { rows } = await db.query('SELECT count(*)::int AS n FROM migrations');
  expect(rows[0].n).toBe(MIGRATIONS.length);
  await db.end();
});

test('a database of before several folders could feed a project keeps its source, and takes another', async () => {
  const own = `before_${process.pid}`;
  const whole = connect(process.env.TEST_DATABASE_URL ?? '', () => {});
  await whole.query(`CREATE DATABASE ${own}`);
  const url = new URL(process.env.TEST_DATABASE_URL ?? '');
  url.pathname = own;
  const db = connect(url.href, () => {});
  const step = MIGRATIONS.findIndex((sql) => sql.includes('linked_at'));
  await db.query('CREATE TABLE migrations (number integer PRIMARY KEY, done_at timestamptz NOT NULL DEFAULT now())');
  for (const [i, sql] of MIGRATIONS.slice(0, step).entries()) {
    await db.query(sql);
    await db.query('INSERT INTO migrations (number) VALUES ($1)', [i + 1]);
  }
  await db.query(
    `INSERT INTO projects (id, name) VALUES ('p', 'p');
     INSERT INTO sources (project_id, root, folder, files) VALUES ('p', '/in', 'icons', '{"a.svg": {"sha256": "x"}}')`,
  );
  await migrate(db);
  expect(await addSource(db, { id: 's', projectId: 'p', root: '/in', folder: 'icons' })).toBe(false);
  expect(await addSource(db, { id: 's', projectId: 'p', root: '/in', folder: 'logos' })).toBe(true);
  expect(await sourcesOf(db, 'p')).toMatchObject([
    { id: 'p', project_id: 'p', folder: 'icons', is_on: true, files: { 'a.svg': { sha256: 'x' } } },
    { id: 's', project_id: 'p', folder: 'logos' },
  ]);
  await db.end();
  await whole.query(`DROP DATABASE ${own}`);
  await whole.end();
});

test('old renders go first, and only those that no delivery holds', async () => {
  const db = connect(process.env.TEST_DATABASE_URL ?? '', () => {});
  await migrate(db);
  const render = (key: string) => ({
    key,
    mediaType: 'image/png',
    bytes: Buffer.alloc(1000),
    measured: { widthPx: 1, heightPx: 1, bytes: 1000, alpha: false, dpi: 96, colourType: 'RGB' },
  });
  await putRenders(db, ['old', 'newer', 'held'].map(render));
  await db.query("UPDATE renders SET used_at = now() - interval '2 days' WHERE key IN ('old', 'held')");
  await db.query(
    "INSERT INTO projects (id, name) VALUES ('p', 'p'); INSERT INTO blobs VALUES ('s', 'x', ''); INSERT INTO deliveries (id, project_id, number, state, version, snapshot, total) VALUES ('d', 'p', 1, 'done', 1, 's', 1)",
  );
  await db.query(
    "INSERT INTO delivery_files VALUES ('d', 0, 'a.png', 'a', 'b', 'png', 1, 1, 96, 'held', 'made', NULL)",
  );
  expect(await evictRenders(db, 1500)).toBe(1);
  expect((await db.query('SELECT key FROM renders ORDER BY key')).rows.map((row) => row.key)).toEqual([
    'held',
    'newer',
  ]);
  await db.end();
});

test('the database stopped and started while the app runs: told meanwhile, nothing lost', async () => {
  const { startPostgres } = await import('../../../scripts/parts/postgres.mjs');
  const { freePort } = await import('../../../scripts/parts/machine.mjs');
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-restart-'));
  const port = await freePort();
  let postgres = await startPostgres({ folder, port, durable: false });
  const running = await startServer(
    readConfig({ PORT: '0', DATABASE_URL: postgres.url, TOLVIK_DIST: DIST, TOLVIK_WORKERS: '1' }),
    __filename,
  );
  const api = client(`http://127.0.0.1:${running.port}`);
  try {
    const id = await api.project();
    await api.bringIn(id, { 'a.svg': icon() });
    await postgres.stop();
    const away = await api.get(`/projects/${id}/records`);
    expect(away).toMatchObject({ status: 503, body: { code: 'database.away' } });
    expect((await api.get('/health')).body).toMatchObject({ ok: false, database: 'away' });
    postgres = await startPostgres({ folder, port, durable: false });
    expect((await api.records(id)).some((record) => record.kind === 'artboard')).toBe(true);
    const { body } = await api.post(`/projects/${id}/deliveries`);
    expect(await api.settled(body.id)).toMatchObject({ state: 'done', made: 3 });
  } finally {
    await running.close();
    await postgres.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}, 300_000);
