import {
  type Artboard,
  asEdit,
  composeBenchPiece,
  type Layer,
  NO_FONTS,
  ProjectDocument,
  pieceAlone,
  regionOf,
} from '@tolvik/core';
import { rasterise } from '@tolvik/render';
import { client, icon, startOnOwnDatabase } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
});
afterAll(() => server.close());

const artboardNamed = async (id: string, name: string): Promise<Artboard> => {
  const found = (await api.records(id)).find((record) => record.kind === 'artboard' && record.name === name);
  return found as Artboard;
};
const harbour = async () => {
  const id = await api.project('Harbour');
  await api.bringIn(id, {
    'anchor.svg': icon(),
    'boat.svg': icon('<rect id="hull" x="6" y="8" width="4" height="4"/>'),
  });
  return id;
};

test('everything that can be done is listed, with its settings as JSON Schema', async () => {
  const { body } = await api.get('/acts');
  const trim = body.acts.find(({ name }: { name: string }) => name === 'trim-to-artwork');
  expect(trim).toMatchObject({ title: 'Trim to artwork', needs: 'artboards', settings: { type: 'object' } });
  expect(trim.settings.properties.marginPx).toMatchObject({ type: 'number', minimum: 0 });
});

test('an act by address does what a hand does: by number, by layer, with settings', async () => {
  const id = await harbour();
  const answer = await api.post(`/projects/${id}/acts/trim-to-artwork`, { pieces: '2', settings: { marginPx: 1 } });
  expect(answer).toMatchObject({ status: 200, body: { version: 2, change: { label: 'trim boat' } } });
  const boat = await artboardNamed(id, 'boat');
  expect([boat.width, boat.height]).toEqual([6, 6]);
  const made = await api.post(`/projects/${id}/acts/slice-layers`, { layers: ['hull'] });
  expect(made.body.selected).toEqual([made.body.change.puts[0].id]);
  expect(made.body.change.puts[0]).toMatchObject({ kind: 'slice', name: 'hull' });
});

test('a drawing between pixels is moved to where it is crisp, at a size that is said, too', async () => {
  const id = await api.project();
  const bars = '<path id="bar" d="M3.37 8.3h17v3h-17z"/><path d="M6.37 11.3h2v8h-2z"/>';
  await api.bringIn(id, { 'jetty.svg': icon(bars) });
  const act = (settings: object) => api.post(`/projects/${id}/acts/crispest-place`, { pieces: '1', settings });
  expect(await act({ widthPx: 0 })).toMatchObject({ status: 422, body: { where: 'widthPx' } });
  const moved = await act({});
  expect(moved.body.change.label).toBe('crispest place for jetty');
  for (const { transform } of moved.body.change.puts) {
    expect(transform[4]).toBeCloseTo(-0.37, 4);
    expect(transform[5]).toBeCloseTo(-0.3, 4);
  }
  expect(await act({})).toMatchObject({ status: 422, body: { code: 'act.nothing' } });
  // At 16 px a px is one and a half of the drawing's.
  expect((await act({ widthPx: 16 })).status).toBe(200);
});

test('edges are fitted to pixels of a size that is said, and strokes made whole', async () => {
  const id = await api.project();
  await api.bringIn(id, {
    'jetty.svg': icon('<path d="M3.37 8.3h17.3v2.2h-17.3z"/><path d="M4 14.2h16" stroke="#000" stroke-width="1.7"/>'),
  });
  const act = (name: string, settings: object = {}) =>
    api.post(`/projects/${id}/acts/${name}`, { pieces: '1', settings });
  expect(await act('fit-edges', { widths: 'fat' })).toMatchObject({ status: 422, body: { where: 'widths' } });
  const whole = await act('whole-strokes');
  expect(whole.body.change.label).toBe('whole stroke widths for jetty');
  expect(whole.body.change.puts).toMatchObject([{ attrs: { 'stroke-width': '2' } }]);
  expect(await act('whole-strokes')).toMatchObject({ status: 422, body: { code: 'act.nothing' } });
  const fitted = await act('fit-edges');
  expect(fitted.body.change.puts.map(({ attrs }: { attrs: { d: string } }) => attrs.d)).toEqual([
    'M3 8L21 8L21 10L3 10Z',
    'M4 14L20 14',
  ]);
  expect(await act('fit-edges')).toMatchObject({ status: 422, body: { code: 'act.nothing' } });
  expect((await act('fit-edges', { widthPx: 16 })).status).toBe(200);
});

