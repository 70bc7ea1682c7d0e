import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateRawSync } from 'node:zlib';
import pg from 'pg';
import { backup } from '../src/backup/backup';
import { restore } from '../src/backup/restore';
import { connect, migrate } from '../src/db/database';
import { MIGRATIONS } from '../src/db/migrations';
import { client, icon, ownDatabase, startOnOwnDatabase, until } from './running';

const root = join(__dirname, '../../..');
const folder = mkdtempSync(join(tmpdir(), 'tolvik-backup-'));
afterAll(() => rmSync(folder, { recursive: true }));
const file = join(folder, 'all.backup');
const npm = (script: string, url: string, ...args: string[]) =>
  spawnSync(process.execPath, [join(root, 'scripts', `${script}.mjs`), ...args], {
    env: { ...process.env, DATABASE_URL: url },
    encoding: 'utf8',
  });

/** Every row of every table of ours, in a form that can be compared. */
async function everything(url: string): Promise<Record<string, unknown[]>> {
  const db = connect(url, () => {});
  const all: Record<string, unknown[]> = {};
  for (const table of [
    'projects',
    'records',
    'edits',
    'blobs',
    'renders',
    'deliveries',
    'delivery_files',
    'delivery_blobs',
    'kept_specs',
    'receivers',
    'intake_files',
    'sources',
    'handovers',
  ])
    all[table] = (await db.query<{ row: string }>(`SELECT t::text AS row FROM ${table} t ORDER BY 1`)).rows.map(
      ({ row }) => row,
    );
  await db.end();
  return all;
}

test('a backup brought back holds every project, every file and every delivery', async () => {
  const one = await startOnOwnDatabase({ TOLVIK_FOLDERS: join(folder, 'out') });
  const api = client(one.url);
  const id = await api.project('Kelp');
  await api.bringIn(id, { 'anchor.svg': icon(), 'boat.svg': icon('<circle r="4"/>') });
  const out = join(folder, 'out');
  mkdirSync(out);
  await api.post(`/projects/${id}/receivers`, { name: 'Build', root: out, folder: 'build' });
  const delivery = await api.settled((await api.post(`/projects/${id}/deliveries`)).body.id);
  const handedOver = async () => (await api.get(`/projects/${id}/receivers`)).body.receivers[0].standing !== null;
  await until('the files', handedOver);
  const archive = await api.bytes(`/deliveries/${delivery.id}/archive.zip`);
  expect(npm('backup', one.databaseUrl, file)).toMatchObject({ status: 0 });
  await one.close();
  const before = await everything(one.databaseUrl);
  expect(before.delivery_files.length).toBeGreaterThan(5);

  const two = await startOnOwnDatabase();
  await client(two.url).project('Something else');
  const busy = npm('restore', two.databaseUrl, file, '--replace');
  expect(busy).toMatchObject({ status: 1, stderr: expect.stringContaining('Stop it first') });
  await two.close();
  expect(npm('restore', two.databaseUrl, file)).toMatchObject({
    status: 1,
    stderr: expect.stringContaining('holds 1 project.'),
  });
  expect(npm('restore', two.databaseUrl, file, '--replace')).toMatchObject({ status: 0 });
  expect(await everything(two.databaseUrl)).toEqual(before);

  const again = await startOnOwnDatabase({ DATABASE_URL: two.databaseUrl });
  expect((await client(again.url).bytes(`/deliveries/${delivery.id}/archive.zip`)).equals(archive)).toBe(true);
  await again.close();
});

test('what is no backup, what is there already and what nobody said are refused in a sentence', () => {
  const url = process.env.TEST_DATABASE_URL ?? '';
  writeFileSync(join(folder, 'not'), 'hello');
  expect(npm('restore', url, join(folder, 'not'))).toMatchObject({
    status: 1,
    stderr: expect.stringContaining('is no backup'),
  });
  expect(npm('restore', url, join(folder, 'gone'))).toMatchObject({
    status: 1,
    stderr: expect.stringContaining('There is no file'),
  });
  expect(npm('backup', url, join(folder, 'not'))).toMatchObject({
    status: 1,
    stderr: expect.stringContaining('is there already'),
  });
  expect(npm('backup', url)).toMatchObject({ status: 1, stderr: expect.stringContaining('Say where to') });
  expect(execFileSync('ls', [folder], { encoding: 'utf8' })).not.toContain('.part');
});

