import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { freePort } from '../parts/machine.mjs';
import { startPostgres } from '../parts/postgres.mjs';

const asRoot = process.getuid?.() === 0 ? test : test.skip;
const homes: string[] = [];
const places = new Set<string>();
afterAll(() => {
  for (const path of [...homes, ...places]) rmSync(path, { recursive: true, force: true });
});

/** A folder as root's own home is: nobody else may pass. */
function home(): string {
  const at = mkdtempSync(join(tmpdir(), 'tolvik-home-'));
  chmodSync(at, 0o700);
  homes.push(at);
  mkdirSync(join(at, 'tolvik'));
  return join(at, 'tolvik', '.tolvik');
}

async function asked<T extends pg.QueryResultRow>(url: string, sql: string): Promise<T[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query<T>(sql)).rows;
  } finally {
    await client.end();
  }
}

asRoot(
  'root starts it from a home that nobody else may pass: the data lasts, is found again, and is no other place’s',
  async () => {
    const [one, other] = [home(), home()];
    const first = await startPostgres({ folder: one, port: await freePort() });
    places.add(first.place);
    expect(first.place).toMatch(/^\/var\/lib\/tolvik\//);
    expect(readFileSync(join(first.place, 'of'), 'utf8').trim()).toBe(one);
    expect(existsSync(join(one, 'postgres'))).toBe(false);
    await asked(first.url, 'CREATE TABLE kelp AS SELECT 7 AS salt');
    await first.stop();
    const again = await startPostgres({ folder: one, port: await freePort() });
    expect(again.place).toBe(first.place);
    expect(await asked(again.url, 'SELECT salt FROM kelp')).toEqual([{ salt: 7 }]);
    const second = await startPostgres({ folder: other, port: await freePort() });
    places.add(second.place);
    expect(second.place).not.toBe(first.place);
    expect(await asked(second.url, "SELECT to_regclass('kelp') AS there")).toEqual([{ there: null }]);
    await again.stop();
    await second.stop();
  },
);
