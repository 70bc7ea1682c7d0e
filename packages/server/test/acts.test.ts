import { type Artboard, asEdit } from '@tolvik/core';
import { client, icon, startOnOwnDatabase } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
});
afterAll(() => server.close());

const artboardNamed = async (id: string, name: string): Promise<Artboard> => {
  const found = (await api.records(id)).find((record) => record.kind === 'artboard' && record.name === name);
  return found as Artboard;
};
const harbour = async () => {
  const id = await api.project('Harbour');
  await api.bringIn(id, {
    'anchor.svg': icon(),
    'boat.svg': icon('<rect id="hull" x="6" y="8" width="4" height="4"/>'),
  });
  return id;
};

test('everything that can be done is listed, with its settings as JSON Schema', async () => {
  const { body } = await api.get('/acts');
  const trim = body.acts.find(({ name }: { name: string }) => name === 'trim-to-artwork');
  expect(trim).toMatchObject({ title: 'Trim to artwork', needs: 'artboards', settings: { type: 'object' } });
  expect(trim.settings.properties.marginPx).toMatchObject({ type: 'number', minimum: 0 });
});

test('an act by address does what a hand does: by number, by layer, with settings', async () => {
  const id = await harbour();
  const answer = await api.post(`/projects/${id}/acts/trim-to-artwork`, { pieces: '2', settings: { marginPx: 1 } });
  expect(answer).toMatchObject({ status: 200, body: { version: 2, change: { label: 'trim boat' } } });
  const boat = await artboardNamed(id, 'boat');
  expect([boat.width, boat.height]).toEqual([6, 6]);
  const made = await api.post(`/projects/${id}/acts/slice-layers`, { layers: ['hull'] });
  expect(made.body.selected).toEqual([made.body.change.puts[0].id]);
  expect(made.body.change.puts[0]).toMatchObject({ kind: 'slice', name: 'hull' });
});

test('what cannot be done is refused with a reason, and the project stays as it was', async () => {
  const id = await harbour();
  const act = (name: string, body: unknown) => api.post(`/projects/${id}/acts/${name}`, body);
  expect(await act('melt', {})).toMatchObject({ status: 422, body: { code: 'act.unknown' } });
  expect(await act('group', { pieces: '1' })).toMatchObject({ status: 422, body: { detail: 'no layer is selected' } });
  expect(await act('align', { pieces: '1', settings: { edge: 'sideways' } })).toMatchObject({
    status: 422,
    body: { where: 'edge' },
  });
  expect(await act('move', { ids: ['nobody'], settings: { dx: 1 } })).toMatchObject({ body: { code: 'act.gone' } });
  expect(await act('move', { ids: 'all' })).toMatchObject({ status: 422, body: { where: 'ids' } });
  expect(await act('whole-pixels', { pieces: '1-2' })).toMatchObject({ status: 422, body: { code: 'act.nothing' } });
  expect((await api.post('/projects/nobody/acts/group', {})).status).toBe(404);
  expect((await api.get(`/projects/${id}`)).body.version).toBe(1);
});

test('an act goes on from what the project has become, edits and acts in turn', async () => {
  const id = await harbour();
  const anchor = await artboardNamed(id, 'anchor');
  await api.post(
    `/projects/${id}/edits`,
    asEdit({ label: 'rename', puts: [{ ...anchor, name: 'kedge' }], removes: [] }, 1),
  );
  await api.post(`/projects/${id}/acts/move`, { pieces: '1', settings: { dx: 5 } });
  expect(await artboardNamed(id, 'kedge')).toMatchObject({ x: anchor.x + 5 });
});
