/** Before Jest: what runs in other processes is built, and a PostgreSQL of the tests' own is started. */
import { mkdirSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildNode } from './build.mjs';
import { freePort } from './parts/machine.mjs';
import { startPostgres } from './parts/postgres.mjs';

export default async () => {
  await buildNode();
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-jest-'));
  const postgres = await startPostgres({ folder, port: await freePort(), durable: false });
  process.env.TEST_DATABASE_URL = postgres.url;
  // What tests make for the time being goes with all of this at the end.
  process.env.TMPDIR = join(folder, 'tmp');
  mkdirSync(process.env.TMPDIR);
  globalThis.testPostgres = { ...postgres, folder };
};
