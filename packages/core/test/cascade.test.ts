import fc from 'fast-check';
import { parseColour, readSvg, toldInWords } from '../src';
import { calculated, degrees, lengthPx, withVariables } from '../src/artwork/markup/css-values';
import { mediaMatches } from '../src/artwork/style/css-rules';
import { named, svg, told } from './fixtures';
import { runs } from './properties';

const MEASURES = { fontSize: 20, rootFontSize: 10, viewWidth: 200, viewHeight: 100, percentOf: 50 };
const attrsOf = (text: string, name = 'it') => named(readSvg(text, 'art.svg'), name)?.attrs ?? {};
const styled = (css: string, inner = '<rect id="it" class="a" width="9" height="9"/>') =>
  attrsOf(svg(`<style>${css.replaceAll('&', '&amp;').replaceAll('<', '&lt;')}</style>${inner}`));

describe('which declaration wins', () => {
  test.each([
    ['a later rule of the same weight', '.a{fill:#111}.a{fill:#222}', '#222'],
    ['the heavier selector', '#it{fill:#222}rect.a{fill:#111}', '#222'],
    ['what is important', '.a{fill:#222!important}#it{fill:#111}', '#222'],
    ['what is in no layer', '.a{fill:#222}@layer one{#it{fill:#111}}', '#222'],
    ['the layer that is named last', '@layer two,one;@layer one{.a{fill:#222}}@layer two{#it{fill:#111}}', '#222'],
    [
      'among important ones the first layer',
      '@layer one{.a{fill:#222!important}}@layer two{.a{fill:#111!important}}',
      '#222',
    ],
    ['the heaviest of :is', ':is(#it,.b){fill:#222}rect.a{fill:#111}', '#222'],
    ['nothing for :where', '.a{fill:#222}:where(#it){fill:#111}', '#222'],
    ['the last that can be read', '.a{fill:#222;fill:nonsense}', '#222'],
    ['a rule inside another', 'svg{& .a{fill:#222}}', '#222'],
    ['a rule inside a condition inside another', 'svg{@media screen{.a{fill:#222}}}', '#222'],
    ['a screen, not paper', '.a{fill:#222}@media print{.a{fill:#111}}', '#222'],
    ['what a browser supports', '@supports (fill:red) and (not (nonsense:1)){.a{fill:#222}}', '#222'],
    ['a variable, with its fallback', ':root{--x:var(--y,#222)}.a{fill:var(--x)}', '#222'],
    ['a range of widths', '@media (5px < width <= 500px){.a{fill:#222}}@media (width > 500px){.a{fill:#111}}', '#222'],
    [
      'a width from the other side',
      '@media (500px >= width){.a{fill:#222}}@media (5px >= width){.a{fill:#111}}',
      '#222',
    ],
    [
      'selectors that are supported',
      '@supports selector(:is(a, b)){.a{fill:#222}}@supports selector(:nonsense){.a{fill:#111}}',
      '#222',
    ],
    ['a class of a parent', '.b .a{fill:#222}svg>.a{fill:#222}.b+.a{fill:#111}', '#222'],
    ['an id, not an attribute that names it', '#it{fill:#222}[id="it"]{fill:#111}', '#222'],
    ['a state of a pointer never', '.a{fill:#222}.a:hover{fill:#111}', '#222'],
    ['a broken rule never', '.a{fill:#222}.a[{fill:#111}', '#222'],
  ])('%s', (_, css, fill) => {
    expect(styled(css).fill).toBe(fill);
  });

  test('attributes are weaker than any rule, and a style attribute is stronger', () => {
    expect(styled('*{fill:#222}', '<rect id="it" width="9" height="9" fill="#111"/>').fill).toBe('#222');
    expect(styled('#it{fill:#111}', '<rect id="it" width="9" height="9" style="fill:#222"/>').fill).toBe('#222');
  });

  test('attributes take variables as rules do', () => {
    const rect = (fill: string) => `<g style="--x:#222"><rect id="it" width="9" height="9" fill="${fill}"/></g>`;
    expect(styled('', rect('var(--x)')).fill).toBe('#222');
    expect(styled('', rect('var(--y, #0a5)')).fill).toBe('#0a5');
    expect(styled('', rect('var(--y)')).fill).toBeUndefined();
  });

  test('what a style sheet says and is not applied is told', () => {
    const toldOf = (css: string) =>
      told(readSvg(svg(`<style>${css}</style><rect class="a" width="9" height="9"/>`), 'art.svg'));
    expect(toldOf('@scope (.a){rect{fill:red}}')).toContain('rules of a style sheet that are not applied (@scope)');
    expect(toldOf('.a{fill:nonsense-of(1)}')).toContain('a fill that is worked out by a function (nonsense-of(1))');
    expect(toldOf('.a{fill:nonsense}@page{margin:0}')).toEqual([]);
  });

  test('variables that go in a ring have no value, and grow no further than they may', () => {
    expect(styled(':root{--a:var(--b);--b:var(--a)}.a{fill:var(--a)}').fill).toBeUndefined();
    const bomb = Array.from({ length: 40 }, (_, i) => `--v${i}:var(--v${i + 1}) var(--v${i + 1})`).join(';');
    expect(styled(`:root{${bomb};--v40:x}.a{fill:var(--v0)}`).fill).toBeUndefined();
  });

  test('selectors that grow in each other are left out, the rest is read', () => {
    expect(styled(`${'& & & & & & & & &{'.repeat(19)}fill:#111${'}'.repeat(19)}.a{fill:#222}`).fill).toBe('#222');
  });

  test('rules nested a thousand deep end quietly', () => {
    expect(styled(`${'g{'.repeat(1000)}.a{fill:#111}${'}'.repeat(1000)}.a{fill:#222}`).fill).toBe('#222');
  });
});

