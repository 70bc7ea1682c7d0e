import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import * as z from 'zod';
import {
  ALL_FILES,
  findTrouble,
  fits,
  type IntakeRules,
  intakeRules,
  NO_FONTS,
  planFiles,
  READY_RULES,
  type RuledFile,
  readRules,
  refusals,
} from '../src';
import { project, svg } from './fixtures';
import { runs } from './properties';

const rules = (fields: Partial<z.input<typeof intakeRules>>): IntakeRules =>
  intakeRules.parse({ version: 1, name: 'Build', ...fields });
const PNG: RuledFile = { path: 'icons/boat.png', format: 'png', widthPx: 64, heightPx: 64, bytes: 900, alpha: true };
const said = (fields: Partial<z.input<typeof intakeRules>>, file: Partial<RuledFile> = {}) =>
  refusals(rules(fields), { ...PNG, ...file }).map(({ words }) => words);

test('what is not said is free', () => {
  expect(said({})).toEqual([]);
  expect(said({}, { path: 'Überall/ganz Groß.PNG', widthPx: 3, heightPx: 7, alpha: false, palette: true })).toEqual([]);
});

test.each<[string, Partial<z.input<typeof intakeRules>>, Partial<RuledFile>, string]>([
  ['small letters', { names: { letters: 'small' } }, { path: 'icons/Boat.png' }, 'takes names in small letters'],
  ['capital letters', { names: { letters: 'capital' } }, { path: 'ICONS/boat.PNG' }, 'takes names in capital letters'],
  ['plain names', { names: { plain: true } }, { path: 'blå.png' }, 'takes names of plain letters, digits, and . _ - @'],
  ['long paths', { names: { longest: 9 } }, {}, 'takes paths of up to 9 letters'],
  ['patterns', { names: { patterns: ['ic_*.png', 'bg_*.png'] } }, {}, 'takes names like ic_*.png, bg_*.png'],
  ['no folders', { folders: 0 }, {}, 'takes no folders'],
  ['deep folders', { folders: 1 }, { path: 'a/b/c.png' }, 'takes folders up to 1 deep'],
  ['formats', { formats: ['svg', 'pdf'] }, {}, 'takes SVG, PDF, no PNG'],
  ['weight', { largestBytes: 500 }, {}, 'takes files of up to 0.5 KB, this is 0.9 KB'],
  ['sizes', { pixels: { sizes: [{ widthPx: 512, heightPx: 512 }] } }, {}, 'takes 512 × 512, this is 64 × 64'],
  ['squares', { pixels: { square: true } }, { widthPx: 32 }, 'takes squares, this is 32 × 64'],
  ['multiples', { pixels: { multipleOf: 48 } }, {}, 'takes sides that are multiples of 48 px, this is 64 × 64'],
  ['see-through', { pixels: { alpha: 'refused' } }, {}, 'takes nothing see-through'],
  ['not see-through', { pixels: { alpha: 'required' } }, { alpha: false }, 'takes only what is see-through'],
  ['palettes', { pixels: { palette: false } }, { palette: true }, 'takes no palettes'],
])('%s', (_, fields, file, words) => {
  expect(said(fields, file)).toEqual([words]);
});

test('the ending of a name is no matter of letters, and what is unknown breaks no rule', () => {
  expect(said({ names: { letters: 'capital' } }, { path: 'BOAT.png' })).toEqual([]);
  expect(said({ largestBytes: 1, pixels: { alpha: 'refused' } }, { bytes: undefined, alpha: undefined })).toEqual([]);
  expect(said({ pixels: { square: true, alpha: 'refused' } }, { format: 'svg', widthPx: 9 })).toEqual([]);
});

