import type { Artboard, Output, Seen } from '@tolvik/core';
import { decodePng } from '../../render/test/files';
import { connect, type Database, migrate } from '../src/db/database';
import { putRenders } from '../src/db/renders';
import { Renders } from '../src/projects/renders';
import { client, icon, startOnOwnDatabase } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
let db: Database;
let renders: Renders;
const troubles: Error[] = [];
beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
  db = connect(server.databaseUrl, () => {});
  await migrate(db);
  renders = new Renders(db, (error) => troubles.push(error));
});
afterAll(async () => {
  await renders.close();
  await db.end();
  await server.close();
  expect(troubles).toEqual([]);
});

const SEEN: Seen = { contrast: 2.5, box: [0, 0.25, 1, 0.75] };
const render = (key: string, size = 10, seen?: Seen) => ({
  key,
  mediaType: 'image/png',
  bytes: Buffer.alloc(size, 7),
  measured: { widthPx: 1, heightPx: 1, bytes: size, alpha: false, dpi: 96, colourType: 'RGB', seen },
});
const usedAt = async (key: string) =>
  (await db.query<{ used_at: Date }>('SELECT used_at FROM renders WHERE key = $1', [key])).rows[0].used_at;

describe('what was rendered', () => {
  test('is read from memory once it was put or read, and from the database before', async () => {
    await putRenders(db, [render('stored')]);
    expect((await renders.read('stored'))?.bytes.length).toBe(10);
    await renders.put([render('put', 20)]);
    await db.query("DELETE FROM renders WHERE key IN ('stored', 'put')");
    expect((await renders.read('stored'))?.media_type).toBe('image/png');
    expect((await renders.read('put'))?.bytes.length).toBe(20);
    expect(await renders.read('never')).toBeUndefined();
  });

  test('is not kept in memory when it is large', async () => {
    await renders.put([render('large', 300 * 1024)]);
    expect((await renders.read('large'))?.bytes.length).toBe(300 * 1024);
    await db.query("DELETE FROM renders WHERE key = 'large'");
    expect(await renders.read('large')).toBeUndefined();
  });

  test('weighs what its bytes weigh; what was not rendered has no weight yet', async () => {
    expect(await renders.weightsOf(['w1', ''])).toEqual(new Map());
    await putRenders(db, [render('w1', 33, SEEN), render('w2', 44)]);
    const weights = await renders.weightsOf(['w1', 'w2', 'w3', '']);
    expect([...weights]).toEqual([
      ['w1', { bytes: 33, seen: SEEN }],
      ['w2', { bytes: 44, seen: undefined }],
    ]);
    expect(await renders.weightsOf(['w2', 'w1'])).toEqual(new Map([...weights].reverse()));
  });

  test('is noted as used together with others, once an hour', async () => {
    await putRenders(db, [render('seldom'), render('often')]);
    await db.query("UPDATE renders SET used_at = now() - interval '2 days' WHERE key = 'seldom'");
    const [seldom, often] = [await usedAt('seldom'), await usedAt('often')];
    await renders.read('seldom');
    await renders.read('often');
    expect(await usedAt('seldom')).toEqual(seldom);
    await renders.flush();
    expect((await usedAt('seldom')).getTime()).toBeGreaterThan(seldom.getTime());
    expect(await usedAt('often')).toEqual(often);
  });
});

