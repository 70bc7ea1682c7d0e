import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  chmodSync,
  existsSync,
  linkSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  begunName,
  partName,
  printBegun,
  RECEIPT_NAME,
  type Receipt,
  readReceipt,
  writingOfBegun,
  writingOfPart,
} from '@tolvik/core';
import { client, icon, startOnOwnDatabase } from './running';

let root: string;
let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  root = mkdtempSync(join(tmpdir(), 'tolvik-receivers-'));
  server = await startOnOwnDatabase({ TOLVIK_FOLDERS: root });
  api = client(server.url);
});
afterAll(async () => {
  await server.close();
  rmSync(root, { recursive: true, force: true });
});

let count = 0;

/** A project of two icons, a receiver of it in a folder of its own, nothing exported yet. */
async function withReceiver(fields: object = {}) {
  const id = await api.project('Harbour');
  await api.bringIn(id, { 'anchor.svg': icon(), 'boat.svg': icon('<path d="M2 2h9v9z"/>') });
  const folder = `build-${++count}`;
  const made = await api.post(`/projects/${id}/receivers`, { name: 'Build', root, folder });
  expect(made.status).toBe(201);
  const receiver: string = made.body.id;
  if (Object.keys(fields).length > 0) await api.patch(`/receivers/${receiver}`, fields);
  return { id, receiver, at: join(root, folder) };
}

async function exportAll(id: string, chosen: object = {}): Promise<string> {
  const begun = await api.post(`/projects/${id}/deliveries`, chosen);
  for (let state = begun.body.state; state === 'running'; ) {
    await new Promise((resolve) => setTimeout(resolve, 50));
    state = (await api.get(`/deliveries/${begun.body.id}`)).body.state;
  }
  return begun.body.id;
}

/** Once a receiver that is on has the newest delivery, or says why not. */
async function settled(id: string, delivery: string) {
  for (let i = 0; i < 400; i++) {
    const [receiver] = (await api.get(`/projects/${id}/receivers`)).body.receivers;
    if (receiver.standing?.delivery.id === delivery || receiver.trouble) return receiver;
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
  throw new Error('the receiver was not fed');
}

const receiptIn = (at: string): Receipt => readReceipt(readFileSync(join(at, RECEIPT_NAME), 'utf8')) as Receipt;
const filesIn = (at: string): string[] =>
  readdirSync(at, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name).slice(at.length + 1))
    .sort();
async function moveSomething(id: string): Promise<void> {
  const layer = (await api.records(id)).find((record) => record.kind === 'layer' && record.tag === 'path');
  await api.edit(id, { puts: [{ ...(layer as object), attrs: { d: `M3 3h${8 + ++count}v9z` } } as never] });
}

test('an export writes what differs, the receipt last; after an edit exactly what differs is new', async () => {
  const { id, at } = await withReceiver();
  const first = await settled(id, await exportAll(id));
  expect(first).toMatchObject({ trouble: null, standing: { written: 6, removed: 0, leftovers: 0, foreign: 0 } });
  expect(filesIn(at)).toEqual(
    ['anchor.png', 'anchor.svg', 'anchor@2x.png', 'boat.png', 'boat.svg', 'boat@2x.png', RECEIPT_NAME].sort(),
  );
  const { files, project } = receiptIn(at);
  expect(project.name).toBe('Harbour');
  for (const { path, sha256, bytes } of files) {
    const content = readFileSync(join(at, path));
    expect([createHash('sha256').update(content).digest('hex'), content.length]).toEqual([sha256, bytes]);
  }
  await moveSomething(id);
  const second = await settled(id, await exportAll(id));
  expect(second.standing.written).toBe(3);
  expect(second.standing.delivery.number).toBe(2);
});

test('nothing changed: not a byte is written', async () => {
  const { id, receiver, at } = await withReceiver();
  await settled(id, await exportAll(id));
  const before = new Map(filesIn(at).map((path) => [path, statSync(join(at, path)).mtimeMs]));
  const { body } = await api.post(`/receivers/${receiver}/write`);
  expect(body.standing.written).toBe(0);
  for (const [path, time] of before) expect(statSync(join(at, path)).mtimeMs).toEqual(time);
});

