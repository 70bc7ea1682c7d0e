/** Backup and restore, on the database that DATABASE_URL names, or on our own, started when it is not running. */
import { checkNode, dataFolder, giveUp, installPackages, root, say } from './machine.mjs';
import { startPostgres } from './postgres.mjs';

/** Builds what does the work and has it do it; ends with its sentence. */
export async function onDatabase(command) {
  checkNode();
  installPackages();
  // Only now: on a machine that had nothing they were not there.
  const { build } = await import('esbuild');
  const { nodeBuild } = await import('../build.mjs');
  await build({ ...nodeBuild(), entryPoints: { backup: 'packages/server/src/backup/main.ts' } });
  const { run } = await import(`${root}dist/backup.mjs`);
  let postgres = null;
  try {
    const url = process.env.DATABASE_URL;
    postgres = url
      ? null
      : await startPostgres({ folder: dataFolder(), port: Number(process.env.TOLVIK_PG_PORT ?? 54870) });
    say(await run(command, process.argv.slice(2), url ?? postgres.url));
  } catch (error) {
    if (postgres?.started) await postgres.stop();
    giveUp(error.message);
  }
  if (postgres?.started) await postgres.stop();
}
