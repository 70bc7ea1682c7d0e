import {
  appendFileSync,
  mkdirSync,
  mkdtempSync,
  renameSync,
  rmSync,
  symlinkSync,
  unlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { LinkedSource } from '@tolvik/core';
import { readConfig, startServer } from '../src';
import { client, icon, startOnOwnDatabase, until } from './running';

let root: string;
let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  root = mkdtempSync(join(tmpdir(), 'tolvik-sources-'));
  for (const name of ['in', 'out']) mkdirSync(join(root, name));
  server = await startOnOwnDatabase({ TOLVIK_SOURCES: join(root, 'in'), TOLVIK_FOLDERS: join(root, 'out') });
  api = client(server.url);
});
afterAll(async () => {
  await server.close();
  rmSync(root, { recursive: true, force: true });
});

type Row = { id: string; kind: string; name: string; attrs?: Record<string, string>; specIds?: string[]; x?: number };
let folders = 0;
const square = (side: number) => icon(`<path d="M2 2h${side}v${side}z"/>`);

/** A folder of drawings, by name. */
function folderOf(drawings: Record<string, string>) {
  const folder = `icons-${++folders}`;
  const at = join(root, 'in', folder);
  mkdirSync(at, { recursive: true });
  for (const [name, text] of Object.entries(drawings)) writeFileSync(join(at, name), text);
  return { folder, at };
}

const link = (id: string, folder: string, where = join(root, 'in')) =>
  api.post(`/projects/${id}/sources`, { root: where, folder });

/** A project that is fed by a folder, once that was read. */
async function fed(drawings: Record<string, string>, before: Record<string, string> = {}) {
  const id = await api.project('Fed');
  if (Object.keys(before).length > 0) await api.bringIn(id, before);
  const { folder, at } = folderOf(drawings);
  expect((await link(id, folder)).status).toBe(201);
  await sourceWhen(id, 'the first reading', ({ standing }) => standing !== null);
  return { id, at, folder };
}

const sourcesOf = async (id: string): Promise<LinkedSource[]> =>
  (await api.get(`/projects/${id}/sources`)).body.sources;
const sourceOf = async (id: string): Promise<LinkedSource> => (await sourcesOf(id))[0];
const rowsOf = async (id: string, kind: string) =>
  ((await api.records(id)) as unknown as Row[]).filter((record) => record.kind === kind);
const drawn = async (id: string) => (await rowsOf(id, 'layer')).flatMap(({ attrs }) => attrs?.d ?? []).sort();
const boards = async (id: string) => (await rowsOf(id, 'artboard')).map(({ name }) => name).sort();

const sourceWhen = async (id: string, what: string, isSo: (source: LinkedSource) => boolean) => {
  await until(what, async () => isSo(await sourceOf(id)));
  return sourceOf(id);
};

test('drawings become artboards; one that is saved again replaces its artwork, and all that hangs on the artboard stays', async () => {
  const { id, at } = await fed({ 'anchor.svg': square(9), 'boat.svg': square(8), 'notes.txt': 'no drawing' });
  expect(await boards(id)).toEqual(['anchor', 'boat']);
  expect((await sourceOf(id)).standing).toMatchObject({ files: 2, brought: 2, gone: [], refused: [] });
  const [anchor] = (await rowsOf(id, 'artboard')).filter(({ name }) => name === 'anchor');
  await api.edit(id, { puts: [{ ...anchor, on: false } as never] });
  writeFileSync(join(at, 'anchor.svg'), square(11));
  await until('the new drawing', async () => (await drawn(id)).includes('M2 2h11v11z'));
  expect(await drawn(id)).toEqual(['M2 2h11v11z', 'M2 2h8v8z']);
  const [now] = (await rowsOf(id, 'artboard')).filter(({ name }) => name === 'anchor');
  expect(now).toMatchObject({ id: anchor.id, x: anchor.x, on: false, specIds: anchor.specIds });
  expect((await sourceWhen(id, 'its standing', ({ standing }) => standing?.brought === 1)).standing?.files).toBe(2);
});

test('artboards that are there already are fed by the drawings of their names', async () => {
  const { id } = await fed({ 'anchor.svg': square(7) }, { 'anchor.svg': square(9), 'crane.svg': square(3) });
  expect(await boards(id)).toEqual(['anchor', 'crane']);
  expect(await drawn(id)).toEqual(['M2 2h3v3z', 'M2 2h7v7z']);
});

