import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { RECEIPT_NAME } from '@tolvik/core';
import { client, icon, startOnOwnDatabase, until } from './running';

let root: string;
let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  root = mkdtempSync(join(tmpdir(), 'tolvik-following-'));
  server = await startOnOwnDatabase({ TOLVIK_FOLDERS: root });
  api = client(server.url);
});
afterAll(async () => {
  await server.close();
  rmSync(root, { recursive: true, force: true });
});

type Row = { id: string; name: string; kind: string; specId?: string; settings?: { format: string } };
let folders = 0;

/** A project of two icons and a receiver of it with some fields, in a folder of its own. */
async function withReceiver(fields: object) {
  const id = await api.project('Harbour');
  await api.bringIn(id, { 'anchor.svg': icon(), 'boat.svg': icon('<path d="M2 2h9v9z"/>') });
  const { receiver, at } = await another(id, fields);
  return { id, receiver, at };
}

async function another(id: string, fields: object) {
  const folder = `place-${++folders}`;
  const { body } = await api.post(`/projects/${id}/receivers`, { name: folder, root, folder });
  expect((await api.patch(`/receivers/${body.id}`, fields)).status).toBe(200);
  return { receiver: String(body.id), at: join(root, folder) };
}

const receiversOf = async (id: string) => (await api.get(`/projects/${id}/receivers`)).body.receivers;
const deliveriesOf = async (id: string) => (await api.get(`/projects/${id}/deliveries`)).body.deliveries;
const named = async (id: string, name: string) =>
  ((await api.records(id)) as unknown as Row[]).find(
    (record) => record.kind === 'artboard' && record.name === name,
  ) as Row;
const filesIn = (at: string): string[] =>
  existsSync(at)
    ? readdirSync(at, { recursive: true, encoding: 'utf8' })
        .filter((name) => name !== RECEIPT_NAME)
        .sort()
    : [];

async function exported(id: string): Promise<string> {
  const { body } = await api.post(`/projects/${id}/deliveries`);
  await until('the export', async () => (await api.get(`/deliveries/${body.id}`)).body.state === 'done');
  return body.id;
}

async function draw(id: string, d: string): Promise<void> {
  const layer = (await api.records(id)).find((record) => record.kind === 'layer' && record.tag === 'path');
  await api.edit(id, { puts: [{ ...(layer as object), attrs: { d } } as never] });
}

test('what an edit changes is written with nobody asking; of the deliveries that edits make the newest stays', async () => {
  const { id, at } = await withReceiver({ follows: true });
  await until('the first files', () => filesIn(at).length === 6 && existsSync(join(at, RECEIPT_NAME)));
  const boatBefore = statSync(join(at, 'boat.png')).mtimeMs;
  const anchorBefore = readFileSync(join(at, 'anchor.svg'), 'utf8');
  const boat = readFileSync(join(at, 'boat.svg'), 'utf8');
  await draw(id, 'M3 3h9v9z');
  await until('the edited icon', () => readFileSync(join(at, 'anchor.svg'), 'utf8') !== anchorBefore);
  await until('its standing', async () => (await receiversOf(id))[0].standing?.written === 3);
  expect(readFileSync(join(at, 'boat.svg'), 'utf8')).toBe(boat);
  expect(statSync(join(at, 'boat.png')).mtimeMs).toBe(boatBefore);
  const made = await deliveriesOf(id);
  expect(made.map(({ byEdit, whole }: { byEdit: boolean; whole: boolean }) => [byEdit, whole])).toEqual([[true, true]]);
  expect((await receiversOf(id))[0].standing.delivery).toEqual({ id: made[0].id, number: made[0].number });
});

test('one that somebody named stays, and so does what was exported', async () => {
  const { id, at } = await withReceiver({ follows: true });
  await until('the first files', async () => (await receiversOf(id))[0].standing !== null);
  const [first] = await deliveriesOf(id);
  await api.patch(`/deliveries/${first.id}`, { title: 'As shown on Monday' });
  const asked = await exported(id);
  await draw(id, 'M5 5h9v9z');
  await until(
    'the edit',
    () => filesIn(at).length === 6 && readFileSync(join(at, 'anchor.svg'), 'utf8').includes('M5 5'),
  );
  await until('its delivery', async () => (await deliveriesOf(id)).length === 3);
  expect((await deliveriesOf(id)).slice(1).map((each: { id: string }) => each.id)).toEqual([asked, first.id]);
});

test('who does not follow gets what is exported and nothing else', async () => {
  const { id } = await withReceiver({ follows: true });
  const still = await another(id, {});
  await until('what follows', async () => (await receiversOf(id))[0].standing !== null);
  expect(filesIn(still.at)).toEqual([]);
  await exported(id);
  await until('the export', () => filesIn(still.at).length === 6);
});

