import { bringInAnswer, editionRecord, type ProjectRecord } from '@tolvik/core';
import { client, startOnOwnDatabase } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
});
afterAll(() => server.close());

const card = (inner: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="80" height="40" viewBox="0 0 80 40"><rect id="ground" width="80" height="40" fill="#dfe8e2"/>${inner}</svg>`;
const SUN = '<circle id="sun" cx="60" cy="12" r="5" fill="#e8b93a"/>';

/** Sends files to replace what has their names. */
async function replace(id: string, text: string, query: Record<string, string> = {}) {
  const form = new FormData();
  form.append('files', new File([text], 'card.svg'));
  const search = new URLSearchParams({ as: 'replace', ...query });
  const response = await fetch(`${server.url}/api/projects/${id}/bring-in?${search}`, { method: 'POST', body: form });
  const body = (await response.json()) as Record<string, unknown>;
  if (response.ok) expect(bringInAnswer.safeParse(body).error?.issues).toBeUndefined();
  return {
    status: response.status,
    body: body as {
      code?: string;
      change: { puts: ProjectRecord[] } | null;
      asks?: { loose: { layerId: string; guess: number; editions: string[]; files: number }[] }[];
    },
  };
}

/** A card with an edition in which its sun is hidden. */
async function withEdition() {
  const id = await api.project('Card');
  await api.bringIn(id, { 'card.svg': card(SUN) });
  const records = await api.records(id);
  const sun = records.find((record) => record.kind === 'layer' && record.name === 'sun')?.id ?? '';
  const board = records.find((record) => record.kind === 'artboard');
  await api.edit(id, {
    puts: [
      editionRecord.parse({
        id: `e${id}`.slice(0, 20),
        kind: 'edition',
        artboardId: board?.id,
        order: 'a0',
        name: 'night',
        specIds: board?.kind === 'artboard' ? board.specIds : [],
        overrides: { [sun]: { shown: false } },
      }),
    ],
  });
  return { id, sun };
}
const overridesOf = async (id: string) =>
  (await api.records(id)).flatMap((record) => (record.kind === 'edition' ? [record.overrides] : []))[0];

test('the same file again changes nothing at all', async () => {
  const { id } = await withEdition();
  const before = await api.records(id);
  const { status, body } = await replace(id, card(SUN));
  expect([status, body.change]).toEqual([200, null]);
  expect(await api.records(id)).toEqual(before);
});

test('a layer that is known again keeps its id, and what hangs on it needs no word', async () => {
  const { id, sun } = await withEdition();
  const { body } = await replace(id, card(`<g id="sky">${SUN.replace('cx="60"', 'cx="20"')}</g>`), { ask: '1' });
  expect(body.asks).toBeUndefined();
  expect(await overridesOf(id)).toEqual({ [sun]: { shown: false } });
  expect((await api.records(id)).find((record) => record.id === sun)).toMatchObject({ attrs: { cx: '20' } });
});

test('what would come loose is asked of, and nothing is changed before; then it goes where it is said', async () => {
  const { id, sun } = await withEdition();
  const other = card('<path id="moon" d="M10 30h9l-4 6z"/>');
  const { version } = (await api.get(`/projects/${id}`)).body;
  const asked = await replace(id, other, { ask: '1' });
  const [{ loose }] = asked.body.asks ?? [];
  expect([asked.body.change, loose[0]]).toEqual([
    null,
    expect.objectContaining({ layerId: sun, editions: ['night'], files: 3 }),
  ]);
  expect((await api.get(`/projects/${id}`)).body.version).toBe(version);
  await replace(id, other, { attach: `${sun}:${loose[0].guess}` });
  expect((await api.records(id)).find((record) => record.id === sun)).toMatchObject({ tag: 'path' });
  expect(await overridesOf(id)).toEqual({ [sun]: { shown: false } });
});

test('left loose, it is told by name, and the export is held until somebody settles it', async () => {
  const { id, sun } = await withEdition();
  await replace(id, card('<path id="moon" d="M10 30h9l-4 6z"/>'));
  expect(await overridesOf(id)).toEqual({ [sun]: { shown: false, was: 'sun' } });
  expect(await api.post(`/projects/${id}/deliveries`)).toMatchObject({
    status: 409,
    body: { detail: expect.stringContaining('layer that is gone: sun') },
  });
  const { findings } = (await api.get(`/projects/${id}/findings`)).body;
  expect(findings.map(({ check }: { check: string }) => check)).toContain('difference-lost');
  const moon = (await api.records(id)).find((record) => record.kind === 'layer' && record.name === 'moon');
  expect(
    (await api.post(`/projects/${id}/acts/attach-differences`, { settings: { from: sun, to: moon?.id } })).status,
  ).toBe(200);
  expect((await api.post(`/projects/${id}/deliveries`)).status).toBe(201);
});

test.each([
  ['empty', '', 'file.empty'],
  ['refused', '<svg', 'svg.'],
  ['no drawing', 'hello', 'svg.not'],
])('a replacement that is %s: told, and nothing is lost', async (_, text, code) => {
  const { id } = await withEdition();
  const before = await api.records(id);
  const { status, body } = await replace(id, text, { ask: '1' });
  expect([status, body.change]).toEqual([200, null]);
  expect(JSON.stringify(body)).toContain(code);
  expect(await api.records(id)).toEqual(before);
});

test.each(['nobody', 'a:b', ':3', `${'x'.repeat(70)}:1`])('attach=%s is refused with where it is', async (attach) => {
  const { id } = await withEdition();
  expect(await replace(id, card(SUN), { attach })).toMatchObject({ status: 422, body: { code: 'input' } });
});

test('a place that there is not is as if nothing had been said', async () => {
  const { id, sun } = await withEdition();
  await replace(id, card('<path id="moon" d="M10 30h9l-4 6z"/>'), { attach: `${sun}:999999` });
  expect(await overridesOf(id)).toEqual({ [sun]: { shown: false, was: 'sun' } });
});

test('two at once: one after the other, and the tree is whole', async () => {
  const { id } = await withEdition();
  const drawings = [
    card(`${SUN}<path id="moon" d="M10 30h9l-4 6z"/>`),
    card('<g id="new"><rect id="box" x="3" y="3" width="9" height="9"/></g>'),
  ];
  const answers = await Promise.all(drawings.map((text) => replace(id, text)));
  expect(answers.every(({ status }) => status === 200 || status === 409 || status === 422)).toBe(true);
  const records = await api.records(id);
  const ids = new Set(records.map((record) => record.id));
  for (const record of records)
    if (record.kind === 'layer' && record.parentId !== 'root' && record.parentId !== 'defs')
      expect(ids).toContain(record.parentId);
});

test.each(['new', 'kept'] as const)(
  'a file of another size, %s: what follows the artboard has its size, too',
  async (size) => {
    const { id } = await withEdition();
    const [board] = (await api.records(id)).filter((record) => record.kind === 'artboard');
    if (board.kind !== 'artboard') throw new Error('no artboard');
    const follower = { ...board, id: 'mono', name: 'mono', order: 'b05', y: 900 };
    await api.edit(id, { puts: [{ ...follower, follows: { artboardId: board.id, rule: { kind: 'white' } } }] });
    const wide = card(SUN).replace(
      'width="80" height="40" viewBox="0 0 80 40"',
      'width="120" height="60" viewBox="0 0 120 60"',
    );
    expect((await replace(id, wide, { size })).status).toBe(200);
    const sizes = (await api.records(id)).flatMap((record) =>
      record.kind === 'artboard' ? [[record.width, record.height]] : [],
    );
    expect(sizes).toEqual(
      size === 'new'
        ? [
            [120, 60],
            [120, 60],
          ]
        : [
            [80, 40],
            [80, 40],
          ],
    );
  },
);

test('a size that is none is refused', async () => {
  const { id } = await withEdition();
  expect(await replace(id, card(SUN), { size: 'huge' })).toMatchObject({ status: 422, body: { code: 'input' } });
});
