import type { Artboard, DeliveryDetail } from '@tolvik/core';
import { client, icon, startOnOwnDatabase } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
});
afterAll(() => server.close());

const boards = async (id: string) =>
  new Map(
    (await api.records(id)).flatMap((record): [string, Artboard][] =>
      record.kind === 'artboard' ? [[record.name, record]] : [],
    ),
  );
/** An export, until it is done. */
async function deliver(id: string, chosen: { pieceIds?: string[] } = {}): Promise<DeliveryDetail> {
  let { body } = await api.post(`/projects/${id}/deliveries`, chosen);
  while (body.state === 'running') body = (await api.get(`/deliveries/${body.id}`)).body;
  return (await api.get(`/deliveries/${body.id}`)).body;
}
const counted = ({ counts, whole }: DeliveryDetail) => ({
  ...Object.fromEntries(Object.entries(counts).filter(([, n]) => n > 0)),
  whole,
});

test('each file is compared with the last of its path, whichever delivery held it', async () => {
  const id = await api.project('Compared');
  await api.bringIn(id, { 'anchor.svg': icon(), 'boat.svg': icon('<circle cx="12" cy="12" r="8"/>') });
  const { anchor, boat } = Object.fromEntries(await boards(id));
  expect(counted(await deliver(id))).toEqual({ new: 6, whole: true });

  // A delivery of some says nothing of the others.
  expect(counted(await deliver(id, { pieceIds: [anchor.id] }))).toEqual({ same: 3, whole: false });
  await api.edit(id, { puts: [{ ...boat, background: '#d2452f' }] });
  const some = await deliver(id, { pieceIds: [boat.id] });
  expect(counted(some)).toEqual({ changed: 3, whole: false });
  expect(some.files[0].before?.delivery.number).toBe(1);

  // All again: what the last delivery of some held is what counts.
  const all = await deliver(id);
  expect(counted(all)).toEqual({ same: 6, whole: true });
  expect(Object.fromEntries(all.files.map(({ path, before }) => [path, before?.delivery.number]))).toMatchObject({
    'anchor.svg': 2,
    'boat.svg': 3,
  });
});

test('a piece that was renamed is the same piece under another path; what nobody makes any more is left over', async () => {
  const id = await api.project('Renamed');
  await api.bringIn(id, { 'anchor.svg': icon(), 'boat.svg': icon('<circle cx="12" cy="12" r="8"/>') });
  await deliver(id);
  const { anchor, boat } = Object.fromEntries(await boards(id));
  await api.edit(id, { puts: [{ ...anchor, name: 'kedge' }], removes: [boat.id] });
  const { files, ...detail } = await deliver(id);
  expect(counted({ files, ...detail })).toEqual({ renamed: 3, gone: 3, whole: true });
  expect(files.find(({ path }) => path === 'kedge.png')).toMatchObject({
    change: 'renamed',
    before: { path: 'anchor.png' },
  });
  expect(
    files
      .filter(({ change }) => change === 'gone')
      .map(({ path }) => path)
      .sort(),
  ).toEqual(['boat.png', 'boat.svg', 'boat@2x.png']);
  // What is gone is told once.
  expect(counted(await deliver(id))).toEqual({ same: 3, whole: true });
});

test('whether anything would no longer be made is asked of all that was delivered, not of the last delivery alone', async () => {
  const id = await api.project('Left over');
  await api.bringIn(id, { 'anchor.svg': icon(), 'boat.svg': icon() });
  const { anchor, boat } = Object.fromEntries(await boards(id));
  await deliver(id);
  const some = await deliver(id, { pieceIds: [anchor.id] });
  const found = async () =>
    (await api.get(`/projects/${id}/findings`)).body.findings.filter(
      ({ check }: { check: string }) => check === 'no-longer-made',
    );
  expect(await found()).toEqual([]);
  expect((await api.get(`/deliveries/${some.id}/paths`)).body.paths).toHaveLength(6);
  await api.edit(id, { removes: [boat.id] });
  expect(await found()).toHaveLength(1);
});
