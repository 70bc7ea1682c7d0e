import fc from 'fast-check';
import {
  isStartingSpec,
  outputRecord,
  outputsInWords,
  performRequest,
  planFiles,
  type SaidOutput,
  saidTitle,
} from '../src';
import { project, refusalOf, snapshot, svg } from './fixtures';
import { runs } from './properties';

const said = (text: string): SaidOutput[] => {
  const outputs = outputsInWords(text);
  if (typeof outputs === 'string') throw new Error(outputs);
  return outputs;
};
const titles = (text: string) => said(text).map(saidTitle);

test.each([
  ['png', ['….png']],
  ['png 16 32 64', ['…-16.png', '…-32.png', '…-64.png']],
  ['png 16, 32, 64', ['…-16.png', '…-32.png', '…-64.png']],
  ['png 1x 2x 3x, svg', ['….png', '…@2x.png', '…@3x.png', '….svg']],
  ['SVG PDF png jpg', ['….svg', '….pdf', '….png', '….jpg']],
  ['png jpeg 512 in icons', ['icons/….png', 'icons/….jpg']],
  ['svg, pdf, png 2x in folders', ['svg/….svg', 'pdf/….pdf', 'png/….png']],
  ['png 300 dpi, jpeg 300dpi', ['….png, 300 dpi', '….jpg, 300 dpi']],
  ['svg 85mm, pdf 55 mm high, png 30 mm wide', ['….svg, 85 mm', '….pdf, 55 mm high', '….png, 30 mm']],
  ['png 512, png 512 square, png 512 square tight', ['….png', '…-square.png', '…-square-tight.png']],
  ['png 512 square', ['….png']],
  ['svg 85 60mm', ['…-85.svg', '…-60mm.svg']],
  ['png 64, svg, in glyphs', ['glyphs/….png', 'glyphs/….svg']],
  ['png 16 in small, 32 in large, svg, in rest', ['small/…-16.png', 'large/…-32.png', 'rest/….svg']],
  ['png 64 x 48; png 32', ['…-64x48.png', '…-32.png']],
  ['png 64 64 64', ['…-64.png'.replace('-64', '')]],
])('“%s”', (text, expected) => expect(titles(text)).toEqual(expected));

test('what becomes of shapes is said of vectors, in mm where the size is, and of all before it', () => {
  expect(said('svg 85mm, eps, png 64, united').map(({ settings }) => settings)).toMatchObject([
    { format: 'svg', shapes: 'united', dimensions: 'mm' },
    { format: 'eps', shapes: 'united' },
    { format: 'png' },
  ]);
  expect(said('svg outlined, pdf').map(({ settings }) => 'shapes' in settings && settings.shapes)).toEqual([
    'outlined',
    'drawn',
  ]);
});

test('a ground, a folder, a quality; a part without a format goes on with the one before', () => {
  const [first, second, plain] = said('jpeg 512 on #0c6a53 q80 in web, 1024, png');
  expect(first).toMatchObject({ background: '#0c6a53', folder: 'web', settings: { format: 'jpeg', quality: 80 } });
  expect(second).toMatchObject({
    size: { widthPx: 1024 },
    background: '#0c6a53',
    folder: 'web',
    settings: { quality: 80 },
  });
  expect(plain).toMatchObject({ background: 'piece', folder: '' });
  expect(said('png 64 on white')[0].background).toBe('#ffffff');
});

test.each([
  ['', /^needs formats and sizes/],
  [' , ;', /^needs formats and sizes/],
  ['16 32', /^needs a format before “16”/],
  ['png tiny', /^“tiny” is no format/],
  ['png 99999', /^needs widths from 1 to 32768 px/],
  ['jpeg on mauvish', /is no colour to be on/],
  ['png in ../up', /cannot be a folder/],
  ['png in a:b', /cannot be a folder/],
  ['jpeg q0', /^a quality is q1 to q100/],
  [
    `png ${Array.from({ length: 40 }, (_, i) => i + 1).join(' ')}, svg jpeg pdf ${Array.from({ length: 30 }, (_, i) => i + 1).join(' ')}`,
    /^makes 130 outputs/,
  ],
  ['x'.repeat(2001), /^needs up to 2000 letters/],
])('“%s” is told', (text, words) => expect(outputsInWords(text)).toMatch(words));

