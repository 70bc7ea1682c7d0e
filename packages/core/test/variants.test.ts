import fc from 'fast-check';
import {
  Composer,
  colourFacts,
  coloursUsed,
  contrast,
  handoverVariants,
  layersOn,
  lightenedFor,
  luminance,
  makeVariants,
  NO_FONTS,
  oklab,
  parseColour,
  planFiles,
  printColour,
  READABLE,
  type Rgba,
  recolourBy,
  reversedOn,
  VISIBLE,
  variantName,
} from '../src';
import { project, refusalOf, svg } from './fixtures';

const LOGO = svg('<rect width="20" height="10" fill="#0c6a53"/><rect y="12" width="10" height="4" fill="#171b1c"/>');
const colour = fc.record({
  r: fc.integer({ min: 0, max: 255 }),
  g: fc.integer({ min: 0, max: 255 }),
  b: fc.integer({ min: 0, max: 255 }),
  a: fc.constant(1),
});

test('colours in use, the most first', () => {
  const { doc, artboard } = project({ logo: LOGO });
  const used = coloursUsed(doc, [artboard('logo')]);
  expect(used.map((each) => each.colour)).toEqual(['#0c6a53', '#171b1c']);
  expect(used[0].share).toBeCloseTo(200 / 240, 5);
});

test('what is lightened can be read on its ground, and keeps what could be read already', () => {
  fc.assert(
    fc.property(colour, (c) => {
      const ground = parseColour('#12343b') as Rgba;
      for (const needed of [VISIBLE, READABLE]) {
        const light = lightenedFor(ground, c, needed);
        expect(contrast(light, ground)).toBeGreaterThanOrEqual(needed);
        if (contrast(c, ground) >= needed) expect(light).toEqual(c);
      }
    }),
  );
});

test('what is lightened keeps its hue', () => {
  const ground = parseColour('#171b1c') as Rgba;
  const hue = (c: Rgba) => {
    const [, a, b] = oklab(c);
    return { chroma: Math.hypot(a, b), hue: Math.atan2(b, a) };
  };
  fc.assert(
    fc.property(colour, (c) => {
      const [before, after] = [hue(c), hue(lightenedFor(ground, c, READABLE))];
      // Of what has hardly any colour, whole channels turn the hue.
      if (before.chroma < 0.05 || after.chroma < 0.05) return;
      const turned = Math.abs(Math.atan2(Math.sin(after.hue - before.hue), Math.cos(after.hue - before.hue)));
      expect(turned).toBeLessThan(0.09);
    }),
  );
});

describe('reversed as a designer means it, on #171b1c', () => {
  const ground = parseColour('#171b1c') as Rgba;
  const becomes = (from: string, needed = VISIBLE) =>
    printColour(reversedOn(ground, parseColour(from) as Rgba, needed));
  test.each(['#000000', '#171b1c', '#12343b', '#0b1f4b', '#1f1a17', '#333333'])('%s is ink and becomes white', (ink) =>
    expect(becomes(ink)).toBe('#ffffff'),
  );
  test.each(['#ffffff', '#fbf8ef', '#f4f4f4'])('%s is paper and becomes the ground', (paper) =>
    expect(becomes(paper)).toBe('#171b1c'),
  );
  test('greys turn round: what was darker is lighter', () => {
    const greys = ['#6f6f6f', '#8a8a8a', '#a5a5a5', '#c0c0c0', '#d8d8d8'].map((grey) =>
      luminance(parseColour(becomes(grey)) as Rgba),
    );
    expect([...greys].sort((a, b) => b - a)).toEqual(greys);
  });
  test.each(['#d2452a', '#e8b23a', '#3d8fb5', '#7fbf6a'])('%s can be seen, and stays', (brand) =>
    expect(becomes(brand)).toBe(brand),
  );
  test('a dark brand colour is lightened by as much as it needs: letters need more than shapes', () => {
    const [shape, letters] = [becomes('#0c6a53'), becomes('#0c6a53', READABLE)].map((c) => parseColour(c) as Rgba);
    expect(contrast(shape, ground)).toBeGreaterThanOrEqual(VISIBLE);
    expect(contrast(shape, ground)).toBeLessThan(VISIBLE + 0.15);
    expect(contrast(letters, ground)).toBeGreaterThanOrEqual(READABLE);
    expect(contrast(letters, ground)).toBeLessThan(READABLE + 0.2);
  });
});

