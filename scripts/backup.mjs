/** npm run backup -- FILE: everything the database holds, in one file; whole or not there. The server may go on meanwhile. */
import { spawnSync } from 'node:child_process';
import { existsSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { withDatabase } from './parts/backup.mjs';
import { giveUp, say } from './parts/machine.mjs';
import { postgresBin } from './parts/postgres.mjs';

const [given] = process.argv.slice(2);
if (!given) giveUp('Say where to: npm run backup -- FILE');
const file = resolve(given);
if (existsSync(file)) giveUp(`${file} is there already. Choose another name, or move it away.`);
if (!existsSync(dirname(file))) giveUp(`There is no folder ${dirname(file)}.`);
await withDatabase((url) => {
  const part = `${file}.part`;
  const made = spawnSync(
    join(postgresBin(), 'pg_dump'),
    ['--format=custom', '--no-owner', `--file=${part}`, `--dbname=${url}`],
    { encoding: 'utf8' },
  );
  if (made.status !== 0) {
    rmSync(part, { force: true });
    throw new Error(`The backup could not be made: ${(made.stderr || String(made.error)).trim()}`);
  }
  renameSync(part, file);
  say(`${file}: ${(statSync(file).size / 1_048_576).toFixed(1)} MB. Bring it back with "npm run restore -- ${given}".`);
});
