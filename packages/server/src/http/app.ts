import { existsSync, readFileSync } from 'node:fs';
import { statfs } from 'node:fs/promises';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express } from 'express';
import staticGzip from 'express-static-gzip';
import { countProjects } from '../db/projects';
import { databaseBytes } from '../db/purge';
import { accessKey } from './access';
import type { Context } from './context';
import { deliveryRoutes } from './delivery-routes';
import { eventRoutes } from './event-routes';
import { fileRoutes } from './file-routes';
import { builtModules, firstNeedsOf } from './first-needs';
import { openApi } from './openapi';
import { problemHandler, sendProblem } from './problem';
import { projectRoutes } from './project-routes';
import { receiverRoutes } from './receiver-routes';
import { ownHostOnly, plainOnThisMachine, securityHeaders, withNonce } from './security';
import { sourceRoutes } from './source-routes';
import { specRoutes } from './spec-routes';

const EDITS = /^\/projects\/[^/]+\/edits\/?$/;
const json = express.json({ limit: '1mb' });

/** The whole HTTP face: API under /api, the web app for everything else. */
export function makeApp(context: Context): Express {
  const { config, db, log } = context;
  const app = express();
  app.disable('x-powered-by');
  // Hashing every answer would cost as much as making it; what has a key has it as its ETag.
  app.set('etag', false);
  app.set('trust proxy', config.proxies);
  app.get('/api/alive', async (_req, res) => {
    const answers = await db.query('SELECT 1').then(
      () => true,
      () => false,
    );
    res
      .set('Cache-Control', 'no-store')
      .status(answers ? 204 : 503)
      .end();
  });
  app.use(ownHostOnly(config.hosts, config.bind), withNonce, securityHeaders);
  if (config.accessKey) app.use(accessKey(config.accessKey, db));
  // Most of the rest goes over a studio's network: a little larger and much sooner is better.
  app.use(
    plainOnThisMachine,
    compression({ level: 3, filter: (req, res) => !req.path.endsWith('/events') && compression.filter(req, res) }),
  );
  // Edits may be larger, and are read by their route.
  app.use('/api', (req, res, next) => (EDITS.test(req.path) ? next() : json(req, res, next)));

  app.get('/api/health', async (_req, res) => {
    const [projects, usedBytes, freeBytes] = await Promise.all([
      countProjects(db).catch(() => null),
      databaseBytes(db).catch(() => null),
      freeOn(config.dataFolder),
    ]);
    const answers = projects !== null;
    const full = freeBytes !== null && freeBytes < TIGHT_BYTES;
    const trouble = !answers
      ? 'the database does not answer'
      : full
        ? 'the disk that the database is on is full'
        : undefined;
    res.status(trouble ? 503 : 200).json({
      ok: !trouble,
      trouble,
      database: answers ? 'answers' : 'away',
      projects,
      role: config.role,
      room: { usedBytes, freeBytes },
    });
  });
  app.get('/api/openapi.json', (_req, res) => void res.json(openApi()));
  app.use(
    '/api',
    projectRoutes(context),
    fileRoutes(context),
    deliveryRoutes(context),
    specRoutes(context),
    receiverRoutes(context),
    sourceRoutes(context),
    eventRoutes(context),
  );
  app.use('/api', (_req, res) =>
    sendProblem(res, 404, { code: 'not.found', message: 'there is no such place in the API' }),
  );

  const index = join(config.webRoot, 'index.html');
  if (existsSync(index)) {
    const page = readFileSync(index, 'utf8');
    const firstNeeds = firstNeedsOf(builtModules(config.webRoot));
    app.use(
      staticGzip(config.webRoot, {
        enableBrotli: true,
        orderPreference: ['br'],
        index: false,
        serveStatic: {
          immutable: true,
          maxAge: '1y',
          setHeaders: (res, path) => void (path.includes('assets') || res.setHeader('Cache-Control', 'no-cache')),
        },
      }),
    );
    app.get('/{*any}', (req, res) => {
      const { data, code, later } = firstNeeds(req.path);
      for (const path of data) res.append('Link', `<${path}>; rel=preload; as=fetch; crossorigin=anonymous`);
      const links = [
        ...code.map((path) => `<link rel="modulepreload" crossorigin href="${path}">`),
        ...later.map((path) => `<link rel="prefetch" as="script" crossorigin href="${path}">`),
      ].join('');
      res
        .set('Cache-Control', 'no-store')
        .type('html')
        .send(page.replace('__NONCE__', res.locals.nonce).replace('</head>', `${links}</head>`));
    });
  }
  app.use(problemHandler((error) => log.error(error)));
  return app;
}

/** With less room than this the database will soon be unable to write. */
const TIGHT_BYTES = 32 * 1_048_576;

/** Bytes free on the disk of a folder; null when it is not on this machine. */
const freeOn = async (folder: string | null): Promise<number | null> =>
  folder
    ? statfs(folder).then(
        ({ bavail, bsize }) => bavail * bsize,
        () => null,
      )
    : null;
