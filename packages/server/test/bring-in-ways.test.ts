import { readFileSync } from 'node:fs';
import type { Artboard, FontRecord, Layer } from '@tolvik/core';
import { client, icon, startOnOwnDatabase } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
});
afterAll(() => server.close());

const send = (path: string, files: Record<string, string | Uint8Array>, headers: Record<string, string> = {}) => {
  const form = new FormData();
  for (const [name, content] of Object.entries(files)) form.append('files', new File([content as string], name));
  return fetch(`${server.url}/api/projects/${path}`, { method: 'POST', body: form, headers });
};
type Json = { change: { puts: unknown[]; removes: string[] } | null };
const json = async (response: Response) => (await response.json()) as Json;
const artboards = async (id: string) =>
  (await api.records(id)).filter((record): record is Artboard => record.kind === 'artboard');
const layers = async (id: string) =>
  (await api.records(id)).filter((record): record is Layer => record.kind === 'layer');

test('as artwork alone: no artboards, around the point that was said', async () => {
  const id = await api.project();
  const response = await send(`${id}/bring-in?as=artwork&x=100&y=60`, {
    'anchor.svg': icon('<g id="flukes"><path d="M4 4h16v16H4z"/></g>'),
  });
  expect(response.status).toBe(200);
  expect(await artboards(id)).toEqual([]);
  const [root] = (await layers(id)).filter((layer) => layer.parentId === 'root');
  expect(root).toMatchObject({ name: 'anchor', transform: [1, 0, 0, 1, 88, 48] });
  expect((await layers(id)).some((layer) => layer.name === 'flukes' && layer.tag === 'g')).toBe(true);
});

test('in place of artwork of the same name; other names come as new artboards', async () => {
  const id = await api.project();
  await api.bringIn(id, { 'anchor.svg': icon(), 'boat.svg': icon() });
  const before = await artboards(id);
  const response = await send(`${id}/bring-in?as=replace`, {
    'Anchor.svg': icon('<circle id="ring" cx="12" cy="12" r="6"/>'),
    'crab.svg': icon(),
  });
  expect(response.status).toBe(200);
  const after = await artboards(id);
  expect(after.map((artboard) => artboard.name).sort()).toEqual(['anchor', 'boat', 'crab']);
  for (const artboard of before) expect(after).toContainEqual(artboard);
  expect((await layers(id)).filter((layer) => layer.name === 'ring')).toHaveLength(1);
});

test('progress comes line by line before the answer; a refusal too', async () => {
  const id = await api.project();
  const files = Object.fromEntries(Array.from({ length: 30 }, (_, i) => [`icon-${i}.svg`, icon()]));
  const text = await (await send(`${id}/bring-in`, files, { accept: 'application/x-ndjson' })).text();
  const lines = text
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line));
  expect(lines.slice(0, -1).at(-1)).toEqual({ read: 30, of: 30 });
  expect(lines.at(-1).report).toHaveLength(30);
});

test('a way to bring in that there is not is refused', async () => {
  const id = await api.project();
  const response = await send(`${id}/bring-in?as=wallpaper`, { 'a.svg': icon() });
  expect(response.status).toBe(422);
});

describe('fonts', () => {
  const bold = readFileSync(
    require.resolve('@fontsource/spline-sans-mono/files/spline-sans-mono-latin-700-normal.woff2'),
  );

  test('read for what they are, kept once, and text is drawn in them', async () => {
    const id = await api.project();
    await api.bringIn(id, {
      'word.svg': icon('<text x="1" y="14" font-family="Spline Sans Mono" font-size="8">iii</text>'),
    });
    const answer = await json(await send(`${id}/fonts`, { 'own.woff2': bold }));
    expect(answer.change?.puts).toMatchObject([
      { kind: 'font', family: 'Spline Sans Mono', weight: 700, italic: false },
    ]);
    const again = await json(await send(`${id}/fonts`, { 'own.woff2': bold }));
    expect(again.change).toBeNull();
    const [font] = (await api.records(id)).filter((record): record is FontRecord => record.kind === 'font');
    const blob = await api.bytes(`/blobs/${font.hash}`);
    expect(blob.equals(bold)).toBe(true);
  });

  test('a project file carries them along', async () => {
    const id = await api.project();
    await api.bringIn(id, { 'word.svg': icon('<text x="1" y="14" font-size="8">kelp</text>') });
    await send(`${id}/fonts`, { 'own.woff2': bold });
    const file = await api.bytes(`/projects/${id}/project.svg`);
    const form = new FormData();
    form.append('files', new File([file], 'project.svg'));
    const opened = (await (await fetch(`${server.url}/api/projects/open`, { method: 'POST', body: form })).json()) as {
      id: string;
    };
    expect((await api.records(opened.id)).filter((record) => record.kind === 'font')).toHaveLength(1);
  });

  test.each([
    ['words', 'not a font at all', 'font.not'],
    ['a picture', Buffer.from('89504e470d0a1a0a', 'hex'), 'font.not'],
    ['a font cut short', bold.subarray(0, 200), 'font.'],
    [
      'a font with its inside broken',
      Buffer.concat([bold.subarray(0, 100), Buffer.alloc(bold.length - 100, 7)]),
      'font.',
    ],
  ])('%s is refused in words', async (_, bytes, code) => {
    const id = await api.project();
    const response = await send(`${id}/fonts`, { 'bad.woff2': bytes as Uint8Array });
    expect(response.status).toBe(422);
    const problem = (await response.json()) as { code: string; detail: string };
    expect(problem.code).toContain(code);
    expect(problem.detail).toContain('bad.woff2');
    expect((await api.records(id)).some((record) => record.kind === 'font')).toBe(false);
  });
});