/** A database as it was after so many steps, with a project of one record in it. */
async function databaseAt(step: number): Promise<string> {
  const url = await ownDatabase();
  const db = new pg.Client({ connectionString: url });
  await db.connect();
  await db.query('CREATE TABLE migrations (number integer PRIMARY KEY, done_at timestamptz NOT NULL DEFAULT now())');
  for (let i = 0; i < step; i++) {
    await db.query(MIGRATIONS[i]);
    await db.query('INSERT INTO migrations (number) VALUES ($1)', [i + 1]);
  }
  await db.query("INSERT INTO projects (id, name, version) VALUES ('kelp', 'Kelp\t\\ and \n salt', 1)");
  const body = { id: 'web', kind: 'spec', name: 'Web', order: 'a0', naming: '{piece}', folder: '' };
  await db.query("INSERT INTO records (project_id, id, kind, body, version) VALUES ('kelp', 'web', 'spec', $1, 1)", [
    body,
  ]);
  await db.query("INSERT INTO blobs (hash, media_type, bytes) VALUES ('b', 'image/png', $1)", [
    Buffer.alloc(3_000_000, 7),
  ]);
  await db.end();
  return url;
}

test('a backup of any earlier version is brought up to date', async () => {
  for (let step = 1; step <= MIGRATIONS.length; step++) {
    const at = join(folder, `step-${step}`);
    await backup(await databaseAt(step), at);
    const url = await ownDatabase();
    await restore(url, at, false);
    const db = connect(url, () => {});
    await migrate(db);
    const { rows } = await db.query('SELECT name, version FROM projects');
    expect([step, rows]).toEqual([step, [{ name: 'Kelp\t\\ and \n salt', version: 1 }]]);
    expect((await db.query('SELECT length(bytes) AS n FROM blobs')).rows).toEqual([{ n: 3_000_000 }]);
    await db.end();
  }
});