test('leftovers and what others put there are told first, and go only with a yes', async () => {
  const { id, receiver, at } = await withReceiver();
  await settled(id, await exportAll(id));
  const boat = (await api.records(id)).find((record) => record.kind === 'artboard' && record.name === 'boat');
  await api.edit(id, { puts: [{ ...(boat as object), name: 'ferry' } as never] });
  writeFileSync(join(at, 'anchor.png'), 'somebody else');
  writeFileSync(join(at, 'notes.txt'), 'mine');
  const delivery = await exportAll(id);
  const fed = await settled(id, delivery);
  expect(fed.standing).toMatchObject({ written: 3, removed: 0, leftovers: 3, foreign: 1 });
  expect(readFileSync(join(at, 'anchor.png'), 'utf8')).toBe('somebody else');
  const steps = (await api.get(`/receivers/${receiver}/steps`)).body;
  expect(steps).toMatchObject({
    fresh: { count: 0 },
    same: 5,
    leftovers: { count: 3, first: ['boat.png', 'boat.svg', 'boat@2x.png'] },
    foreign: { count: 1, first: ['anchor.png'] },
    leftAlone: { count: 0 },
  });
  const { body } = await api.post(`/receivers/${receiver}/write`, { removeLeftovers: true, replaceForeign: true });
  expect(body.standing).toMatchObject({ written: 1, removed: 3, leftovers: 0, foreign: 0 });
  expect(filesIn(at)).toEqual(
    [
      'anchor.png',
      'anchor.svg',
      'anchor@2x.png',
      RECEIPT_NAME,
      'ferry.png',
      'ferry.svg',
      'ferry@2x.png',
      'notes.txt',
    ].sort(),
  );
});

test('as a setting it is done with every export', async () => {
  const { id, at } = await withReceiver({ removeLeftovers: true, replaceForeign: true });
  await settled(id, await exportAll(id));
  const boat = (await api.records(id)).find((record) => record.kind === 'artboard' && record.name === 'boat');
  await api.edit(id, { removes: [boat?.id as string] });
  writeFileSync(join(at, 'anchor.svg'), 'somebody else');
  expect((await settled(id, await exportAll(id))).standing).toMatchObject({ written: 1, removed: 3, foreign: 0 });
});

test('on a disk that ignores case a name in other letters is the same file: not left over, not of somebody else', async () => {
  const { id, at } = await withReceiver({ removeLeftovers: true });
  await settled(id, await exportAll(id));
  const boat = (await api.records(id)).find((record) => record.kind === 'artboard' && record.name === 'boat');
  await api.edit(id, { puts: [{ ...(boat as object), name: 'Boat' } as never] });
  // Two names of one file, as such a disk has them.
  const names = ['boat.png', 'boat.svg', 'boat@2x.png'];
  for (const name of names) linkSync(join(at, name), join(at, name.replace('boat', 'Boat')));
  const { standing } = await settled(id, await exportAll(id));
  expect(standing).toMatchObject({ written: 0, removed: 0, leftovers: 0, foreign: 0 });
  for (const name of names) expect(existsSync(join(at, name.replace('boat', 'Boat')))).toBe(true);
  expect(receiptIn(at).files.map(({ path }) => path)).toContain('Boat.png');
  expect(receiptIn(at).leftovers).toEqual([]);
});

test('off, or an export of some files: it is not written to, or only those are', async () => {
  const { id, receiver, at } = await withReceiver({ on: false });
  await exportAll(id);
  expect(existsSync(at)).toBe(false);
  await api.patch(`/receivers/${receiver}`, { on: true });
  await settled(id, await exportAll(id));
  const anchor = (await api.records(id)).find((record) => record.kind === 'artboard' && record.name === 'anchor');
  await moveSomething(id);
  const some = await settled(id, await exportAll(id, { pieceIds: [anchor?.id] }));
  expect(some.standing).toMatchObject({ leftovers: 0, foreign: 0 });
  expect(receiptIn(at).files).toHaveLength(6);
});