test('a new drawing becomes an artboard, one that goes is told and stays, and comes back when it is there again', async () => {
  const { id, at } = await fed({ 'anchor.svg': square(9) });
  writeFileSync(join(at, 'boat.svg'), square(5));
  await until('the new artboard', async () => (await boards(id)).length === 2);
  unlinkSync(join(at, 'anchor.svg'));
  await sourceWhen(id, 'that it is gone', ({ standing }) => standing?.gone.join() === 'anchor.svg');
  expect(await boards(id)).toEqual(['anchor', 'boat']);
  writeFileSync(join(at, 'anchor.svg'), square(4));
  await sourceWhen(id, 'that it is back', ({ standing }) => standing?.gone.length === 0);
  expect(await drawn(id)).toEqual(['M2 2h4v4z', 'M2 2h5v5z']);
});

test('a drawing saved in two halves, or as another file in its place, comes in once and whole', async () => {
  const { id, at } = await fed({ 'anchor.svg': square(9) });
  const versions = async () => (await api.get(`/projects/${id}/records`)).body.version;
  const before = await versions();
  const text = square(12);
  writeFileSync(join(at, 'anchor.svg'), text.slice(0, 60));
  appendFileSync(join(at, 'anchor.svg'), text.slice(60));
  await until('the whole drawing', async () => (await drawn(id)).includes('M2 2h12v12z'));
  expect(await versions()).toBe(before + 1);
  writeFileSync(join(at, '.anchor.tmp'), square(13));
  renameSync(join(at, '.anchor.tmp'), join(at, 'anchor.svg'));
  await until('the other drawing', async () => (await drawn(id)).includes('M2 2h13v13z'));
  expect(await versions()).toBe(before + 2);
});

test('what is no drawing is told with its reason, the artwork that was there stays, and it is not read again', async () => {
  const { id, at } = await fed({ 'anchor.svg': square(9), 'boat.svg': square(8) });
  writeFileSync(join(at, 'anchor.svg'), '<svg xmlns="http://www.w3.org/2000/svg"><path d="M2');
  const { standing } = await sourceWhen(id, 'that it is refused', (source) => source.standing?.refused.length === 1);
  expect(standing?.refused[0]).toMatchObject({ file: 'anchor.svg', why: expect.stringContaining('anchor.svg') });
  expect(await drawn(id)).toEqual(['M2 2h8v8z', 'M2 2h9v9z']);
  writeFileSync(join(at, 'boat.svg'), square(6));
  await until('the other drawing', async () => (await drawn(id)).includes('M2 2h6v6z'));
  expect((await sourceOf(id)).standing?.refused).toHaveLength(1);
});

test('what a hand changed in the artwork stays until its drawing changes', async () => {
  const { id, at } = await fed({ 'anchor.svg': square(9), 'boat.svg': square(8) });
  const layer = (await rowsOf(id, 'layer')).find(({ attrs }) => attrs?.d === 'M2 2h9v9z') as Row;
  await api.edit(id, { puts: [{ ...layer, attrs: { ...layer.attrs, d: 'M0 0h1v1z' } } as never] });
  writeFileSync(join(at, 'boat.svg'), square(6));
  await until('the other drawing', async () => (await drawn(id)).includes('M2 2h6v6z'));
  expect(await drawn(id)).toEqual(['M0 0h1v1z', 'M2 2h6v6z']);
});

describe('bad folders', () => {
  test.each([
    ['another root', () => ({ root: '/etc', folder: '' })],
    ['a path that climbs', () => ({ root: join(root, 'in'), folder: '../out' })],
    ['what is not there', () => ({ root: join(root, 'in'), folder: 'nowhere' })],
  ])('%s is refused', async (_, where) => {
    const id = await api.project('Fed');
    expect((await api.post(`/projects/${id}/sources`, where())).status).toBe(422);
    expect(await sourcesOf(id)).toEqual([]);
  });

  test('links are not read: neither as the folder nor in it', async () => {
    const { id, at, folder } = await fed({ 'anchor.svg': square(9) });
    writeFileSync(join(root, 'secret.svg'), square(1));
    symlinkSync(join(root, 'secret.svg'), join(at, 'secret.svg'));
    writeFileSync(join(at, 'boat.svg'), square(5));
    await until('the drawing beside it', async () => (await boards(id)).includes('boat'));
    expect(await boards(id)).toEqual(['anchor', 'boat']);
    renameSync(at, `${at}-before`);
    symlinkSync(root, join(root, 'in', folder));
    await sourceWhen(id, 'its trouble', ({ trouble }) => trouble !== null);
    expect(await boards(id)).toEqual(['anchor', 'boat']);
    unlinkSync(join(root, 'in', folder));
    renameSync(`${at}-before`, at);
    writeFileSync(join(at, 'crane.svg'), square(3));
    await until('that it goes on', async () => (await boards(id)).includes('crane'));
    expect((await sourceOf(id)).trouble).toBeNull();
  });
});

