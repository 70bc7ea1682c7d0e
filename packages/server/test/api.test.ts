import { request as httpRequest } from 'node:http';
import { type Artboard, artboardRecord, asEdit, type Finding, type Output, type Seen } from '@tolvik/core';
import sharp from 'sharp';
import { client, icon, startOnOwnDatabase } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
});
afterAll(() => server.close());

const artboardsOf = async (id: string) =>
  (await api.records(id)).filter((record): record is Artboard => record.kind === 'artboard');

describe('projects', () => {
  test('made, renamed, copied, deleted and brought back', async () => {
    const id = await api.project('Harbour');
    await api.bringIn(id, { 'anchor.svg': icon() });
    await api.patch(`/projects/${id}`, { name: 'Harbour icons' });
    const copy = (await api.post('/projects', { name: 'Copy', copyOf: id })).body.id;
    expect((await api.records(copy)).length).toBe((await api.records(id)).length);
    const onShelf = async () => (await api.get('/projects')).body.projects;
    expect((await onShelf()).find((each: { id: string }) => each.id === id)).toMatchObject({
      name: 'Harbour icons',
      artboards: 1,
      files: 3,
    });
    await api.delete(`/projects/${id}`);
    expect((await onShelf()).some((each: { id: string }) => each.id === id)).toBe(false);
    expect((await api.get(`/projects/${id}/records`)).status).toBe(404);
    await api.patch(`/projects/${id}`, { deleted: false });
    expect((await artboardsOf(id)).map((artboard) => artboard.name)).toEqual(['anchor']);
  });

  test('a project file opens as a project, the same as it was saved', async () => {
    const id = await api.project('Saved');
    await api.bringIn(id, { 'anchor.svg': icon(), 'boat.svg': icon('<text x="2" y="12" font-size="8">boat</text>') });
    const file = await api.bytes(`/projects/${id}/project.svg`);
    const form = new FormData();
    form.append('files', new File([file], 'saved.svg'));
    const opened = (await (await fetch(`${server.url}/api/projects/open`, { method: 'POST', body: form })).json()) as {
      id: string;
      name: string;
    };
    const sorted = (records: { id: string }[]) => [...records].sort((a, b) => (a.id < b.id ? -1 : 1));
    expect(sorted(await api.records(opened.id))).toEqual(sorted(await api.records(id)));
    expect(opened.name).toBe('Saved');
  });
});

describe('edits', () => {
  test('the same edit sent twice is done once', async () => {
    const id = await api.project();
    await api.bringIn(id, { 'a.svg': icon() });
    const [artboard] = await artboardsOf(id);
    const edit = asEdit({ label: 'rename', puts: [{ ...artboard, name: 'b' }], removes: [] }, 1);
    const first = await api.post(`/projects/${id}/edits`, edit);
    const again = await api.post(`/projects/${id}/edits`, edit);
    expect([first.body.version, again.body.version]).toEqual([2, 2]);
  });

  test('two people on one artboard: the second is told, with what it is now', async () => {
    const id = await api.project();
    await api.bringIn(id, { 'a.svg': icon() });
    const [artboard] = await artboardsOf(id);
    await api.edit(id, { puts: [{ ...artboard, name: 'theirs' }] }, 1);
    const mine = await api.edit(id, { puts: [{ ...artboard, name: 'mine' }] }, 1);
    expect(mine).toMatchObject({
      status: 409,
      body: { code: 'edit.clash', version: 2, records: [{ name: 'theirs' }] },
    });
    expect((await artboardsOf(id))[0].name).toBe('theirs');
    expect((await api.edit(id, { puts: [{ ...artboard, name: 'mine' }] }, 2)).body.version).toBe(3);
  });

  test('a record that someone removed is a clash to put', async () => {
    const id = await api.project();
    await api.bringIn(id, { 'a.svg': icon() });
    const [artboard] = await artboardsOf(id);
    await api.edit(id, { removes: [artboard.id] }, 1);
    expect((await api.edit(id, { puts: [artboard] }, 1)).body).toMatchObject({
      code: 'edit.clash',
      removed: [artboard.id],
    });
  });

  test('two people on different records do not meet', async () => {
    const id = await api.project();
    await api.bringIn(id, { 'a.svg': icon(), 'b.svg': icon() });
    const [a, b] = await artboardsOf(id);
    expect((await api.edit(id, { puts: [{ ...a, name: 'x' }] }, 1)).status).toBe(200);
    expect((await api.edit(id, { puts: [{ ...b, name: 'y' }] }, 1)).status).toBe(200);
    const changes = (await api.get(`/projects/${id}/records?since=1`)).body;
    expect(changes).toMatchObject({ version: 3, removed: [] });
    expect(changes.records).toHaveLength(2);
  });

  test.each([
    ['no width', { width: 0 }],
    ['an empty name', { name: ' ' }],
    ['a place beyond a million', { x: 2e6 }],
  ])('an artboard of %s is refused, at its field, and nothing changes', async (_, fields) => {
    const id = await api.project();
    await api.bringIn(id, { 'a.svg': icon() });
    const [artboard] = await artboardsOf(id);
    const answer = await api.edit(id, { puts: [{ ...artboard, ...fields }] });
    expect(answer.status).toBe(422);
    expect(answer.headers.get('content-type')).toContain('application/problem+json');
    expect(answer.body.where).toBe(`puts.0.${Object.keys(fields)[0]}`);
    expect((await artboardsOf(id))[0]).toEqual(artboard);
  });

  test('others are told of an edit without asking', async () => {
    const id = await api.project();
    const events = await fetch(`${server.url}/api/projects/${id}/events`);
    const reader = (events.body as ReadableStream<Uint8Array>).getReader();
    const read = async () => new TextDecoder().decode((await reader.read()).value);
    expect(await read()).toContain('"version":0');
    await api.bringIn(id, { 'a.svg': icon() });
    expect(await read()).toContain('"version":1');
    await reader.cancel();
  });
});

