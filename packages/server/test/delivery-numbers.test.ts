import { connect } from '../src/db/database';
import { MOST_DELIVERIES } from '../src/db/deliveries';
import { client, icon, startOnOwnDatabase } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
beforeAll(async () => {
  server = await startOnOwnDatabase();
});
afterAll(() => server.close());

async function projectWithAnIcon() {
  const api = client(server.url);
  const id = await api.project();
  await api.bringIn(id, { 'a.svg': icon() });
  return { api, id, begin: () => api.post(`/projects/${id}/deliveries`) };
}

test('a number is given once: what was deleted keeps it, and the next has another', async () => {
  const { api, begin } = await projectWithAnIcon();
  const first = (await begin()).body;
  const second = (await begin()).body;
  for (const { id } of [first, second]) await api.settled(id);
  expect((await api.delete(`/deliveries/${second.id}`)).status).toBeLessThan(300);
  expect((await begin()).body.number).toBe(3);
});

test('deliveries that are begun in one moment each have a number of their own', async () => {
  const { begin } = await projectWithAnIcon();
  const answers = await Promise.all(Array.from({ length: 12 }, begin));
  expect(answers.map(({ status }) => status)).toEqual(answers.map(() => 201));
  expect(answers.map(({ body }) => body.number).sort((a, b) => a - b)).toEqual(answers.map((_, i) => i + 1));
});

test('a project tells every delivery it keeps, and refuses one more than that in a sentence', async () => {
  const { api, id, begin } = await projectWithAnIcon();
  const first = (await begin()).body;
  await api.settled(first.id);
  const db = connect(server.databaseUrl, () => {});
  await db.query(
    `INSERT INTO deliveries (id, project_id, number, state, version, snapshot, total)
     SELECT 'd' || n, project_id, n, 'stopped', version, snapshot, 0 FROM deliveries, generate_series(2, $2::int) n WHERE id = $1`,
    [first.id, MOST_DELIVERIES],
  );
  await db.query('UPDATE projects SET last_delivery_number = $2 WHERE id = $1', [id, MOST_DELIVERIES]);
  await db.end();
  const { deliveries } = (await api.get(`/projects/${id}/deliveries`)).body;
  expect(deliveries).toHaveLength(MOST_DELIVERIES);
  expect(deliveries.at(-1).id).toBe(first.id);
  expect(await begin()).toMatchObject({
    status: 422,
    body: { code: 'deliveries.full', detail: 'the project keeps 5,000 deliveries' },
  });
  // One that an edit makes takes the place of the one before.
  const byEdit = await api.post(`/projects/${id}/deliveries`, { byEdit: true });
  expect(byEdit).toMatchObject({ status: 201, body: { number: MOST_DELIVERIES + 1 } });
  for (const each of ['d7', 'd8']) await api.delete(`/deliveries/${each}`);
  expect((await begin()).body.number).toBe(MOST_DELIVERIES + 2);
});
