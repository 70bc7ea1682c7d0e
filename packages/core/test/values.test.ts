import fc from 'fast-check';
import {
  allowedValue,
  artboardRecord,
  attributeTrouble,
  edit,
  editionRecord,
  isOrderKey,
  isPlainText,
  layerRecord,
  newId,
  ordersBetween,
  plainText,
  readSvg,
} from '../src';
import { svg } from './fixtures';

/** Ways to write a reference to something outside, made from their parts. */
const TARGETS = [
  'http://127.0.0.1:9/x',
  '//127.0.0.1/x',
  'file:///etc/passwd',
  '/etc/passwd',
  'data:image/svg+xml,<svg/>',
  'data:image/png;base64,AAAA',
  'other.svg#a',
  'javascript:alert(1)',
];
const WRITINGS = [
  (t: string) => `url(${t})`,
  (t: string) => `url("${t}")`,
  (t: string) => `url( '${t}' )`,
  (t: string) => `URL(${t})`,
  (t: string) => `u\\72l(${t})`,
  (t: string) => `\\75\\72\\6c("${t}")`,
  (t: string) => `u\\000072l("${t}")`,
  (t: string) => `url(/**/"${t}")`,
  (t: string) => `ur/**/l("${t}")`,
  (t: string) => `image-set("${t}" 1x)`,
  (t: string) => `-webkit-image-set(url("${t}") 1x)`,
  (t: string) => `image("${t}")`,
  (t: string) => `src("${t}")`,
  (t: string) => `cross-fade(url("${t}"), red)`,
  (t: string) => `url(#a) url("${t}")`,
  (t: string) => `url("#a" url("${t}"))`,
  (t: string) => `url(\\23 a${t})`,
  (t: string) => `red; background: url(${t})`,
  (t: string) => `rgb(var(--x, url("${t}")))`,
  (t: string) => `attr(x url, "${t}")`,
  (t: string) => `@import "${t}"`,
];
const PLACES = [
  'fill',
  'stroke',
  'filter',
  'clip-path',
  'mask',
  'marker-start',
  'color',
  'stop-color',
  'font-family',
  'd',
  'points',
  'gradientTransform',
  'result',
  'cursor',
  'width',
];

