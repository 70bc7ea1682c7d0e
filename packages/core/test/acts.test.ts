import fc from 'fast-check';
import { z } from 'zod';
import {
  ACTS,
  type Artboard,
  acceptanceRecord,
  actNamed,
  acts,
  anyRecord,
  editionRecord,
  lacking,
  lockupRule,
  type ProjectDocument,
  perform,
  performRequest,
  Refusal,
  ROOT,
  sliceRecord,
  smallestOf,
} from '../src';
import { layerNamed, project, refusalOf, snapshot, svg } from './fixtures';
import { runs } from './properties';

const BOAT =
  '<g id="vessel"><rect id="hull" x="4" y="14" width="16" height="4" fill="#12343b"/><path id="sail" d="M12 3v9h8z" fill="#0c6a53"/></g><rect id="flag" x="9.3" y="2" width="2" height="2" fill="#0c6a53"/>';

/** Artboards, artwork, slices of all kinds, a variant and an edition. */
function harbour(): ProjectDocument {
  const { doc, artboard } = project({
    anchor: svg('<rect id="stock" x="6.25" y="5" width="9" height="3"/>'),
    boat: svg(BOAT),
    crate: svg(
      '<g id="top"><rect id="lid" x="4" y="4" width="16" height="2"/></g><g id="side"><path d="M4 9h16v9z"/></g>',
    ),
  });
  const board = artboard('boat');
  doc.apply({
    puts: [
      {
        ...artboard('crate'),
        id: 'white',
        order: 'b00',
        name: 'white',
        y: 300.4,
        follows: { artboardId: artboard('anchor').id, rule: { kind: 'white' } },
      },
      editionRecord.parse({
        id: 'night',
        kind: 'edition',
        artboardId: board.id,
        order: 'a0',
        name: 'night',
        overrides: { gone: { shown: false, was: 'Swell' }, [layerNamed(doc, 'hull').id]: { offset: { x: 1, y: 2 } } },
      }),
      editionRecord.parse({ id: 'day', kind: 'edition', artboardId: board.id, order: 'a1', name: 'day' }),
      {
        ...artboard('crate'),
        id: 'signet',
        order: 'b01',
        name: 'signet',
        y: 400,
        follows: {
          artboardId: artboard('anchor').id,
          rule: { kind: 'asDrawn' },
          lockup: lockupRule.parse({ arrangement: 'wide', wordmarkId: board.id }),
        },
      },
      acceptanceRecord.parse({
        id: 'fine',
        kind: 'acceptance',
        check: 'off-grid',
        pieceId: '',
        message: 'was off',
        reason: 'it has to be',
      }),
    ],
    removes: [],
  });
  doc.apply(performRequest(doc, 'write-text', { settings: { words: 'Wash', x: board.x + 4, y: board.y + 9 } }));
  doc.apply(performRequest(doc, 'slice-layers', { layers: ['hull'] }));
  doc.apply(performRequest(doc, 'draw-piece', { settings: { what: 'slice', x: 1.5, y: 2, width: 9, height: 9 } }));
  return doc;
}

