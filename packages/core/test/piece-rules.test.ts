import fc from 'fast-check';
import {
  type Artboard,
  byPieceRules,
  editionRecord,
  newId,
  type PieceRule,
  ProjectDocument,
  performRequest,
  type Region,
  type Slice,
  sliceRegion,
} from '../src';
import { layerNamed, project, svg } from './fixtures';
import { runs } from './properties';

const SHEET = svg(
  '<g id="sheet"><g id="icon-anchor"><rect width="9" height="9"/></g><g id="icon-boat"><rect x="12" width="9" height="9"/></g><g id="notes"><rect y="12" width="9" height="9"/></g></g>',
);
const groups = (fields: Partial<PieceRule> = {}): PieceRule => ({
  id: newId(),
  match: { kind: 'groups' },
  margin: 0,
  specIds: [],
  ...fields,
});
const named = (like: string, fields: Partial<PieceRule> = {}) => groups({ match: { kind: 'named', like }, ...fields });

/** A sheet of three groups with some rules, carried out. */
function sheet(...rules: PieceRule[]) {
  const { doc } = project({ sheet: SHEET });
  const apply = (next: PieceRule[]) =>
    doc.apply(performRequest(doc, 'set-piece-rules', { ids: [], settings: { rules: next } }));
  if (rules.length > 0) apply(rules);
  return { doc, apply };
}
const slices = (doc: ProjectDocument) => doc.list('slice');
const names = (doc: ProjectDocument) => slices(doc).map(({ name }) => name);

test('every group of a drawing becomes a piece that follows it, named like it', () => {
  const { doc } = sheet(groups({ margin: 2 }));
  expect(names(doc)).toEqual(['icon-anchor', 'icon-boat', 'notes']);
  expect(slices(doc)[0]).toMatchObject({
    margin: 2,
    source: { kind: 'layer', layerId: layerNamed(doc, 'icon-anchor').id },
  });
});

test('names drive it: what has a name like the pattern, in any letters, the outer of two', () => {
  expect(names(sheet(named('ICON-*')).doc)).toEqual(['icon-anchor', 'icon-boat']);
  expect(names(sheet(named('*')).doc)).toEqual(['sheet']);
  expect(names(sheet(named('icon-?')).doc)).toEqual([]);
});

test('the first rule that means a layer has it', () => {
  const { doc } = sheet(named('icon-boat', { margin: 7 }), groups());
  expect(slices(doc).map(({ name, margin }) => [name, margin])).toEqual([
    ['icon-boat', 7],
    ['icon-anchor', 0],
    ['notes', 0],
  ]);
});

test('specs that are gone are left out', () => {
  const { doc, apply } = sheet();
  const [spec] = doc.list('spec');
  apply([groups({ specIds: [spec.id, newId()] })]);
  expect(slices(doc).map(({ specIds }) => specIds)).toEqual([[spec.id], [spec.id], [spec.id]]);
});

test('carried out again nothing changes', () => {
  const { doc } = sheet(groups());
  expect(byPieceRules(doc)).toEqual({ puts: [], removes: [] });
});

test('a piece by rule follows its layer’s name and its rule, and goes with either', () => {
  const rule = groups();
  const { doc, apply } = sheet(rule);
  const before = slices(doc).map(({ id }) => id);
  doc.apply({ puts: [{ ...layerNamed(doc, 'icon-boat'), name: 'icon-ferry' }], removes: [] });
  doc.apply(byPieceRules(doc));
  expect(names(doc)).toEqual(['icon-anchor', 'icon-ferry', 'notes']);
  apply([{ ...rule, margin: 5 }]);
  expect(slices(doc).map(({ id, margin }) => [id, margin])).toEqual(before.map((id) => [id, 5]));
  const gone = layerNamed(doc, 'notes');
  doc.apply({ puts: [], removes: [gone.id, ...doc.children(gone.id).map(({ id }) => id)] });
  doc.apply(byPieceRules(doc));
  expect(names(doc)).toEqual(['icon-anchor', 'icon-ferry']);
  apply([]);
  expect(names(doc)).toEqual([]);
});