test('what keeps files from being made holds it and is told; the edit that mends it brings it in step', async () => {
  const { id, receiver, at } = await withReceiver({});
  const boat = await named(id, 'boat');
  await api.edit(id, { puts: [{ ...boat, name: 'anchor' } as never] });
  await api.patch(`/receivers/${receiver}`, { follows: true });
  await until('its trouble', async () => (await receiversOf(id))[0].trouble !== null);
  expect(filesIn(at)).toEqual([]);
  await api.edit(id, { puts: [{ ...boat, name: 'ferry' } as never] });
  await until('the files', () => filesIn(at).includes('ferry.svg'));
  await until('that trouble is over', async () => (await receiversOf(id))[0].trouble === null);
});

test('edits made while no server ran are delivered when one runs', async () => {
  const { id, receiver, at } = await withReceiver({});
  // Followed from now on, as a server that was ended at that moment leaves it.
  await server.running.context.db.query('UPDATE receivers SET follows = true WHERE id = $1', [receiver]);
  expect(filesIn(at)).toEqual([]);
  await server.running.context.following.start();
  await until('the files', () => filesIn(at).length === 6);
  expect((await deliveriesOf(id))[0].byEdit).toBe(true);
});

describe('which files it gets', () => {
  test('those of its specs alone, and what it no longer gets is left over', async () => {
    const { id, receiver, at } = await withReceiver({});
    const output = ((await api.records(id)) as unknown as Row[]).find(
      (record) => record.kind === 'output' && record.settings?.format === 'svg',
    ) as Row;
    const print = { id: 'print-spec', kind: 'spec', order: 'a9', name: 'Print' };
    const edited = await api.edit(id, { puts: [print as never, { ...output, specId: print.id } as never] });
    expect(edited.body).toHaveProperty('version');
    await api.patch(`/receivers/${receiver}`, { takes: { specIds: [output.specId] } });
    for (const name of ['anchor', 'boat']) {
      const piece = await named(id, name);
      await api.edit(id, { puts: [{ ...piece, specIds: [output.specId, print.id] } as never] });
    }
    await exported(id);
    await until('the files', async () => (await receiversOf(id))[0].standing !== null);
    expect(filesIn(at)).toEqual(['anchor.png', 'anchor@2x.png', 'boat.png', 'boat@2x.png']);
    await api.patch(`/receivers/${receiver}`, { takes: { specIds: [print.id] } });
    expect((await api.get(`/receivers/${receiver}/steps`)).body).toMatchObject({
      fresh: { count: 2, first: ['anchor.svg', 'boat.svg'] },
      leftovers: { count: 4 },
    });
  });

  test('those of its pieces alone', async () => {
    const { id, receiver, at } = await withReceiver({});
    await api.patch(`/receivers/${receiver}`, { takes: { pieceIds: [(await named(id, 'boat')).id] } });
    await exported(id);
    await until('the files', async () => (await receiversOf(id))[0].standing !== null);
    expect(filesIn(at)).toEqual(['boat.png', 'boat.svg', 'boat@2x.png']);
    expect((await api.patch(`/receivers/${receiver}`, { takes: { pieceIds: 'boat' } })).status).toBe(422);
  });

  test('the Proof tells what a receiver would refuse of those alone', async () => {
    const { id, receiver } = await withReceiver({});
    const rules = (await import('@tolvik/core')).READY_RULES.find(({ name }) => name === 'Print shop');
    const refused = async () =>
      (await api.get(`/projects/${id}/findings`)).body.findings.filter(
        ({ check }: { check: string }) => check === 'intake-refuses',
      ).length;
    await api.patch(`/receivers/${receiver}`, { rules });
    const all = await refused();
    await api.patch(`/receivers/${receiver}`, { takes: { pieceIds: [(await named(id, 'boat')).id] } });
    expect(all).toBeGreaterThan(0);
    expect(await refused()).toBe(all / 2);
  });
});

test('an earlier delivery is handed over again: its receivers hold what it held', async () => {
  const { id, at } = await withReceiver({ removeLeftovers: true });
  const first = await exported(id);
  await until('the first', async () => (await receiversOf(id))[0].standing?.delivery.id === first);
  const before = readFileSync(join(at, 'anchor.svg'), 'utf8');
  await draw(id, 'M7 7h9v9z');
  const second = await exported(id);
  await until('the second', async () => (await receiversOf(id))[0].standing?.delivery.id === second);
  expect(readFileSync(join(at, 'anchor.svg'), 'utf8')).not.toBe(before);
  expect((await api.post(`/deliveries/${first}/hand-over`)).status).toBe(200);
  await until('the first again', async () => (await receiversOf(id))[0].standing?.delivery.id === first);
  expect(readFileSync(join(at, 'anchor.svg'), 'utf8')).toBe(before);
  expect(filesIn(at)).toHaveLength(6);
});
