import fc from 'fast-check';
import {
  Composer,
  colourFacts,
  coloursUsed,
  contrast,
  handoverVariants,
  layersOn,
  lightenedFor,
  makeVariants,
  NO_FONTS,
  parseColour,
  planFiles,
  printColour,
  READABLE,
  type Rgba,
  recolourBy,
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
      const light = lightenedFor(ground, c);
      expect(contrast(light, ground)).toBeGreaterThanOrEqual(READABLE);
      if (contrast(c, ground) >= READABLE) expect(light).toEqual(c);
    }),
  );
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
  for (const proposal of proposals) expect(proposal.contrast).toBeGreaterThanOrEqual(READABLE);
  expect(proposals.find((proposal) => proposal.key === 'mono-light')?.background).not.toBeNull();
  expect(proposals.find((proposal) => proposal.key === 'one-tint')?.rule).toEqual({ kind: 'tint', colour: '#0c6a53' });
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