test('what cannot be done is refused with a reason, and the project stays as it was', async () => {
  const id = await harbour();
  const act = (name: string, body: unknown) => api.post(`/projects/${id}/acts/${name}`, body);
  expect(await act('melt', {})).toMatchObject({ status: 422, body: { code: 'act.unknown' } });
  expect(await act('group', { pieces: '1' })).toMatchObject({ status: 422, body: { detail: 'no layer is selected' } });
  expect(await act('align', { pieces: '1', settings: { edge: 'sideways' } })).toMatchObject({
    status: 422,
    body: { where: 'edge' },
  });
  expect(await act('move', { ids: ['nobody'], settings: { dx: 1 } })).toMatchObject({ body: { code: 'act.gone' } });
  expect(await act('move', { ids: 'all' })).toMatchObject({ status: 422, body: { where: 'ids' } });
  expect(await act('whole-pixels', { pieces: '1-2' })).toMatchObject({ status: 422, body: { code: 'act.nothing' } });
  expect((await api.post('/projects/nobody/acts/group', {})).status).toBe(404);
  expect((await api.get(`/projects/${id}`)).body.version).toBe(1);
});

test('an act goes on from what the project has become, edits and acts in turn', async () => {
  const id = await harbour();
  const anchor = await artboardNamed(id, 'anchor');
  await api.post(
    `/projects/${id}/edits`,
    asEdit({ label: 'rename', puts: [{ ...anchor, name: 'kedge' }], removes: [] }, 1),
  );
  await api.post(`/projects/${id}/acts/move`, { pieces: '1', settings: { dx: 5 } });
  expect(await artboardNamed(id, 'kedge')).toMatchObject({ x: anchor.x + 5 });
});

