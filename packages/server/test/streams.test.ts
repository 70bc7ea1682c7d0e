import { client, icon, startOnOwnDatabase, until } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
});
afterAll(() => server.close());

/** A stream whose events are kept as they come. */
async function listening(path: string) {
  const control = new AbortController();
  const response = await fetch(`${server.url}/api${path}`, { signal: control.signal });
  const events: { projectId?: string; event?: { type: string; version?: number }; type?: string }[] = [];
  const read = async () => {
    let text = '';
    const decoder = new TextDecoder();
    for await (const chunk of response.body ?? []) {
      text += decoder.decode(chunk);
      const parts = text.split('\n\n');
      text = parts.pop() ?? '';
      for (const part of parts) if (part.startsWith('data: ')) events.push(JSON.parse(part.slice(6)));
    }
  };
  if (response.ok) void read().catch(() => {});
  return { status: response.status, events, close: () => control.abort() };
}

test('one stream tells of several projects, each event with its project', async () => {
  const [one, other] = [await api.project('One'), await api.project('Other')];
  const stream = await listening(`/events?of=${one},${other}`);
  await until('how each stands', () => stream.events.length === 2);
  expect(stream.events.map(({ projectId }) => projectId).sort()).toEqual([one, other].sort());
  await api.bringIn(other, { 'a.svg': icon() });
  await until('what changed', () =>
    stream.events.some(({ projectId, event }) => projectId === other && event?.version === 1),
  );
  expect(stream.events.filter(({ projectId }) => projectId === one)).toHaveLength(1);
  stream.close();
  for (const ids of ['', 'a b', Array.from({ length: 51 }, (_, i) => `p${i}`).join()])
    expect([ids, (await listening(`/events?of=${encodeURIComponent(ids)}`)).status]).toEqual([ids, 422]);
});

test('streams of one address are limited, and who asks for something else is answered', async () => {
  const id = await api.project('Crowded');
  const streams = await Promise.all(Array.from({ length: 230 }, () => listening(`/projects/${id}/events`)));
  expect(streams.filter(({ status }) => status === 200)).toHaveLength(200);
  expect((await api.get('/projects')).status).toBe(200);
  for (const { close } of streams) close();
  await until('room again', async () => {
    const stream = await listening(`/projects/${id}/events`);
    stream.close();
    return stream.status === 200;
  });
});