test.each([
  ['*.png', 'boat.png', true],
  ['*.png', 'icons/boat.png', false],
  ['**/boat.png', 'a/b/boat.png', true],
  ['**.png', 'a/b/boat.png', true],
  ['ic_?.svg', 'ic_a.svg', true],
  ['ic_?.svg', 'ic_.svg', false],
  ['?/a', '//a', false],
  ['', '', true],
  ['*', '', true],
])('the pattern %s and %s: %s', (pattern, path, is) => expect(fits(pattern, path)).toBe(is));

test('patterns mean what the same regular expression means, without its time', () => {
  const piece = fc.constantFrom('a', 'b', '/', '*', '**', '?', '.');
  fc.assert(
    fc.property(
      fc.array(piece, { maxLength: 8 }),
      fc.array(fc.constantFrom('a', 'b', '/', '.'), { maxLength: 8 }),
      (p, t) => {
        const [pattern, path] = [p.join(''), t.join('')];
        const expression = pattern.replace(
          /\*\*|\*|\?|[.]/g,
          (each) => ({ '**': '[^]*', '*': '[^/]*', '?': '[^/]', '.': '\\.' })[each] ?? each,
        );
        expect(fits(pattern, path)).toBe(new RegExp(`^(?:${expression})$`).test(path));
      },
    ),
    runs(500),
  );
  // Stars in a row keep a backtracking matcher busy for ages.
  expect(fits(`${'*a'.repeat(100)}b`, 'a'.repeat(1000))).toBe(false);
});

test('rules are read from a file, and what is wrong with one is said', () => {
  for (const ready of READY_RULES) expect(readRules(JSON.stringify(ready))).toEqual(ready);
  expect(readRules('{')).toBe('this is no JSON');
  expect(readRules('{"version":2,"name":"x"}')).toMatch(/^version: /);
  expect(readRules('{"version":1,"name":"x","largestBytes":-1}')).toMatch(/^largestBytes: /);
  expect(readRules('{"version":1,"name":"x","surprise":1}')).toMatch(/surprise/);
});

test('on the plan: sizes that have to be complete, weights once they are known, grounds where nothing may shine through', () => {
  const { doc, outputs } = project({ boat: svg('<path d="M3 3h18v18z"/>') });
  const plan = planFiles(doc, 'p');
  const png = outputs.find(({ settings }) => settings.format === 'png');
  const found = (own: IntakeRules, bytes?: number) =>
    findTrouble({
      doc,
      plan,
      fonts: NO_FONTS,
      intakes: [{ rules: own, takes: ALL_FILES }],
      bytesOf: () => bytes,
    }).flatMap((finding) => (finding.check === 'intake-refuses' ? [finding.message] : []));
  expect(found(rules({ complete: [1, 9] }))).toEqual(['Build takes pieces in 1×, 9×, this lacks 9×']);
  expect(found(rules({ largestBytes: 10 }))).toEqual([]);
  expect(new Set(found(rules({ largestBytes: 10 }), 900))).toEqual(
    new Set(['Build takes files of up to 0 KB, this is 0.9 KB']),
  );
  expect(found(rules({ pixels: { alpha: 'refused' } }))).toEqual(['Build takes nothing see-through']);
  for (const output of outputs) doc.apply({ puts: [{ ...output, background: '#ffffff' }], removes: [] });
  expect(png).toBeDefined();
  expect(found(rules({ pixels: { alpha: 'refused' } }))).toEqual([]);
});

/** `UPDATE_DOCS=1 npx jest intake-rules` writes it anew. */
test('the schema of rules that ships is the one that rules are read by', () => {
  const file = join(__dirname, '../../../docs/intake-rules.schema.json');
  const schema = {
    $id: 'https://tolvik.invalid/schema/intake-rules.json',
    title: 'What a receiver takes',
    ...z.toJSONSchema(intakeRules, { unrepresentable: 'any', io: 'input' }),
  };
  const text = `${JSON.stringify(schema, null, 2)}\n`;
  if (process.env.UPDATE_DOCS) writeFileSync(file, text);
  expect(JSON.parse(readFileSync(file, 'utf8'))).toEqual(JSON.parse(text));
});
