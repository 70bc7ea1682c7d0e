import fc from 'fast-check';
import {
  type Artboard,
  changedSince,
  DEFS,
  editionRecord,
  layersOn,
  newId,
  type PieceSince,
  ProjectDocument,
  performRequest,
  pieces,
  planFiles,
  readSvg,
  replaceArtwork,
  takeBackPieces,
} from '../src';
import { edit, edits, everything, pictures } from './edits';
import { layerNamed, project, snapshot, svg } from './fixtures';
import { runs } from './properties';

const copyOf = (doc: ProjectDocument) => new ProjectDocument(doc.all());
/** What differs, in a line each. */
const differences = (doc: ProjectDocument, then: ProjectDocument) =>
  changedSince(doc, then).map(({ name, state, parts }) => [name, state, ...parts].join(' '));
const idOf = (doc: ProjectDocument, name: string) => pieces(doc).find((piece) => piece.name === name)?.id as string;
/** What taking back can mend of a difference. */
const toTakeBack = ({ state, parts }: PieceSince) =>
  state === 'gone' || (state === 'changed' && parts.some((part) => part !== 'name'));

const SUN =
  '<defs><linearGradient id="shine"><stop id="light" stop-color="#fff"/><stop offset="1" stop-color="#0c6a53"/></linearGradient></defs><g id="sun"><circle id="disc" cx="12" cy="12" r="8" fill="url(#shine)"/><rect id="ray" x="11" width="2" height="3"/></g>';

function harbour() {
  const { doc, artboard } = project({
    sun: svg(SUN),
    crate: svg('<rect id="lid" x="2" y="2" width="20" height="6"/>'),
  });
  const sun = artboard('sun');
  doc.apply({
    puts: [
      {
        ...sun,
        id: newId(),
        order: 'b00',
        name: 'white',
        y: 300,
        follows: { artboardId: sun.id, rule: { kind: 'white' } },
      },
      editionRecord.parse({
        id: newId(),
        kind: 'edition',
        artboardId: sun.id,
        order: 'b01',
        name: 'no ray',
        overrides: { [layerNamed(doc, 'ray').id]: { shown: false } },
      }),
    ],
    removes: [],
  });
  return { doc, was: copyOf(doc), sun };
}

test('nothing differs from itself', () => {
  const { doc, was: then } = harbour();
  expect(changedSince(doc, then)).toEqual([]);
  expect(
    takeBackPieces(
      doc,
      then,
      pieces(then).map(({ id }) => id),
    ),
  ).toMatchObject({ puts: [], removes: [] });
});

test('what differs is told piece by piece, with what of it', () => {
  const { doc, was: then, sun } = harbour();
  const [, crate] = doc.list('artboard');
  const [edition] = doc.list('edition');
  doc.apply({
    puts: [
      { ...layerNamed(doc, 'disc'), attrs: { cx: '12', cy: '12', r: '5' } },
      { ...sun, width: 30, background: '#ffffff' },
      { ...crate, name: 'box' },
      { ...edition, overrides: {} },
      { ...crate, id: newId(), order: 'c00', name: 'new one', x: 900 },
    ],
    removes: [idOf(doc, 'white')],
  });
  expect(differences(doc, then).sort()).toEqual(
    [
      'box changed name',
      'new one new',
      'no ray changed differences',
      'sun changed size ground artwork',
      'white gone',
    ].sort(),
  );
  expect(changedSince(doc, then).find(({ name }) => name === 'box')?.was).toBe('crate');
});

test('a drawing that came anew is taken back to the very bytes, with its gradient, and nothing else changes', () => {
  const { doc, was: then, sun } = harbour();
  const before = pictures(then);
  const redrawn = svg(SUN.replace('r="8"', 'r="3"').replace('#0c6a53', '#d2452f').replace('id="ray"', 'id="beam"'));
  doc.apply(replaceArtwork(doc, sun, readSvg(redrawn, 'sun.svg')));
  doc.apply({ puts: [{ ...layerNamed(doc, 'lid'), attrs: { width: '9', height: '9' } }], removes: [] });
  const others = snapshot(doc);
  expect(pictures(doc).get(sun.id)).not.toBe(before.get(sun.id));
  const change = takeBackPieces(doc, then, [sun.id]);
  expect(change.label).toBe('take back sun');
  doc.apply(change);
  const after = pictures(doc);
  expect(after.get(sun.id)).toBe(before.get(sun.id));
  expect(after.get(idOf(doc, 'white'))).toBe(before.get(idOf(then, 'white')));
  expect(doc.get(layerNamed(doc, 'lid').id)).toBe(others[layerNamed(doc, 'lid').id]);
  expect(differences(doc, then)).toEqual(['crate changed artwork']);
});