test('whatever is said, it is outputs that can be stored with paths of their own, or a sentence', () => {
  const word = fc.oneof(
    fc.constantFrom(
      'png',
      'jpeg',
      'jpg',
      'svg',
      'pdf',
      ',',
      ';',
      'on',
      'white',
      '#123',
      'in',
      'folders',
      'icons/a',
      'q5',
      '2x',
      '64',
      '64x48',
      '300dpi',
      'dpi',
      '..',
      '×',
    ),
    fc.string({ maxLength: 6 }),
  );
  fc.assert(
    fc.property(fc.array(word, { maxLength: 14 }), (words) => {
      const outputs = outputsInWords(words.join(' '));
      if (typeof outputs === 'string') return;
      for (const fields of outputs)
        outputRecord.parse({ id: 'o', kind: 'output', specId: 's', order: 'a0', ...fields });
      expect(
        new Set(outputs.map(({ folder, suffix, settings }) => `${folder}/${suffix}.${settings.format}`)).size,
      ).toBe(outputs.length);
    }),
    runs(600),
  );
});

describe('as an act', () => {
  const made = () =>
    project({ a: svg('<path d="M2 2h9v9z"/>'), b: svg('<path d="M2 2h9v9z"/>'), c: svg('<path d="M2 2h9v9z"/>') });
  const say = ({ doc }: ReturnType<typeof project>, settings: Record<string, unknown>) =>
    doc.apply(performRequest(doc, 'outputs-in-words', { settings }));
  const WORDS = 'png 16 32 64 128 256 512 1024, jpeg 512 on #0c6a53, svg, pdf';

  test('three designs become thirty files, and one undo takes it back', () => {
    const project = made();
    const before = planFiles(project.doc, 'p').files.map(({ path }) => path);
    const undo = say(project, { words: WORDS, instead: true });
    const { files, troubled } = planFiles(project.doc, 'p');
    expect(files).toHaveLength(30);
    expect(troubled).toEqual([]);
    project.doc.apply(undo);
    expect(planFiles(project.doc, 'p').files.map(({ path }) => path)).toEqual(before);
  });

  test('added to what there is, nothing clashes, and nothing is made twice', () => {
    const project = made();
    const count = () => planFiles(project.doc, 'p').files.length;
    const before = count();
    say(project, { words: WORDS });
    // The SVG is made already.
    expect(count()).toBe(before + 27);
    expect(refusalOf(() => say(project, { words: WORDS })).code).toBe('act.nothing');
    say(project, { words: `${WORDS}, on white` });
    expect(count()).toBe(before + 27 + 27);
    expect(planFiles(project.doc, 'p').troubled).toEqual([]);
  });

  test('a project without specs gets one that every piece follows', () => {
    const project = made();
    const { doc } = project;
    doc.apply({
      puts: doc.list('artboard').map((artboard) => ({ ...artboard, specIds: [] })),
      removes: [...doc.list('spec'), ...doc.list('output')].map(({ id }) => id),
    });
    say(project, { words: 'svg' });
    expect(planFiles(doc, 'p').files.map(({ path }) => path)).toEqual(['a.svg', 'b.svg', 'c.svg']);
  });

  test('each piece makes what is said of it, and the spec that nobody chose is gone', () => {
    const project = made();
    const { doc } = project;
    doc.apply({ puts: [{ ...doc.settings, defaultSpecId: doc.list('spec')[0].id }], removes: [] });
    const before = snapshot(doc);
    const undo = say(project, { words: '1: png 1x 2x; b: svg\n3: none' });
    const { files, specs, troubled } = planFiles(doc, 'p');
    expect(files.map(({ path }) => path).sort()).toEqual(['a.png', 'a@2x.png', 'b.svg']);
    expect(specs.map(({ name }) => name)).toEqual(['PNG of 1', 'SVG of b']);
    expect(doc.settings.defaultSpecId).toBe(specs[0].id);
    expect(troubled).toEqual([]);
    doc.apply(undo);
    expect(snapshot(doc)).toEqual(before);
  });

  test('names and numbers with commas are meant together', () => {
    const project = made();
    say(project, { words: 'c, 1: png 32' });
    const of = (name: string) =>
      planFiles(project.doc, 'p').files.flatMap(({ path }) => (path.startsWith(name) ? [path] : []));
    expect([of('a'), of('c')]).toEqual([['a.png'], ['c.png']]);
    expect(of('b').length).toBeGreaterThan(1);
    expect(refusalOf(() => say(project, { words: 'c, boat: svg' })).code).toBe('outputs.who');
  });

  test('who is not named goes on, or makes what is said for all others', () => {
    const project = made();
    const { doc } = project;
    const path = () =>
      planFiles(doc, 'p')
        .files.map((file) => file.path)
        .sort();
    const others = path().filter((each) => !each.startsWith('b'));
    say(project, { words: 'b: pdf' });
    expect(path()).toEqual([...others, 'b.pdf'].sort());
    say(project, { words: '2: none; svg', instead: true });
    expect(path()).toEqual(['a.svg', 'c.svg']);
    say(project, { words: '2-3: jpeg; none' });
    expect(path()).toEqual(['b.jpg', 'c.jpg']);
  });

  test('what is for all comes to all, also where each piece makes files of its own', () => {
    const project = made();
    const { doc } = project;
    const path = () =>
      planFiles(doc, 'p')
        .files.map((file) => file.path)
        .sort();
    say(project, { words: '1: png; 2: svg; 3: pdf' });
    say(project, { words: 'jpeg' });
    expect(path()).toEqual(['a.jpg', 'a.png', 'b.jpg', 'b.svg', 'c.jpg', 'c.pdf']);
  });

  test('a later part has the last word; a name that is one’s own is not part of another’s', () => {
    const project_ = project({ mark: svg('<path d="M2 2h9v9z"/>'), 'mark-bold': svg('<path d="M2 2h9v9z"/>') });
    say(project_, { words: '1-: svg; mark: png' });
    expect(planFiles(project_.doc, 'p').files.map(({ path }) => path)).toEqual(['mark.png', 'mark-bold.svg']);
  });

  test.each([
    ['9: png', /no piece has the number or name “9”/],
    ['boat: png', /no piece has the number or name “boat”/],
    [': png', /needs a number or a name before the colon/],
    ['1: pgn', /^1: “pgn” is no format/],
    ['1: png; svg; pdf', /says twice what all others make/],
    ['1:', /^1: needs formats and sizes/],
  ])('“%s” is refused in words, and nothing is changed', (words, told) => {
    const project = made();
    const before = snapshot(project.doc);
    expect(refusalOf(() => say(project, { words })).message).toMatch(told);
    expect(snapshot(project.doc)).toEqual(before);
  });

  test('what is no output is refused with what would be', () => {
    expect(refusalOf(() => say(made(), { words: 'nothing' }))).toMatchObject({ code: 'outputs.words' });
  });
});

test('what a project begins with is known until somebody touches it', () => {
  const { doc, outputs } = project({ a: svg('<path d="M2 2h9v9z"/>') });
  const [spec] = doc.list('spec');
  expect(isStartingSpec(doc)).toBe(false);
  doc.apply({ puts: [{ ...doc.settings, defaultSpecId: spec.id }], removes: [] });
  expect(isStartingSpec(doc)).toBe(true);
  const undo = doc.apply({ puts: [{ ...outputs[1], suffix: '-x' }], removes: [] });
  expect(isStartingSpec(doc)).toBe(false);
  doc.apply(undo);
  doc.apply({ puts: [], removes: [outputs[0].id] });
  expect(isStartingSpec(doc)).toBe(false);
});
