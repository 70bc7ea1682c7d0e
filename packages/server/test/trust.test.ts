import { createHash } from 'node:crypto';
import { connect as open } from 'node:net';
import { type Artboard, asEdit, type Layer, layerRecord, type ProjectRecord } from '@tolvik/core';
import { readConfig, startServer } from '../src';
import { putBlobs } from '../src/db/blobs';
import { connect, migrate } from '../src/db/database';
import { MIGRATIONS } from '../src/db/migrations';
import { KEPT, purge } from '../src/db/purge';
import { byBytes } from '../src/db/renders';
import { releaseFiles } from '../src/db/workers';
import { countedAddress } from '../src/http/access';
import { Pictures } from '../src/projects/pictures';
import { client, icon, startOnOwnDatabase } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
});
afterAll(() => server.close());

const group = (id: string, parentId = 'root') =>
  layerRecord.parse({ id, kind: 'layer', parentId, order: 'a0', tag: 'g' });

describe('the tree of layers', () => {
  let id: string;
  let layers: Layer[];
  beforeEach(async () => {
    id = await api.project();
    await api.bringIn(id, { 'a.svg': icon('<g><path d="M0 0h9v9z"/></g>') });
    layers = (await api.records(id)).filter((record): record is Layer => record.kind === 'layer');
  });
  const inside = () => layers.find((layer) => layer.tag === 'path') as Layer;
  const outside = () => layers.find((layer) => layer.parentId === 'root') as Layer;

  test('is refused when it would be broken, whatever breaks it, and nothing of the edit is done', async () => {
    const before = (await api.get(`/projects/${id}/records`)).body;
    const broken: [Partial<{ puts: ProjectRecord[]; removes: string[] }>, string][] = [
      [{ puts: [group('a', 'gone')] }, 'edit.parent'],
      [{ puts: [group('a', 'a')] }, 'edit.ring'],
      [{ puts: [group('a', 'b'), group('b', 'a')] }, 'edit.ring'],
      [{ puts: [{ ...outside(), parentId: inside().parentId }] }, 'edit.ring'],
      [{ removes: [outside().id] }, 'edit.orphan'],
      [{ removes: [inside().parentId] }, 'edit.orphan'],
      [{ puts: Array.from({ length: 300 }, (_, i) => group(`n${i}`, i ? `n${i - 1}` : 'root')) }, 'edit.depth'],
      [
        {
          puts: [
            {
              ...(before.records.find((record: ProjectRecord) => record.kind === 'artboard') as Artboard),
              id: inside().id,
            },
          ],
        },
        'edit.kind',
      ],
    ];
    for (const [change, code] of broken) expect([code, (await api.edit(id, change)).body.code]).toEqual([code, code]);
    expect((await api.get(`/projects/${id}/records`)).body).toEqual(before);
  });

  test('two windows cannot pass each other: of two moves that would make a ring, one is refused', async () => {
    await api.edit(id, { puts: [group('a'), group('b')] });
    const { version } = (await api.get(`/projects/${id}/records`)).body;
    const [one, other] = await Promise.all([
      api.edit(id, { puts: [group('a', 'b')] }, version),
      api.edit(id, { puts: [group('b', 'a')] }, version),
    ]);
    expect([one.status, other.status].sort()).toEqual([200, 422]);
  });

  test('a deep group moved into a deep group is refused', async () => {
    const chain = (name: string) =>
      Array.from({ length: 150 }, (_, i) => group(`${name}${i}`, i ? `${name}${i - 1}` : 'root'));
    expect((await api.edit(id, { puts: [...chain('a'), ...chain('b')] })).status).toBe(200);
    expect((await api.edit(id, { puts: [group('b0', 'a149')] })).body.code).toBe('edit.depth');
  });

  test('a version that never was is refused', async () => {
    expect((await api.edit(id, { puts: [group('a')] }, 99)).body).toMatchObject({ code: 'edit.version', status: 409 });
  });
});