describe('ended half way', () => {
  test.each(['before its receipt', 'in the middle of a file'])('%s: the next run ends right', async (when) => {
    const { id, receiver, at } = await withReceiver();
    await settled(id, await exportAll(id));
    const before = readFileSync(join(at, RECEIPT_NAME));
    await moveSomething(id);
    await settled(id, await exportAll(id));
    // As a server leaves it that is killed: files written, the receipt of before, what was begun.
    const now = receiptIn(at);
    writeFileSync(join(at, RECEIPT_NAME), before);
    const writing = 'ab'.repeat(16);
    writeFileSync(join(at, begunName(writing)), printBegun(now.files));
    writeFileSync(join(at, partName(writing, 7)), 'half');
    if (when === 'in the middle of a file') rmSync(join(at, 'anchor.png'));
    await moveSomething(id);
    await settled(id, await exportAll(id));
    const { body } = await api.post(`/receivers/${receiver}/write`);
    expect(body).toMatchObject({ trouble: null, standing: { foreign: 0, leftovers: 0 } });
    expect(readdirSync(at).filter((name) => writingOfPart(name) || writingOfBegun(name))).toEqual([]);
    for (const { path, sha256 } of receiptIn(at).files)
      expect(
        createHash('sha256')
          .update(readFileSync(join(at, path)))
          .digest('hex'),
      ).toBe(sha256);
  });
});

describe('folders that are none', () => {
  test.each([
    ['another root', () => ({ root: tmpdir(), folder: 'x' }), 'receiver.root'],
    ['a path that climbs', () => ({ root, folder: '../up' }), 'input'],
    ['an absolute path', () => ({ root, folder: '/etc' }), 'input'],
    [
      'a link out of the root',
      () => (symlinkSync(tmpdir(), join(root, 'out')), { root, folder: 'out' }),
      'receiver.link',
    ],
    ['a file', () => (writeFileSync(join(root, 'a-file'), ''), { root, folder: 'a-file' }), 'receiver.path'],
  ])('%s is refused', async (_, make, code) => {
    const id = await api.project('Refused');
    const { status, body } = await api.post(`/projects/${id}/receivers`, { name: 'X', ...make() });
    expect([status, body.code]).toEqual([422, code]);
  });

  test('a folder that became a link is not followed, and it is said', async () => {
    const { id, receiver, at } = await withReceiver({ on: false });
    await exportAll(id);
    const elsewhere = mkdtempSync(join(tmpdir(), 'tolvik-elsewhere-'));
    symlinkSync(elsewhere, at);
    const { status, body } = await api.post(`/receivers/${receiver}/write`);
    expect([status, body.code]).toEqual([422, 'receiver.link']);
    expect(readdirSync(elsewhere)).toEqual([]);
    rmSync(elsewhere, { recursive: true });
    const [{ trouble }] = (await api.get(`/projects/${id}/receivers`)).body.receivers;
    expect(trouble).toContain('is a link');
  });

  test('a folder below it that became a link is not followed either', async () => {
    const { id, receiver, at } = await withReceiver({ on: false });
    const output = (await api.records(id)).find((record) => record.kind === 'output');
    await api.edit(id, { puts: [{ ...(output as object), folder: 'vector' } as never] });
    await exportAll(id);
    const elsewhere = mkdtempSync(join(tmpdir(), 'tolvik-elsewhere-'));
    mkdirSync(at);
    symlinkSync(elsewhere, join(at, 'vector'));
    expect((await api.post(`/receivers/${receiver}/write`)).body.standing).toMatchObject({ written: 4, foreign: 2 });
    expect((await api.post(`/receivers/${receiver}/write`, { replaceForeign: true })).body.code).toBe('receiver.link');
    expect(readdirSync(elsewhere)).toEqual([]);
    rmSync(elsewhere, { recursive: true });
  });
});

