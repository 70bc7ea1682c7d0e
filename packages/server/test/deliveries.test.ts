import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Artboard, type Layer, type Output, ProjectDocument, recordsOfLibrarySpec } from '@tolvik/core';
import sharp from 'sharp';
import { readConfig, startServer } from '../src';
import { client, icon, startOnOwnDatabase } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
});
afterAll(() => server.close());

const shape = (i: number) => icon(`<circle cx="12" cy="12" r="${(i % 10) + 1}.${i}"/>`);
const many = (count: number) =>
  Object.fromEntries(Array.from({ length: count }, (_, i) => [`icon-${i}.svg`, shape(i)]));

async function projectWith(files: Record<string, string>): Promise<string> {
  const id = await api.project('Set');
  await api.bringIn(id, files);
  return id;
}
const deliver = async (id: string) => api.settled((await api.post(`/projects/${id}/deliveries`)).body.id);

test('every planned file is made, measured and in the archive, byte for byte', async () => {
  const id = await projectWith(many(7));
  const { spec, outputs } = recordsOfLibrarySpec('handover', new ProjectDocument());
  const artboards = (await api.records(id)).filter((record): record is Artboard => record.kind === 'artboard');
  await api.edit(id, {
    puts: [spec, ...outputs, ...artboards.map((artboard) => ({ ...artboard, specIds: [spec.id] }))],
  });
  const { files } = (await api.get(`/projects/${id}/plan`)).body;
  const delivery = await deliver(id);
  expect(delivery).toMatchObject({ state: 'done', total: 63, made: 63, failed: 0, counts: { new: 63 } });

  const folder = mkdtempSync(join(tmpdir(), 'tolvik-zip-'));
  writeFileSync(join(folder, 'a.zip'), await api.bytes(`/deliveries/${delivery.id}/archive.zip`));
  execFileSync('python3', ['-m', 'zipfile', '-e', join(folder, 'a.zip'), join(folder, 'out')]);
  const found = readdirSync(join(folder, 'out'), { recursive: true, withFileTypes: true }).filter((entry) =>
    entry.isFile(),
  );
  expect(found).toHaveLength(63);
  for (const file of files as {
    path: string;
    widthPx: number;
    heightPx: number;
    format: string;
    pieceId: string;
    outputId: string;
  }[]) {
    const bytes = readFileSync(join(folder, 'out', file.path));
    expect(bytes.equals(await api.bytes(`/projects/${id}/files/${file.pieceId}/${file.outputId}`))).toBe(true);
    if (file.format === 'png' || file.format === 'jpeg')
      expect(await sharp(bytes).metadata()).toMatchObject({ width: file.widthPx, height: file.heightPx });
  }
});

test('a second export names nothing anew and makes nothing again; one change makes exactly what differs', async () => {
  const id = await projectWith(many(5));
  await deliver(id);
  const again = await api.post(`/projects/${id}/deliveries`);
  expect(again.body).toMatchObject({ state: 'done', made: 15 });
  expect((await api.settled(again.body.id)).counts).toEqual({
    same: 15,
    changed: 0,
    new: 0,
    gone: 0,
    renamed: 0,
  });

  const records = await api.records(id);
  const circle = records.find((record) => record.kind === 'layer' && record.attrs.r === '3.2');
  const gone = records.find((record): record is Artboard => record.kind === 'artboard' && record.name === 'icon-4');
  if (circle?.kind !== 'layer' || !gone) throw new Error('not there');
  await api.edit(id, {
    puts: [
      { ...circle, attrs: { ...circle.attrs, r: '5' } },
      { ...gone, on: false },
    ],
  });
  const third = await deliver(id);
  expect(third.counts).toEqual({ same: 9, changed: 3, new: 0, gone: 3, renamed: 0 });
  expect(
    third.files
      .filter((file: { change: string }) => file.change === 'changed')
      .map((file: { path: string }) => file.path),
  ).toEqual(['icon-2.svg', 'icon-2.png', 'icon-2@2x.png']);
});

