import { type Artboard, artboardRecord, editionRecord, type Layer, layerRecord } from '@tolvik/core';
import fc from 'fast-check';
import { mergeRecord, type Step, takenBack, withoutIdle } from '../src/project/session/merge';

const layer = (fields: object): Layer =>
  layerRecord.parse({ id: 'l', kind: 'layer', parentId: 'root', order: 'a0', tag: 'rect', ...fields });
/** As the database gives records back: fields in another order. */
const shuffled = <T extends object>(record: T): T =>
  Object.fromEntries(
    Object.entries(record)
      .reverse()
      .map(([name, value]) => [
        name,
        value && typeof value === 'object' && !Array.isArray(value) ? shuffled(value) : value,
      ]),
  ) as T;

describe('two people on one record', () => {
  const before = layer({ name: 'kelp', attrs: { fill: '#fff', stroke: '#000' }, hold: { x: 'left' } });

  test('attributes merge one by one', () => {
    const mine = layer({ ...before, attrs: { ...before.attrs, fill: '#0c6a53' } });
    const theirs = layer({ ...before, attrs: { ...before.attrs, stroke: '#d2452a' } });
    expect(mergeRecord(before, mine, shuffled(theirs))).toEqual({
      record: layer({ ...before, attrs: { fill: '#0c6a53', stroke: '#d2452a' } }),
      both: [],
    });
  });

  test('a field that one took out does not come back', () => {
    const { hold: _, ...without } = before;
    expect(mergeRecord(before, without, { ...before, name: 'weed' }).record).toEqual({ ...without, name: 'weed' });
    const mine = { ...before, attrs: { fill: '#fff' } };
    expect(mergeRecord(before, mine, { ...before, name: 'weed' }).record).toMatchObject({
      name: 'weed',
      attrs: { fill: '#fff' },
    });
    expect((mergeRecord(before, mine, { ...before, name: 'weed' }).record as Layer).attrs).not.toHaveProperty('stroke');
  });

  test('differences of an edition merge layer by layer', () => {
    const edition = editionRecord.parse({
      id: 'e',
      kind: 'edition',
      artboardId: 'a',
      order: 'a0',
      name: 'e',
      overrides: { one: { shown: false } },
    });
    const mine = { ...edition, overrides: { ...edition.overrides, two: { shown: false } } };
    const theirs = { ...edition, overrides: { ...edition.overrides, three: { tint: '#fff' } } };
    expect(mergeRecord(edition, mine, theirs).record).toMatchObject({
      overrides: { one: { shown: false }, two: { shown: false }, three: { tint: '#fff' } },
    });
  });
});

describe('taking back', () => {
  const board = (fields: object = {}): Artboard =>
    artboardRecord.parse({
      id: 'a',
      kind: 'artboard',
      order: 'a0',
      name: 'kelp',
      x: 0,
      y: 0,
      width: 9,
      height: 9,
      ...fields,
    });
  const fieldsOf = fc.record({
    name: fc.constantFrom('kelp', 'weed', 'salt'),
    x: fc.nat({ max: 3 }),
    width: fc.integer({ min: 1, max: 4 }),
    background: fc.constantFrom(null, '#fff', '#000'),
  });

  test('with nobody else there it is as it was', () => {
    fc.assert(
      fc.property(fieldsOf, fieldsOf, (one, other) => {
        const [before, after] = [board(one), board(other)];
        const back = takenBack({ id: 'a', before, after }, shuffled(after));
        expect(back === undefined ? after : back).toEqual(before);
      }),
    );
  });

  test('what another changed since is never taken back', () => {
    fc.assert(
      fc.property(fieldsOf, fieldsOf, fieldsOf, (one, mine, theirs) => {
        const [before, after, current] = [board(one), board(mine), board(theirs)];
        const back = (takenBack({ id: 'a', before, after }, current) ?? current) as Artboard;
        for (const field of ['name', 'x', 'width', 'background'] as const)
          expect(back[field]).toEqual(
            current[field] === after[field] && before[field] !== after[field] ? before[field] : current[field],
          );
      }),
    );
  });

  test('what I made goes, unless somebody has worked on it since; what I removed comes back, unless it is there again', () => {
    expect(takenBack({ id: 'a', after: board() }, shuffled(board()))).toBeNull();
    expect(takenBack({ id: 'a', after: board() }, board({ name: 'theirs' }))).toBeUndefined();
    expect(takenBack({ id: 'a', after: board() }, undefined)).toBeUndefined();
    expect(takenBack({ id: 'a', before: board() }, undefined)).toEqual(board());
    expect(takenBack({ id: 'a', before: board() }, board({ name: 'again' }))).toBeUndefined();
    expect(takenBack({ id: 'a', before: board(), after: board({ x: 3 }) }, undefined)).toBeUndefined();
  });

  const step = (id: string, before: Artboard | undefined, after: Artboard | undefined): Step => ({
    id,
    label: id,
    did: [{ id: 'a', before, after }],
  });

  test('a step that came to nothing is no step; those above and below it are', () => {
    const pile = [
      step('made', undefined, board()),
      step('moved', board(), board({ x: 1 })),
      step('refused', board({ x: 1 }), board({ x: 1, width: 3 })),
      step('moved again', board({ x: 1 }), board({ x: 2 })),
    ];
    expect(withoutIdle(pile, () => board({ x: 2 })).map(({ id }) => id)).toEqual(['made', 'moved', 'moved again']);
    // Another has named it since: it stays made.
    expect(withoutIdle(pile, () => board({ x: 2, name: 'theirs' })).map(({ id }) => id)).toEqual([
      'moved',
      'moved again',
    ]);
    expect(withoutIdle(pile, () => undefined)).toEqual([]);
  });

  test('of what I did alone, no step is left out', () => {
    fc.assert(
      fc.property(fc.array(fieldsOf, { minLength: 2, maxLength: 6 }), (states) => {
        const boards = states.map(board).filter((each, i, all) => JSON.stringify(each) !== JSON.stringify(all[i - 1]));
        const pile = boards.map((after, i) => step(`${i}`, boards[i - 1], after));
        expect(withoutIdle(pile, () => shuffled(boards[boards.length - 1]))).toEqual(pile);
      }),
    );
  });
});
