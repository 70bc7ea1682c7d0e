import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { asEdit, type Output, ProjectDocument, recordsOfLibrarySpec, specFile } from '@tolvik/core';
import type { Router } from 'express';
import * as z from 'zod';
import { API_ROUTES, type ApiRoute } from '../src/http/api-routes';
import { deliveryRoutes } from '../src/http/delivery-routes';
import { eventRoutes } from '../src/http/event-routes';
import { fileRoutes } from '../src/http/file-routes';
import { projectRoutes } from '../src/http/project-routes';
import { receiverRoutes } from '../src/http/receiver-routes';
import { sourceRoutes } from '../src/http/source-routes';
import { specRoutes } from '../src/http/spec-routes';
import { icon, startOnOwnDatabase } from './running';

let folder: string;
let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'tolvik-contract-'));
  server = await startOnOwnDatabase({ TOLVIK_FOLDERS: folder, TOLVIK_SOURCES: folder });
});
afterAll(async () => {
  await server.close();
  rmSync(folder, { recursive: true, force: true });
});

const named = ({ method, path }: Pick<ApiRoute, 'method' | 'path'>) => `${method.toUpperCase()} ${path}`;
const called = new Set<string>();

type Call = {
  params?: Record<string, string>;
  query?: string;
  json?: unknown;
  files?: Record<string, Buffer | string>;
};

/** Calls a route of the table and holds what comes back against it; answers the JSON, or the bytes. */
async function call(method: ApiRoute['method'], path: string, { params = {}, query = '', json, files }: Call = {}) {
  const route = API_ROUTES.find((each) => each.method === method && each.path === path);
  if (!route) throw new Error(`${method} ${path} is not in the table`);
  called.add(named(route));
  const address = path.replace(/\{(\w+)\}/g, (_, name) => params[name]);
  let body: RequestInit['body'];
  if (files) {
    const form = new FormData();
    for (const [name, bytes] of Object.entries(files)) form.append('files', new File([bytes as string], name));
    body = form;
  } else if (json !== undefined) body = JSON.stringify(json);
  const headers = json === undefined ? undefined : { 'content-type': 'application/json' };
  const gone = new AbortController();
  const response = await fetch(`${server.url}${address}${query}`, {
    method: method.toUpperCase(),
    body,
    headers,
    signal: gone.signal,
  });
  const { answer } = route;
  if (!response.ok) throw new Error(`${named(route)} answered ${response.status}: ${await response.text()}`);
  if (answer === null) {
    expect([named(route), response.status]).toEqual([named(route), 204]);
    return null;
  }
  const type = response.headers.get('content-type') ?? '';
  if (typeof answer === 'string') {
    if (answer !== '*/*') expect([named(route), type.split(';')[0]]).toEqual([named(route), answer]);
    if (answer === 'text/event-stream') return gone.abort();
    return Buffer.from(await response.arrayBuffer());
  }
  expect([named(route), type.split(';')[0]]).toEqual([named(route), 'application/json']);
  const read = answer.safeParse(await response.json());
  expect([named(route), read.error?.issues ?? []]).toEqual([named(route), []]);
  // biome-ignore lint/suspicious/noExplicitAny: answers are looked into freely in tests
  return read.data as any;
}

const PROJECT = '/api/projects/{id}';
const DELIVERY = '/api/deliveries/{id}';

test('every route that Express has is in the table, and the other way round', () => {
  const context = {} as never;
  const routers: Router[] = [
    projectRoutes,
    fileRoutes,
    deliveryRoutes,
    specRoutes,
    receiverRoutes,
    sourceRoutes,
    eventRoutes,
  ].map((make) => make(context));
  const served = routers.flatMap((router) =>
    router.stack.flatMap(({ route }) => {
      if (!route) return [];
      const path = `/api${route.path.replace(/:(\w+)/g, '{$1}')}`;
      const methods = (route as unknown as { methods: Record<string, boolean> }).methods;
      return Object.keys(methods).map((method) => `${method.toUpperCase()} ${path}`);
    }),
  );
  const listed = API_ROUTES.map(named).filter((route) => !/\/api\/(health|openapi\.json)$/.test(route));
  expect(listed.sort()).toEqual(served.sort());
});