test('an upload that breaks off inside a file ends that upload and nothing else', async () => {
  const id = await api.project();
  for (const route of ['bring-in', 'fonts']) {
    await new Promise<void>((resolve) => {
      const socket = open(server.running.port, '127.0.0.1', () => {
        socket.write(
          `POST /api/projects/${id}/${route} HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: multipart/form-data; boundary=B\r\nContent-Length: 9000\r\n\r\n--B\r\nContent-Disposition: form-data; name="files"; filename="a.svg"\r\n\r\n<svg`,
        );
        setTimeout(() => socket.destroy(), 100);
      });
      socket.on('close', () => resolve());
    });
  }
  expect((await api.get('/health')).status).toBe(200);
  expect((await api.bringIn(id, { 'a.svg': icon() })).body.report).toEqual([{ file: 'a.svg', dropped: [] }]);
});

test("a file's trouble is its own: the others come in", async () => {
  const id = await api.project();
  const { status, body } = await api.bringIn(id, {
    'wide.svg': '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1e9 1e9"><path d="M0 0h1v1z"/></svg>',
    'deep.svg': icon(`${'<svg>'.repeat(150)}<path d="M0 0h1v1z"/>${'</svg>'.repeat(150)}`),
    'good.svg': icon(),
  });
  expect(status).toBe(200);
  expect(
    body.report.map(({ file, problem }: { file: string; problem?: { message: string } }) => [file, !problem?.message]),
  ).toEqual([
    ['wide.svg', false],
    ['deep.svg', false],
    ['good.svg', true],
  ]);
});

test('files beyond the end of the plane are told, one by one', async () => {
  const id = await api.project();
  const { body } = await api.bringIn(
    id,
    Object.fromEntries(
      Array.from({ length: 120 }, (_, i) => [
        `${i}.svg`,
        '<svg xmlns="http://www.w3.org/2000/svg" width="100000" height="100000"/>',
      ]),
    ),
  );
  const refused = body.report.filter(({ problem }: { problem?: object }) => problem);
  expect(refused.length).toBeGreaterThan(5);
  expect(refused[0].problem.code).toBe('bench.full');
  const boards = (await api.records(id)).filter((record): record is Artboard => record.kind === 'artboard');
  expect(boards.length).toBe(120 - refused.length);
  expect(boards.every(({ x, y, height }) => Math.abs(x) <= 1e6 && y + height <= 1e6)).toBe(true);
});

test('a file that shows a picture that is not here is never made without it', async () => {
  const id = await api.project();
  await api.bringIn(id, { 'a.svg': icon() });
  const board = (await api.records(id)).find((record): record is Artboard => record.kind === 'artboard') as Artboard;
  const picture = layerRecord.parse({
    id: 'pic',
    kind: 'layer',
    parentId: 'root',
    order: 'b00',
    tag: 'image',
    attrs: { href: `blob:${'c'.repeat(64)}`, width: '9', height: '9' },
  });
  expect((await api.edit(id, { puts: [picture] })).status).toBe(200);
  const { files } = (await api.get(`/projects/${id}/plan`)).body;
  expect(files.find((file: { pieceId: string }) => file.pieceId === board.id).problem).toContain('picture');
  expect((await api.post(`/projects/${id}/deliveries`)).body.code).toBe('delivery.held');
});

test('hundreds of one name are told by their number', async () => {
  const id = await api.project();
  await api.bringIn(id, Object.fromEntries(Array.from({ length: 60 }, (_, i) => [`same${' '.repeat(i)}.svg`, icon()])));
  const { files } = (await api.get(`/projects/${id}/plan`)).body as {
    files: { clashes: unknown[]; clashCount: number }[];
  };
  expect(files[0].clashCount).toBe(59);
  expect(files.every(({ clashes }) => clashes.length === 20)).toBe(true);
});

