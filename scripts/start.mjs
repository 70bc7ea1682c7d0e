/**
 * npm start: sets up what is missing, starts PostgreSQL on loopback, builds, serves, loads the demo
 * into an empty database of our own, keeps both going, and stops all it started on Ctrl+C. `--dev` reloads as sources change.
 * Exit codes: 0 stopped by hand, 1 something could not be started or kept going.
 */
import { fork } from 'node:child_process';
import { join } from 'node:path';
import {
  buildIfChanged,
  checkNode,
  dataFolder,
  giveUp,
  installPackages,
  portIsFree,
  root,
  say,
} from './parts/machine.mjs';
import { DatabaseTrouble, isAlive, startPostgres } from './parts/postgres.mjs';
import { keepRunning } from './parts/supervise.mjs';

checkNode();
const role = process.env.TOLVIK_ROLE || 'all';
/** One that only makes files and hands them over listens to nobody. */
const listens = role !== 'worker';
const dev = process.argv.includes('--dev');
const port = Number(process.env.PORT ?? 4870);
if (!Number.isInteger(port) || port < 1 || port > 65535)
  giveUp(`PORT is "${process.env.PORT}"; it has to be a number from 1 to 65535.`);
const bind = process.env.TOLVIK_BIND || '127.0.0.1';
/** Where this machine reaches the server itself. */
const here = bind === '0.0.0.0' || bind === '::' ? '127.0.0.1' : bind.includes(':') ? `[${bind}]` : bind;
installPackages();
if (listens && !(await portIsFree(port, bind)))
  giveUp(`Port ${port} is taken. Stop what uses it, or choose another with PORT=… npm start.`);

const LOOK_EVERY_MS = 2000;
const apiPort = dev ? port + 1 : port;
let postgres = null;
let server = null;
let stopping = false;
const endings = [];
let told = false;

async function stop(code = 0) {
  if (stopping) return;
  stopping = true;
  for (const end of endings) await end();
  if (server && server.exitCode === null && server.signalCode === null) {
    const gone = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    await gone;
  }
  await postgres?.stop();
  process.exit(code);
}
process.on('SIGINT', () => void stop());
process.on('SIGTERM', () => void stop());
process.on('SIGHUP', () => void stop());

async function onGiveUp(words) {
  console.error(words);
  await stop(1);
}

/** The demo comes into an empty database of our own; into one that somebody named only when they say so. */
function wantsDemo() {
  const said = process.env.TOLVIK_DEMO || (process.env.DATABASE_URL ? 'no' : 'yes');
  if (said !== 'yes' && said !== 'no') giveUp(`TOLVIK_DEMO is "${said}"; it takes yes or no.`);
  return said === 'yes';
}
wantsDemo();

/** PostgreSQL, and when it ended: it may be one that an earlier start left, so its process is looked at. */
async function startDatabase() {
  postgres = await startPostgres({ folder: dataFolder(), port: Number(process.env.TOLVIK_PG_PORT ?? 54870) });
  const { pid, place } = postgres;
  if (place !== dataFolder() && !told)
    say(`The database lies in ${place}: its user may not pass through to ${dataFolder()}.`);
  told = true;
  const ended = new Promise((resolve) => {
    const look = setInterval(() => {
      if (isAlive(pid)) return;
      clearInterval(look);
      resolve('its process is gone');
    }, LOOK_EVERY_MS);
    look.unref();
  });
  return { ended };
}

function startServer() {
  return new Promise((resolve, reject) => {
    const child = fork(join(root, 'dist', 'server.mjs'), [], {
      env: {
        ...process.env,
        PORT: String(apiPort),
        DATABASE_URL: process.env.DATABASE_URL ?? postgres.url,
        NODE_ENV: dev ? 'development' : 'production',
        TOLVIK_DATA: dataFolder(),
      },
      execArgv: ['--enable-source-maps'],
    });
    server = child;
    const ended = new Promise((end) => child.once('exit', (code, signal) => end(signal ?? `code ${code}`)));
    child.once('message', () => resolve({ ended }));
    void ended.then((why) => reject(new Error(`The server did not start (${why}).`)));
  });
}

try {
  if (!process.env.DATABASE_URL)
    endings.push(await keepRunning({ name: 'The database', start: startDatabase, say, onGiveUp }));
  if (dev) {
    const { watchNode, serveWeb } = await import('./parts/dev.mjs');
    endings.push(
      await watchNode(async () => {
        if (server && server.exitCode === null) {
          const gone = new Promise((resolve) => server.once('exit', resolve));
          server.kill('SIGTERM');
          await gone;
        }
        await startServer();
      }),
    );
    endings.push(await serveWeb(port, apiPort));
  } else {
    buildIfChanged();
    endings.push(await keepRunning({ name: 'The server', start: startServer, say, onGiveUp }));
  }
  if (listens && wantsDemo()) {
    const { seedIfEmpty } = await import(new URL('../dist/demo.mjs', import.meta.url));
    if (await seedIfEmpty(`http://${here}:${apiPort}`)) say('The demo projects are loaded.');
  }
  say(listens ? `Tolvik is ready: http://${here}:${port}` : 'Tolvik is ready: it makes files and hands them over.');
} catch (error) {
  if (!stopping) {
    console.error(error instanceof DatabaseTrouble || /did not start/.test(error.message) ? error.message : error);
    await stop(1);
  }
}
