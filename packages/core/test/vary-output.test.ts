import fc from 'fast-check';
import {
  atSizes,
  defaultSettings,
  FORMAT_LIST,
  inFormat,
  type Output,
  outputRecord,
  outputSettings,
  performRequest,
  planFiles,
  readSizes,
  type SizeRule,
  sizeSuffix,
  withSize,
} from '../src';
import { project, refusalOf, svg } from './fixtures';
import { runs } from './properties';

const output = (fields: Partial<Output> = {}): Output =>
  outputRecord.parse({
    id: 'o',
    kind: 'output',
    specId: 's',
    order: 'a0',
    size: { kind: 'factor', factor: 1 },
    settings: { format: 'png' },
    ...fields,
  });
const width = (widthPx: number): SizeRule => ({ kind: 'width', widthPx });
const factor = (n: number): SizeRule => ({ kind: 'factor', factor: n });

test.each<[string, SizeRule['kind'], SizeRule[]]>([
  ['64', 'width', [width(64)]],
  ['16, 32,64', 'width', [width(16), width(32), width(64)]],
  ['16 32; 16', 'width', [width(16), width(32)]],
  ['1x 2x 3x', 'width', [factor(1), factor(2), factor(3)]],
  ['1 2 3', 'factor', [factor(1), factor(2), factor(3)]],
  ['1x, 2×, @3x', 'width', [factor(1), factor(2), factor(3)]],
  ['72, 150, 300 dpi', 'dpi', [72, 150, 300].map((dpi) => ({ kind: 'dpi', dpi }))],
  ['85mm, 20.5 mm', 'widthMm', [85, 20.5].map((mm) => ({ kind: 'widthMm', mm }))],
  ['30mm 12mmhigh', 'height', [30, 12].map((mm) => ({ kind: 'heightMm', mm }))],
  ['300dpi', 'factor', [{ kind: 'dpi', dpi: 300 }]],
  [
    '64 x 48, 32',
    'box',
    [
      { kind: 'box', widthPx: 64, heightPx: 48 },
      { kind: 'box', widthPx: 32, heightPx: 32 },
    ],
  ],
  ['64×48', 'factor', [{ kind: 'box', widthPx: 64, heightPx: 48 }]],
  ['100 high', 'width', [{ kind: 'height', heightPx: 100 }]],
  ['512 px', 'factor', [width(512)]],
  ['0.5, 1.5', 'factor', [factor(0.5), factor(1.5)]],
])('“%s” of %s', (text, kind, sizes) => expect(readSizes(text, kind)).toEqual(sizes));

test.each<[string, SizeRule['kind'], string]>([
  ['', 'width', 'needs widths from 1 to 32768 px'],
  ['16, big', 'width', 'needs widths from 1 to 32768 px, such as “16, 32, 64”'],
  ['99999', 'width', 'needs widths from 1 to 32768 px, such as “16, 32, 64”'],
  ['1.5', 'height', 'needs heights from 1 to 32768 px, such as “16, 32, 64”'],
  ['0, 1', 'factor', 'needs factors from 0.25 to 64, such as “1, 2, 3”'],
  ['10', 'dpi', 'needs 24 to 2400 dpi, such as “72, 150, 300”'],
  [Array.from({ length: 41 }, (_, i) => i + 1).join(), 'width', 'needs up to 40 sizes at once'],
])('“%s” of %s is told', (text, kind, words) => expect(readSizes(text, kind)).toBe(words));

test('whatever is typed, it is sizes or a sentence', () => {
  fc.assert(
    fc.property(
      fc.oneof(fc.string({ maxLength: 40 }), fc.stringMatching(/^[0-9x×, @.dpiw-]{0,30}$/)),
      fc.constantFrom<SizeRule['kind']>('factor', 'width', 'height', 'box', 'dpi'),
      (text, kind) => {
        const read = readSizes(text, kind);
        if (typeof read === 'string') expect(read).toMatch(/^needs /);
        else for (const size of read) expect(outputRecord.safeParse({ ...output(), size }).success).toBe(true);
      },
    ),
    runs(500),
  );
});

describe('several sizes', () => {
  test('suffixes tell them apart, and what was said of the old size goes', () => {
    const made = atSizes(output({ size: factor(2), suffix: '-dark@2x' }), [factor(1), width(64), factor(3)]);
    expect(made.map(({ suffix }) => suffix)).toEqual(['-dark', '-dark-64', '-dark@3x']);
  });

  test('one size changes what the suffix says of it, and nothing that it does not', () => {
    expect(withSize(output({ size: factor(2), suffix: '@2x' }), factor(3)).suffix).toBe('@3x');
    expect(withSize(output({ size: factor(2), suffix: '-large' }), factor(3)).suffix).toBe('-large');
    expect(withSize(output({ size: width(64), suffix: '-64' }), width(128)).suffix).toBe('-128');
  });

  test('no two sizes have one suffix, within a kind', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 1, max: 64 }), { maxLength: 12 }), (list) => {
        for (const sized of [width, factor])
          expect(new Set(list.map((n) => sizeSuffix(sized(n)))).size).toBe(list.length);
      }),
      runs(100),
    );
  });
});