describe('who owns what is being made', () => {
  test('what a dead worker had is made by another within seconds', async () => {
    const id = await api.project();
    await api.bringIn(
      id,
      Object.fromEntries(
        Array.from({ length: 30 }, (_, i) => [`${i}.svg`, icon(`<circle cx="12" cy="12" r="${i / 4 + 1}"/>`)]),
      ),
    );
    const db = connect(server.databaseUrl, () => {});
    await db.query("INSERT INTO workers (id, beat_at) VALUES ('dead', now() - interval '5 seconds')");
    const { id: delivery } = (await api.post(`/projects/${id}/deliveries`)).body;
    await db.query("UPDATE delivery_files SET worker_id = 'dead' WHERE delivery_id = $1 AND state = 'waiting'", [
      delivery,
    ]);
    expect(await api.settled(delivery)).toMatchObject({ state: 'done', made: 90, failed: 0 });
    await db.end();
  });

  test('a file that ended whoever made it, time and again, is given up', async () => {
    const id = await api.project();
    await api.bringIn(id, { 'a.svg': icon('<path d="M1 1h3v9z"/>') });
    await api.edit(id, {});
    const db = connect(server.databaseUrl, () => {});
    const { id: delivery } = (await api.post(`/projects/${id}/deliveries`)).body;
    await api.settled(delivery);
    await db.query(
      "UPDATE delivery_files SET state = 'waiting', tries = 5, worker_id = 'gone' WHERE delivery_id = $1",
      [delivery],
    );
    await db.query("UPDATE deliveries SET state = 'running', made = 0 WHERE id = $1", [delivery]);
    expect(await api.settled(delivery)).toMatchObject({ state: 'done', failed: 3 });
    await db.end();
  });
});

describe('trouble that passes is no file’s own', () => {
  test('pictures that push each other out of what is kept at hand are all there', async () => {
    const db = connect(server.databaseUrl, () => {});
    const blobs = ['one', 'two', 'three'].map((name) => {
      const bytes = Buffer.alloc(600, name);
      return { hash: createHash('sha256').update(bytes).digest('hex'), mediaType: 'image/png', bytes };
    });
    await putBlobs(db, blobs);
    const pictures = new Pictures(db, 1000);
    const hashes = blobs.map(({ hash }) => hash);
    // The first is at hand, and each of the others pushes the one before it out.
    expect(await pictures.read([hashes[0]])).toHaveLength(1);
    expect((await pictures.read(hashes)).map(({ hash }) => hash)).toEqual(hashes);
    await db.end();
  });

  test('what a stopped worker had begun is as if it had never been', async () => {
    const id = await api.project();
    await api.bringIn(id, { 'a.svg': icon('<path d="M1 1h5v9z"/>') });
    const db = connect(server.databaseUrl, () => {});
    const { id: delivery } = (await api.post(`/projects/${id}/deliveries`)).body;
    await api.settled(delivery);
    await db.query("UPDATE delivery_files SET state = 'waiting', tries = 4, worker_id = NULL WHERE delivery_id = $1", [
      delivery,
    ]);
    const tries = async () =>
      (await db.query('SELECT DISTINCT tries, worker_id FROM delivery_files WHERE delivery_id = $1', [delivery])).rows;
    await db.query("UPDATE delivery_files SET tries = tries + 1, worker_id = 'stopping' WHERE delivery_id = $1", [
      delivery,
    ]);
    await releaseFiles(db, 'stopping');
    expect(await tries()).toEqual([{ tries: 4, worker_id: null }]);
    await db.end();
  });

  test('large files go to the database in parts', () => {
    const parts = byBytes([5, 5, 5, 20, 1, 1], (bytes) => bytes, 10);
    expect(parts).toEqual([[5, 5], [5], [20], [1, 1]]);
    expect(byBytes([], () => 1, 10)).toEqual([]);
  });
});

