import fc from 'fast-check';
import * as z from 'zod';
import {
  ACTS,
  type Artboard,
  actNamed,
  acts,
  anyRecord,
  jobsOfRequest,
  lacking,
  perform,
  performRequest,
  Refusal,
  ROOT,
  sliceRecord,
  smallestOf,
  withOutlinesOf,
} from '../src';
import { layerNamed, project, refusalOf, snapshot, svg } from './fixtures';
import { harbour, namedIn, SETTINGS } from './harbour';
import { runs } from './properties';

test('an outline of what was changed meanwhile is not taken for that of what is there', () => {
  const doc = project({ bow: svg('<path id="bow" d="M4 9h16" stroke="#12343b"/>') }).doc;
  const bow = layerNamed(doc, 'bow');
  const [job] = jobsOfRequest(doc, 'strokes-to-outlines', { ids: [bow.id] });
  const outlines = {
    [job.key]: '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M4 8h16v2h-16z"/></svg>',
  };
  const act = () => performRequest(doc, 'strokes-to-outlines', withOutlinesOf({ ids: [bow.id] }, outlines));
  expect(act().puts[0]).toMatchObject({ tag: 'path', attrs: { d: 'M4 8h16v2h-16z', fill: '#12343b' } });
  doc.apply({ puts: [{ ...bow, attrs: { ...bow.attrs, 'stroke-width': '3' } }], removes: [] });
  expect(refusalOf(act)).toMatchObject({ code: 'act.outlines' });
});

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
