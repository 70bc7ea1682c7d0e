import { join } from 'node:path';
import { layerRecord, Refusal } from '@tolvik/core';
import { ProjectThread, ThreadGone } from '../src/projects/project-thread';
import { client, icon, startOnOwnDatabase } from './running';

const limits = {
  workerPath: join(__dirname, '../../../dist/project-worker.mjs'),
  modulePath: __filename,
  seconds: 20,
  memoryMb: 256,
};

/** Groups in groups by the thousand: each is looked at from all that are in it. */
const heavy = (deep: number, wide: number) =>
  JSON.stringify([
    ...Array.from({ length: deep }, (_, i) =>
      layerRecord.parse({
        id: `g${i}`,
        kind: 'layer',
        parentId: i ? `g${i - 1}` : 'root',
        order: 'a0',
        tag: 'g',
        attrs: { opacity: '1' },
      }),
    ),
    ...Array.from({ length: wide }, (_, i) => ({
      ...layerRecord.parse({
        id: `p${i}`,
        kind: 'layer',
        parentId: `g${deep - 1}`,
        order: 'a0',
        tag: 'path',
        attrs: { d: `M0 0${'c1 2 3 4 5 6'.repeat(400)}` },
      }),
      order: `a${i}1`,
    })),
    {
      id: 'slice',
      kind: 'slice',
      order: 'a0',
      name: 'all',
      source: { kind: 'everything' },
      margin: 0,
      shape: { kind: 'rectangle' },
      on: true,
      specIds: [],
      offOutputIds: [],
    },
  ]);

async function loaded(thread: ProjectThread, records: string): Promise<void> {
  await thread.ask('stage', { name: 'x', version: 1, records, removed: [] });
  await thread.ask('apply', { pictures: [], fonts: [] });
}

test('work is answered in turn, of the version that was loaded', async () => {
  const thread = new ProjectThread(limits);
  const before = thread.ask('plan', null);
  await loaded(thread, '[]');
  expect(await before).toMatchObject({ version: 0, files: [] });
  expect(await thread.ask('plan', null)).toMatchObject({ version: 1, files: [] });
  expect(thread.heapBytes).toBeGreaterThan(0);
  await thread.close();
});

test('a refusal is told as one and leaves the thread as it was', async () => {
  const thread = new ProjectThread(limits);
  await loaded(thread, '[]');
  await expect(thread.ask('file', { cell: { pieceId: 'a', outputId: 'b' }, whole: false })).rejects.toBeInstanceOf(
    Refusal,
  );
  await expect(thread.ask('stage', { name: 'x', version: 2, records: '[{', removed: [] })).rejects.toThrow('JSON');
  expect(await thread.ask('plan', null)).toMatchObject({ version: 1 });
  await thread.close();
});

test('what takes too long ends the thread, and all who wait are told why', async () => {
  const thread = new ProjectThread({ ...limits, seconds: 0.05 });
  const asked = [
    thread.ask('stage', { name: 'x', version: 1, records: heavy(200, 3000), removed: [] }),
    thread.ask('apply', { pictures: [], fonts: [] }),
    thread.ask('plan', null),
  ];
  const outcomes = await Promise.allSettled(asked);
  const last = outcomes.at(-1);
  expect(last).toMatchObject({
    status: 'rejected',
    reason: { problem: { code: 'project.heavy', message: expect.stringContaining('longer than 0.05 s') } },
  });
  expect(thread.ended?.problem?.code).toBe('project.heavy');
  await expect(thread.ask('plan', null)).rejects.toBeInstanceOf(Refusal);
});

test('records that would not fit are refused before they are read, and the server goes on', async () => {
  // Below the least a server may be told: reading is one step for the engine, and out of memory in it would end this process.
  const held = new ProjectThread({ ...limits, memoryMb: 32 });
  await loaded(held, heavy(10, 600));
  expect(await held.ask('plan', null)).toMatchObject({ version: 1 });
  // What is there counts, too: edits come one by one.
  const more = heavy(10, 1000);
  let refused: unknown;
  for (let i = 0; i < 10 && !refused; i++)
    await loaded(held, more.replaceAll('"id":"p', `"id":"p${i}-`)).catch((error: unknown) => (refused = error));
  expect(refused).toMatchObject({ problem: { code: 'project.heavy' } });
  const records = heavy(10, 2500);
  expect(records.length * 4).toBeGreaterThan((32 - 20) * 1_048_576);
  const refusing = new ProjectThread({ ...limits, memoryMb: 32 });
  await expect(refusing.ask('stage', { name: 'x', version: 1, records, removed: [] })).rejects.toMatchObject({
    problem: { code: 'project.heavy', message: expect.stringContaining('memory') },
  });
  await expect(refusing.ask('plan', null)).rejects.toMatchObject({ problem: { code: 'project.heavy' } });
});

test('a thread that was let go says so, for who may ask again', async () => {
  const thread = new ProjectThread(limits);
  const waiting = thread.ask('plan', null);
  const closed = thread.close();
  await expect(waiting).rejects.toBeInstanceOf(ThreadGone);
  await closed;
  await expect(thread.ask('plan', null)).rejects.toBeInstanceOf(ThreadGone);
});

test('more projects than are kept at hand are all answered, again and again', async () => {
  const server = await startOnOwnDatabase();
  const api = client(server.url);
  const ids: string[] = [];
  for (let i = 0; i < 11; i++) {
    const id = await api.project(`p${i}`);
    await api.bringIn(id, { [`file-${i}.svg`]: icon() });
    ids.push(id);
  }
  for (let round = 0; round < 2; round++) {
    const plans = await Promise.all(ids.map((id) => api.get(`/projects/${id}/plan`)));
    expect(plans.map(({ body }) => body.files?.[0]?.path)).toEqual(ids.map((_, i) => `file-${i}.svg`));
  }
  await server.close();
});

test('a project that is too heavy can still be read and mended, and others do not notice', async () => {
  const server = await startOnOwnDatabase({ TOLVIK_PROJECT_MB: '64' });
  const api = client(server.url);
  const [id, other] = [await api.project('heavy'), await api.project('other')];
  await api.bringIn(other, { 'a.svg': icon() });
  const puts = JSON.parse(heavy(100, 9000));
  expect((await api.edit(id, { puts })).status).toBe(200);
  const refused = await api.get(`/projects/${id}/plan`);
  expect(refused).toMatchObject({ status: 422, body: { code: 'project.heavy' } });
  // It is not tried again and again, but its records are there, and without what is heavy it is as any other.
  expect((await api.get(`/projects/${id}/findings`)).body.code).toBe('project.heavy');
  expect((await api.get(`/projects/${other}/plan`)).status).toBe(200);
  expect((await api.records(id)).length).toBe(puts.length);
  expect((await api.edit(id, { removes: puts.map((record: { id: string }) => record.id) })).status).toBe(200);
  expect((await api.get(`/projects/${id}/plan`)).body).toMatchObject({ files: [] });
  await server.close();
});
