import fc from 'fast-check';
import {
  artboardRecord,
  edit,
  layerRecord,
  orderBetween,
  ordersAfter,
  ProjectDocument,
  type ProjectRecord,
} from '../src';
import { project, snapshot, svg } from './fixtures';

const board = (id: string, fields: Partial<ProjectRecord> = {}) =>
  artboardRecord.parse({ id, kind: 'artboard', order: 'a0', name: id, x: 0, y: 0, width: 24, height: 24, ...fields });

const change = fc.record({
  puts: fc.array(
    fc
      .record({
        id: fc.constantFrom('a', 'b', 'c', 'd', 'e'),
        name: fc.constantFrom('one', 'two', 'three'),
        x: fc.integer({ min: -50, max: 50 }),
      })
      .map(({ id, name, x }) => board(id, { name, x } as Partial<ProjectRecord>)),
    { maxLength: 6 },
  ),
  removes: fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { maxLength: 4 }),
});

describe('edits', () => {
  test('undo after do is nothing, for any row of edits', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 12 }), (changes) => {
        const doc = new ProjectDocument([board('a'), board('b')]);
        const before = snapshot(doc);
        const inverses = changes.map((each) => doc.apply(each));
        for (const inverse of inverses.reverse()) doc.apply(inverse);
        expect(snapshot(doc)).toEqual(before);
      }),
    );
  });

  test('redo after undo is the edit again', () => {
    fc.assert(
      fc.property(change, (each) => {
        const doc = new ProjectDocument([board('a'), board('b')]);
        const undo = doc.apply(each);
        const after = snapshot(doc);
        const redo = doc.apply(undo);
        doc.apply(redo);
        expect(snapshot(doc)).toEqual(after);
      }),
    );
  });

  test('lists and children stay sorted as records come and go', () => {
    const { doc } = project({ a: svg('<g id="g"><path id="p" d="M0 0h1"/><path id="q" d="M0 0h1"/></g>') });
    const group = doc.list('layer').find((layer) => layer.name === 'g');
    if (!group) throw new Error('no group');
    const [p, q] = doc.children(group.id);
    doc.apply({ puts: [{ ...p, order: orderBetween(q.order, null) }], removes: [] });
    expect(doc.children(group.id).map((layer) => layer.name)).toEqual(['q', 'p']);
    doc.apply({ puts: [], removes: [q.id] });
    expect(doc.children(group.id).map((layer) => layer.name)).toEqual(['p']);
    expect(doc.descendants(group.id)).toEqual([group.id, p.id]);
  });

  test('layers count apart from other records', () => {
    const doc = new ProjectDocument([
      layerRecord.parse({ id: 'l', kind: 'layer', parentId: 'root', order: 'a0', tag: 'g' }),
    ]);
    const { layerRevision } = doc;
    doc.apply({ puts: [board('a')], removes: [] });
    expect(doc.layerRevision).toBe(layerRevision);
  });
});

describe('what an edit may hold', () => {
  const valid = { id: 'e1', baseVersion: 0, puts: [board('a')], removes: [] };
  test('a valid one', () => expect(edit.safeParse(valid).success).toBe(true));
  test.each([
    ['an artboard of no width', { ...board('a'), width: 0 }],
    ['an artboard of negative height', { ...board('a'), height: -4 }],
    ['NaN', { ...board('a'), x: Number.NaN }],
    ['an artboard beyond a million', { ...board('a'), x: 1_000_001 }],
    ['an empty name', { ...board('a'), name: '  ' }],
    ['a name of 301 characters', { ...board('a'), name: 'x'.repeat(301) }],
    ['a colour that is none', { ...board('a'), background: 'tomato soup' }],
    ['an id that is a path', { ...board('a'), id: '../a' }],
    ['a kind there is not', { ...board('a'), kind: 'poster' }],
  ])('not %s', (_, record) => expect(edit.safeParse({ ...valid, puts: [record] }).success).toBe(false));
});

test('order keys between any two neighbours sort between them', () => {
  fc.assert(
    fc.property(fc.array(fc.nat(), { minLength: 1, maxLength: 60 }), (places) => {
      const keys = ordersAfter(null, 2);
      for (const place of places) {
        const at = place % (keys.length + 1);
        keys.splice(at, 0, orderBetween(keys[at - 1] ?? null, keys[at] ?? null));
      }
      expect([...keys].sort()).toEqual(keys);
      expect(new Set(keys).size).toBe(keys.length);
    }),
  );
});