test('each answers what its schema says, through the life of a project', async () => {
  const { id } = await call('post', '/api/projects', { json: { name: 'Contract' } });
  const params = { id };
  await call('post', `${PROJECT}/bring-in`, {
    params,
    files: {
      'anchor.svg': icon(),
      'boat.svg': icon('<text x="2" y="12" font-size="8">boat</text><script/>'),
      'broken.svg': '<svg',
    },
  });
  const { records } = await call('get', `${PROJECT}/records`, { params, query: '?since=0' });
  const artboard = records.find(({ kind }: { kind: string }) => kind === 'artboard');
  const { version } = await call('get', PROJECT, { params });
  await call('post', `${PROJECT}/edits`, {
    params,
    json: asEdit({ label: 'rename', puts: [{ ...artboard, name: 'kedge' }], removes: [] }, version),
  });
  await call('get', '/api/acts');
  await call('post', `${PROJECT}/acts/{name}`, { params: { id, name: 'slice-everything' }, json: {} });
  await call('post', `${PROJECT}/acts/{name}`, {
    params: { id, name: 'add-output' },
    json: { settings: { settings: { format: 'pdf', pages: 'together' } } },
  });
  const font = join(
    dirname(createRequire(__filename).resolve('@fontsource/spline-sans-mono/package.json')),
    'files',
    'spline-sans-mono-latin-400-normal.woff2',
  );
  const { change } = await call('post', `${PROJECT}/fonts`, { params, files: { 'mono.woff2': readFileSync(font) } });
  await call('get', '/api/blobs/{hash}', { params: { hash: change.puts[0].hash } });

  const plan = await call('get', `${PROJECT}/plan`, { params });
  const { pieceId, outputId } = plan.files[0];
  const cell = { id, pieceId, outputId };
  await call('get', `${PROJECT}/files/{pieceId}/{outputId}`, { params: cell });
  await call('get', `${PROJECT}/files/{pieceId}/{outputId}/picture.png`, { params: cell });
  const output = records.find((record: Output) => record.kind === 'output' && record.id === outputId);
  await call('post', `${PROJECT}/trial`, { params, json: { pieceId, outputId, settings: output.settings } });
  await call('get', `${PROJECT}/made`, { params });
  await call('post', `${PROJECT}/gesture`, { params });
  await call('get', `${PROJECT}/findings`, { params });
  await call('get', `${PROJECT}/cover.png`, { params });
  await call('get', `${PROJECT}/events`, { params });
  await call('get', '/api/events', { query: `?of=${params.id}` });
  const file = await call('get', `${PROJECT}/project.svg`, { params });

  const begun = await call('post', `${PROJECT}/deliveries`, { params, json: {} });
  const delivery = { id: begun.id };
  for (let state = begun.state; state === 'running'; ) ({ state } = await call('get', DELIVERY, { params: delivery }));
  await call('get', `${PROJECT}/deliveries`, { params });
  await call('post', `${DELIVERY}/stop`, { params: delivery });
  await call('post', `${DELIVERY}/go-on`, { params: delivery });
  const detail = await call('get', DELIVERY, { params: delivery });
  expect(detail.files[0].now.measured.bytes).toBeGreaterThan(0);
  await call('get', `${DELIVERY}/paths`, { params: delivery });
  const { deliveries: figures } = await call('get', `${PROJECT}/deliveries/figures`, { params });
  expect(figures[0].formats.every(({ files, bytes }: { files: number; bytes: number }) => files > 0 && bytes > 0)).toBe(
    true,
  );
  await call('get', `${DELIVERY}/rows`, { params: delivery, query: '?positions=0,1' });
  await call('get', `${DELIVERY}/files/{position}`, { params: { ...delivery, position: '0' } });
  await call('get', `${DELIVERY}/files/{position}/picture.png`, { params: { ...delivery, position: '0' } });
  await call('get', `${DELIVERY}/archive.zip`, { params: delivery });
  await call('get', `${DELIVERY}/page.html`, { params: delivery });
  await call('get', `${DELIVERY}/receipt.json`, { params: delivery });
  const { roots } = await call('get', `${PROJECT}/receivers`, { params });
  const receiver = await call('post', `${PROJECT}/receivers`, {
    params,
    json: { name: 'Build', root: roots[0], folder: 'icons' },
  });
  const taker = { id: receiver.id };
  await call('patch', '/api/receivers/{id}', { params: taker, json: { on: false } });
  expect((await call('get', '/api/receivers/{id}/steps', { params: taker })).fresh.count).toBeGreaterThan(0);
  expect(
    (await call('post', '/api/receivers/{id}/write', { params: taker, json: {} })).standing.written,
  ).toBeGreaterThan(0);
  await call('post', '/api/receivers/{id}/stop', { params: taker });
  await call('delete', '/api/receivers/{id}', { params: taker });
  await call('post', `${DELIVERY}/hand-over`, { params: delivery });
  expect((await call('get', `${DELIVERY}/since`, { params: delivery })).pieces).toEqual([]);
  await call('post', `${DELIVERY}/take-back`, { params: delivery, json: { pieceIds: ['nobody'] } });
  expect((await call('get', `${PROJECT}/sources`, { params })).sources).toEqual([]);
  const { sources } = await call('post', `${PROJECT}/sources`, { params, json: { root: roots[0] } });
  const linked = { params: { id: sources[0].id } };
  await call('patch', '/api/sources/{id}', { ...linked, json: { on: false } });
  await call('delete', '/api/sources/{id}', linked);
  expect(await call('patch', DELIVERY, { params: delivery, json: { title: 'For the press' } })).toMatchObject({
    title: 'For the press',
    note: '',
  });
  expect((await call('get', `${DELIVERY}/answers`, { params: delivery })).receivers).toEqual([]);
  await call('get', `${DELIVERY}/frees`, { params: delivery });
  await call('delete', DELIVERY, { params: delivery });

  const { spec, outputs } = recordsOfLibrarySpec('web', new ProjectDocument());
  const kept = await call('post', '/api/specs', {
    json: specFile.parse({ tolvik: 'spec', version: 1, spec, outputs }),
  });
  await call('get', '/api/specs');
  await call('patch', '/api/specs/{id}', { params: { id: kept.id }, json: { isFirst: false } });
  await call('delete', '/api/specs/{id}', { params: { id: kept.id } });

  await call('post', '/api/projects/open', { files: { 'saved.svg': file as Buffer } });
  await call('patch', PROJECT, { params, json: { name: 'Renamed' } });
  await call('get', '/api/projects');
  await call('delete', PROJECT, { params });
  await call('get', '/api/health');
  const document = await call('get', '/api/openapi.json');
  expect(Object.keys(document.paths)).toHaveLength(new Set(API_ROUTES.map(({ path }) => path)).size);
  expect([...called].sort()).toEqual(API_ROUTES.map(named).sort());
});

test('schemas of answers can be said in JSON Schema, and refuse what they do not name', () => {
  for (const route of API_ROUTES)
    if (route.answer instanceof z.ZodType) {
      expect(() => z.toJSONSchema(route.answer as z.ZodType, { unrepresentable: 'any' })).not.toThrow();
      if (route.path !== '/api/openapi.json')
        expect([named(route), route.answer.safeParse({ nothing: 'of the kind' }).success]).toEqual([
          named(route),
          false,
        ]);
    }
});
