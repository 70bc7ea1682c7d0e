import { join } from 'node:path';
import {
  layerRecord,
  newId,
  outputRecord,
  ProjectDocument,
  placeFiles,
  Refusal,
  readSvg,
  specRecord,
} from '@tolvik/core';
import type { KeyedFile } from '../src/projects/keyed-plan';
import { ProjectHandle } from '../src/projects/open-projects';
import { ProjectThread, ThreadGone } from '../src/projects/project-thread';
import { client, icon, startOnOwnDatabase } from './running';

const limits = {
  workerPath: join(__dirname, '../../../dist/project-worker.mjs'),
  modulePath: __filename,
  seconds: 20,
  memoryMb: 256,
};

/** The whole plan. */
const ALL = { from: 0, most: Number.MAX_SAFE_INTEGER };

/** So many icons, each with a PNG and an SVG. */
function icons(count: number): string {
  const doc = new ProjectDocument();
  const spec = specRecord.parse({ id: newId(), kind: 'spec', order: 'a0', name: 'Both' });
  const outputs = (['png', 'svg'] as const).map((format, i) =>
    outputRecord.parse({
      id: newId(),
      kind: 'output',
      specId: spec.id,
      order: `a${i}`,
      size: { kind: 'factor', factor: 1 },
      settings: { format },
    }),
  );
  const files = Array.from({ length: count }, (_, i) => ({
    name: `icon-${i}`,
    artwork: readSvg(icon(`<path fill="#00${(4096 + i).toString(16)}" d="M4 4h16v16H4z"/>`), 'icon'),
  }));
  return JSON.stringify([spec, ...outputs, ...placeFiles(doc, files, [spec.id])]);
}

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
  const before = thread.ask('plan', ALL);
  await loaded(thread, '[]');
  expect(await before).toMatchObject({ version: 0, files: [] });
  expect(await thread.ask('plan', ALL)).toMatchObject({ version: 1, files: [] });
  expect(thread.heapBytes).toBeGreaterThan(0);
  await thread.close();
});

test('a plan comes in parts, the same as at once, and who asks for one file is answered between them', async () => {
  const [records, thread, whole] = [icons(150), new ProjectThread(limits), new ProjectThread(limits)];
  await Promise.all([loaded(thread, records), loaded(whole, records)]);
  const handle = new ProjectHandle('p', thread);
  handle.version = 1;
  const heard: (readonly KeyedFile[])[] = [];
  let answeredAfter: number | null = null;
  const planned = handle.plan((files) => {
    heard.push(files);
    if (heard.length > 1) return;
    const { pieceId, outputId } = files[0];
    void thread.ask('file', { cell: { pieceId, outputId }, whole: true }).then(() => (answeredAfter = heard.length));
  });
  // Who asks for the same plan meanwhile gets it, too.
  const [{ files }, again, once] = await Promise.all([planned, handle.plan(), whole.ask('plan', ALL)]);
  expect(files).toEqual(once.files);
  expect(files.every(({ key }) => /^[0-9a-f]{64}$/.test(key))).toBe(true);
  expect(heard.flat()).toEqual(files);
  expect(heard.length).toBeGreaterThan(2);
  expect(answeredAfter).toBeLessThan(heard.length);
  expect(again.files).toBe(files);
  await Promise.all([thread.close(), whole.close()]);
});

test('a project that moves on while it is planned is planned as it is then', async () => {
  const thread = new ProjectThread(limits);
  await loaded(thread, icons(150));
  const handle = new ProjectHandle('p', thread);
  handle.version = 1;
  const records = JSON.parse(icons(1)) as { kind: string }[];
  let moved: Promise<unknown> | null = null;
  const { version, files } = await handle.plan(() => {
    moved ??= thread
      .ask('stage', { name: 'x', version: 2, records: JSON.stringify(records), removed: [] })
      .then(() => thread.ask('apply', { pictures: [], fonts: [] }));
  });
  await moved;
  expect(version).toBe(2);
  expect(files).toEqual((await thread.ask('plan', ALL)).files);
  expect(files).toHaveLength(302);
  await thread.close();
});

test('a refusal is told as one and leaves the thread as it was', async () => {
  const thread = new ProjectThread(limits);
  await loaded(thread, '[]');
  await expect(thread.ask('file', { cell: { pieceId: 'a', outputId: 'b' }, whole: false })).rejects.toBeInstanceOf(
    Refusal,
  );
  await expect(thread.ask('stage', { name: 'x', version: 2, records: '[{', removed: [] })).rejects.toThrow('JSON');
  expect(await thread.ask('plan', ALL)).toMatchObject({ version: 1 });
  await thread.close();
});

test('what takes too long ends the thread, and all who wait are told why', async () => {
  const thread = new ProjectThread({ ...limits, seconds: 0.05 });
  const asked = [
    thread.ask('stage', { name: 'x', version: 1, records: heavy(200, 3000), removed: [] }),
    thread.ask('apply', { pictures: [], fonts: [] }),
    thread.ask('plan', ALL),
  ];
  const outcomes = await Promise.allSettled(asked);
  const last = outcomes.at(-1);
  expect(last).toMatchObject({
    status: 'rejected',
    reason: { problem: { code: 'project.heavy', message: expect.stringContaining('longer than 0.05 s') } },
  });
  expect(thread.ended?.problem?.code).toBe('project.heavy');
  await expect(thread.ask('plan', ALL)).rejects.toBeInstanceOf(Refusal);
});

test('records that would not fit are refused before they are read, and the server goes on', async () => {
  // Below the least a server may be told: reading is one step for the engine, and out of memory in it would end this process.
  const held = new ProjectThread({ ...limits, memoryMb: 32 });
  await loaded(held, heavy(10, 600));
  expect(await held.ask('plan', ALL)).toMatchObject({ version: 1 });
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
  await expect(refusing.ask('plan', ALL)).rejects.toMatchObject({ problem: { code: 'project.heavy' } });
});

test('a thread that was let go says so, for who may ask again', async () => {
  const thread = new ProjectThread(limits);
  const waiting = thread.ask('plan', ALL);
  const closed = thread.close();
  await expect(waiting).rejects.toBeInstanceOf(ThreadGone);
  await closed;
  await expect(thread.ask('plan', ALL)).rejects.toBeInstanceOf(ThreadGone);
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