describe('what is kept', () => {
  test('goes when its time is over: projects, edits, pictures, and the rest stays', async () => {
    const own = await startOnOwnDatabase();
    const mine = client(own.url);
    const db = connect(own.databaseUrl, () => {});
    const [kept, gone] = [await mine.project('kept'), await mine.project('gone')];
    const png = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    );
    await mine.bringIn(kept, { 'a.png': png, 'b.svg': icon() });
    await mine.bringIn(gone, { 'c.png': Buffer.concat([png, Buffer.from('x')]) });
    const delivery = await mine.settled((await mine.post(`/projects/${kept}/deliveries`)).body.id);
    const archive = await mine.bytes(`/deliveries/${delivery.id}/archive.zip`);
    await mine.delete(`/projects/${gone}`);
    expect(await purge(db, 1e9, KEPT)).toEqual({ projects: 0, edits: 0, blobs: 0, renders: 0 });
    await mine.edit(kept, { puts: [group('later')] });
    const { version } = (await mine.get(`/projects/${kept}/records`)).body;

    const purged = await purge(db, 1e9, { deletedDays: 0, journalDays: 0, blobDays: 0 });
    expect(purged).toMatchObject({ projects: 1, edits: 2, blobs: 1 });
    expect((await mine.get(`/projects/${kept}/plan`)).body.files).toHaveLength(6);
    // Who was away for longer than single edits are remembered is sent all there is, and told so.
    expect((await mine.get(`/projects/${kept}/records?since=${version - 1}`)).body).toMatchObject({
      whole: true,
      version: 2,
    });
    expect((await mine.get(`/projects/${kept}/records?since=${version}`)).body).toMatchObject({
      records: [],
      removed: [],
    });

    // The limit in bytes holds, also for what deliveries hold; that is made again when it is asked for.
    await db.query("UPDATE renders SET used_at = now() - interval '1 day'");
    expect(await purge(db, 0, KEPT)).toMatchObject({ renders: 6 });
    expect((await db.query('SELECT 1 FROM renders')).rowCount).toBe(0);
    expect((await mine.bytes(`/deliveries/${delivery.id}/archive.zip`)).equals(archive)).toBe(true);
    expect((await mine.get(`/deliveries/${delivery.id}`)).body.files[0].now.measured).toBeTruthy();

    const { bytes } = (await mine.get(`/deliveries/${delivery.id}/frees`)).body;
    expect(bytes).toBeGreaterThan(100);
    expect((await mine.delete(`/deliveries/${delivery.id}`)).status).toBe(204);
    expect((await db.query('SELECT 1 FROM renders')).rowCount).toBe(0);
    expect((await mine.get(`/deliveries/${delivery.id}`)).status).toBe(404);
    expect((await mine.get('/health')).body.room.usedBytes).toBeGreaterThan(1e6);
    await db.end();
    await own.close();
  });

  test('a database of a newer Tolvik is refused in a sentence', async () => {
    const own = await startOnOwnDatabase();
    await own.close();
    const db = connect(own.databaseUrl, () => {});
    await db.query('INSERT INTO migrations (number) VALUES ($1)', [MIGRATIONS.length + 1]);
    await expect(migrate(db)).rejects.toThrow('newer Tolvik');
    await db.end();
  });
});

