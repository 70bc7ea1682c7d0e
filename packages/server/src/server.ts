import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { FolderProcesses } from '@tolvik/folders';
import { RenderPool } from '@tolvik/render';
import { pino } from 'pino';
import { Reader } from './bring-in/reader';
import type { Config } from './config';
import { connect, migrate } from './db/database';
import { purge } from './db/purge';
import { Deliveries } from './deliveries/deliveries';
import { EventHub } from './events/hub';
import { makeApp } from './http/app';
import type { Context } from './http/context';
import { FileMaker } from './projects/file-maker';
import { OpenProjects } from './projects/open-projects';
import { Pictures } from './projects/pictures';
import { Renders } from './projects/renders';
import { Following } from './receivers/following';
import { HandOvers } from './receivers/hand-overs';
import { Receivers } from './receivers/receivers';
import { LinkedSources } from './sources/linked-sources';
import { Turns } from './turns';

export type Running = { port: number; context: Context; close(): Promise<void> };

const CLEAN_EVERY_MS = 10 * 60_000;
const KEEP_ALIVE_MS = 75_000;
const HEADERS_MS = 15_000;
const REQUEST_MS = 600_000;
const CONNECTIONS = 2000;
const UPLOADS_AT_ONCE = 3;
const UPLOADS_WAITING = 30;

/** Starts a server with everything it needs; `close` ends all of it. */
export async function startServer(config: Config, modulePath: string): Promise<Running> {
  const log = pino({ level: process.env.TOLVIK_LOG ?? 'warn' });
  // Errors of the database driver carry the whole connection; only what they say is of use.
  const onError = (error: Error & { code?: string }) => log.warn({ code: error.code }, error.message);
  const db = connect(config.databaseUrl, onError);
  await migrate(db);
  const pool = new RenderPool({
    childPath: config.childPath,
    size: config.workers,
    timeoutMs: config.fileSeconds * 1000,
  });
  pool.warmUp();
  const pictures = new Pictures(db);
  const limits = {
    workerPath: config.projectWorkerPath,
    modulePath,
    seconds: config.projectSeconds,
    memoryMb: config.projectMb,
  };
  const projects = new OpenProjects(db, pictures, limits);
  const renders = new Renders(db, onError);
  const maker = new FileMaker(renders, pool, pictures, onError);
  const hub = new EventHub(config.databaseUrl, onError);
  const reader = new Reader(config.readWorkerPath, 2);
  const editReader = new Reader(config.readWorkerPath, 1);
  const uploads = new Turns(UPLOADS_AT_ONCE, UPLOADS_WAITING);
  const deliveries = new Deliveries(db, projects, maker, onError);
  const folders = new FolderProcesses(config.folderChildPath);
  const receivers = new Receivers(db, config, folders, deliveries);
  const handOvers = new HandOvers(db, config, receivers, onError);
  deliveries.onDone = () => handOvers.wake();
  const following = new Following(db, projects, deliveries, receivers, handOvers, onError);
  const sources = new LinkedSources(db, config, projects, reader, folders, onError);
  const context: Context = {
    config,
    db,
    projects,
    pool,
    pictures,
    renders,
    maker,
    deliveries,
    receivers,
    handOvers,
    following,
    sources,
    hub,
    reader,
    editReader,
    uploads,
    log,
  };
  // Who only makes files plans none.
  if (config.role !== 'worker') hub.onEdited = (projectId) => following.changed(projectId);
  await hub.start();
  await deliveries.start(config.role);
  await handOvers.start();
  if (config.role !== 'worker') {
    await following.start();
    await sources.start();
  }
  const clean = setInterval(() => void purge(db, config.cacheBytes).catch(onError), CLEAN_EVERY_MS);
  clean.unref();

  let http: Server | null = null;
  let port = 0;
  if (config.role !== 'worker') {
    const app = makeApp(context);
    http = await new Promise<Server>((resolve, reject) => {
      const server = app.listen(config.port, config.bind, (error?: Error) => (error ? reject(error) : resolve(server)));
      // Longer than who asks keeps a connection, so that it is not closed here at the moment it is used there.
      server.keepAliveTimeout = KEEP_ALIVE_MS;
      // Who sends headers or a body drop by drop is cut off; uploads are looked at more closely where they are read.
      server.headersTimeout = HEADERS_MS;
      server.requestTimeout = REQUEST_MS;
      server.maxConnections = CONNECTIONS;
    });
    port = (http.address() as AddressInfo).port;
  }
  return {
    port,
    context,
    async close() {
      clearInterval(clean);
      following.stop();
      await handOvers.stop();
      await sources.stop();
      folders.close();
      maker.stop();
      http?.closeAllConnections();
      await new Promise<void>((resolve) => (http ? http.close(() => resolve()) : resolve()));
      await pool.close();
      await deliveries.stop();
      await hub.close();
      await reader.close();
      await editReader.close();
      await projects.close();
      await renders.close();
      await db.end();
    },
  };
}
