import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { asEdit, ProjectDocument, type ProjectRecord, recordsOfLibrarySpec, specFile } from '@tolvik/core';
import fc from 'fast-check';
import { API_ROUTES } from '../src/http/api-routes';
import { type Answer, client, icon, startOnOwnDatabase } from './running';

/** Windows that do the same in one moment. */
const WINDOWS = 6;

let folder: string;
let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'tolvik-at-once-'));
  mkdirSync(join(folder, 'drawings'));
  server = await startOnOwnDatabase({ TOLVIK_FOLDERS: folder, TOLVIK_SOURCES: folder });
});
afterAll(async () => {
  await server.close();
  rmSync(folder, { recursive: true, force: true });
});

const font = () =>
  readFileSync(
    join(
      dirname(createRequire(__filename).resolve('@fontsource/spline-sans-mono/package.json')),
      'files',
      'spline-sans-mono-latin-400-normal.woff2',
    ),
  );

async function form(path: string, name: string, bytes: string | Buffer): Promise<Answer> {
  const body = new FormData();
  body.append('files', new File([bytes as string], name));
  const response = await fetch(`${server.url}${path}`, { method: 'POST', body });
  return { status: response.status, body: await response.json(), headers: response.headers };
}

/** What each door that changes something is asked, by a project and what hangs on it. */
type Asked = {
  id: string;
  artboard: ProjectRecord;
  version: number;
  deliveryId: string;
  receiverId: string;
  sourceId: string;
  specId: string;
  cell: { pieceId: string; outputId: string; settings: unknown };
  projectFile: Buffer;
};

const spec = () => {
  const { spec, outputs } = recordsOfLibrarySpec('web', new ProjectDocument());
  return specFile.parse({ tolvik: 'spec', version: 1, spec, outputs });
};

/** Drawings of one name would hold a delivery. */
let named = 0;

/** Deleting comes last. */
const DOORS: Record<string, (asked: Asked) => Promise<Answer>> = {
  'POST /api/projects': ({ id }) => api().post('/projects', { name: 'Copy', copyOf: id }),
  'POST /api/projects/open': ({ projectFile }) => form('/api/projects/open', 'saved.svg', projectFile),
  'PATCH /api/projects/{id}': ({ id }) => api().patch(`/projects/${id}`, { name: 'Renamed' }),
  'POST /api/projects/{id}/edits': ({ id, artboard, version }) =>
    api().post(`/projects/${id}/edits`, asEdit({ label: 'rename', puts: [artboard], removes: [] }, version)),
  'POST /api/projects/{id}/acts/{name}': ({ id, artboard }) =>
    api().post(`/projects/${id}/acts/switch-pieces`, { ids: [artboard.id], settings: { on: false } }),
  'POST /api/projects/{id}/bring-in': ({ id }) => form(`/api/projects/${id}/bring-in`, `boat-${++named}.svg`, icon()),
  'POST /api/projects/{id}/fonts': ({ id }) => form(`/api/projects/${id}/fonts`, 'mono.woff2', font()),
  'POST /api/projects/{id}/gesture': ({ id }) => api().post(`/projects/${id}/gesture`),
  'POST /api/projects/{id}/trial': ({ id, cell }) => api().post(`/projects/${id}/trial`, cell),
  'POST /api/specs': () => api().post('/specs', spec()),
  'PATCH /api/specs/{id}': ({ specId }) => api().patch(`/specs/${specId}`, { isFirst: true }),
  'POST /api/projects/{id}/deliveries': ({ id }) => api().post(`/projects/${id}/deliveries`),
  'PATCH /api/deliveries/{id}': ({ deliveryId }) => api().patch(`/deliveries/${deliveryId}`, { title: 'For print' }),
  'POST /api/deliveries/{id}/stop': ({ deliveryId }) => api().post(`/deliveries/${deliveryId}/stop`),
  'POST /api/deliveries/{id}/go-on': ({ deliveryId }) => api().post(`/deliveries/${deliveryId}/go-on`),
  'POST /api/deliveries/{id}/hand-over': ({ deliveryId }) => api().post(`/deliveries/${deliveryId}/hand-over`),
  'POST /api/deliveries/{id}/take-back': ({ deliveryId, cell }) =>
    api().post(`/deliveries/${deliveryId}/take-back`, { pieceIds: [cell.pieceId] }),
  'POST /api/projects/{id}/receivers': ({ id }) =>
    api().post(`/projects/${id}/receivers`, { name: 'Build', root: folder, folder: 'icons' }),
  'PATCH /api/receivers/{id}': ({ receiverId }) => api().patch(`/receivers/${receiverId}`, { follows: true }),
  'POST /api/receivers/{id}/write': ({ receiverId }) => api().post(`/receivers/${receiverId}/write`),
  'POST /api/receivers/{id}/stop': ({ receiverId }) => api().post(`/receivers/${receiverId}/stop`),
  'POST /api/projects/{id}/sources': ({ id }) =>
    api().post(`/projects/${id}/sources`, { root: folder, folder: 'drawings' }),
  'PATCH /api/sources/{id}': ({ sourceId }) => api().patch(`/sources/${sourceId}`, { on: false }),
  'DELETE /api/sources/{id}': ({ sourceId }) => api().delete(`/sources/${sourceId}`),
  'DELETE /api/receivers/{id}': ({ receiverId }) => api().delete(`/receivers/${receiverId}`),
  'DELETE /api/specs/{id}': ({ specId }) => api().delete(`/specs/${specId}`),
  'DELETE /api/deliveries/{id}': ({ deliveryId }) => api().delete(`/deliveries/${deliveryId}`),
  'DELETE /api/projects/{id}': ({ id }) => api().delete(`/projects/${id}`),
};
const api = () => client(server.url);

