import { pipeline } from 'node:stream/promises';
import { anyRecord, inputWords } from '@tolvik/core';
import pg from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { MIGRATIONS } from '../db/migrations';
import { type BackupHead, BackupTrouble, backupParts } from './archive';
import { columnsOf, quoted } from './backup';
import { ALL_TABLES, TABLES } from './tables';

/** Backups of before were archives of PostgreSQL's own, whose statements are run when they are brought back. */
const OF_BEFORE = Buffer.from('PGDMP');

/**
 * Brings a backup into a database, all of it or nothing: our own tables are made as they were when it was made, filled
 * with its rows, and brought up to date from there. Refuses where there are projects unless they may be replaced, and
 * while a server is at work. Throws `BackupTrouble` in words.
 */
export async function restore(databaseUrl: string, path: string, replace: boolean): Promise<void> {
  // Once to the end, so that what is damaged changes nothing and is told soon.
  const head = await checked(path);
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    await mayReplace(client, replace);
    await client.query('BEGIN');
    await client.query(`DROP TABLE IF EXISTS ${ALL_TABLES.join(', ')} CASCADE`);
    await client.query(
      'CREATE TABLE migrations (number integer PRIMARY KEY, done_at timestamptz NOT NULL DEFAULT now())',
    );
    await migrateTo(client, 0, head.step);
    await load(client, path);
    await migrateTo(client, head.step, MIGRATIONS.length);
    await checkRecords(client);
    await afterIdentities(client);
    await client.query('COMMIT');
  } finally {
    // Without its end a transaction leaves what was there.
    await client.end();
  }
}

async function checked(path: string): Promise<BackupHead> {
  let head: BackupHead | null = null;
  const seen = new Set<string>();
  for await (const part of backupParts(path)) {
    if (part.kind === 'head') head = part;
    if (part.kind !== 'table') continue;
    if (!(TABLES as readonly string[]).includes(part.table) || seen.has(part.table))
      throw new BackupTrouble(`it holds “${part.table}”, which is none of what a backup holds`);
    seen.add(part.table);
  }
  if (!head) throw new BackupTrouble('it is damaged: it has no beginning');
  if (head.step > MIGRATIONS.length)
    throw new BackupTrouble('it was made by a newer Tolvik; start that one, and bring it back there');
  return head;
}

async function mayReplace(client: pg.Client, replace: boolean): Promise<void> {
  const { rows } = await client.query<{ there: boolean }>("SELECT to_regclass('projects') IS NOT NULL AS there");
  const count = rows[0].there
    ? Number((await client.query<{ n: string }>('SELECT count(*) AS n FROM projects')).rows[0].n)
    : 0;
  if (count > 0 && !replace)
    throw new BackupTrouble(
      `this database holds ${count} ${count === 1 ? 'project' : 'projects'}. Add --replace to put the backup in their place; they are gone then`,
    );
  const others = await client.query<{ n: number }>(
    'SELECT count(*)::int AS n FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()',
  );
  if (others.rows[0].n > 0) throw new BackupTrouble('a server is at work on this database. Stop it first');
}

async function migrateTo(client: pg.Client, from: number, to: number): Promise<void> {
  for (let step = from; step < to; step++) {
    await client.query(MIGRATIONS[step]);
    await client.query('INSERT INTO migrations (number) VALUES ($1)', [step + 1]);
  }
}

/** Rows go where the table and the columns are ours by name; whatever the file says else is refused. */
async function load(client: pg.Client, path: string): Promise<void> {
  const parts = backupParts(path);
  let next = await parts.next();
  while (!next.done) {
    const part = next.value;
    if (part.kind !== 'table') {
      next = await parts.next();
      continue;
    }
    const { table, columns } = part;
    const known = new Set(await columnsOf(client, table));
    const foreign = columns.find((column) => !known.has(column));
    if (foreign !== undefined || new Set(columns).size !== columns.length)
      throw new BackupTrouble(`it says “${foreign ?? columns}” of ${table}, which this database does not hold`);
    const into = client.query(copyFrom(`COPY ${table} (${columns.map(quoted).join(', ')}) FROM STDIN`));
    const rows = async function* (): AsyncGenerator<Buffer> {
      for (next = await parts.next(); !next.done && next.value.kind === 'rows'; next = await parts.next())
        yield next.value.bytes;
    };
    try {
      await pipeline(rows, into);
    } catch (error) {
      if (error instanceof BackupTrouble) throw error;
      throw new BackupTrouble(`rows of ${table} do not fit: ${(error as Error).message}`);
    }
  }
}

const RECORDS_AT_ONCE = 2000;

/** What a project holds passes one schema, wherever it comes from: refuses records that are none. */
async function checkRecords(client: pg.Client): Promise<void> {
  await client.query('DECLARE all_records CURSOR FOR SELECT id, kind, body FROM records');
  for (;;) {
    const { rows } = await client.query<{ id: string; kind: string; body: unknown }>(
      `FETCH ${RECORDS_AT_ONCE} FROM all_records`,
    );
    if (rows.length === 0) break;
    for (const { id, kind, body } of rows) {
      const read = anyRecord.safeParse(body);
      if (!read.success) {
        const [issue] = read.error.issues;
        throw new BackupTrouble(`a record of it is none: ${issue.path.join('.')}: ${inputWords(issue)}`);
      }
      if (read.data.id !== id || read.data.kind !== kind)
        throw new BackupTrouble('a record of it is another than it says');
    }
  }
  await client.query('CLOSE all_records');
}

/** What counts rows goes on after the highest that came. */
async function afterIdentities(client: pg.Client): Promise<void> {
  const { rows } = await client.query<{ table: string; column: string }>(
    `SELECT table_name AS table, column_name AS column FROM information_schema.columns
     WHERE table_schema = current_schema() AND table_name = ANY($1) AND is_identity = 'YES'`,
    [TABLES],
  );
  for (const { table, column } of rows)
    await client.query(
      `SELECT setval(pg_get_serial_sequence('${table}', '${column}'), coalesce((SELECT max(${quoted(column)}) FROM ${table}), 0) + 1, false)`,
    );
}

/** Whether a file is a backup of before, which this version does not bring back. */
export const isOfBefore = (first: Uint8Array): boolean => OF_BEFORE.equals(first.subarray(0, OF_BEFORE.length));
