import { outputRecord, type Spec } from '@tolvik/core';
import { connect } from '../src/db/database';
import { MOST_PROJECTS } from '../src/db/projects';
import { client, icon, startOnOwnDatabase } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
beforeAll(async () => {
  server = await startOnOwnDatabase();
});
afterAll(() => server.close());

test('a shelf tells every project it holds, and refuses one more than that in a sentence', async () => {
  const api = client(server.url);
  const db = connect(server.databaseUrl, () => {});
  const first = await api.project();
  await db.query(
    "INSERT INTO projects (id, name, counted_of, counts) SELECT 'p' || n, 'Project ' || n, 0, '{}' FROM generate_series(2, $1::int - 1) n",
    [MOST_PROJECTS],
  );
  const last = await api.project();
  const { projects } = (await api.get('/projects')).body as { projects: { id: string }[] };
  expect(projects).toHaveLength(MOST_PROJECTS);
  expect([projects[0].id, projects[MOST_PROJECTS - 1].id]).toEqual([first, last]);

  for (const answer of [
    await api.post('/projects', { name: 'One more' }),
    await api.post('/projects', { name: 'A copy', copyOf: last }),
  ])
    expect(answer).toMatchObject({
      status: 422,
      body: { code: 'shelf.full', detail: expect.stringContaining('the shelf holds 5,000 projects') },
    });
  // What is there works on, and there is room once one is gone.
  await api.bringIn(last, { 'a.svg': icon() });
  await fetch(`${server.url}/api/projects/p7`, {
    method: 'PATCH',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ deleted: true }),
  });
  expect((await api.post('/projects', { name: 'One more' })).status).toBe(201);
  await db.end();
});

test('a contact sheet of all pieces is one file on the shelf, as it is one in the plan', async () => {
  const own = await startOnOwnDatabase();
  const api = client(own.url);
  const id = await api.project('Sheet');
  await api.bringIn(id, { 'a.svg': icon(), 'b.svg': icon(), 'c.svg': icon() });
  const spec = (await api.records(id)).find((record): record is Spec => record.kind === 'spec') as Spec;
  const sheet = { id: 'sheet', kind: 'output', specId: spec.id, order: 'b00', size: { kind: 'factor', factor: 1 } };
  await api.edit(id, { puts: [outputRecord.parse({ ...sheet, settings: { format: 'pdf', pages: 'sheet' } })] });
  const { projects } = (await api.get('/projects')).body;
  const { files } = (await api.get(`/projects/${id}/plan`)).body as { files: { path: string }[] };
  const on = projects.find((project: { id: string }) => project.id === id);
  expect(on.files).toBe(new Set(files.map(({ path }) => path)).size);
  await own.close();
});