describe('what the page asks for', () => {
  const open = async () => {
    const id = await api.project();
    await api.bringIn(id, { 'anchor.svg': icon() });
    const records = await api.records(id);
    const artboard = records.find((record): record is Artboard => record.kind === 'artboard') as Artboard;
    const outputs = records.filter((record): record is Output => record.kind === 'output');
    return { id, artboard, outputs };
  };
  const made = async (id: string) => (await api.get(`/projects/${id}/made`)).body;

  test('rows say in short what the plan says', async () => {
    const { id, artboard, outputs } = await open();
    for (const { id: outputId } of outputs) await api.bytes(`/projects/${id}/files/${artboard.id}/${outputId}`);
    const rows = await made(id);
    const plan = (await api.get(`/projects/${id}/plan`)).body;
    expect(rows.version).toBe(plan.version);
    expect(rows.files).toEqual(
      plan.files.map((file: Record<string, unknown>) => [
        file.pieceId,
        file.outputId,
        file.key,
        file.bytes,
        file.seen ?? null,
        0,
      ]),
    );
    expect(rows.files.every(([, , , bytes]: unknown[]) => Number(bytes) > 0)).toBe(true);
    expect((await api.get('/projects/nope/made')).status).toBe(404);
  });

  test('the first of them are told by themselves', async () => {
    const { id } = await open();
    await api.bringIn(id, { 'boat.svg': icon('<rect width="9" height="9"/>') });
    // They are made meanwhile, so what they weigh is left out.
    const named = ({ files }: { files: unknown[][] }) => files.map(([piece, output, key]) => [piece, output, key]);
    const whole = await made(id);
    const first = (await api.get(`/projects/${id}/made?first=3`)).body;
    expect([first.version, first.formats, first.pages]).toEqual([whole.version, whole.formats, []]);
    expect([first.total, whole.total]).toEqual([whole.files.length, whole.files.length]);
    expect(named(first)).toEqual(named(whole).slice(0, 3));
    expect(named((await api.get(`/projects/${id}/made?first=1000`)).body)).toEqual(named(whole));
    expect(whole.pictures).toBeUndefined();
    for (const wrong of ['0', '-1', '1001', '1.5', 'x'])
      expect((await api.get(`/projects/${id}/made?first=${wrong}`)).status).toBe(422);
  });

  test('small pictures of the first files come with them, the very bytes, as far as they were made', async () => {
    const { id, artboard, outputs } = await open();
    await api.edit(id, {
      puts: outputs.map((output) => ({ ...output, size: { kind: 'factor' as const, factor: 1 } })),
    });
    const [{ id: svg }, { id: png }] = outputs;
    const address = `/projects/${id}/files/${artboard.id}`;
    const bytes = new Map([[png, await api.bytes(`${address}/${png}`)]]);
    bytes.set(svg, await api.bytes(`${address}/${svg}`));
    const { files, pictures } = (await api.get(`/projects/${id}/made?first=60`)).body;
    const told = files.filter(([, outputId]: [string, string]) => bytes.has(outputId));
    expect(told).toHaveLength(2);
    for (const [, outputId, key] of told) {
      const [, type, data] = /^data:(image\/[a-z+]+);base64,(.*)$/.exec(pictures[key]) ?? [];
      expect(type).toBe(outputId === svg ? 'image/svg+xml' : 'image/png');
      expect(Buffer.from(data, 'base64').equals(bytes.get(outputId) as Buffer)).toBe(true);
    }
    // Without them in memory, too, and never one that is large.
    const fresh = new Renders(db, () => {});
    const keys = told.map(([, , key]: string[]) => key);
    expect((await fresh.readSmall([...keys, 'none'], 8192)).map(({ key }) => key).sort()).toEqual([...keys].sort());
    const smallest = Math.min(...told.map(([, , , size]: [string, string, string, number]) => size));
    expect(await fresh.readSmall(keys, smallest)).toHaveLength(1);
    expect(await new Renders(db, () => {}).readSmall(keys, smallest - 1)).toEqual([]);
    await fresh.close();
  });

  test('pages of one PDF have keys of their own', async () => {
    const { id, outputs } = await open();
    const pdf = { ...outputs[0], settings: { format: 'pdf', pages: 'together' } } as Output;
    expect((await api.edit(id, { puts: [pdf] })).status).toBe(200);
    await api.bringIn(id, { 'boat.svg': icon('<rect width="9" height="9"/>') });
    const { files, pages } = await made(id);
    const whole = files.filter((row: unknown[]) => row[1] === pdf.id);
    expect(whole).toHaveLength(1);
    expect(whole[0][5]).toBe(2);
    expect(pages.filter((row: unknown[]) => row[1] === pdf.id)).toHaveLength(2);
    expect(new Set([...pages, ...whole].map((row: unknown[]) => row[2])).size).toBe(3);
  });

  test('a file asked for by its key is the same bytes, for good, also after the project moved on', async () => {
    const { id, artboard, outputs } = await open();
    const [, png] = outputs;
    const path = `/projects/${id}/files/${artboard.id}/${png.id}`;
    const before = await api.bytes(path);
    const key = (await made(id)).files.find((row: unknown[]) => row[1] === png.id)[2];
    await api.edit(id, { puts: [{ ...artboard, width: artboard.width + 8 }] });
    const kept = await fetch(`${server.url}/api${path}?key=${key}`);
    expect(kept.headers.get('cache-control')).toContain('immutable');
    expect(kept.headers.get('content-security-policy')).toContain("default-src 'none'");
    expect(Buffer.from(await kept.arrayBuffer()).equals(before)).toBe(true);
    expect((await api.bytes(path)).equals(before)).toBe(false);
    const unknown = await fetch(`${server.url}/api${path}?key=${'0'.repeat(64)}`);
    expect([unknown.status, unknown.headers.get('cache-control')]).toEqual([200, 'private, no-cache']);
    expect((await fetch(`${server.url}/api${path}?key=%00`)).status).toBe(200);
    const named = await fetch(`${server.url}/api${path}?key=${key}&download`);
    expect(named.headers.get('content-disposition')).toMatch(/^attachment/);
  });

  test('the picture of a PDF by its key is the same for good; what is no key of a picture is made from the plan', async () => {
    const { id, artboard, outputs } = await open();
    const pdf = { ...outputs[0], settings: { format: 'pdf', pages: 'each' } } as Output;
    await api.edit(id, { puts: [pdf] });
    const { files, formats } = await made(id);
    expect(formats).toMatchObject({ [pdf.id]: 'pdf', [outputs[1].id]: 'png' });
    const key = files.find((row: unknown[]) => row[1] === pdf.id)[2];
    const path = `/projects/${id}/files/${artboard.id}/${pdf.id}/picture.png`;
    const before = await api.bytes(path);
    expect(decodePng(before).width).toBeGreaterThan(0);
    await api.edit(id, { puts: [{ ...artboard, width: artboard.width + 8 }] });
    const kept = await fetch(`${server.url}/api${path}?key=${key}`);
    expect(kept.headers.get('cache-control')).toContain('immutable');
    expect(Buffer.from(await kept.arrayBuffer()).equals(before)).toBe(true);
    expect((await api.bytes(path)).equals(before)).toBe(false);
    // A key of the file itself is no key of its picture, and what is no key at all is none.
    for (const asked of ['0'.repeat(64), `${key}-picture`, '%00'])
      expect((await fetch(`${server.url}/api${path}?key=${asked}`)).headers.get('cache-control')).toBe(
        'private, no-cache',
      );
  });

  test('any page of a file that has several, one that shows no piece among them; what is no page is refused', async () => {
    const { id, artboard, outputs } = await open();
    const sheet = { colours: true };
    const pdf = { ...outputs[0], settings: { format: 'pdf', pages: 'sheet', sheet } } as Output;
    await api.edit(id, { puts: [pdf] });
    const path = `/projects/${id}/files/${artboard.id}/${pdf.id}/picture.png`;
    const own = await api.bytes(path);
    expect((await api.bytes(`${path}?page=1`)).equals(own)).toBe(true);
    const colours = await api.bytes(`${path}?page=2`);
    expect(colours.equals(own)).toBe(false);
    expect(decodePng(colours)).toMatchObject({ width: decodePng(own).width, height: decodePng(own).height });
    for (const [page, status] of [
      ['3', 404],
      ['0', 422],
      ['1.5', 422],
      ['x', 422],
    ] as const)
      expect((await fetch(`${server.url}/api${path}?page=${page}`)).status).toBe(status);
  });

  test('what a small PDF looks like is as sharp as a window where it is asked for', async () => {
    const { id, artboard, outputs } = await open();
    const pdf = { ...outputs[0], settings: { format: 'pdf' } } as Output;
    await api.edit(id, { puts: [pdf] });
    const path = `/projects/${id}/files/${artboard.id}/${pdf.id}/picture.png`;
    const [small, large] = await Promise.all([api.bytes(path), api.bytes(`${path}?large=1`)]);
    expect(decodePng(small).width).toBeLessThanOrEqual(512);
    expect(Math.max(decodePng(large).width, decodePng(large).height)).toBe(1600);
    // Both are kept, each by itself.
    expect((await api.bytes(path)).equals(small)).toBe(true);
    expect((await api.bytes(`${path}?large=1`)).equals(large)).toBe(true);
    expect((await fetch(`${server.url}/api${path}?large=2`)).status).toBe(422);
  });

  test('records changed since a version, and what was removed', async () => {
    const { id, artboard } = await open();
    const all = (await api.get(`/projects/${id}/records`)).body;
    expect(all).toMatchObject({ name: 'Test', removed: [] });
    await api.edit(id, { puts: [{ ...artboard, name: 'quote " and \\ slash' }] });
    const since = (await api.get(`/projects/${id}/records?since=${all.version}`)).body;
    expect(since.records).toEqual([expect.objectContaining({ id: artboard.id, name: 'quote " and \\ slash' })]);
    await api.edit(id, { removes: [artboard.id] });
    const gone = (await api.get(`/projects/${id}/records?since=${since.version}`)).body;
    expect([gone.records, gone.removed]).toEqual([[], [artboard.id]]);
    expect((await api.get(`/projects/${id}/records?since=x`)).status).toBe(422);
  });
});