/** A project with an icon, a delivery that was made, a folder that takes it and one that feeds it. */
async function prepared(): Promise<Asked> {
  const id = await api().project();
  await api().bringIn(id, { 'anchor.svg': icon(), 'kedge.svg': icon() });
  const deliveryId = (await api().post(`/projects/${id}/deliveries`)).body.id;
  await api().settled(deliveryId);
  const receiver = await api().post(`/projects/${id}/receivers`, { name: 'Site', root: folder, folder: `of-${id}` });
  const sources = await api().post(`/projects/${id}/sources`, { root: folder, folder: '' });
  const { version, records } = (await api().get(`/projects/${id}/records`)).body as {
    version: number;
    records: ProjectRecord[];
  };
  const { pieceId, outputId } = (await api().get(`/projects/${id}/plan`)).body.files[0];
  const output = records.find((record) => record.id === outputId);
  return {
    id,
    artboard: records.find((each) => each.kind === 'artboard' && each.id !== pieceId) as ProjectRecord,
    version,
    deliveryId,
    receiverId: receiver.body.id,
    sourceId: sources.body.sources[0].id,
    specId: (await api().post('/specs', spec())).body.id,
    cell: { pieceId, outputId, settings: output?.kind === 'output' ? output.settings : null },
    projectFile: await api().bytes(`/projects/${id}/project.svg`),
  };
}

const inWords = (door: string, { status, body }: Answer) =>
  status < 500 || status === 503 ? [] : [`${door}: ${status} ${JSON.stringify(body)}`];

test('every door that changes something is tried', () => {
  const changing = API_ROUTES.filter(({ method }) => method !== 'get');
  expect(Object.keys(DOORS).sort()).toEqual(
    changing.map(({ method, path }) => `${method.toUpperCase()} ${path}`).sort(),
  );
});

test('asked the same by several windows in one moment, each answers with what was done or in a sentence', async () => {
  const asked = await prepared();
  const broken: string[] = [];
  for (const [door, ask] of Object.entries(DOORS)) {
    const answers = await Promise.all(Array.from({ length: WINDOWS }, () => ask(asked)));
    broken.push(...answers.flatMap((answer) => inWords(door, answer)));
    // The server itself brings a receiver what was delivered, whenever it comes to it.
    const isDone = ({ status, body }: Answer) => status < 300 || body.code === 'receiver.busy';
    if (!answers.some(isDone)) broken.push(`${door}: ${JSON.stringify(answers[0].body)}`);
  }
  expect(broken).toEqual([]);
});

test('all of them in one moment, in any order: nothing breaks, and what is there agrees with itself', async () => {
  const doors = Object.keys(DOORS).filter((door) => door !== 'DELETE /api/projects/{id}');
  await fc.assert(
    fc.asyncProperty(fc.array(fc.constantFrom(...doors), { minLength: 10, maxLength: 30 }), async (some) => {
      const asked = await prepared();
      const answers = await Promise.all(some.map((door) => DOORS[door](asked)));
      expect(answers.flatMap((answer, i) => inWords(some[i], answer))).toEqual([]);
      const { deliveries } = (await api().get(`/projects/${asked.id}/deliveries`)).body;
      const numbers = deliveries.map(({ number }: { number: number }) => number);
      expect(new Set(numbers).size).toBe(numbers.length);
      for (const { id } of deliveries) {
        const { state, status } = await api().settled(id);
        // One that an edit made gives way to the next.
        expect(['done', 'stopped', 404]).toContain(state ?? status);
      }
      const { version } = (await api().get(`/projects/${asked.id}`)).body;
      const since = (await api().get(`/projects/${asked.id}/records?since=${asked.version}`)).body;
      expect(since.version).toBeGreaterThanOrEqual(version);
      expect((await api().get(`/projects/${asked.id}/plan`)).status).toBe(200);
    }),
    { numRuns: Number(process.env.PROPERTY_TIMES ?? 1) * 3 },
  );
});