test('a folder that cannot be written to is said in words, and nothing is half written', async () => {
  const { id, receiver, at } = await withReceiver({ on: false });
  await exportAll(id);
  mkdirSync(at);
  // Who runs the tests as root may write anywhere; a place in the way of a file is in everybody's way.
  mkdirSync(join(at, 'anchor.png'));
  const asked = (await api.get(`/receivers/${receiver}/steps`)).body;
  expect(asked.foreign.first).toEqual(['anchor.png']);
  const { status, body } = await api.post(`/receivers/${receiver}/write`, { replaceForeign: true });
  expect([status, body.code]).toEqual([422, 'receiver.disk']);
  expect(body.message ?? body.detail ?? body.title).toMatch(/a folder has the name of a file/);
  expect(existsSync(join(at, RECEIPT_NAME))).toBe(false);
  expect(readdirSync(at).filter((name) => writingOfPart(name))).toEqual([]);
  rmSync(join(at, 'anchor.png'), { recursive: true });
  expect((await api.post(`/receivers/${receiver}/write`)).body.trouble).toBeNull();
  if (process.getuid?.() === 0) return;
  chmodSync(at, 0o500);
  await moveSomething(id);
  await exportAll(id);
  expect((await api.post(`/receivers/${receiver}/write`)).body.code).toBe('receiver.disk');
  chmodSync(at, 0o755);
});

test('a receipt that was edited by hand is none: what is there is somebody else’s until it is said', async () => {
  const { id, receiver, at } = await withReceiver();
  await settled(id, await exportAll(id));
  writeFileSync(join(at, RECEIPT_NAME), '{"version":1,"files":"all of them"}');
  await moveSomething(id);
  const fed = await settled(id, await exportAll(id));
  expect(fed.trouble).toMatch(/delivery\.json is there and is no receipt/);
  expect((await api.get(`/receivers/${receiver}/steps`)).body.foreign).toMatchObject({ count: 4 });
  const { body } = await api.post(`/receivers/${receiver}/write`, { replaceForeign: true });
  expect(body.standing).toMatchObject({ written: 3, foreign: 0 });
});

test('a folder that another project writes is left to it: it is told, and nothing there is taken for left over', async () => {
  const first = await withReceiver();
  await settled(first.id, await exportAll(first.id));
  const before = new Map(filesIn(first.at).map((path) => [path, readFileSync(join(first.at, path))]));
  const second = await withReceiver({ removeLeftovers: true, replaceForeign: true });
  const folder = first.at.slice(root.length + 1);
  const taken = await api.post(`/projects/${second.id}/receivers`, { name: 'Same', root, folder });
  expect([taken.status, taken.body.code]).toEqual([422, 'receiver.taken']);
  expect(taken.body.detail).toBe('“Build” of the project “Harbour” writes to this folder');
  // As of a server of its own, which knows nothing of the other one's receivers.
  await api.delete(`/receivers/${second.receiver}`);
  await api.delete(`/receivers/${first.receiver}`);
  const made = await api.post(`/projects/${second.id}/receivers`, { name: 'Same', root, folder });
  await api.patch(`/receivers/${made.body.id}`, { removeLeftovers: true, replaceForeign: true });
  const fed = await settled(second.id, await exportAll(second.id));
  expect(fed.trouble).toBe('another project, “Harbour”, writes to this folder');
  for (const [path, bytes] of before) expect(readFileSync(join(first.at, path)).equals(bytes)).toBe(true);
  expect(filesIn(first.at)).toHaveLength(before.size);
  // Without the receipt the folder is free; what lies there is somebody's, and replaced with a yes.
  rmSync(join(first.at, RECEIPT_NAME));
  expect((await api.post(`/receivers/${made.body.id}/write`, { replaceForeign: true })).status).toBe(200);
  expect(receiptIn(first.at).project.id).toBe(second.id);
});

