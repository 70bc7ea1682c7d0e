import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { connect } from '../src/db/database';
import { client, icon, startOnOwnDatabase } from './running';

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
    'migrations',
  ])
    all[table] = (await db.query<{ row: string }>(`SELECT t::text AS row FROM ${table} t ORDER BY 1`)).rows.map(
      ({ row }) => row,
    );
  await db.end();
  return all;
}

test('a backup brought back holds every project, every file and every delivery', async () => {
  const one = await startOnOwnDatabase();
  const api = client(one.url);
  const id = await api.project('Kelp');
  await api.bringIn(id, { 'anchor.svg': icon(), 'boat.svg': icon('<circle r="4"/>') });
  const delivery = await api.settled((await api.post(`/projects/${id}/deliveries`)).body.id);
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