/** Settings that each act takes; what is not here takes none. */
const SETTINGS: Record<string, Record<string, unknown>[]> = {
  move: [{ dx: 3 }, { dx: -2, dy: 1 }],
  align: [{ edge: 'left' }, { edge: 'middle', to: 'artboard' }, { edge: 'top', to: 'grid' }],
  distribute: [{ axis: 'across' }, { axis: 'down' }],
  mirror: [{ across: 'horizontally' }],
  turn: [{ degrees: 30 }, { degrees: 90, around: 'se' }],
  resize: [{ widthPx: 30 }, { heightPx: 8, strokes: 'kept' }],
  delete: [{ followers: 'keep' }, { followers: 'delete' }, {}],
  reorder: [{ to: 'front' }, { to: 'backward' }],
  show: [{ shown: false }],
  'change-colour': [
    { from: '#0c6a53', to: '#d2452f' },
    { from: '#0c6a53', to: '#d2452f', within: 'selection' },
  ],
  'draw-piece': [{ what: 'artboard', x: 500, y: 0, width: 24, height: 24 }],
  'artboards-around': [{ marginPx: 2, square: true }],
  'artboards-for-groups': [{}, { square: true, equal: true, sheet: 'off' }, { rows: false, sheet: 'stays' }],
  'slice-everything': [{}, { name: 'sheet', to: 'artboards' }],
  'trim-to-artwork': [{ marginPx: 1 }],
  'bring-to-size': [{ longestPx: 60 }, { longestPx: 7.5 }],
  'set-rect': [{ width: 60 }, { x: 9.5 }],
  number: [{ by: 'name' }, { by: 'place' }],
  rename: [
    { rule: { kind: 'template', template: '{name}-{number}' } },
    { rule: { kind: 'replace', find: 'a', replaceBy: '' } },
  ],
  rows: [{ columns: 2 }],
  tiles: [
    { columns: 2, rows: 3 },
    { tileWidthPx: 10, tileHeightPx: 10, keepWhole: false },
  ],
  'editions-from-table': [
    {
      table: [
        ['edition', 'hull'],
        ['day', '#fff'],
        ['night', ''],
      ],
    },
    { table: [['edition'], ['x']], takeOutMissing: true },
  ],
  'switch-pieces': [{ on: false }],
  'set-piece-rules': [
    { rules: [{ id: 'r1', match: { kind: 'groups' }, margin: 2 }] },
    { rules: [{ id: 'r2', match: { kind: 'named', like: '*' } }] },
    { rules: [] },
  ],
  'outputs-in-words': [
    { words: 'png 16 32, svg' },
    { words: '1-2: svg; 3: none; pdf' },
    { words: 'pdf', instead: true },
    { words: 'nothing' },
  ],
  'set-paint': [
    { paint: { fill: '#d2452f' } },
    { paint: { 'stroke-width': '2' }, opacity: 0.5 },
    { paint: { fill: 'url(//x)' } },
  ],
  'set-words': [{ words: 'Ebb' }, { words: 'Flood\nand ebb' }],
  'set-text': [{ family: 'Spline Sans Mono' }, { sizePx: 9 }, { weight: '700', anchor: 'middle' }],
  'mark-layers': [{ locked: true }, { benchOnly: true }],
  'rename-layer': [{ name: 'keel' }, { name: '' }],
  'hold-to': [{ x: 'left' }, { y: null }, { x: null, y: 'both' }],
  'round-corners': [{ radius: 2 }, { radius: 0 }],
  'draw-shape': [
    { shape: 'line', x: 0, y: 0, width: 9, height: 0 },
    { shape: 'polygon', x: 1, y: 1, width: 9, height: 9, corners: 3, fill: '#d2452f' },
    { shape: 'ellipse', x: 0, y: 0, width: 0, height: 4 },
  ],
  'write-text': [{ words: 'Ebb', x: 4, y: 9 }],
  'move-in-tree': [{ into: 'root', inFrontOf: null }],
  transform: [{ matrix: [2, 0, 0, 2, 0, 0], verb: 'resize' }, { matrix: [0, 1, -1, 0, 4, 4] }],
  'set-difference': [{ tint: '#d2452f' }, { tint: null }, { opacity: 0.5 }],
  'rename-piece': [{ name: 'keel' }],
  'set-background': [{ background: '#d2452f' }, { background: null }],
  'set-slice': [{ margin: 2 }, { square: true, wholePx: true }, { shape: { kind: 'ellipse' } }],
  'take-back-difference': [
    { editionId: 'night', layerId: 'gone', field: 'shown' },
    { editionId: 'night', layerId: 'hull' },
  ],
  'set-rule': [{ rule: { kind: 'black' } }, { rule: { kind: 'tint', colour: '#d2452f' } }],
  'set-lockup': [{ gap: 1 }, { arrangement: 'stacked', align: 'start' }],
  'make-variants': [
    { variants: ['reversed', 'mono-dark'] },
    { variants: ['grey'], naming: '{variant}', choices: { grey: { ground: '#ffffff' } } },
  ],
  'make-lockups': [{ arrangements: ['wide'] }, { arrangements: ['stacked', 'emblem'], colourings: ['grey'], gap: 1 }],
  'set-smallest': [{ px: 24, mm: 8 }, { mm: 5 }, { px: null, mm: null }],
  'set-colour': [
    { colour: '#0c6a53', name: 'kelp', cmyk: [88, 20, 70, 22] },
    { colour: '#0C6A53', spot: 'Kelp 12' },
    { colour: '#0c6a53', name: null },
  ],
  'set-project': [{ naming: '{number}-{piece}' }, { gridPx: 8 }, { defaultSpecId: null }],
  'move-in-order': [{ by: 1 }, { by: -1 }],
  'accept-findings': [{ findings: [{ check: 'off-grid', pieceId: 'night', message: 'is off' }] }],
  'look-again': [{ findings: [{ check: 'off-grid', pieceId: '', message: 'was off' }] }],
  'add-spec': [{ ready: 'web' }, { empty: true }],
  'add-output': [{}, { size: { kind: 'width', widthPx: 64 }, suffix: '-64', settings: { format: 'png' } }],
};