test('what a hand changed, and what a hand made, stays as it is', () => {
  const rule = groups();
  const { doc, apply } = sheet(rule);
  const [anchor, boat] = slices(doc);
  doc.apply({
    puts: [
      { ...anchor, name: 'hook' },
      { ...boat, on: false },
    ],
    removes: [],
  });
  apply([{ ...rule, margin: 3 }]);
  expect(slices(doc).map(({ name, on, margin }) => [name, on, margin])).toEqual([
    ['hook', true, 0],
    ['icon-boat', false, 0],
    ['notes', true, 3],
  ]);
  apply([]);
  expect(names(doc)).toEqual(['hook', 'icon-boat']);
  const { doc: other } = sheet();
  const own = { ...slices(sheet(groups()).doc)[0], id: newId(), byRule: undefined, name: 'mine' } as Slice;
  other.apply({
    puts: [{ ...own, source: { kind: 'layer', layerId: layerNamed(other, 'notes').id } }],
    removes: [],
  });
  other.apply(performRequest(other, 'set-piece-rules', { ids: [], settings: { rules: [groups()] } }));
  expect(names(other).sort()).toEqual(['icon-anchor', 'icon-boat', 'mine']);
});

test('a slice by rule can be square and on whole px, at whatever place its layer is', () => {
  const { doc } = sheet(groups({ margin: 1, square: true, wholePx: true }));
  const anchor = layerNamed(doc, 'icon-anchor');
  doc.apply({ puts: [{ ...anchor, transform: [1, 0, 0, 2, 0.4, 0.3] }], removes: [] });
  const [slice] = slices(doc);
  const { x, y, width, height } = sliceRegion(doc, slice) as Region;
  expect([width, height]).toEqual([21, 21]);
  expect([x, y].every(Number.isInteger)).toBe(true);
  // Nine wide and eighteen high, with its margin, lies within.
  expect(x).toBeLessThanOrEqual(-0.6);
  expect(y).toBeLessThanOrEqual(-0.7);
});

test('a square slice that is on no grid has its layer in the very middle', () => {
  const { doc } = sheet(groups({ square: true }));
  doc.apply({ puts: [{ ...layerNamed(doc, 'icon-anchor'), transform: [1, 0, 0, 2, 1, 0] }], removes: [] });
  expect(sliceRegion(doc, slices(doc)[0])).toEqual({ x: -3.5, y: 0, width: 18, height: 18 });
});

test('a rule makes artboards that are led again to where their layers are, each time that it is carried out', () => {
  const rule = groups({ becomes: 'artboard', margin: 2 });
  const { doc } = sheet(rule);
  const [whole, ...made] = doc.list('artboard');
  expect(whole.byRule).toBeUndefined();
  expect(made.map(({ name, x, y, width, height }) => [name, x, y, width, height])).toEqual([
    ['icon-anchor', -2, -2, 13, 13],
    ['icon-boat', 10, -2, 13, 13],
    ['notes', -2, 10, 13, 13],
  ]);
  const [, boat, notes] = made;
  doc.apply({
    puts: [
      { ...layerNamed(doc, 'icon-anchor'), transform: [1, 0, 0, 1, 0.5, 3] },
      // What a hand gave a ground to is its own.
      { ...notes, background: '#ffffff' },
      { ...layerNamed(doc, 'notes'), transform: [1, 0, 0, 1, 50, 50] },
    ],
    removes: [],
  });
  doc.apply(byPieceRules(doc));
  const at = (id: string) => doc.find('artboard', id);
  expect(at(made[0].id)).toMatchObject({ x: -2, y: 1, width: 14, height: 13 });
  expect(at(boat.id)).toEqual(boat);
  expect(at(notes.id)).toMatchObject({ x: -2, y: 10 });
  const gone = layerNamed(doc, 'icon-boat');
  doc.apply({ puts: [], removes: [gone.id, ...doc.descendants(gone.id)] });
  doc.apply(byPieceRules(doc));
  expect(at(boat.id)).toBeUndefined();
});

