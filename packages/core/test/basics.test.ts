import fc from 'fast-check';
import * as z from 'zod';
import {
  ACTS,
  anyRecord,
  count,
  few,
  inputProblem,
  printCmyk,
  readCmyk,
  referencesIn,
  referred,
  same,
  withReferences,
  withRenamedReferences,
} from '../src';
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

describe('what is off with what came in', () => {
  const said = (schema: z.ZodType, value: unknown) => {
    const { error } = schema.safeParse(value);
    return error ? inputProblem(error).message : '';
  };

  test.each([
    [z.object({ name: z.string().min(3) }), { name: 'a' }, 'name: 3 letters at least'],
    [z.string().max(1), 'ab', 'the request: 1 letter at most'],
    [z.number().min(1).max(5), 9, 'the request: a number of 5 at most'],
    [z.number().max(1_000_000), 2e6, 'the request: a number of 1,000,000 at most'],
    [z.number().positive(), 0, 'the request: a number above 0'],
    [z.number().int(), 1.5, 'the request: a whole number'],
    [z.array(z.string()).min(2), ['a'], 'the request: 2 entries at least'],
    [z.enum(['a', 'b']), 'c', 'the request: one of a, b'],
    [z.literal('x'), 'y', 'the request: "x"'],
    [z.object({ a: z.boolean() }), {}, 'a: true or false; it is missing'],
    [z.strictObject({}), { b: 1, c: 2 }, 'the request: nothing called "b", "c"'],
    [z.union([z.string(), z.number()]), true, 'the request: text, or a number'],
    [
      z.discriminatedUnion('k', [z.object({ k: z.literal('a') }), z.object({ k: z.literal('b') })]),
      { k: 'c' },
      'k: one of a, b',
    ],
    [z.string().regex(/^a/), 'b', 'the request: text of another form'],
    [z.string().regex(/^a/, 'a word with an a'), 'b', 'the request: a word with an a'],
    [z.number().multipleOf(5), 3, 'the request: a multiple of 5'],
    [z.iso.datetime(), 'x', 'the request: a datetime'],
  ] as const)('is said in words (%#)', (schema, value, words) => expect(said(schema, value)).toBe(words));

  test('no word of the schema library itself is said of anything that comes in as a record or as settings of an act', () => {
    const { kind: _, ...fields } = { kind: '', id: 'a', order: 'a0', name: 'n', x: 1, width: 0, attrs: 3, size: null };
    const kinds = ['layer', 'artboard', 'slice', 'edition', 'spec', 'output', 'font', 'acceptance', 'settings', 'x'];
    const record = fc.record(
      {
        kind: fc.constantFrom(...kinds),
        ...Object.fromEntries(Object.keys(fields).map((name) => [name, fc.jsonValue()])),
      },
      { requiredKeys: [] },
    );
    const settings = fc.dictionary(
      fc.constantFrom('paint', 'x', 'y', 'words', 'rule', 'matrix', 'outputId', 'findings', 'variants', 'cmyk', 'by'),
      fc.jsonValue(),
    );
    let told = 0;
    fc.assert(
      fc.property(record, settings, (one, another) => {
        for (const words of [said(anyRecord, one), ...ACTS.map((act) => said(act.settings, another))]) {
          if (words === '') continue;
          told++;
          expect(words.replace(/"[^"]*"/g, '')).not.toMatch(
            /Too (small|big)|Invalid|Unrecognized|expected|received|undefined|[<>]=/,
          );
          expect(words).toMatch(/^[\w. ]+: \S/);
        }
      }),
      runs(60),
    );
    expect(told).toBeGreaterThan(1000);
  });
});

test.each([
  ['80 20 60 10', [80, 20, 60, 10]],
  ['C80 M20 Y60 K10', [80, 20, 60, 10]],
  ['80%, 20%; 60 / 37.5', [80, 20, 60, 37.5]],
  ['80 20 60', null],
  ['80 20 60 101', null],
  ['80 20 60 10 5', null],
  ['-8 20 60 10', null],
  ['red 20 60 10', null],
  ['', null],
])('inks as they are typed: %s', (text, expected) => {
  const read = readCmyk(text);
  expect(read).toEqual(expected);
  if (read) expect(readCmyk(printCmyk(read))).toEqual(read);
});