describe('who may in', () => {
  const env = { DATABASE_URL: 'postgres://x', TOLVIK_DIST: '/x' };

  test('beyond loopback a key is needed', () => {
    expect(() => readConfig({ ...env, TOLVIK_BIND: '0.0.0.0' })).toThrow('set TOLVIK_ACCESS_KEY');
    expect(() => readConfig({ ...env, TOLVIK_BIND: '0.0.0.0', TOLVIK_ACCESS_KEY: 'short' })).toThrow('12 characters');
    for (const bind of ['127.0.0.1', '127.0.0.2', 'localhost', '::1'])
      expect(readConfig({ ...env, TOLVIK_BIND: bind }).bind).toBe(bind);
  });

  test('with a key every route asks for it, and who guesses waits', async () => {
    const key = 'kelp, salt and rope';
    const own = await startOnOwnDatabase({ TOLVIK_ACCESS_KEY: key, TOLVIK_BIND: '127.0.0.2' });
    const url = `http://127.0.0.2:${own.running.port}`;
    const ask = (path: string, init: RequestInit = {}) => fetch(`${url}${path}`, { redirect: 'manual', ...init });
    for (const path of [
      '/api/health',
      '/api/projects',
      '/api/openapi.json',
      '/api/blobs/x',
      '/',
      '/projects/x/bench',
      '/assets/x.js',
    ])
      expect([path, (await ask(path)).status]).toEqual([path, 401]);
    expect(await (await ask('/', { headers: { accept: 'text/html' } })).text()).toContain('Access key');
    expect((await ask('/api/projects', { headers: { authorization: `Bearer ${key}` } })).status).toBe(200);
    const form = (given: string, cookie = '') =>
      ask('/access', {
        method: 'POST',
        headers: { accept: 'text/html', 'content-type': 'application/x-www-form-urlencoded', cookie },
        body: new URLSearchParams({ key: given }),
      });
    const inside = await form(key);
    expect(inside.status).toBe(303);
    const [cookie, known] = inside.headers.getSetCookie();
    for (const each of [cookie, known]) {
      expect(each).toMatch(/HttpOnly/i);
      expect(each).toMatch(/SameSite=Strict/i);
      expect(each).not.toContain(key);
    }
    expect((await ask('/api/projects', { headers: { cookie: cookie.split(';')[0] } })).status).toBe(200);
    expect((await ask('/api/projects', { headers: { cookie: 'tolvik-access=0' } })).status).toBe(401);
    const answers: number[] = [];
    for (let i = 0; i < 8; i++) answers.push((await form(`guess ${i}`)).status);
    expect(answers.slice(0, 5)).toEqual([401, 401, 401, 401, 401]);
    expect(answers.at(-1)).toBe(429);
    // A session stays valid, and a known browser is not delayed by wrong keys from its address.
    expect((await ask('/api/projects', { headers: { cookie: cookie.split(';')[0] } })).status).toBe(200);
    expect((await form(key)).status).toBe(429);
    expect((await form(key, known.split(';')[0])).status).toBe(303);
    // Ended on the server, it is over whoever still has the cookie.
    const headers = { cookie: cookie.split(';')[0] };
    expect((await ask('/access/end', { method: 'POST', headers })).status).toBe(204);
    expect((await ask('/api/projects', { headers })).status).toBe(401);
    await own.close();
  });

  test('two logins have nothing in common, and another key lets nobody in with what the first one gave', async () => {
    const key = 'kelp, salt and rope';
    const first = await startOnOwnDatabase({ TOLVIK_ACCESS_KEY: key });
    const enter = async (url: string, given: string) =>
      (
        await fetch(`${url}/access`, { method: 'POST', redirect: 'manual', body: new URLSearchParams({ key: given }) })
      ).headers
        .getSetCookie()
        .map((cookie) => cookie.split(';')[0]);
    const [one, other] = [await enter(first.url, key), await enter(first.url, key)];
    expect(one[0]).not.toBe(other[0]);
    const inside = (url: string) => fetch(`${url}/api/projects`, { headers: { cookie: one[0] } });
    expect((await inside(first.url)).status).toBe(200);
    await first.close();
    const second = await startOnOwnDatabase({ TOLVIK_ACCESS_KEY: `${key}, new`, DATABASE_URL: first.databaseUrl });
    expect((await inside(second.url)).status).toBe(401);
    await second.close();
  });

  test('behind a proxy that is named, each is counted for what they are, and cookies are for https alone', async () => {
    const key = 'kelp, salt and rope';
    const own = await startOnOwnDatabase({ TOLVIK_ACCESS_KEY: key, TOLVIK_PROXIES: '127.0.0.1' });
    const from = (address: string, given: string) =>
      fetch(`${own.url}/api/projects`, {
        headers: { authorization: `Bearer ${given}`, 'x-forwarded-for': address, 'x-forwarded-proto': 'https' },
      });
    for (let i = 0; i < 7; i++) await from('203.0.113.7', `wrong ${i}`);
    expect((await from('203.0.113.7', key)).status).toBe(429);
    expect((await from('203.0.113.8', key)).status).toBe(200);
    const inside = await fetch(`${own.url}/access`, {
      method: 'POST',
      redirect: 'manual',
      headers: { 'x-forwarded-proto': 'https', 'x-forwarded-for': '203.0.113.9' },
      body: new URLSearchParams({ key }),
    });
    for (const cookie of inside.headers.getSetCookie()) expect(cookie).toMatch(/; Secure/i);
    // From many addresses: after some of them, those that nobody knows wait; a program whose key was right does not.
    const answers: number[] = [];
    for (let i = 0; i < 100; i++) answers.push((await from(`198.51.100.${i}`, 'guess')).status);
    expect(answers.filter((status) => status === 401).length).toBeLessThanOrEqual(60);
    expect(answers.at(-1)).toBe(429);
    expect((await from('203.0.113.8', key)).status).toBe(200);
    await own.close();
  });

  test('nobody is believed who forwards for others and is not named; a proxy is an address', async () => {
    const key = 'kelp, salt and rope';
    const own = await startOnOwnDatabase({ TOLVIK_ACCESS_KEY: key });
    const from = (address: string) =>
      fetch(`${own.url}/api/projects`, { headers: { authorization: 'Bearer wrong', 'x-forwarded-for': address } });
    const answers: number[] = [];
    for (let i = 0; i < 8; i++) answers.push((await from(`203.0.113.${i}`)).status);
    expect(answers.at(-1)).toBe(429);
    expect((await fetch(`${own.url}/api/alive`)).status).toBe(204);
    await own.close();
    expect(() => readConfig({ ...env, TOLVIK_PROXIES: 'all' })).toThrow('TOLVIK_PROXIES');
    expect(readConfig({ ...env, TOLVIK_PROXIES: '10.0.0.5, 10.1.0.0/16' }).proxies).toEqual([
      '10.0.0.5',
      '10.1.0.0/16',
    ]);
  });

  test.each([
    ['::ffff:192.0.2.7', '192.0.2.7'],
    ['192.0.2.7', '192.0.2.7'],
    ['2001:db8:1:2:3:4:5:6', '2001:db8:1:2'],
    ['2001:db8::1', '2001:db8:0:0'],
    ['fe80::1%eth0', 'fe80:0:0:0'],
  ])('%s counts as %s', (address, counted) => expect(countedAddress(address)).toBe(counted));
});

test('two servers on one database read each other, and one that was killed leaves nothing undone', async () => {
  const other = await startServer(
    readConfig({
      PORT: '0',
      DATABASE_URL: server.databaseUrl,
      TOLVIK_DIST: `${__dirname}/../../../dist`,
      TOLVIK_WORKERS: '1',
      TOLVIK_ROLE: 'web',
    }),
    __filename,
  );
  const there = client(`http://127.0.0.1:${other.port}`);
  const id = await api.project();
  await api.bringIn(id, { 'a.svg': icon() });
  expect((await there.get(`/projects/${id}/plan`)).body.files).toHaveLength(3);
  const board = (await there.records(id)).find((record): record is Artboard => record.kind === 'artboard') as Artboard;
  await there.post(
    `/projects/${id}/edits`,
    asEdit(
      { label: 'x', puts: [{ ...board, name: 'other' }], removes: [] },
      (await there.get(`/projects/${id}/records`)).body.version,
    ),
  );
  expect((await api.get(`/projects/${id}/plan`)).body.files[0].path).toContain('other');
  await other.close();
});