test('an artboard that was moved and called otherwise since stays where it is and is called so', () => {
  const { doc, was: then, sun } = harbour();
  doc.apply(performRequest(doc, 'move', { ids: [sun.id], settings: { dx: 500, dy: 40.5 } }));
  doc.apply({ puts: [{ ...(doc.find('artboard', sun.id) as Artboard), name: 'star', specIds: [] }], removes: [] });
  expect(differences(doc, then)).toEqual(['star changed name']);
  doc.apply({ puts: [], removes: [layerNamed(doc, 'ray').id] });
  doc.apply(takeBackPieces(doc, then, [sun.id]));
  expect(doc.find('artboard', sun.id)).toMatchObject({ name: 'star', specIds: [], x: sun.x + 500 });
  expect(pictures(doc).get(sun.id)).toBe(pictures(then).get(sun.id));
});

test('what is gone comes back whole, with its editions, what it follows and its definitions', () => {
  const { doc, was: then, sun } = harbour();
  const layers = layersOn(doc, sun).flatMap(({ id }) => doc.descendants(id));
  const definitions = doc.children(DEFS).flatMap(({ id }) => doc.descendants(id));
  const white = idOf(doc, 'white');
  doc.apply({
    puts: [],
    removes: [sun.id, white, ...doc.list('edition').map(({ id }) => id), ...layers, ...definitions],
  });
  doc.apply(takeBackPieces(doc, then, [white]));
  expect(changedSince(doc, then)).toEqual([]);
  expect(pictures(doc)).toEqual(pictures(then));
});

test('a piece whose spec was removed since comes back with it, and makes its files again', () => {
  const { doc, was: then, sun } = harbour();
  const [spec] = then.list('spec');
  const filesOf = (project: ProjectDocument) =>
    planFiles(project, 'harbour')
      .files.filter(({ pieceId }) => pieceId === sun.id)
      .map(({ path }) => path);
  expect(filesOf(then).length).toBeGreaterThan(0);
  doc.apply(performRequest(doc, 'delete', { ids: [sun.id], settings: { followers: 'delete' } }));
  doc.apply(performRequest(doc, 'remove-spec', { settings: { specId: spec.id } }));
  const before = snapshot(doc);
  const inverse = doc.apply(takeBackPieces(doc, then, [sun.id]));
  expect(doc.find('artboard', sun.id)?.specIds).toEqual([spec.id]);
  expect(filesOf(doc)).toEqual(filesOf(then));
  // What is there still follows what it follows now.
  expect(doc.list('artboard').find(({ name }) => name === 'crate')?.specIds).toEqual([]);
  doc.apply(inverse);
  expect(snapshot(doc)).toEqual(before);
});

test('a gradient that others use as it is now stays theirs; the piece gets its own', () => {
  const { doc, was: then, sun } = harbour();
  const light = layerNamed(doc, 'light');
  const disc = layerNamed(doc, 'disc');
  doc.apply({
    puts: [
      { ...light, attrs: { ...light.attrs, 'stop-color': '#111111' } },
      { ...layerNamed(doc, 'lid'), attrs: { width: '9', height: '9', fill: disc.attrs.fill } },
    ],
    removes: [],
  });
  const crate = idOf(doc, 'crate');
  const lit = pictures(doc).get(crate);
  doc.apply(takeBackPieces(doc, then, [sun.id]));
  expect(pictures(doc).get(sun.id)).toContain('#fff');
  expect(pictures(doc).get(crate)).toBe(lit);
  expect(differences(doc, then)).toEqual(['crate changed artwork']);
});