describe('files', () => {
  test('the bytes of a cell are the file: size, type, strong ETag', async () => {
    const id = await api.project();
    await api.bringIn(id, { 'anchor.svg': icon() });
    const { files } = (await api.get(`/projects/${id}/plan`)).body;
    const png = files.find((file: { path: string }) => file.path === 'anchor@2x.png');
    const url = `/projects/${id}/files/${png.pieceId}/${png.outputId}`;
    const facts = await sharp(await api.bytes(url)).metadata();
    expect(facts).toMatchObject({ format: 'png', width: 48, height: 48, density: 192 });
    const answer = await fetch(`${server.url}/api${url}`);
    expect(answer.headers.get('etag')).toBe(`"${png.key}"`);
    expect(answer.headers.get('content-security-policy')).toContain('sandbox');
    expect((await fetch(`${server.url}/api${url}`, { headers: { 'if-none-match': `"${png.key}"` } })).status).toBe(304);
  });

  test('only what changed has another key', async () => {
    const id = await api.project();
    await api.bringIn(id, { 'a.svg': icon(), 'b.svg': icon('<circle cx="12" cy="12" r="9"/>') });
    const keys = async () =>
      new Map<string, string>(
        (await api.get(`/projects/${id}/plan`)).body.files.map((file: { path: string; key: string }) => [
          file.path,
          file.key,
        ]),
      );
    const before = await keys();
    const layer = (await api.records(id)).find((record) => record.kind === 'layer' && record.tag === 'circle');
    if (layer?.kind !== 'layer') throw new Error('no circle');
    await api.edit(id, { puts: [{ ...layer, attrs: { ...layer.attrs, r: '8' } }] });
    const after = await keys();
    expect([...after].filter(([path, key]) => before.get(path) !== key).map(([path]) => path)).toEqual([
      'b.svg',
      'b.png',
      'b@2x.png',
    ]);
  });

  test('weights become known without anybody asking for the files', async () => {
    const id = await api.project();
    await api.bringIn(id, { 'a.svg': icon() });
    let files: { bytes: number | null }[] = [];
    for (let tries = 0; tries < 1200; tries++) {
      files = (await api.get(`/projects/${id}/plan`)).body.files;
      if (files.every((file) => file.bytes !== null)) break;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    expect(files.every((file) => (file.bytes ?? 0) > 0)).toBe(true);
  });

  test('a size that cannot be made is told in the plan and holds the export', async () => {
    const id = await api.project();
    await api.bringIn(id, { 'a.svg': icon() });
    const output = (await api.records(id)).find(
      (record): record is Output => record.kind === 'output' && record.settings.format === 'png',
    );
    const [artboard] = await artboardsOf(id);
    if (!output) throw new Error('no output');
    await api.edit(id, { puts: [{ ...artboard, width: 100_000 }] });
    const { files } = (await api.get(`/projects/${id}/plan`)).body;
    expect(files.find((file: { outputId: string }) => file.outputId === output.id).problem).toContain('100000 × 24 px');
    expect(await api.post(`/projects/${id}/deliveries`)).toMatchObject({
      status: 409,
      body: { code: 'delivery.held' },
    });
    expect(
      (await api.edit(id, { puts: [{ ...output, size: { kind: 'width', widthPx: 1_000_000 } } as Output] })).status,
    ).toBe(422);
  });
});

test('findings of a project', async () => {
  const id = await api.project();
  await api.bringIn(id, { 'Artboard 7.svg': icon() });
  const { findings } = (await api.get(`/projects/${id}/findings`)).body;
  expect(findings).toEqual([
    expect.objectContaining({ check: 'default-name', severity: 'warning', message: 'is still called “Artboard 7”' }),
  ]);
});

test('colours that melt into one ink are found, and no longer once they are put apart', async () => {
  const id = await api.project();
  const badge = '<circle cx="12" cy="12" r="10" fill="#0c6a53"/><path d="M9 7h6v10H9z" fill="#e8d5a9"/>';
  await api.bringIn(id, { 'badge.svg': icon(badge) });
  const [board] = await artboardsOf(id);
  const melting = async (rule: object) => {
    const follows = { artboardId: board.id, rule: { kind: 'tint', colour: '#171b1c', ...rule } };
    const mono = artboardRecord.parse({ ...board, id: 'mono', name: 'badge mono', order: 'b05', y: 400, follows });
    expect((await api.edit(id, { puts: [mono] })).status).toBe(200);
    const { findings } = (await api.get(`/projects/${id}/findings`)).body;
    return findings.flatMap(({ check, message }: Finding) => (check === 'parts-melt' ? [message] : []));
  };
  expect(await melting({})).toEqual(['#e8d5a9 and #0c6a53 meet in the source and cannot be told apart here']);
  expect(await melting({ kind: 'ink', out: ['#e8d5a9'], apart: [], gap: 0 })).toEqual([]);
});

test('a picture that vanishes on its ground is found once its file was rendered', async () => {
  const id = await api.project();
  const shade = async (background: string) => {
    const png = await sharp({ create: { width: 24, height: 24, channels: 3, background } })
      .png()
      .toBuffer();
    return `<svg xmlns="http://www.w3.org/2000/svg" width="24" height="24"><image width="24" height="24" href="data:image/png;base64,${png.toString('base64')}"/></svg>`;
  };
  await api.bringIn(id, { 'pale.svg': await shade('#fcfcfc'), 'dark.svg': await shade('#12343b') });
  const records = await api.records(id);
  const output = records.find(
    (record): record is Output => record.kind === 'output' && record.settings.format === 'png',
  ) as Output;
  await api.edit(id, { puts: [{ ...output, background: '#ffffff' }] });
  const vanishing = async () =>
    (await api.get(`/projects/${id}/findings`)).body.findings.filter(
      (finding: { check: string }) => finding.check === 'too-little-contrast',
    );
  expect(await vanishing()).toEqual([]);
  const [dark, pale] = (await artboardsOf(id)).sort((a, b) => a.name.localeCompare(b.name));
  for (const { id: pieceId } of [dark, pale]) await api.bytes(`/projects/${id}/files/${pieceId}/${output.id}`);
  expect(await vanishing()).toEqual([
    expect.objectContaining({
      pieceId: pale.id,
      outputId: output.id,
      message: 'nothing in it stands out from its ground',
    }),
  ]);
  const { files } = (await api.get(`/projects/${id}/plan`)).body;
  const seen = files
    .filter((file: { seen?: Seen }) => file.seen)
    .map((file: { pieceId: string; seen: Seen }) => [file.pieceId, file.seen]);
  expect(Object.fromEntries(seen)).toEqual({
    [dark.id]: { contrast: 3, box: [0, 0, 1, 1] },
    [pale.id]: { contrast: expect.closeTo(1.03, 1), box: null },
  });
});

describe('doors', () => {
  /** `fetch` sets Host by itself, so this goes lower. */
  const withHost = (host: string, headers: Record<string, string> = {}) =>
    new Promise<number>((resolve, reject) => {
      const { port } = new URL(server.url);
      httpRequest({ host: '127.0.0.1', port, path: '/api/health', headers: { host, ...headers } }, (res) => {
        res.resume();
        resolve(res.statusCode ?? 0);
      })
        .on('error', reject)
        .end();
    });

  test('answers to loopback names only', async () => {
    const { port } = new URL(server.url);
    expect(await withHost(`127.0.0.1:${port}`)).toBe(200);
    expect(await withHost(`localhost:${port}`)).toBe(200);
    expect(await withHost('evil.example')).toBe(403);
    expect(await withHost(`evil.example:${port}`)).toBe(403);
  });

  test('refuses pages of another origin', async () => {
    const { port } = new URL(server.url);
    expect(await withHost(`127.0.0.1:${port}`, { origin: 'http://evil.example' })).toBe(403);
    expect(await withHost(`127.0.0.1:${port}`, { origin: 'null' })).toBe(403);
    expect(await withHost(`127.0.0.1:${port}`, { origin: `http://127.0.0.1:${port}` })).toBe(200);
    expect((await api.post('/projects', { name: 'x' }, { 'sec-fetch-site': 'cross-site' })).status).toBe(403);
  });

  test('a strict content security policy', async () => {
    const policy = (await api.get('/health')).headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'none'");
    expect(policy).not.toContain('unsafe-inline');
    expect(policy).not.toContain("'unsafe-eval'");
  });

  test('broken requests are answered with problem details', async () => {
    expect(await api.get('/nowhere')).toMatchObject({ status: 404, body: { code: 'not.found' } });
    expect(await api.post('/projects', { name: '' })).toMatchObject({ status: 422, body: { where: 'name' } });
    const broken = await fetch(`${server.url}/api/projects`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{',
    });
    expect(broken.status).toBe(400);
    expect((await api.get('/projects/nope/plan')).status).toBe(404);
    expect((await api.get("/projects/x'; DROP TABLE projects; --/plan")).status).toBe(404);
  });

  test('OpenAPI names every route and is made from the schemas', async () => {
    const { body } = await api.get('/openapi.json');
    expect(Object.keys(body.paths)).toContain('/api/projects/{id}/edits');
    expect(JSON.stringify(body.paths['/api/projects/{id}/edits'])).toContain('baseVersion');
  });
});