/** Settings that name records of the project. */
function namedIn(doc: ProjectDocument): Record<string, Record<string, unknown>[]> {
  const [one, ...others] = doc.list('output').map(({ id }) => id);
  const [{ id: specId }] = doc.list('spec');
  const [hull, flag, vessel] = ['hull', 'flag', 'vessel'].map((layer) => layerNamed(doc, layer).id);
  return {
    'attach-differences': [{ from: 'gone', to: flag }],
    'combine-editions': [{ groups: [vessel] }],
    'push-difference': [{ editionId: 'night', layerId: hull }],
    'give-difference': [
      { editionId: 'night', layerId: hull },
      { editionId: 'night', layerId: hull, field: 'offset', to: ['day'] },
    ],
    follow: doc.list('artboard').map(({ id }) => ({ sourceId: id })),
    'vary-output': [{ outputId: one, sizes: [{ kind: 'width', widthPx: 9 }], formats: ['pdf'] }],
    'duplicate-output': [{ outputId: one }, { outputId: one, suffix: '-x' }],
    'shift-output': [
      { outputId: one, to: 'right' },
      { outputId: one, to: 'left' },
    ],
    'remove-output': [{ outputId: one }],
    'set-output': [
      { outputId: one, suffix: '-x' },
      { outputId: one, on: false },
    ],
    'switch-files': [
      { on: false, outputIds: [one] },
      { on: true, outputIds: [one, ...others], alone: true },
    ],
    'follow-spec': [
      { specId, on: false },
      { specId, on: true },
    ],
    'remove-spec': [{ specId }],
    'set-spec': [
      { specId, name: 'web' },
      { specId, drawnAtScale: 2 },
    ],
  };
}

