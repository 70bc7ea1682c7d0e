/**
 * npm start: sets up what is missing, starts PostgreSQL on loopback, builds, serves, loads the demo
 * into an empty database, and stops all it started on Ctrl+C. `--dev` reloads as sources change.
 */
import { fork } from 'node:child_process';
import { join } from 'node:path';
import { buildIfChanged, checkNode, dataFolder, giveUp, installPackages, portIsFree, root, say } from './parts/machine.mjs';
import { startPostgres } from './parts/postgres.mjs';

checkNode();
const dev = process.argv.includes('--dev');
const port = Number(process.env.PORT ?? 4870);
if (!Number.isInteger(port) || port < 1 || port > 65535) giveUp(`PORT is "${process.env.PORT}"; it has to be a number from 1 to 65535.`);
installPackages();
if (!(await portIsFree(port))) giveUp(`Port ${port} is taken. Stop what uses it, or choose another with PORT=… npm start.`);

const postgres = process.env.DATABASE_URL ? null : await startPostgres({ folder: dataFolder(), port: Number(process.env.TOLVIK_PG_PORT ?? 54870) });
const databaseUrl = process.env.DATABASE_URL ?? postgres.url;
const apiPort = dev ? port + 1 : port;
let server = null;
let stopping = false;
const endings = [];

async function stop(code = 0) {
  if (stopping) return;
  stopping = true;
  for (const end of endings) await end();
  if (server && server.exitCode === null) {
    server.kill('SIGTERM');
    await new Promise((resolve) => server.once('exit', resolve));
  }
  await postgres?.stop();
  process.exit(code);
}
process.on('SIGINT', () => void stop());
process.on('SIGTERM', () => void stop());

function startServer() {
  return new Promise((resolve) => {
    server = fork(join(root, 'dist', 'server.mjs'), [], {
      env: { ...process.env, PORT: String(apiPort), DATABASE_URL: databaseUrl, NODE_ENV: dev ? 'development' : 'production' },
      execArgv: ['--enable-source-maps'],
    });
    server.once('message', () => resolve());
    server.once('exit', (code) => {
      if (!stopping && !server.replaced) void stop(code || 1);
    });
  });
}

if (dev) {
  const { watchNode, serveWeb } = await import('./parts/dev.mjs');
  endings.push(
    await watchNode(async () => {
      if (server) {
        server.replaced = true;
        server.kill('SIGTERM');
        await new Promise((resolve) => server.once('exit', resolve));
      }
      await startServer();
    }),
  );
  endings.push(await serveWeb(port, apiPort));
} else {
  buildIfChanged();
  await startServer();
}
const { seedIfEmpty } = await import(new URL('../dist/demo.mjs', import.meta.url));
if (await seedIfEmpty(`http://127.0.0.1:${apiPort}`)) say('The demo projects are loaded.');
say(`Tolvik is ready: http://127.0.0.1:${port}`);