describe('wrong in any part', () => {
  let whole: Buffer;
  let url: string;
  beforeAll(async () => {
    await backup(await databaseAt(MIGRATIONS.length), join(folder, 'whole'));
    whole = readFileSync(join(folder, 'whole'));
    url = await databaseAt(MIGRATIONS.length);
  });
  /** Brought back, it is refused in a sentence, and the database holds what it held. */
  async function refused(content: Buffer): Promise<string> {
    const before = await everything(url);
    const at = join(folder, 'wrong');
    writeFileSync(at, content);
    const error = await restore(url, at, true).then(
      () => null,
      (each: Error) => each,
    );
    expect(error?.constructor.name).toBe('BackupTrouble');
    expect(await everything(url)).toEqual(before);
    return error?.message ?? '';
  }
  /** With the sum that such a file would have. */
  const summed = (content: Buffer) => Buffer.concat([content, createHash('sha256').update(content).digest()]);
  const block = (type: string, content: string | Buffer) => {
    const before = Buffer.alloc(5);
    before.write(type, 'latin1');
    before.writeUInt32BE(Buffer.byteLength(content), 1);
    return Buffer.concat([before, Buffer.from(content)]);
  };
  const HEAD = block('H', JSON.stringify({ version: 1, step: MIGRATIONS.length, at: '2026-12-01T00:00:00.000Z' }));
  const forged = (...blocks: Buffer[]) =>
    summed(Buffer.concat([Buffer.from('TOLVIKBK'), HEAD, ...blocks, block('E', '')]));
  const tableOf = (name: string, ...columns: string[]) => block('T', JSON.stringify({ table: name, columns }));
  const rows = (text: string) => block('D', deflateRawSync(text));

  test('a byte that is another, or an end that is missing: it is damaged', async () => {
    for (let i = 0; i < 8; i++) {
      const at = Math.floor((i / 8) * whole.length);
      const other = Buffer.from(whole);
      other[at] ^= 1 << i;
      expect([at, await refused(other)]).toEqual([at, expect.stringMatching(/damaged|is no backup|newer/)]);
      expect(await refused(whole.subarray(0, at))).toMatch(/damaged|is no backup/);
    }
    expect(await refused(Buffer.concat([whole, Buffer.from('x')]))).toContain('damaged');
  });

  test.each<[string, () => Buffer]>([
    ['a table of the system', () => forged(tableOf('pg_authid', 'rolname'), rows('x\n'))],
    ['a table that it may not hold', () => forged(tableOf('workers', 'id'), rows('x\n'))],
    ['a table twice', () => forged(tableOf('projects', 'id', 'name'), tableOf('projects', 'id', 'name'))],
    ['a statement as a name', () => forged(block('T', '{"table":"projects; DROP TABLE records","columns":["id"]}'))],
    [
      'a statement as a column',
      () => forged(block('T', '{"table":"projects","columns":["id) FROM PROGRAM \'touch x\' --"]}')),
    ],
    ['a column that there is not', () => forged(tableOf('projects', 'id', 'nobody'))],
    ['a column twice', () => forged(tableOf('projects', 'id', 'id'))],
    ['rows of no table', () => forged(rows('x\n'))],
    ['rows that do not fit', () => forged(tableOf('projects', 'id', 'name'), rows('one\n'))],
    [
      'rows of nobody',
      () => forged(tableOf('records', 'project_id', 'id', 'kind', 'body', 'version'), rows('x\ty\tspec\t{}\t1\n')),
    ],
    [
      'a record that is none',
      () =>
        forged(
          tableOf('projects', 'id', 'name'),
          rows('kelp\tKelp\n'),
          tableOf('records', 'project_id', 'id', 'kind', 'body', 'version'),
          rows('kelp\ty\tlayer\t{"id": "y", "kind": "layer", "tag": "script"}\t1\n'),
        ),
    ],
    [
      'far more than it weighs',
      () => forged(tableOf('projects', 'id', 'name'), block('D', deflateRawSync(Buffer.alloc(80_000_000)))),
    ],
    [
      'a block without end',
      () => summed(Buffer.concat([Buffer.from('TOLVIKBK'), HEAD, Buffer.from([0x44, 0xff, 0xff, 0xff, 0xff])])),
    ],
    ['no head', () => summed(Buffer.concat([Buffer.from('TOLVIKBK'), tableOf('projects', 'id'), block('E', '')]))],
    [
      'a step that nobody knows',
      () =>
        summed(
          Buffer.concat([
            Buffer.from('TOLVIKBK'),
            block('H', JSON.stringify({ version: 1, step: 999, at: '2026-12-01T00:00:00.000Z' })),
            block('E', ''),
          ]),
        ),
    ],
    [
      'another version',
      () =>
        summed(Buffer.concat([Buffer.from('TOLVIKBK'), block('H', JSON.stringify({ version: 2 })), block('E', '')])),
    ],
    ['nothing', () => Buffer.alloc(0)],
  ])('%s is refused in a sentence, and nothing is changed', async (_, content) => {
    expect(await refused(content())).toMatch(/^[a-z].*[a-z0-9”"]$/);
  });

  test('what stands after the end of rows is not run', async () => {
    const to = await ownDatabase();
    const at = join(folder, 'more');
    writeFileSync(at, forged(tableOf('projects', 'id', 'name'), rows('kelp\tKelp\n\\.\nDROP TABLE records;\n')));
    await restore(to, at, false);
    expect((await everything(to)).records).toEqual([]);
  });

  test('one that is ended in the middle leaves what was there', async () => {
    const large = await databaseAt(MIGRATIONS.length);
    const other = new pg.Client({ connectionString: process.env.TEST_DATABASE_URL });
    await other.connect();
    const filled = new pg.Client({ connectionString: large });
    await filled.connect();
    await filled.query(
      "INSERT INTO blobs (hash, media_type, bytes) SELECT 'n' || n, 'x', convert_to(repeat(md5(n::text), 60000), 'UTF8') FROM generate_series(1, 40) n",
    );
    await filled.end();
    const at = join(folder, 'large');
    await backup(large, at);
    const before = await everything(url);
    const child = spawn(process.execPath, [join(root, 'scripts', 'restore.mjs'), at, '--replace'], {
      env: { ...process.env, DATABASE_URL: url },
      stdio: 'ignore',
    });
    // In the middle of its rows, whatever the machine does beside.
    await until('rows on their way', async () => {
      const { rows } = await other.query(
        "SELECT 1 FROM pg_stat_activity WHERE datname = $1 AND query LIKE 'COPY blobs%'",
        [new URL(url).pathname.slice(1)],
      );
      return rows.length > 0;
    });
    child.kill('SIGKILL');
    await new Promise((resolve) => child.once('close', resolve));
    await other.end();
    expect(await everything(url)).toEqual(before);
  });
});

test('an archive of before, whose statements would be run, is refused', () => {
  writeFileSync(join(folder, 'before'), 'PGDMP and more');
  expect(npm('restore', process.env.TEST_DATABASE_URL ?? '', join(folder, 'before'))).toMatchObject({
    status: 1,
    stderr: expect.stringContaining('made by Tolvik 0.1'),
  });
});