test('only some pieces and outputs', async () => {
  const id = await projectWith(many(3));
  const { files } = (await api.get(`/projects/${id}/plan`)).body;
  const { body } = await api.post(`/projects/${id}/deliveries`, {
    pieceIds: [files[0].pieceId],
    outputIds: [files[1].outputId],
  });
  expect((await api.settled(body.id)).files.map((file: { path: string }) => file.path)).toEqual([files[1].path]);
});

test('two files for one path hold the export, and say which', async () => {
  const id = await projectWith(many(2));
  const [, second] = (await api.records(id)).filter((record): record is Artboard => record.kind === 'artboard');
  await api.edit(id, { puts: [{ ...second, name: 'ICON-0' }] });
  expect((await api.post(`/projects/${id}/deliveries`)).body).toMatchObject({
    code: 'delivery.held',
    detail: expect.stringContaining('6 files share a path'),
  });
});

test('nothing to export says so', async () => {
  expect((await api.post(`/projects/${await api.project()}/deliveries`)).body.code).toBe('delivery.empty');
});

test('a file that cannot be drawn fails with a reason, and the rest comes out', async () => {
  const own = await startOnOwnDatabase({ TOLVIK_FILE_SECONDS: '1' });
  const other = client(own.url);
  try {
    const endless = `<filter id="f" x="-1000%" y="-1000%" width="2100%" height="2100%">${'<feTurbulence baseFrequency="0.9" numOctaves="400"/>'.repeat(20)}</filter><rect width="24" height="24" filter="url(#f)"/>`;
    const id = await other.project();
    await other.bringIn(id, { ...many(2), 'endless.svg': icon(endless) });
    const output = (await other.records(id)).find(
      (record): record is Output => record.kind === 'output' && record.suffix === '@2x',
    );
    if (!output) throw new Error('no output');
    await other.edit(id, { puts: [{ ...output, size: { kind: 'width', widthPx: 800 } }] });
    const { body } = await other.post(`/projects/${id}/deliveries`);
    const delivery = await other.settled(body.id);
    const failed = delivery.files.filter((file: { now: { state: string } }) => file.now.state === 'failed');
    expect(failed.map((file: { path: string }) => file.path)).toContain('endless@2x.png');
    for (const file of failed)
      expect(file).toMatchObject({
        path: expect.stringMatching(/^endless/),
        now: { error: 'drawing it took longer than 1 s' },
      });
    expect(delivery).toMatchObject({ state: 'done', total: 9, made: 9 - failed.length });
  } finally {
    await own.close();
  }
}, 300_000);

test('stopped where it was, gone on with from there', async () => {
  const id = await projectWith(many(200));
  const { body } = await api.post(`/projects/${id}/deliveries`);
  await api.post(`/deliveries/${body.id}/stop`);
  const stopped = await api.settled(body.id);
  expect(stopped.state).toBe('stopped');
  expect(stopped.made).toBeLessThan(600);
  await api.post(`/deliveries/${body.id}/go-on`);
  expect(await api.settled(body.id)).toMatchObject({ state: 'done', made: 600, failed: 0 });
});

test('an edit during an export does not reach it', async () => {
  const id = await projectWith(many(120));
  const { body } = await api.post(`/projects/${id}/deliveries`);
  const artboards = (await api.records(id)).filter((record): record is Artboard => record.kind === 'artboard');
  await api.edit(id, { puts: artboards.map((artboard) => ({ ...artboard, width: 30, name: `new-${artboard.name}` })) });
  const delivery = await api.settled(body.id);
  expect(delivery).toMatchObject({ state: 'done', made: 360, failed: 0 });
  expect(delivery.files.every((file: { path: string }) => file.path.startsWith('icon-'))).toBe(true);
});