test('what lies on another artboard by now stays there, and comes back as a copy', () => {
  const { doc, was: then, sun } = harbour();
  const crate = doc.find('artboard', idOf(doc, 'crate')) as Artboard;
  const group = layerNamed(doc, 'sun');
  doc.apply({ puts: [{ ...group, transform: [1, 0, 0, 1, crate.x, crate.y] }], removes: [] });
  const full = pictures(doc).get(crate.id);
  doc.apply(takeBackPieces(doc, then, [sun.id]));
  expect(pictures(doc).get(crate.id)).toBe(full);
  expect(layersOn(doc, sun)).toHaveLength(1);
  expect(doc.list('layer').filter(({ name }) => name === 'disc')).toHaveLength(2);
  expect(differences(doc, then)).toEqual(['crate changed artwork']);
});

test('an artboard that lies on another one is taken back where it was, and nothing is there twice', () => {
  const { doc } = project({
    sheet: svg('<g id="a"><rect width="5" height="5"/></g><g id="b"><rect x="9" width="5" height="5"/></g>'),
  });
  const rule = { id: 'rule', match: { kind: 'groups' }, becomes: 'artboard', margin: 0, specIds: [] };
  doc.apply(performRequest(doc, 'set-piece-rules', { ids: [], settings: { rules: [rule] } }));
  const then = copyOf(doc);
  const group = layerNamed(doc, 'a');
  // Off its own artboard, and still on the sheet.
  doc.apply({ puts: [{ ...group, transform: [1, 0, 0, 1, 4, 15] }], removes: [] });
  doc.apply(takeBackPieces(doc, then, [idOf(doc, 'a')]));
  expect(doc.list('layer').filter(({ name }) => name === 'a')).toHaveLength(1);
  expect(changedSince(doc, then)).toEqual([]);
});

test('a group that was taken apart around it comes back with what it did', () => {
  const { doc, was: then, sun } = harbour();
  const group = layerNamed(doc, 'sun');
  const faded = { ...group, opacity: 0.5 };
  then.apply({ puts: [faded], removes: [] });
  doc.apply(performRequest(doc, 'ungroup', { ids: [group.id] }));
  expect(doc.get(group.id)).toBeUndefined();
  doc.apply(takeBackPieces(doc, then, [sun.id]));
  expect(pictures(doc).get(sun.id)).toBe(pictures(then).get(sun.id));
  expect(changedSince(doc, then)).toEqual([]);
});

const after = (list: readonly [number, number, number][]) => {
  const then = everything();
  const doc = copyOf(then);
  for (const [kind, pick, amount] of list) doc.apply(edit(doc, kind, pick, amount));
  return { was: then, doc, wanted: changedSince(doc, then).filter(toTakeBack) };
};

test('after any edits, all taken back differs in nothing, and undoing it is exact', () => {
  let changed = 0;
  fc.assert(
    fc.property(edits, (list) => {
      const { was: then, doc, wanted } = after(list);
      const before = snapshot(doc);
      changed += wanted.length;
      const ids = wanted.map(({ id }) => id);
      const inverse = doc.apply(takeBackPieces(doc, then, ids));
      expect(changedSince(doc, then).filter(toTakeBack)).toEqual([]);
      doc.apply(inverse);
      expect(snapshot(doc)).toEqual(before);
    }),
    runs(120),
  );
  expect(changed).toBeGreaterThan(100);
});

test('after any edits, one piece taken back leaves what lies on other artboards as it is', () => {
  let looked = 0;
  fc.assert(
    fc.property(edits, fc.nat(9), (list, pick) => {
      const { was: then, doc, wanted } = after(list);
      const artboards = wanted.filter(({ kind, state }) => kind === 'artboard' && state === 'changed');
      if (artboards.length === 0) return;
      const { id } = artboards[pick % artboards.length];
      const layersOf = (artboard: Artboard) => layersOn(doc, artboard).flatMap((top) => doc.descendants(top.id));
      // What pokes onto another one is still in a group of this one.
      const own = new Set(layersOf(doc.find('artboard', id) as Artboard));
      const others = doc
        .list('artboard')
        .flatMap(layersOf)
        .filter((layerId) => !own.has(layerId))
        .map((layerId) => doc.get(layerId));
      looked += others.length;
      doc.apply(takeBackPieces(doc, then, [id]));
      for (const record of others) expect(doc.get(record?.id ?? '')).toEqual(record);
    }),
    runs(120),
  );
  expect(looked).toBeGreaterThan(200);
});
