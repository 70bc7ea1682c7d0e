import fc from 'fast-check';
import { count, few, referencesIn, referred, same, withReferences, withRenamedReferences } from '../src';
import { runs } from './properties';

describe('whether two values say the same', () => {
  const value = fc.jsonValue({ maxDepth: 3 });

  test('as their JSON in one order of fields does', () => {
    const ordered = (each: unknown): unknown =>
      Array.isArray(each)
        ? each.map(ordered)
        : each && typeof each === 'object'
          ? Object.fromEntries(
              Object.entries(each)
                .sort(([a], [b]) => (a < b ? -1 : 1))
                .map(([name, inner]) => [name, ordered(inner)]),
            )
          : Object.is(each, -0)
            ? '-0'
            : each;
    fc.assert(
      fc.property(value, value, (one, other) => {
        expect(same(one, other)).toBe(JSON.stringify(ordered(one)) === JSON.stringify(ordered(other)));
        expect(same(one, structuredClone(one))).toBe(true);
      }),
      runs(300),
    );
  });

  test.each([
    [{ a: 1, b: undefined }, { a: 1 }, true],
    [{ a: 1, b: 2 }, { b: 2, a: 1 }, true],
    [{ a: null }, { a: undefined }, false],
    [{ a: null }, {}, false],
    [[], {}, false],
    [[1, 2], [2, 1], false],
    [{ a: { b: [1] } }, { a: { b: [1, 2] } }, false],
    [undefined, null, false],
    ['1', 1, false],
  ])('%j and %j: %s', (one, other, expected) => {
    expect([same(one, other), same(other, one)]).toEqual([expected, expected]);
  });
});

describe('references', () => {
  const attrs = {
    fill: 'url(#sea) #fff',
    filter: 'blur(2px) url(#mist) url(#fog)',
    href: '#boat',
    d: 'M0 0',
    id: '#x',
  };

  test('all are found, with their attributes', () => {
    expect([...referencesIn(attrs)]).toEqual([
      ['fill', 'sea'],
      ['filter', 'mist'],
      ['filter', 'fog'],
      ['href', 'boat'],
    ]);
    expect([referred(attrs.filter), referred('red'), referred(undefined)]).toEqual(['mist', undefined, undefined]);
  });

  test('all are renamed, and nothing else is', () => {
    expect(withRenamedReferences(attrs, (id) => `new-${id}`)).toEqual({
      fill: 'url(#new-sea) #fff',
      filter: 'blur(2px) url(#new-mist) url(#new-fog)',
      href: '#new-boat',
      d: 'M0 0',
      id: '#x',
    });
    expect(withReferences('url(#sea) #fff', () => undefined)).toBe('none #fff');
    expect(withReferences('a(#sea)', () => 'x')).toBe('a(#sea)');
  });

  test('renamed there and back they are as they were', () => {
    const id = fc.stringMatching(/^[a-z][a-z0-9-]{0,8}$/);
    fc.assert(
      fc.property(fc.dictionary(fc.constantFrom('fill', 'mask', 'href', 'd'), id), (named) => {
        const before = Object.fromEntries(
          Object.entries(named).map(([name, to]) => [name, name === 'href' ? `#${to}` : `url(#${to})`]),
        );
        const there = withRenamedReferences(before, (each) => `x${each}`);
        expect(withRenamedReferences(there, (each) => each.slice(1))).toEqual(before);
      }),
      runs(100),
    );
  });
});

test.each([
  [count(0, 'file'), '0 files'],
  [count(1, 'file'), '1 file'],
  [count(1800, 'file'), '1,800 files'],
  [count(2, 'keeps its name', 'keep their names'), '2 keep their names'],
  [few([]), ''],
  [few(['a', 'b', 'c']), 'a, b, c'],
  [few(['a', 'b', 'c', 'd']), 'a, b, c and 1 more'],
  [few(['spring, English', 'summer']), 'spring, English; summer'],
])('%s', (said, expected) => expect(said).toBe(expected));