test('every proposal can be read on the ground it is made for', () => {
  const { doc, artboard } = project({ logo: LOGO });
  const proposals = handoverVariants(colourFacts(doc, artboard('logo'), []));
  expect(proposals.map((proposal) => proposal.key)).toEqual([
    'reversed',
    'mono-dark',
    'mono-light',
    'grey',
    'one-tint',
  ]);
  for (const { key, contrast: lowest } of proposals)
    expect([key, (lowest ?? 0) >= (key === 'reversed' ? VISIBLE : READABLE)]).toEqual([key, true]);
  expect(proposals.find((proposal) => proposal.key === 'mono-light')?.background).not.toBeNull();
  expect(proposals.find((proposal) => proposal.key === 'one-tint')?.rule).toEqual({
    kind: 'ink',
    colour: '#0c6a53',
    out: [],
    apart: [],
    gap: 0,
  });
});

test('recolouring twice is recolouring once, and alpha stays', () => {
  fc.assert(
    fc.property(
      colour,
      fc.constantFrom(
        { kind: 'white' } as const,
        { kind: 'black' } as const,
        { kind: 'grey' } as const,
        { kind: 'tint', colour: '#0c6a53' } as const,
      ),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (c, rule, a) => {
        const apply = recolourBy(rule);
        if (!apply) throw new Error('no rule');
        const once = apply({ ...c, a }) as Rgba;
        expect(apply(once)).toEqual(once);
        expect(once.a).toBe(a);
      },
    ),
  );
});

test('printing and parsing a colour is the colour', () => {
  fc.assert(fc.property(colour, (c) => void expect(parseColour(printColour(c))).toEqual(c)));
});

test.each([
  ['red', '#ff0000'],
  ['RebeccaPurple', '#663399'],
  ['#abc', '#aabbcc'],
  ['rgb(1, 2, 3)', '#010203'],
  ['rgb(100% 0% 0%)', '#ff0000'],
  ['hsl(120 100% 25%)', '#008000'],
  ['#11223344', '#11223344'],
])('%s is %s', (text, hex) => expect(printColour(parseColour(text) as Rgba)).toBe(hex));

test.each(['none', 'url(#a)', 'currentColor', '#12', 'rgb(1)', 'tomato soup'])('%s is no colour', (text) =>
  expect(parseColour(text)).toBeNull(),
);

describe('making them', () => {
  test('each follows, has a name of its own, and stands clear of the others', () => {
    const { doc, artboard } = project({ logo: LOGO, other: LOGO });
    const source = artboard('logo');
    const made = makeVariants(doc, source, handoverVariants(colourFacts(doc, source, [])), '{source}-{variant}');
    expect(made.map((variant) => variant.name)).toEqual([
      'logo-reversed',
      'logo-mono-dark',
      'logo-mono-light',
      'logo-grey',
      'logo-one-tint',
    ]);
    const all = [...doc.list('artboard'), ...made];
    for (const [i, a] of all.entries())
      for (const b of all.slice(i + 1))
        expect(a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y).toBe(
          true,
        );
  });

  test('the source redrawn, all follow, and only their files differ', () => {
    const { doc, artboard } = project({ logo: LOGO, other: LOGO });
    const source = artboard('logo');
    doc.apply({
      puts: makeVariants(doc, source, handoverVariants(colourFacts(doc, source, [])).slice(0, 3), '{source}-{variant}'),
      removes: [],
    });
    const composer = new Composer(doc, { fonts: NO_FONTS, pictures: () => undefined });
    const keys = () => new Map(planFiles(doc, 'p').files.map((file) => [file.path, composer.key(file)]));
    const before = keys();
    const [rect] = doc.children(layersOn(doc, source)[0].id);
    doc.apply({ puts: [{ ...rect, attrs: { ...rect.attrs, width: '15' } }], removes: [] });
    const changed = [...keys()].filter(([path, key]) => before.get(path) !== key).map(([path]) => path);
    expect(changed).toHaveLength(12);
    expect(changed.every((path) => path.startsWith('logo'))).toBe(true);
  });

  test('a chain is refused', () => {
    const { doc, artboard } = project({ logo: LOGO });
    const [first] = makeVariants(
      doc,
      artboard('logo'),
      handoverVariants(colourFacts(doc, artboard('logo'), [])),
      '{source}-{variant}',
    );
    doc.apply({ puts: [first], removes: [] });
    expect(refusalOf(() => makeVariants(doc, first, handoverVariants(colourFacts(doc, first, [])), 'x')).code).toBe(
      'variant.chain',
    );
  });

  test('names by template', () => {
    expect(variantName('{variant}/{source}', 'logo', 'grey')).toBe('grey/logo');
    expect(variantName('  ', 'logo', 'grey')).toBe('logo-grey');
  });
});