describe('outlines', () => {
  const DRAWN =
    '<g id="mark" transform="translate(2 1) scale(.8)" stroke="#0c6a53" stroke-width="3" fill="none" fill-opacity=".8"><path id="bow" d="M4 14q8 10 16 0" stroke-linecap="round"/><circle id="ring" cx="12" cy="5" r="3" fill="#e0a82e"/><path id="stem" transform="rotate(8 12 14)" d="M12 9v12" stroke="#12343b" stroke-opacity=".5"/></g><rect id="bar" x="3" y="12" width="16" height="3" fill="#b4602a"/>';

  /** A picture of the first artboard as its files have it, 8 px for each of its own. */
  async function picture(id: string): Promise<Buffer> {
    const doc = new ProjectDocument((await api.records(id)) as never);
    const [board] = doc.list('artboard');
    const from = { fonts: NO_FONTS, pictures: () => undefined };
    return rasterise(
      composeBenchPiece(doc, pieceAlone(board, regionOf(board)), { widthPx: 192, heightPx: 192 }, from),
      192,
      192,
    ).data;
  }
  const shareOff = (a: Buffer, b: Buffer) => a.filter((value, i) => Math.abs(value - b[i]) > 96).length / a.length;
  const drawn = async () => {
    const id = await api.project('Outlines');
    await api.bringIn(id, { 'logo.svg': icon(DRAWN) });
    return id;
  };
  const layers = async (id: string) =>
    (await api.records(id)).filter((record): record is Layer => record.kind === 'layer' && record.tag !== 'g');

  test('strokes of a group become outlines that show the same, under their ids and names', async () => {
    const id = await drawn();
    const before = { picture: await picture(id), layers: await layers(id) };
    const { status, body } = await api.post(`/projects/${id}/acts/strokes-to-outlines`, { layers: ['mark'] });
    expect([status, body.change?.label]).toEqual([200, 'outline strokes of mark']);
    expect(shareOff(before.picture, await picture(id))).toBeLessThan(0.001);
    const after = await layers(id);
    expect(after.filter(({ attrs }) => (attrs.stroke ?? 'none') !== 'none')).toEqual([]);
    for (const name of ['bow', 'stem', 'bar'])
      expect(after.find((layer) => layer.name === name)?.id).toBe(
        before.layers.find((layer) => layer.name === name)?.id,
      );
    // A shape with a fill, too, is a group of both, under its id.
    const ring = before.layers.find(({ name }) => name === 'ring')?.id as string;
    const inside = after.filter(({ parentId }) => parentId === ring);
    expect(inside.map(({ tag, attrs }) => [tag, attrs.fill])).toEqual([
      ['circle', '#e0a82e'],
      ['path', '#0c6a53'],
    ]);
    expect(await api.post(`/projects/${id}/acts/strokes-to-outlines`, { layers: ['mark'] })).toMatchObject({
      status: 422,
      body: { code: 'act.nothing' },
    });
  });

  test('what is selected is united to one shape in the colour of the front one; what has no outline says why', async () => {
    const id = await drawn();
    const bar = (await layers(id)).find(({ name }) => name === 'bar')?.id;
    const { status } = await api.post(`/projects/${id}/acts/unite`, { layers: ['mark', 'bar'] });
    expect(status).toBe(200);
    const [united, ...others] = await layers(id);
    expect(others).toEqual([]);
    expect(united).toMatchObject({ id: bar, tag: 'path', attrs: { fill: '#b4602a' } });
    // The same silhouette: what all of it paints in one colour, and nothing half transparent.
    const solid = await api.project('Solid');
    const flat = DRAWN.replace(/#[0-9a-f]{6}/g, '#b4602a').replace(' stroke-opacity=".5"', '');
    await api.bringIn(solid, { 'logo.svg': icon(flat) });
    expect(shareOff(await picture(solid), await picture(id))).toBeLessThan(0.001);

    // Whatever somebody calls it.
    const named = await api.project('Named');
    await api.bringIn(named, { 'logo.svg': icon(DRAWN) });
    for (const { id: layerId } of await layers(named))
      await api.post(`/projects/${named}/acts/rename-layer`, {
        ids: [layerId],
        settings: { name: 'a > b "c" </svg> & d' },
      });
    const all = (await layers(named)).map((layer) => layer.id);
    expect((await api.post(`/projects/${named}/acts/unite`, { ids: all })).status).toBe(200);
    expect(shareOff(await picture(solid), await picture(named))).toBeLessThan(0.001);

    const words = await api.project('Words');
    await api.bringIn(words, { 'logo.svg': icon(DRAWN) });
    await api.post(`/projects/${words}/acts/write-text`, { settings: { words: 'Wash', x: 4, y: 9 } });
    const texts = (await layers(words)).filter(({ tag }) => tag === 'text').map((layer) => layer.id);
    expect(await api.post(`/projects/${words}/acts/unite`, { ids: texts })).toMatchObject({
      status: 422,
      body: { code: 'act.letters' },
    });
  });

  test('outlines that somebody else puts in are not taken for those of the drawing', async () => {
    const id = await drawn();
    const [bow] = (await layers(id)).filter(({ name }) => name === 'bow');
    for (const svg of ['<svg><path d="M0 0h900v900z"/></svg>', '</svg></svg>', '<svg', 'x'.repeat(5000)]) {
      const said = { ids: [bow.id], settings: { outlines: { [bow.id]: svg } } };
      const before = await picture(id);
      const { status } = await api.post(`/projects/${id}/acts/strokes-to-outlines`, said);
      expect([200, 422]).toContain(status);
      expect(shareOff(before, await picture(id))).toBeLessThan(0.001);
    }
  });
});
