/** The database that backup and restore work on: the one that DATABASE_URL names, or our own, started when it is not running. */
import { dataFolder, giveUp } from './machine.mjs';
import { startPostgres } from './postgres.mjs';

export async function withDatabase(work) {
  let postgres = null;
  try {
    postgres = process.env.DATABASE_URL
      ? null
      : await startPostgres({ folder: dataFolder(), port: Number(process.env.TOLVIK_PG_PORT ?? 54870) });
    await work(process.env.DATABASE_URL ?? postgres.url);
  } catch (error) {
    if (postgres?.started) await postgres.stop();
    giveUp(error.message);
  }
  if (postgres?.started) await postgres.stop();
}