test('an artboard by rule on which an edition or a variant hangs is not taken away by its rule', () => {
  const { doc, apply } = sheet(groups({ becomes: 'artboard' }));
  const [, anchor, boat] = doc.list('artboard');
  const edition = editionRecord.parse({
    id: newId(),
    kind: 'edition',
    order: 'a0',
    name: 'winter',
    artboardId: anchor.id,
  });
  const { byRule: _, ...rest } = boat;
  const variant = { ...rest, id: newId(), name: 'white', follows: { artboardId: boat.id, rule: { kind: 'white' } } };
  doc.apply({ puts: [edition, variant as Artboard], removes: [] });
  apply([]);
  expect(
    doc
      .list('artboard')
      .map(({ name }) => name)
      .sort(),
  ).toEqual(['icon-anchor', 'icon-boat', 'sheet', 'white']);
});

test('what was sliced becomes an artboard when the rule says so, and a slice again', () => {
  const rule = groups();
  const { doc, apply } = sheet(rule);
  apply([{ ...rule, becomes: 'artboard' }]);
  expect([slices(doc).length, doc.list('artboard').length]).toEqual([0, 4]);
  apply([rule]);
  expect([slices(doc).length, doc.list('artboard').length]).toEqual([3, 1]);
});

test('a copy of what a rule made, and what was cut loose of its layer, is a hand’s', () => {
  const { doc, apply } = sheet(groups({ becomes: 'artboard' }));
  const [, anchor] = doc.list('artboard');
  doc.apply(performRequest(doc, 'duplicate', { ids: [anchor.id], settings: {} }));
  const copy = doc.list('artboard').find(({ name }) => name === 'icon-anchor 2');
  expect(copy).toBeDefined();
  expect(copy?.byRule).toBeUndefined();
  apply([groups({ margin: 2 })]);
  const [first] = slices(doc);
  doc.apply(performRequest(doc, 'set-rect', { ids: [first.id], settings: { x: 1 } }));
  const loose = doc.find('slice', first.id);
  expect(loose).toMatchObject({ source: { kind: 'region', x: 1, y: -2, width: 13, height: 13 }, margin: 0 });
  apply([]);
  expect(slices(doc).map(({ id }) => id)).toEqual([first.id]);
});

test('in any project, after any changes, rules carried out twice are carried out once', () => {
  const pattern = fc.constantFrom('*', 'icon-*', '*a*', 'notes', '?ote?', 'x');
  const rule = fc.oneof(
    fc
      .record({
        margin: fc.integer({ min: 0, max: 9 }),
        becomes: fc.constantFrom('slice' as const, 'artboard' as const),
        square: fc.boolean(),
        wholePx: fc.boolean(),
      })
      .map((fields) => groups(fields)),
    fc
      .tuple(pattern, fc.constantFrom('slice' as const, 'artboard' as const))
      .map(([like, becomes]) => named(like, { becomes })),
  );
  fc.assert(
    fc.property(
      fc.array(fc.array(rule, { maxLength: 3 }), { minLength: 1, maxLength: 4 }),
      fc.nat(2),
      (history, renamed) => {
        const { doc } = sheet();
        for (const rules of history) {
          const scratch = new ProjectDocument(doc.all());
          scratch.apply({ puts: [{ ...doc.settings, pieceRules: rules }], removes: [] });
          const change = byPieceRules(scratch);
          doc.apply({ puts: [{ ...doc.settings, pieceRules: rules }, ...change.puts], removes: change.removes });
          expect(byPieceRules(doc)).toEqual({ puts: [], removes: [] });
          const layer = layerNamed(doc, 'icon-anchor') && doc.list('layer').filter(({ tag }) => tag === 'g')[renamed];
          doc.apply({ puts: [{ ...layer, name: layer.name }], removes: [] });
        }
        // What rules made and nobody changed goes with them.
        doc.apply({ puts: [{ ...doc.settings, pieceRules: [] }], removes: [] });
        doc.apply(byPieceRules(doc));
        expect([slices(doc).length, doc.list('artboard').length]).toEqual([0, 1]);
      },
    ),
    runs(60),
  );
});