test('switched off nothing comes in; on again what changed meanwhile does; without it all stays', async () => {
  const { id, at } = await fed({ 'anchor.svg': square(9) });
  const source = await sourceOf(id);
  await api.patch(`/sources/${source.id}`, { on: false });
  writeFileSync(join(at, 'anchor.svg'), square(10));
  await new Promise((resolve) => setTimeout(resolve, 1000));
  expect(await drawn(id)).toEqual(['M2 2h9v9z']);
  await api.patch(`/sources/${source.id}`, { on: true });
  await until('what changed', async () => (await drawn(id)).includes('M2 2h10v10z'));
  expect((await api.delete(`/sources/${source.id}`)).status).toBe(204);
  expect(await sourcesOf(id)).toEqual([]);
  expect((await api.delete(`/sources/${source.id}`)).status).toBe(404);
  expect(await boards(id)).toEqual(['anchor']);
});

test('several folders feed one project: of two drawings of one name the first folder’s is taken, until it feeds nothing any more', async () => {
  const { id, at, folder } = await fed({ 'anchor.svg': square(9), 'boat.svg': square(8) });
  const more = folderOf({ 'Anchor.svg': square(3), 'crane.svg': square(4) });
  expect((await link(id, more.folder)).status).toBe(201);
  const second = async () => (await sourcesOf(id))[1];
  await until('the second folder', async () => (await second()).standing !== null);
  expect((await second()).standing?.refused).toEqual([
    { file: 'Anchor.svg', why: `the folder ${folder} has one of that name already` },
  ]);
  expect(await drawn(id)).toEqual(['M2 2h4v4z', 'M2 2h8v8z', 'M2 2h9v9z']);
  // Each goes on by itself.
  writeFileSync(join(more.at, 'crane.svg'), square(5));
  writeFileSync(join(at, 'boat.svg'), square(7));
  await until('both', async () => (await drawn(id)).join() === 'M2 2h5v5z,M2 2h7v7z,M2 2h9v9z');
  expect((await link(id, more.folder)).status).toBe(422);
  await api.delete(`/sources/${(await sourceOf(id)).id}`);
  await until('what was refused', async () => (await drawn(id)).includes('M2 2h3v3z'));
  expect(await drawn(id)).toEqual(['M2 2h3v3z', 'M2 2h5v5z', 'M2 2h7v7z']);
  expect((await sourceOf(id)).standing?.refused).toEqual([]);
  expect((await boards(id)).length).toBe(3);
});

test('saving a drawing is an export: a receiver that follows has the new files, and no other was written', async () => {
  const { id, at } = await fed({ 'anchor.svg': square(9), 'boat.svg': square(8) });
  const { body } = await api.post(`/projects/${id}/receivers`, {
    name: 'Build',
    root: join(root, 'out'),
    folder: 'build',
  });
  await api.patch(`/receivers/${body.id}`, { follows: true });
  const standing = async () => (await api.get(`/projects/${id}/receivers`)).body.receivers[0].standing;
  await until('the first files', async () => (await standing())?.written === 6);
  writeFileSync(join(at, 'boat.svg'), square(4));
  await until('the new files', async () => (await standing())?.written === 3);
});

test('what changed while no server ran comes in when one runs', async () => {
  const { id, at } = await fed({ 'anchor.svg': square(9) });
  await server.close();
  writeFileSync(join(at, 'anchor.svg'), square(10));
  const running = await startServer(
    readConfig({
      PORT: '0',
      DATABASE_URL: server.databaseUrl,
      TOLVIK_DIST: join(__dirname, '../../../dist'),
      TOLVIK_SOURCES: join(root, 'in'),
    }),
    __filename,
  );
  server = { ...server, running, url: `http://127.0.0.1:${running.port}`, close: () => running.close() };
  api = client(server.url);
  await until('what changed', async () => (await drawn(id)).includes('M2 2h10v10z'));
});