describe('every act', () => {
  test('would it make a record that no project may hold, it says so and makes nothing', () => {
    const doc = harbour();
    const [board] = doc.list('artboard');
    doc.apply({ puts: [{ ...board, name: 'n'.repeat(200) }], removes: [] });
    const settings = { columns: 2, rows: 2, naming: '{name}{name}' };
    expect(refusalOf(() => performRequest(doc, 'tiles', { ids: [board.id], settings })).where).toBe('name');
  });

  test('has a name for addresses, a title, a group, words for nothing, and settings that JSON can say', () => {
    expect(new Set(ACTS.map(({ name }) => name)).size).toBe(ACTS.length);
    for (const { name, title, nothing, settings } of ACTS) {
      expect(name).toMatch(/^[a-z]+(-[a-z]+)*$/);
      expect(title).toMatch(/^[A-Z].*[a-z]$/);
      expect(nothing).toMatch(/^[A-Z].*[a-z]$/);
      expect(() => z.toJSONSchema(settings, { io: 'input' })).not.toThrow();
    }
  });

  test.each(ACTS.map(({ name }) => name))(
    '%s: whatever is selected, it is a change that can be undone, or a reason',
    (name) => {
      const doc = harbour();
      const ids = [...doc.all()]
        .filter((record) => ['layer', 'artboard', 'slice', 'edition'].includes(record.kind))
        .filter(({ kind }) => kind === 'artboard' || actNamed(name).needs !== 'severalArtboards')
        .map(({ id }) => id);
      const before = snapshot(doc);
      const settings = SETTINGS[name] ?? namedIn(doc)[name] ?? [{}];
      let done = 0;
      fc.assert(
        fc.property(
          fc.subarray(ids, { maxLength: 5 }),
          fc.constantFrom(...settings),
          fc.boolean(),
          fc.constantFrom(undefined, 'night'),
          fc.constantFrom<'edition' | 'base'>('edition', 'base'),
          (chosen, said, carry, editionId, changes) => {
            try {
              const { label, puts, removes, selected } = performRequest(doc, name, {
                ids: chosen,
                settings: said,
                carry,
                editionId,
                changes,
              });
              expect(label).not.toBe('');
              expect(puts.length + removes.length).toBeGreaterThan(0);
              for (const record of puts) expect(anyRecord.safeParse(record).error?.issues).toBeUndefined();
              expect(new Set(puts.map(({ id }) => id)).size).toBe(puts.length);
              const inverse = doc.apply({ puts, removes });
              for (const id of selected ?? []) expect(doc.get(id)).toBeDefined();
              doc.apply(inverse);
              done++;
            } catch (error) {
              if (!(error instanceof Refusal)) throw error;
              expect(error.message).toMatch(/[a-z0-9)"]$/);
            }
            expect(snapshot(doc)).toEqual(before);
          },
        ),
        runs(60),
      );
      expect(done).toBeGreaterThan(0);
    },
  );
});

test('an act that there is not, settings that are none, records that are gone: each says so', () => {
  const doc = harbour();
  expect(refusalOf(() => actNamed('melt'))).toMatchObject({
    code: 'act.unknown',
    accepted: expect.stringContaining('trim-to-artwork'),
  });
  expect(refusalOf(() => performRequest(doc, 'align', { pieces: '1', settings: { edge: 'sideways' } })).where).toBe(
    'edge',
  );
  expect(refusalOf(() => performRequest(doc, 'align', { ids: ['nobody'], settings: { edge: 'left' } })).code).toBe(
    'act.gone',
  );
  expect(refusalOf(() => performRequest(doc, 'group', { pieces: '1' }))).toMatchObject({
    code: 'act.selection',
    message: 'no layer is selected',
  });
  expect(lacking(acts.sliceArtboards, doc, new Set())).toBe('Two artboards or more have to be selected');
});

test('slices of a region are aligned and moved with the rest; what follows a layer says why it stays', () => {
  const doc = harbour();
  const [ofLayer, drawn] = doc.list('slice');
  const { puts } = performRequest(doc, 'align', {
    ids: [drawn.id, doc.list('artboard')[0].id],
    settings: { edge: 'left' },
  });
  expect(puts.some(({ id }) => id === drawn.id)).toBe(true);
  expect(
    refusalOf(() => performRequest(doc, 'align', { ids: [ofLayer.id], settings: { edge: 'left' } })).message,
  ).toContain('follows what it was cut from');
});

test('moving in an edition and in the base is one act: only where the change goes differs', () => {
  const hull = layerNamed(harbour(), 'hull');
  const moved = (changes: 'edition' | 'base') => {
    const doc = harbour();
    doc.apply(performRequest(doc, 'move', { layers: ['hull'], editionId: 'night', changes, settings: { dx: 4 } }));
    return {
      edition: doc.find('edition', 'night')?.overrides,
      base: layerNamed(doc, 'hull').attrs.x ?? layerNamed(doc, 'hull').transform,
      id: layerNamed(doc, 'hull').id,
    };
  };
  const inEdition = moved('edition');
  expect(inEdition.edition?.[inEdition.id]).toEqual({ offset: { x: 5, y: 2 } });
  const inBase = moved('base');
  expect(inBase.edition?.[inBase.id]).toEqual({ offset: { x: 1, y: 2 } });
  expect(hull.name).toBe('hull');
});

test('deleting what others follow is held up until it is said what becomes of them', () => {
  const doc = harbour();
  const anchor = doc.list('artboard').find(({ name }) => name === 'anchor');
  const ids = [anchor?.id ?? ''];
  expect(refusalOf(() => performRequest(doc, 'delete', { ids })).message).toBe(
    'white, signet would have nothing to follow',
  );
  const kept = performRequest(doc, 'delete', { ids, settings: { followers: 'keep' } });
  expect(kept.puts.find(({ id }) => id === 'white')).not.toHaveProperty('follows');
  expect(performRequest(doc, 'delete', { ids, settings: { followers: 'delete' } }).removes).toContain('white');
});

test('sizes of followers come with an act, whoever does it', () => {
  const doc = harbour();
  const anchor = doc.list('artboard').find(({ name }) => name === 'anchor');
  const white = doc.find('artboard', 'white');
  doc.apply({ puts: [{ ...(white as NonNullable<typeof white>), width: 24, height: 24 }], removes: [] });
  const { puts } = perform(
    doc,
    acts.setRect,
    { selection: new Set([anchor?.id ?? '']), shown: null, changes: 'base', carry: true },
    { width: 50 },
  );
  expect(puts.find(({ id }) => id === 'white')).toMatchObject({ width: 50, height: 24 });
});

test('one number of a slice with a margin leaves its others as they are', () => {
  const doc = harbour();
  const source = { kind: 'region', x: 10, y: 20, width: 30, height: 40 };
  doc.apply({
    puts: [sliceRecord.parse({ id: 'cut', kind: 'slice', order: 'a9', name: 'cut', source, margin: 5 })],
    removes: [],
  });
  doc.apply(performRequest(doc, 'set-rect', { ids: ['cut'], settings: { x: 11 } }));
  expect(doc.find('slice', 'cut')).toMatchObject({ source: { ...source, x: 11 }, margin: 5 });
});

test('a layer renamed by hand, wherever that is done, is still known by what its drawing calls it', () => {
  const doc = harbour();
  const { id } = layerNamed(doc, 'sail');
  doc.apply(performRequest(doc, 'rename-layer', { ids: [id], settings: { name: ' jib ' } }));
  expect(doc.find('layer', id)).toMatchObject({ name: 'jib', drawnName: 'sail' });
  doc.apply(performRequest(doc, 'rename-layer', { ids: [id], settings: { name: 'sail' } }));
  expect(doc.find('layer', id)?.drawnName).toBeUndefined();
});

test('several artboards stop following one after the other: what each shows lies in front of the one before', () => {
  const doc = harbour();
  const change = performRequest(doc, 'stop-following', { ids: ['white', 'signet'] });
  doc.apply(change);
  expect(doc.list('artboard').filter(({ follows }) => follows)).toEqual([]);
  const orders = change.puts.flatMap((record) =>
    record.kind === 'layer' && record.parentId === ROOT ? [record.order] : [],
  );
  expect(orders.length).toBeGreaterThan(1);
  expect(new Set(orders).size).toBe(orders.length);
});

test('one more edition is like the one that is selected, or like the last of its artboard', () => {
  const doc = harbour();
  const [board] = doc.list('edition').map(({ artboardId }) => artboardId);
  const made = (ids: string[]) => performRequest(doc, 'new-edition', { ids }).puts[0];
  expect(made(['night'])).toMatchObject({
    name: 'night-copy',
    artboardId: board,
    overrides: { gone: { shown: false } },
  });
  expect(made([board])).toMatchObject({ name: 'day-copy', overrides: {} });
  const other = doc.list('artboard').find(({ name }) => name === 'crate')?.id as string;
  expect(made([other])).toMatchObject({ name: 'crate-edition', artboardId: other, overrides: {} });
});

test('variants and lockups are made of several at once, each by what is known of its own colours', () => {
  const doc = harbour();
  const ids = doc.list('artboard').flatMap(({ id, follows }) => (follows ? [] : [id]));
  const { puts, selected } = performRequest(doc, 'make-variants', {
    ids,
    settings: { variants: ['reversed', 'mono-dark'] },
  });
  expect(puts).toHaveLength(2 * ids.length);
  expect(selected).toEqual(puts.map(({ id }) => id));
  doc.apply({ puts, removes: [] });
  const boards = doc.list('artboard').map(({ x, y, width, height }) => ({ x, y, width, height }));
  for (const [i, one] of boards.entries())
    for (const other of boards.slice(i + 1))
      expect(
        one.x < other.x + other.width &&
          other.x < one.x + one.width &&
          one.y < other.y + other.height &&
          other.y < one.y + one.height,
      ).toBe(false);
  expect(
    refusalOf(() => performRequest(doc, 'make-lockups', { ids, settings: { arrangements: ['wide'] } })),
  ).toMatchObject({
    code: 'lockup.two',
    message: '3 artboards are selected',
  });
});

test('a smallest width said of a mark is that of what follows it, also when it is said anew', () => {
  const doc = harbour();
  const anchor = doc.list('artboard').find(({ name }) => name === 'anchor') as Artboard;
  const boat = doc.list('artboard').find(({ name }) => name === 'boat') as Artboard;
  const say = (id: string, settings: object) =>
    doc.apply(performRequest(doc, 'set-smallest', { ids: [id], settings: { ...settings } }));
  const has = (id: string) => smallestOf(doc, doc.find('artboard', id) as Artboard);
  say(anchor.id, { px: 24, mm: 8 });
  const made = (name: string, ids: string[], settings: Record<string, unknown>) => {
    const { puts } = performRequest(doc, name, { ids, settings });
    doc.apply({ puts, removes: [] });
    return puts.map(({ id }) => id);
  };
  const [variant] = made('make-variants', [anchor.id], { variants: ['grey'] });
  // A lockup is wider than its emblem: it has no width until one is said of it.
  const [lockup, grey] = made('make-lockups', [anchor.id, boat.id], { arrangements: ['wide'], colourings: ['grey'] });
  expect([has(variant), has('white'), has(lockup), has(grey)]).toEqual([
    { px: 24, mm: 8 },
    { px: 24, mm: 8 },
    undefined,
    undefined,
  ]);
  say(anchor.id, { px: 32 });
  say(lockup, { px: 96 });
  expect([has(variant), has(grey)]).toEqual([{ px: 32, mm: 8 }, { px: 96 }]);
  // Said of a follower itself, the rest stays as it was seen.
  say(variant, { px: 16 });
  expect(has(variant)).toEqual({ px: 16, mm: 8 });
  expect(
    refusalOf(() =>
      performRequest(doc, 'make-lockups', {
        ids: [anchor.id, boat.id],
        settings: { arrangements: ['wide'], emblemId: 'crate' },
      }),
    ).code,
  ).toBe('lockup.emblem');
});