describe('in another format', () => {
  test('vectors have no factor and no name for one; a width stays', () => {
    const png = output({ size: factor(3), suffix: '-icon@3x', background: 'none' });
    expect(inFormat(png, 'svg')).toMatchObject({ size: factor(1), suffix: '-icon', settings: { format: 'svg' } });
    expect(inFormat(output({ size: width(64), suffix: '-64' }), 'pdf')).toMatchObject({
      size: width(64),
      suffix: '-64',
    });
  });

  test('what shows no ground through has one, and what both have is kept', () => {
    expect(inFormat(output({ background: 'none' }), 'jpeg').background).toBe('piece');
    expect(inFormat(output({ background: '#0c6a53' }), 'jpeg').background).toBe('#0c6a53');
    const white = output({ recolour: { kind: 'white' }, folder: 'white' });
    expect(inFormat(white, 'svg')).toMatchObject({ recolour: { kind: 'white' }, folder: 'white' });
  });

  test('always an output that can be stored, in itself as it is', () => {
    for (const from of FORMAT_LIST) {
      const own = output({ settings: defaultSettings(from), size: factor(2), suffix: '@2x', background: 'none' });
      for (const to of FORMAT_LIST) {
        const made = inFormat(own, to);
        expect(outputRecord.parse(made)).toEqual(made);
        expect(outputSettings.parse(made.settings)).toEqual(made.settings);
      }
      if (from === 'png') expect(inFormat(own, from)).toEqual(own);
    }
  });
});

describe('as an act', () => {
  const three = () => {
    const made = project({
      a: svg('<path d="M2 2h9v9z"/>'),
      b: svg('<path d="M2 2h9v9z"/>'),
      c: svg('<path d="M2 2h9v9z"/>'),
    });
    const [first, ...rest] = made.doc.list('output');
    made.doc.apply({
      puts: [{ ...first, size: factor(1), suffix: '', settings: defaultSettings('png') }],
      removes: rest.map(({ id }) => id),
    });
    const vary = (settings: Record<string, unknown>) =>
      made.doc.apply(performRequest(made.doc, 'vary-output', { settings: { outputId: first.id, ...settings } }));
    return { ...made, vary, paths: () => planFiles(made.doc, 'p').files.map(({ path }) => path) };
  };

  test('seven sizes, and each of them as other formats too, no path twice', () => {
    const { vary, paths, doc } = three();
    const undo = vary({ sizes: [16, 32, 64, 128, 256, 512, 1024].map(width) });
    expect(paths()).toHaveLength(21);
    vary({ formats: ['svg', 'pdf'] });
    expect(new Set(paths()).size).toBe(paths().length);
    expect(paths()).toHaveLength(27);
    expect(planFiles(doc, 'p').troubled).toEqual([]);
    expect(undo.removes).toHaveLength(6);
  });

  test('several factors become one vector', () => {
    const { vary, doc } = three();
    vary({ sizes: [1, 2, 3].map(factor), formats: ['svg'] });
    expect(doc.list('output').map(({ settings, suffix }) => settings.format + suffix)).toEqual([
      'png',
      'png@2x',
      'png@3x',
      'svg',
    ]);
  });

  test('a copy never clashes with what is there', () => {
    const { vary, doc, paths } = three();
    vary({ sizes: [16, 32].map(width) });
    vary({ sizes: [16, 32].map(width) });
    performRequest(doc, 'duplicate-output', { settings: { outputId: doc.list('output')[0].id } });
    doc.apply(performRequest(doc, 'duplicate-output', { settings: { outputId: doc.list('output')[0].id } }));
    expect(new Set(paths()).size).toBe(paths().length);
  });

  test('what is so already says so; too many are refused', () => {
    const { vary, doc } = three();
    expect(refusalOf(() => vary({ sizes: [factor(1)] })).code).toBe('act.nothing');
    const sizes = Array.from({ length: 40 }, (_, i) => width(i + 1));
    for (let i = 0; i < 4; i++) {
      const id = doc.list('output').at(-1)?.id;
      doc.apply(performRequest(doc, 'vary-output', { settings: { outputId: id, sizes } }));
    }
    expect(refusalOf(() => vary({ sizes, formats: ['svg', 'pdf', 'jpeg'] })).code).toBe('outputs.many');
  });
});

test('one cell is switched on where its piece does not follow the spec: that file, and no other of it', () => {
  const { doc, artboard, outputs } = project({ a: svg('<path d="M2 2h9v9z"/>'), b: svg('<path d="M2 2h9v9z"/>') });
  doc.apply({ puts: [{ ...artboard('b'), specIds: [] }], removes: [] });
  const of = (id: string) =>
    planFiles(doc, 'p')
      .files.filter(({ pieceId }) => pieceId === id)
      .map(({ outputId }) => outputId);
  const undo = doc.apply(
    performRequest(doc, 'switch-files', {
      ids: [artboard('b').id],
      settings: { on: true, outputIds: [outputs[1].id], alone: true },
    }),
  );
  expect(of(artboard('b').id)).toEqual([outputs[1].id]);
  expect(of(artboard('a').id)).toHaveLength(outputs.length);
  doc.apply(undo);
  expect(of(artboard('b').id)).toEqual([]);
});
