import { rm } from 'node:fs/promises';
import pg from 'pg';
import { to as copyTo } from 'pg-copy-streams';
import { BackupTrouble, BackupWriter } from './archive';
import { TABLES } from './tables';

/** Writes everything the database holds at one moment into a file; the server may go on meanwhile. Whole, or not there. */
export async function backup(databaseUrl: string, path: string): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    const { rows: there } = await client.query<{ there: boolean }>(
      "SELECT to_regclass('migrations') IS NOT NULL AS there",
    );
    if (!there[0].there) throw new BackupTrouble('this database holds nothing of Tolvik');
    const { rows: steps } = await client.query<{ step: number }>('SELECT max(number) AS step FROM migrations');
    const writer = await BackupWriter.open(path, { step: steps[0].step, at: new Date().toISOString() });
    try {
      for (const table of TABLES) {
        const columns = await columnsOf(client, table);
        if (columns.length === 0) continue;
        await writer.table({ table, columns });
        const rows = client.query(copyTo(`COPY ${table} (${columns.map(quoted).join(', ')}) TO STDOUT`));
        for await (const chunk of rows) await writer.rows(chunk as Buffer);
      }
      await writer.end();
    } catch (error) {
      await writer.close().catch(() => {});
      await rm(path, { force: true });
      throw error;
    }
  } finally {
    await client.end();
  }
}

/** The columns of a table of ours that hold data, as the database has them; none where there is no such table. */
export const columnsOf = async (client: pg.Client, table: string): Promise<string[]> =>
  (
    await client.query<{ name: string }>(
      `SELECT column_name AS name FROM information_schema.columns
       WHERE table_schema = current_schema() AND table_name = $1 AND is_generated = 'NEVER' ORDER BY ordinal_position`,
      [table],
    )
  ).rows.map(({ name }) => name);

export const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;