test('a server killed during an export: the next one finishes it', async () => {
  const own = await startOnOwnDatabase({ TOLVIK_ROLE: 'web' });
  const other = client(own.url);
  const id = await other.project();
  await other.bringIn(id, many(60));
  // No worker runs: the export waits, as it would after a death.
  const { body } = await other.post(`/projects/${id}/deliveries`);
  await new Promise((resolve) => setTimeout(resolve, 700));
  expect((await other.get(`/deliveries/${body.id}`)).body).toMatchObject({ state: 'running', made: 0 });
  await own.close();
  const next = await startServer(
    readConfig({
      PORT: '0',
      DATABASE_URL: own.databaseUrl,
      TOLVIK_DIST: join(__dirname, '../../../dist'),
      TOLVIK_WORKERS: '2',
    }),
    __filename,
  );
  try {
    expect(await client(`http://127.0.0.1:${next.port}`).settled(body.id)).toMatchObject({
      state: 'done',
      made: 180,
      failed: 0,
    });
  } finally {
    await next.close();
  }
});

describe('a month later', () => {
  const sorted = (records: { id: string }[]) => [...records].sort((a, b) => (a.id < b.id ? -1 : 1));
  /** A project of three icons, delivered, then changed in one of them and delivered again. */
  async function twice() {
    const id = await projectWith(many(3));
    const first = await deliver(id);
    const before = await api.records(id);
    // That of the first artboard: artwork lies in the tree in the order of the artboards.
    const layer = before.find((record): record is Layer => record.kind === 'layer' && record.tag === 'circle') as Layer;
    await api.edit(id, { puts: [{ ...layer, attrs: { cx: '9', cy: '9', r: '3' } }] });
    return { id, first, before, second: await deliver(id) };
  }

  test('a delivery opens as a project as it was, files and all, and the project stays as it is', async () => {
    const { id, first, before, second } = await twice();
    const now = await api.records(id);
    const made = await api.post('/projects', { name: 'As it was', asInDelivery: first.id });
    expect(made.status).toBe(201);
    expect(sorted(await api.records(made.body.id))).toEqual(sorted(before));
    expect(sorted(await api.records(id))).toEqual(sorted(now));
    const again = await deliver(made.body.id);
    const hashes = async (delivery: { id: string; files: { path: string; now: { position: number } }[] }) =>
      Object.fromEntries(
        await Promise.all(
          delivery.files.map(async ({ path, now: { position } }) => [
            path,
            (await api.bytes(`/deliveries/${delivery.id}/files/${position}`)).toString('base64'),
          ]),
        ),
      );
    expect(await hashes(again)).toEqual(await hashes(first));
    expect(await hashes(again)).not.toEqual(await hashes(second));
  });

  test('what is not as it was is told piece by piece, and one piece is taken back to the very bytes', async () => {
    const { id, first, before } = await twice();
    const [changed, other] = before.filter((record) => record.kind === 'artboard') as Artboard[];
    await api.edit(id, { removes: [other.id] });
    const since = async () => (await api.get(`/deliveries/${first.id}/since`)).body.pieces;
    expect(await since()).toEqual([
      { id: changed.id, kind: 'artboard', name: changed.name, state: 'changed', parts: ['artwork'] },
      { id: other.id, kind: 'artboard', name: other.name, state: 'gone', parts: [] },
    ]);
    const back = await api.post(`/deliveries/${first.id}/take-back`, { pieceIds: [changed.id] });
    expect(back.body.change).toMatchObject({ label: `take back ${changed.name}`, removes: [] });
    expect((await since()).map(({ state }: { state: string }) => state)).toEqual(['gone']);
    const again = await deliver(id);
    const keys = (delivery: { files: { path: string; now?: { key: string } }[] }) =>
      delivery.files.flatMap(({ path, now }) => (now && path.startsWith(changed.name) ? [`${path} ${now.key}`] : []));
    expect(keys(again)).toHaveLength(3);
    expect(keys(again)).toEqual(keys(first));
    // Again there is nothing to take back, and a piece that is not known is none.
    const nothing = await api.post(`/deliveries/${first.id}/take-back`, { pieceIds: [changed.id, 'nobody'] });
    expect(nothing.body.change).toBeNull();
    expect((await api.post(`/deliveries/${first.id}/take-back`, { pieceIds: [] })).status).toBe(422);
  });

  test('one that is not there, or two sources at once, make no project', async () => {
    const before = (await api.get('/projects')).body.projects.length;
    expect((await api.post('/projects', { name: 'x', asInDelivery: 'gone' })).status).toBe(404);
    const { id, first } = await twice();
    expect((await api.post('/projects', { name: 'x', asInDelivery: first.id, copyOf: id })).status).toBe(422);
    expect((await api.get('/projects')).body.projects.length).toBe(before + 1);
  });

  test('a zip of what differs holds just that; of a delivery with nothing before, all', async () => {
    const { first, second } = await twice();
    const paths = async ({ id }: { id: string }) => {
      const folder = mkdtempSync(join(tmpdir(), 'tolvik-zip-'));
      writeFileSync(join(folder, 'a.zip'), await api.bytes(`/deliveries/${id}/archive.zip?only=different`));
      return execFileSync('unzip', ['-Z1', join(folder, 'a.zip')], { encoding: 'utf8' })
        .trim()
        .split('\n')
        .sort();
    };
    const differ = second.files.filter(({ change }: { change: string }) => change !== 'same');
    expect(differ.length).toBe(3);
    expect(await paths(second)).toEqual(differ.map(({ path }: { path: string }) => path).sort());
    expect((await paths(first)).length).toBe(9);
  });

  test('a PDF of a delivery has a picture, also after the project moved on', async () => {
    const id = await projectWith(many(1));
    const { spec, outputs } = recordsOfLibrarySpec('print', new ProjectDocument());
    const [board] = (await api.records(id)).filter((record): record is Artboard => record.kind === 'artboard');
    await api.edit(id, { puts: [spec, ...outputs, { ...board, specIds: [spec.id] }] });
    const delivery = await deliver(id);
    const layer = (await api.records(id)).find((record) => record.kind === 'layer' && record.tag === 'circle');
    await api.edit(id, { removes: [(layer as { id: string }).id] });
    const pdf = delivery.files.find(({ path }: { path: string }) => path.endsWith('.pdf'));
    const png = await api.bytes(`/deliveries/${delivery.id}/files/${pdf.now.position}/picture.png`);
    const { channels } = await sharp(png).stats();
    expect(channels[3]?.max ?? 255).toBe(255);
    expect((await sharp(png).metadata()).format).toBe('png');
    expect(channels[0].min).toBeLessThan(50);
  });

  test('each page of a delivered PDF has its picture, as it was then', async () => {
    const id = await projectWith(many(3));
    const records = await api.records(id);
    const output = records.find((record) => record.kind === 'output');
    const together = { ...output, settings: { format: 'pdf', pages: 'together' } } as Output;
    await api.edit(id, {
      puts: [together],
      removes: records.flatMap((r) => (r.kind === 'output' && r !== output ? [r.id] : [])),
    });
    const delivery = await deliver(id);
    const [pdf] = delivery.files;
    expect(pdf.now.measured.pages).toBe(3);
    const at = `/deliveries/${delivery.id}/files/${pdf.now.position}/picture.png`;
    const pages = await Promise.all([1, 2, 3].map((page) => api.bytes(`${at}?page=${page}`)));
    expect(new Set(pages.map((bytes) => bytes.toString('base64'))).size).toBe(3);
    expect((await api.bytes(at)).equals(pages[0])).toBe(true);
    const boards = (await api.records(id)).filter((record) => record.kind === 'artboard');
    await api.edit(id, { puts: boards.map((board) => ({ ...board, specIds: [] })) });
    expect((await api.bytes(`${at}?page=2`)).equals(pages[1])).toBe(true);
    const status = async (page: string) => (await fetch(`${server.url}/api${at}?page=${page}`)).status;
    expect(await Promise.all(['4', '0', 'x'].map(status))).toEqual([404, 422, 422]);
  });
});