describe('what attributes become', () => {
  test.each([
    [
      'percentages of opacity are numbers',
      '<rect id="it" width="9" height="9" opacity="50%" fill-opacity="25%"/>',
      { 'fill-opacity': '0.25' },
    ],
    [
      'fonts in relative sizes are px',
      '<g font-size="10"><text id="it" y="5" font-size="150%">a</text></g>',
      { 'font-size': '15' },
    ],
    [
      'the font shorthand is taken apart',
      '<text id="it" y="5" style="font:italic 700 12px/2 Some, sans-serif">a</text>',
      { 'font-size': '12', 'font-weight': '700', 'font-style': 'italic', 'font-family': 'Some, sans-serif' },
    ],
    [
      'the marker shorthand is three',
      '<marker id="m"><path d="M0 0h1"/></marker><path id="it" d="M0 0h9" style="marker:url(#m)"/>',
      {
        'marker-start': expect.stringMatching(/^url/),
        'marker-mid': expect.stringMatching(/^url/),
        'marker-end': expect.stringMatching(/^url/),
      },
    ],
    [
      'other notations of colour are hexadecimal',
      '<rect id="it" width="9" height="9" fill="oklch(60% 0.15 280)"/>',
      { fill: expect.stringMatching(/^#[0-9a-f]{6}$/) },
    ],
    [
      'see-through colours are rgba',
      '<rect id="it" width="9" height="9" fill="#cc553380"/>',
      { fill: 'rgba(204,85,51,0.502)' },
    ],
    [
      'dashes follow a length that the path is said to have',
      '<path id="it" d="M0 0H100" pathLength="10" stroke-dasharray="1 2"/>',
      { 'stroke-dasharray': '10 20' },
    ],
    [
      'strokes that keep their width are thinner where they are enlarged',
      '<g transform="scale(4)"><path id="it" d="M0 0h2" stroke-width="2" vector-effect="non-scaling-stroke"/></g>',
      { 'stroke-width': '0.5' },
    ],
    [
      'shapes of CSS clip',
      '<rect id="it" width="20" height="20" style="clip-path:circle(5px)"/>',
      { 'clip-path': expect.stringMatching(/^url\(#/) },
    ],
    ['what blends says so only in CSS', '<rect id="it" width="9" height="9" mix-blend-mode="multiply"/>', {}],
  ])('%s', (_, inner, attrs) => {
    const found = attrsOf(svg(inner, 'viewBox="0 0 100 100"'));
    expect(found).toMatchObject(attrs);
    if (Object.keys(attrs).length === 0) expect(found).not.toHaveProperty('mix-blend-mode');
  });

  test('a transform of CSS turns around its origin', () => {
    const layer = named(
      readSvg(
        svg(
          '<rect id="it" width="9" height="9" style="transform:rotate(90deg);transform-origin:10px 20px"/>',
          'viewBox="0 0 100 100"',
        ),
        'art.svg',
      ),
      'it',
    );
    [0, 1, -1, 0, 30, 10].forEach((value, i) => expect(layer?.transform?.[i]).toBeCloseTo(value, 6));
  });

  test('definitions own what they inherited, and what they took from others', () => {
    const { layers } = readSvg(
      svg(
        '<g fill="#123456" clip-rule="evenodd"><clipPath id="c"><path d="M0 0h9v9z"/></clipPath><mask id="m"><rect width="9" height="9"/></mask></g><linearGradient id="a" spreadMethod="repeat"><stop stop-color="#fff"/></linearGradient><radialGradient id="g" href="#a" r="3"/><rect width="9" height="9" fill="url(#g)" clip-path="url(#c)" mask="url(#m)"/>',
      ),
      'art.svg',
    );
    const of = (tag: string) => layers.find((layer) => layer.tag === tag);
    expect(of('clipPath')?.attrs['clip-rule']).toBe('evenodd');
    expect(of('mask')?.attrs.fill).toBe('#123456');
    expect(of('radialGradient')?.attrs).toMatchObject({ spreadMethod: 'repeat' });
    expect(layers.filter((layer) => layer.tag === 'stop')).toHaveLength(1);
    expect(of('linearGradient')).toBeUndefined();
  });

  test('a clip path holds shapes and copies of shapes, nothing else', () => {
    const { layers } = readSvg(
      svg(
        '<defs><circle id="s" r="4"/><g id="t"><circle r="4"/></g></defs><clipPath id="c"><use href="#s" x="5" transform="scale(2)"/><use href="#t"/><g><rect width="9" height="9"/></g></clipPath><rect width="9" height="9" clip-path="url(#c)"/>',
      ),
      'art.svg',
    );
    const clip = layers.find(({ tag }) => tag === 'clipPath');
    const parts = layers.filter(({ parentId }) => parentId === clip?.id);
    expect(parts.map(({ tag, transform }) => [tag, transform])).toEqual([['circle', [2, 0, 0, 2, 10, 0]]]);
  });

  test('what is not for everybody is for nobody, unless it is English', () => {
    const shown = (condition: string) =>
      readSvg(svg(`<rect id="it" width="9" height="9" ${condition}/>`), 'art.svg').layers.some(
        ({ name }) => name === 'it',
      );
    expect([
      shown('systemLanguage="xx"'),
      shown('requiredExtensions="http://example.invalid"'),
      shown('systemLanguage="de, en-GB"'),
      shown(''),
    ]).toEqual([false, false, true, true]);
  });

  test('text in another encoding is read by its declaration', () => {
    const bytes = Buffer.from(
      '<?xml version="1.0" encoding="windows-1252"?><svg xmlns="http://www.w3.org/2000/svg"><text id="it">\xe4 \x96 \x80</text></svg>',
      'latin1',
    );
    expect(named(readSvg(bytes, 'art.svg'), 'it')?.text?.[0].text).toBe('ä – €');
  });

  test('what is told says how often and of which layers', () => {
    const { dropped } = readSvg(
      svg(
        '<g id="Swell"><script/><rect width="9" height="9"><animate/></rect></g><g id="Crest"><path onclick="x" d="M0 0h1"/><script/></g><script/>',
      ),
      'art.svg',
    );
    expect(dropped).toEqual([
      { what: 'a script', count: 3, where: ['Swell', 'Crest'] },
      { what: 'an animation', count: 1, where: ['Swell'] },
      { what: 'an event attribute (script)', count: 1, where: ['Crest'] },
    ]);
    expect(dropped.map(toldInWords)).toEqual([
      'a script, 3 times, in Swell and Crest',
      'an animation, in Swell',
      'an event attribute (script), in Crest',
    ]);
  });

  test('what cannot be drawn is told by name', () => {
    expect(
      told(
        readSvg(
          svg(
            '<text y="9" writing-mode="vertical-rl">a</text><text y="9" font-variant="small-caps">a</text><rect width="2ex" height="9"/>',
          ),
          'art.svg',
        ),
      ),
    ).toEqual(
      expect.arrayContaining([
        'text set from top to bottom, its letters centred as the font measures them',
        'small capitals, made of capitals at seven tenths of their size',
        'a length in ex or ch, taken for half the size of the letters',
      ]),
    );
  });
});

describe('values', () => {
  test.each([
    ['12', 12],
    ['2em', 40],
    ['2rem', 20],
    ['10vw', 20],
    ['10%', 5],
    ['1in', 96],
    ['calc(2px + 10% * 2)', 12],
    ['min(3em, 10px)', 10],
    ['clamp(1px, 9px, 4px)', 4],
    ['calc(1px', undefined],
    ['5furlongs', undefined],
    ['', undefined],
  ])('%s', (text, px) => {
    expect(lengthPx(text, MEASURES)).toBe(px);
  });

  test('angles in every unit', () => {
    expect(['90', '90deg', '0.25turn', '100grad', `${Math.PI / 2}rad`].map((text) => degrees(text))).toEqual([
      90,
      90,
      90,
      expect.closeTo(90),
      expect.closeTo(90),
    ]);
  });

  test('colours in every notation are those of the standard', () => {
    const grey = (text: string) => parseColour(text);
    expect(grey('hsl(0.5turn 100% 50%)')).toMatchObject({ r: 0, g: 255, b: 255 });
    expect(grey('hwb(120 0% 0%)')).toMatchObject({ r: 0, g: 255, b: 0 });
    expect(grey('color(srgb 1 0.5 0)')).toMatchObject({ r: 255, g: 128, b: 0 });
    expect(grey('color-mix(in srgb, #fff 25%, #000)')).toMatchObject({ r: 64, g: 64, b: 64 });
    expect(grey('lab(100% 0 0)')).toMatchObject({ r: 255, g: 255, b: 255 });
    expect(grey('light-dark(#123456, #fff)')).toMatchObject({ r: 0x12 });
    for (const text of ['color(nowhere 1 1 1)', 'rgb()', 'hsl(a b c)', 'color-mix(red, blue)', 'url(x)'])
      expect(grey(text)).toBeNull();
  });

  test('queries of media, for a screen', () => {
    const holds = (list: string) => mediaMatches(list, { width: 100, height: 50, isKnown: () => true });
    expect(
      [
        '',
        'all',
        'screen',
        'not print',
        '(min-width: 50px) and (max-width: 100px)',
        'print, screen',
        '(orientation: landscape)',
        'not (min-width: 200px)',
      ].map(holds),
    ).toEqual(Array(8).fill(true));
    expect(
      ['print', 'not screen', '(min-width: 101px)', '(prefers-color-scheme: dark)', '(nonsense)'].map(holds),
    ).toEqual(Array(5).fill(false));
  });

  test('no text at all can keep them busy or break them', () => {
    const pieces = fc
      .array(
        fc.constantFrom(
          'calc(',
          'min(',
          ')',
          '(',
          '1',
          'px',
          '%',
          '+',
          '-',
          ' ',
          '*',
          '/',
          ',',
          'var(--a',
          'var(',
          '--a',
          '1e9',
          'em',
          ';',
          '}',
          '{',
        ),
        { maxLength: 60 },
      )
      .map((parts) => parts.join(''));
    fc.assert(
      fc.property(pieces, (text) => {
        lengthPx(text, MEASURES);
        calculated(text, (number) => number);
        withVariables(text, () => text);
        parseColour(`rgb(${text})`);
        mediaMatches(text, { width: 1, height: 1, isKnown: () => false });
        readSvg(
          svg(`<style><![CDATA[${text}]]></style><rect width="1" height="1" style="${text.replaceAll('"', '')}"/>`),
          'art.svg',
        );
      }),
      runs(300),
    );
  });
});