test('before anything was exported there is nothing to write, and a receiver can be taken away', async () => {
  const { id, receiver } = await withReceiver();
  expect((await api.get(`/receivers/${receiver}/steps`)).body.code).toBe('receiver.nothing');
  expect((await api.delete(`/receivers/${receiver}`)).status).toBe(204);
  expect((await api.get(`/receivers/${receiver}/steps`)).status).toBe(404);
  expect((await api.get(`/projects/${id}/receivers`)).body).toMatchObject({ roots: [root], receivers: [] });
});

test('the data folder has one of its own where no other is said', async () => {
  const data = mkdtempSync(join(tmpdir(), 'tolvik-data-'));
  const other = await startOnOwnDatabase({ TOLVIK_DATA: data });
  try {
    const own = client(other.url);
    const id = await own.project('Own');
    const { roots } = (await own.get(`/projects/${id}/receivers`)).body;
    expect(roots).toEqual([join(data, 'deliveries')]);
    expect((await own.post(`/projects/${id}/receivers`, { name: 'A', root: roots[0] })).status).toBe(201);
    expect(execFileSync('ls', [data], { encoding: 'utf8' })).toContain('deliveries');
  } finally {
    await other.close();
    rmSync(data, { recursive: true, force: true });
  }
});

describe('rules', () => {
  const RULES = { version: 1, name: 'App build', names: { letters: 'small' }, formats: ['png'], largestBytes: 100_000 };

  test('what they do not take is not written there, told with its reason, and a finding before', async () => {
    const { id, receiver, at } = await withReceiver({ rules: RULES });
    const { findings } = (await api.get(`/projects/${id}/findings`)).body;
    const told = findings.filter(({ check }: { check: string }) => check === 'intake-refuses');
    expect(told.map(({ message }: { message: string }) => message)).toEqual([
      'App build takes PNG, no SVG',
      'App build takes PNG, no SVG',
    ]);
    const { standing, trouble } = await settled(id, await exportAll(id));
    expect([standing.written, standing.refused, trouble]).toEqual([4, 2, null]);
    expect(filesIn(at)).toEqual(['anchor.png', 'anchor@2x.png', 'boat.png', 'boat@2x.png', RECEIPT_NAME].sort());
    const { refused } = (await api.get(`/receivers/${receiver}/steps`)).body;
    expect(refused).toEqual({
      count: 2,
      first: [
        { path: 'anchor.svg', why: 'takes PNG, no SVG' },
        { path: 'boat.svg', why: 'takes PNG, no SVG' },
      ],
    });
    // Rules that take more: the rest comes with the next writing, and nothing else is written.
    await api.patch(`/receivers/${receiver}`, { rules: null });
    const { body } = await api.post(`/receivers/${receiver}/write`);
    expect(body.standing).toMatchObject({ written: 2, refused: 0 });
    expect(filesIn(at)).toHaveLength(7);
  });

  test('rules that take less: what they no longer take is left over', async () => {
    const { id, receiver } = await withReceiver();
    await settled(id, await exportAll(id));
    await api.patch(`/receivers/${receiver}`, { rules: RULES });
    const { leftovers, refused } = (await api.get(`/receivers/${receiver}/steps`)).body;
    expect(leftovers.first).toEqual(['anchor.svg', 'boat.svg']);
    expect(refused.count).toBe(2);
  });

  test('what is no rule is refused at its field, and the rules stay', async () => {
    const { id, receiver } = await withReceiver({ rules: RULES });
    for (const rules of [
      { ...RULES, version: 2 },
      { ...RULES, largestBytes: 0 },
      { ...RULES, formats: ['exe'] },
      'all',
    ])
      expect((await api.patch(`/receivers/${receiver}`, { rules })).status).toBe(422);
    expect((await api.get(`/projects/${id}/receivers`)).body.receivers[0].rules).toMatchObject(RULES);
  });

  test('a receiver that is off says nothing on the Proof', async () => {
    const { id } = await withReceiver({ rules: RULES, on: false });
    const { findings } = (await api.get(`/projects/${id}/findings`)).body;
    expect(findings.filter(({ check }: { check: string }) => check === 'intake-refuses')).toEqual([]);
  });
});
