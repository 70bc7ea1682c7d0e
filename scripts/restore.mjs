/** npm run restore -- FILE [--replace]: a backup into an empty database; with --replace in place of what is there. */
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import pg from 'pg';
import { withDatabase } from './parts/backup.mjs';
import { giveUp, say } from './parts/machine.mjs';
import { postgresBin } from './parts/postgres.mjs';

const args = process.argv.slice(2);
const given = args.find((arg) => !arg.startsWith('--'));
const replace = args.includes('--replace');
if (!given) giveUp('Say which: npm run restore -- FILE');
const file = resolve(given);
if (!existsSync(file)) giveUp(`There is no file ${file}.`);
const program = (name, ...rest) =>
  spawnSync(join(postgresBin(), name), rest, { encoding: 'utf8', maxBuffer: 64 * 1_048_576 });
if (program('pg_restore', '--list', file).status !== 0) giveUp(`${file} is no backup made by "npm run backup".`);
await withDatabase(async (url) => {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const { rows } = await client.query("SELECT to_regclass('projects') IS NOT NULL AS there");
    const count = rows[0].there ? Number((await client.query('SELECT count(*) AS n FROM projects')).rows[0].n) : 0;
    if (count > 0 && !replace)
      throw new Error(
        `This database holds ${count} ${count === 1 ? 'project' : 'projects'}. Add --replace to put the backup in their place; they are gone then.`,
      );
    const others = await client.query(
      'SELECT count(*)::int AS n FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()',
    );
    if (others.rows[0].n > 0) throw new Error('A server is at work on this database. Stop it first.');
  } finally {
    await client.end();
  }
  // All of it or nothing: a backup that breaks off leaves what was there.
  const done = program(
    'pg_restore',
    '--clean',
    '--if-exists',
    '--no-owner',
    '--single-transaction',
    `--dbname=${url}`,
    file,
  );
  if (done.status !== 0)
    throw new Error(
      `The backup could not be brought back, and nothing was changed: ${(done.stderr || String(done.error)).trim().slice(0, 600)}`,
    );
  say('The backup is back. Start with "npm start".');
});