/** What a value may still hold: nothing that a reader could take for a way out of the file. */
const leads = (value: string) =>
  /127\.0\.0\.1|passwd|data:|other\.svg|javascript/i.test(value.replace(/"[^"]*"|url\(#[^)]*\)/g, ''));

test.each(PLACES)('no way of writing a reference to something outside gets into %s', (place) => {
  for (const target of TARGETS)
    for (const write of WRITINGS) {
      const value = write(target);
      const kept = allowedValue(place, value);
      if (kept !== null) expect(leads(kept)).toBe(false);
      // Path data ends at its first error; nothing else with such a value is let through as it stands.
      if (kept !== value) expect(attributeTrouble(place, value)).not.toBeNull();
      else expect([place, leads(value)]).toEqual([place, false]);
    }
});

test('the same in files: as an attribute, a style and a style sheet', () => {
  const escaped = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/"/g, '&quot;');
  for (const target of TARGETS)
    for (const write of WRITINGS) {
      const value = write(target);
      const text = svg(
        `<style>.s{fill:${escaped(value)};filter:${escaped(value)}}</style><rect fill="${escaped(value)}" width="9" height="9"/><rect style="fill:${escaped(value)};mask:${escaped(value)}" width="9" height="9"/><rect class="s" width="9" height="9"/>`,
      );
      let layers: unknown[] = [];
      try {
        ({ layers } = readSvg(text, 'x.svg'));
      } catch {
        // A file that cannot be read at all brings nothing in.
      }
      for (const layer of layers)
        expect([value, leads(JSON.stringify(layer).replace(/\\"/g, '"'))]).toEqual([value, false]);
    }
});

test('what artwork really says stays', () => {
  const said: [string, string, string?][] = [
    ['fill', '#0c6a53'],
    ['fill', 'rgb(12 106 83 / 50%)'],
    ['fill', 'hsl(160deg, 79%, 23%)'],
    ['fill', 'url(#a) #fff'],
    ['fill', 'url( "#a" )', 'url(#a)'],
    ['fill', 'rgb(1,/* two */2,3)', 'rgb(1,2,3)'],
    ['font-family', '"Schibsted Grotesk", Arial, sans-serif'],
    ['font-family', '微软雅黑, serif'],
    ['filter', 'drop-shadow(0 0 2px rgba(0,0,0,.5)) blur(2px)'],
    ['clip-path', 'polygon(50% 0%, 100% 100%, 0 100%)'],
    ['gradientTransform', 'translate(1 2) skewX(20)'],
    ['d', 'M0 0L10,10a5 5 0 1 1-2-2z'],
    ['d', 'M0 0L10 10 oops', 'M0 0L10 10 '],
    ['stroke-dasharray', '4, 2.5 1e1'],
    ['values', '0 0 0 0 1  0 0 0 0 1  0 0 0 0 1  0 0 0 1 0'],
    ['result', 'blur 1'],
    ['font-size', 'calc(1px + 2px)'],
  ];
  for (const [name, value, kept = value] of said) expect([name, allowedValue(name, value)]).toEqual([name, kept]);
});

test('a value that was let through is let through again, unchanged', () => {
  const names = fc.constantFrom(...PLACES);
  const parts = fc.constantFrom(
    'url(',
    '#a',
    ')',
    '"',
    "'",
    '\\',
    '72',
    ' ',
    'rgb(',
    'red',
    ',',
    '1px',
    '/*',
    '*/',
    '(',
    ';',
    '{',
    '@x',
    'é',
    '-',
    '+',
    '!',
    '<',
    '&',
    'blur(',
    '\n',
  );
  fc.assert(
    fc.property(names, fc.array(parts, { maxLength: 12 }), (name, list) => {
      const kept = allowedValue(name, list.join(''));
      if (kept === null) return;
      expect(allowedValue(name, kept)).toBe(kept);
      expect(kept.replace(/"(?:\\.|[^"\\])*"/g, '')).not.toMatch(/[<&;{}@!]/);
    }),
    { numRuns: 3000 },
  );
});

describe('records', () => {
  const layer = (fields: object) =>
    layerRecord.safeParse({ id: 'a', kind: 'layer', parentId: 'root', order: 'a0', tag: 'rect', ...fields }).success;

  test('hold only elements and attributes of artwork', () => {
    expect(layer({})).toBe(true);
    for (const tag of [
      'script',
      'foreignObject',
      'style',
      'a',
      'use',
      'svg',
      'animate',
      'iframe',
      'image onload=x',
      'textPath',
      'feImage',
      'view',
      'metadata',
    ])
      expect([tag, layer({ tag })]).toEqual([tag, false]);
    for (const name of [
      'onload',
      'onclick',
      'style',
      'xlink:href',
      'xmlns',
      'src',
      'class',
      'id',
      'x"><script>',
      'fill onload',
      '__proto__x',
      'begin',
    ])
      expect([
        name,
        layer({ attrs: { [name]: '1' } }),
        layer({ tag: 'text', text: [{ text: 'x', attrs: { [name]: '1' } }] }),
      ]).toEqual([name, false, false]);
    for (const href of [
      '/etc/passwd',
      'file:///x',
      'http://x',
      'data:image/png;base64,AAAA',
      '#',
      '#a b',
      'blob:x',
      `blob:${'a'.repeat(64)} `,
    ])
      expect([href, layer({ tag: 'image', attrs: { href } })]).toEqual([href, false]);
    expect(layer({ tag: 'image', attrs: { href: `blob:${'a'.repeat(64)}` } })).toBe(true);
  });

  test('have no id that means something else', () => {
    for (const id of [
      'root',
      'defs',
      'settings',
      'constructor',
      '__proto__',
      'toString',
      'hasOwnProperty',
      'a b',
      '1a',
      '',
      'x'.repeat(65),
    ])
      expect([id, layer({ id })]).toEqual([id, false]);
    expect(layer({ parentId: 'defs' })).toBe(true);
    expect(
      editionRecord.safeParse({
        id: 'e',
        kind: 'edition',
        artboardId: 'a',
        order: 'a0',
        name: 'e',
        overrides: { constructor: { shown: false } },
      }).success,
    ).toBe(false);
  });

  test('have order keys that others can be put between', () => {
    for (const order of ['', 'a', 'a00', 'zz', 'zza0', '-', 'a 1', 'A00000000000000000000000000', 'é0', 'b0', 'a1!'])
      expect([order, layer({ order })]).toEqual([order, false]);
    fc.assert(
      fc.property(fc.array(fc.nat({ max: 40 }), { minLength: 1, maxLength: 60 }), (places) => {
        const keys: string[] = [];
        for (const place of places) {
          const at = place % (keys.length + 1);
          keys.splice(at, 0, ...ordersBetween(keys[at - 1] ?? null, keys[at] ?? null, 1));
        }
        expect(keys.every(isOrderKey)).toBe(true);
        expect([...keys].sort()).toEqual(keys);
      }),
    );
  });

  test('hold text that can be written and stored', () => {
    for (const bad of ['\0', '\u0008', '\ud800', 'a\udc00', '\ufffe', '\u001b']) {
      expect([bad, isPlainText(bad), layer({ name: bad })]).toEqual([bad, false, false]);
      expect(
        artboardRecord.safeParse({
          id: 'a',
          kind: 'artboard',
          order: 'a0',
          name: `x${bad}`,
          x: 0,
          y: 0,
          width: 1,
          height: 1,
        }).success,
      ).toBe(false);
      expect(layer({ tag: 'text', text: [{ text: bad, attrs: {} }] })).toBe(false);
    }
    expect(layer({ name: 'crème 🌊' })).toBe(true);
    expect(layer({ tag: 'text', text: [{ text: 'x'.repeat(10_002), attrs: {} }] })).toBe(false);
    expect(layer({ transform: [1e300, 0, 0, 1, 0, 0] })).toBe(false);
    fc.assert(
      fc.property(
        fc.string({ unit: 'binary', maxLength: 40 }),
        fc.nat({ max: 40 }),
        (text, most) => isPlainText(plainText(text, most)) && plainText(text, most).length <= most,
      ),
    );
    expect(plainText('🌊🌊', 3)).toBe('🌊');
  });

  test('an edit with a long label keeps the beginning of it', () => {
    expect(
      edit.parse({ id: newId(), baseVersion: 0, label: `move ${'x'.repeat(400)}`, puts: [], removes: [] }).label,
    ).toHaveLength(200);
  });
});

test('a file with ids and names that are halves of characters, or words of the language, comes in whole', () => {
  const { layers } = readSvg(
    svg(
      '<g id="constructor"><rect id="_xd800_" width="4" height="4" fill="url(#__proto__)"/></g><linearGradient id="__proto__"><stop/></linearGradient>',
    ),
    'x.svg',
  );
  for (const layer of layers) expect(layerRecord.safeParse(layer).success).toBe(true);
});
