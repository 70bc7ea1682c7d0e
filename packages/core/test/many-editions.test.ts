import fc from 'fast-check';
import {
  type Artboard,
  Composer,
  choicesOn,
  combinationCount,
  combinations,
  copyDifference,
  decodeText,
  differences,
  type Edition,
  type EditionDraft,
  editionRecord,
  editionTable,
  givenToBase,
  type Layer,
  makeEditions,
  NO_FONTS,
  namingOf,
  newId,
  type ProjectDocument,
  parseTable,
  performRequest,
  planFiles,
  printTable,
  readEditionTable,
  resizeArtboard,
  textWords,
  withOverrides,
} from '../src';
import { project, svg } from './fixtures';
import { runs } from './properties';

const CARD = svg(
  '<rect id="ground" width="100" height="60" fill="#eee"/><g id="season"><circle id="summer" cx="20" cy="20" r="8" fill="#f0a000"/><circle id="winter" cx="20" cy="20" r="8" fill="#9cf" style="display:none"/></g><g id="side"><path id="front" d="M60 10h20v20z"/><path id="back" d="M60 10h20v10z" display="none"/></g><text id="word" x="10" y="50" font-size="8">Harbour</text>',
  'width="100" height="60" viewBox="0 0 100 60"',
);
const card = () => {
  const { doc, artboard } = project({ card: CARD });
  const layer = (name: string) => doc.list('layer').find((each) => each.name === name) as Layer;
  return { doc, board: artboard('card'), layer };
};
const svgOf = (doc: ProjectDocument, id: string) => {
  const file = planFiles(doc, 'e').files.find((each) => each.pieceId === id && each.format === 'svg');
  return file && new Composer(doc, { fonts: NO_FONTS, pictures: () => undefined }).compose(file).svg;
};
const made = (doc: ProjectDocument, board: Artboard, drafts: readonly EditionDraft[]) => {
  doc.apply({ puts: makeEditions(doc, board, drafts), removes: [] });
  return doc.list('edition').filter((edition) => edition.artboardId === board.id);
};

describe('from a table', () => {
  test.each([
    ['tabs', '\t'],
    ['commas', ','],
    ['semicolons', ';'],
  ])('%s: which layer of a group shows, words, colours, shown or not', (_, by) => {
    const { doc, board, layer } = card();
    const rows = [
      ['edition', 'season', 'word', 'ground', 'front: shown'],
      ['de', 'winter', 'Hafen', '#123456', 'no'],
      ['fr', '', '"Le port; ""vieux"""', '', 'yes'],
    ];
    const { drafts, trouble } = readEditionTable(doc, board, parseTable(rows.map((row) => row.join(by)).join('\r\n')));
    expect(trouble).toEqual([]);
    expect(drafts.map((draft) => draft.name)).toEqual(['de', 'fr']);
    expect(drafts[0].overrides).toEqual({
      [layer('summer').id]: { shown: false },
      [layer('winter').id]: { shown: true },
      [layer('word').id]: { words: 'Hafen' },
      [layer('ground').id]: { tint: '#123456' },
      [layer('front').id]: { shown: false },
    });
    expect(drafts[1].overrides[layer('word').id]).toEqual({ words: 'Le port; "vieux"' });
    const [de] = made(doc, board, drafts);
    expect(doc.find('artboard', board.id)?.on).toBe(false);
    expect(svgOf(doc, de.id)).toContain('#123456');
  });

  test('what cannot be used is told at its place, and the rest is read', () => {
    const { doc, board } = card();
    const { drafts, trouble } = readEditionTable(
      doc,
      board,
      parseTable('edition,season,moon,ground\none,autumn,x,#fff\nONE,winter,,\n,summer,,\ntwo,winter,,blurple'),
    );
    expect(drafts.map((draft) => draft.name)).toEqual(['one', 'two']);
    expect(trouble).toEqual([
      { row: 1, column: 3, message: 'no layer here is called moon' },
      { row: 2, column: 2, message: 'season has no layer called autumn; it has summer, winter' },
      { row: 3, column: 1, message: 'ONE is the name of row 2, too' },
      { row: 4, column: 1, message: 'the name needs a name of at least one character' },
      { row: 5, column: 4, message: 'blurple is no colour' },
    ]);
    expect(readEditionTable(doc, board, parseTable('')).trouble[0].message).toContain('at least one row');
    const many = readEditionTable(doc, board, [['edition'], ...Array.from({ length: 10_000 }, (_, i) => [`row ${i}`])]);
    expect(many.drafts).toEqual([]);
    expect(many.trouble[0].message).toBe('10,000 rows are more than the 2,000 editions one artboard may have');
  });

  test('files in other encodings', () => {
    expect(decodeText(Buffer.from('Häfen', 'utf8'))).toBe('Häfen');
    expect(decodeText(Buffer.from('Häfen', 'latin1'))).toBe('Häfen');
    expect(decodeText(Buffer.from('\ufeffHäfen', 'utf16le'))).toBe('Häfen');
  });

  test('a table to begin with is read back as one edition like the base', () => {
    const { doc, board } = card();
    const text = printTable(editionTable(doc, board).rows);
    expect(text.split('\n')[0]).toBe('edition\tseason\tside\tword');
    const { drafts, trouble, likeBase } = readEditionTable(doc, board, parseTable(text));
    expect(trouble).toEqual([]);
    // What the base says is no difference: whatever becomes of it, the edition has it, too.
    expect([likeBase, drafts[0].overrides]).toEqual([3, {}]);
    const [edition] = made(doc, board, drafts);
    doc.apply({ puts: [{ ...(doc.find('artboard', board.id) as Artboard), on: true }], removes: [] });
    expect(svgOf(doc, edition.id)).toBe(svgOf(doc, board.id));
  });
});

test('all combinations of chosen groups, each different, named by what shows', () => {
  const { doc, board } = card();
  const choices = choicesOn(doc, board);
  expect(choices.map(({ group }) => group.name)).toEqual(['season', 'side']);
  expect(combinationCount(choices)).toBe(4);
  const drafts = combinations(doc, board, choices, `{base}-${namingOf(choices)}-{n}`);
  expect(drafts.map((draft) => draft.name)).toEqual([
    'card-summer-front-1',
    'card-summer-back-2',
    'card-winter-front-3',
    'card-winter-back-4',
  ]);
  const pictures = made(doc, board, drafts).map((edition) => svgOf(doc, edition.id));
  expect(new Set(pictures).size).toBe(4);
  expect(combinations(doc, board, [], '{n}')).toEqual([]);
});

test('combined by an act: the groups that are named, with a name for each; too many are refused', () => {
  const { doc, board, layer } = card();
  const combine = (settings: Record<string, unknown>) =>
    performRequest(doc, 'combine-editions', { ids: [board.id], settings });
  const { label, puts } = combine({ groups: [layer('season').id, layer('word').id] });
  expect(label).toBe('make 2 editions of card');
  expect(puts.flatMap((record) => (record.kind === 'edition' ? [record.name] : []))).toEqual(['summer', 'winter']);
  expect(() => combine({ groups: [] })).toThrow('no group is chosen');
  doc.apply({
    puts: makeEditions(
      doc,
      board,
      Array.from({ length: 1999 }, (_, i) => ({ name: `e${i}`, overrides: {} })),
    ),
    removes: [],
  });
  expect(() => combine({ groups: [layer('season').id] })).toThrow('more than 2,000 editions');
});

describe('words', () => {
  const withWords = () => {
    const { doc, board, layer } = card();
    const [de, fr] = made(
      doc,
      board,
      readEditionTable(doc, board, [
        ['edition', 'word'],
        ['de', 'Hafen'],
        ['fr', ''],
      ]).drafts,
    );
    return { doc, board, layer, de, fr };
  };

  test('are listed, given to others, and pushed to the base', () => {
    const { doc, layer, de, fr } = withWords();
    expect(differences(doc, de)).toEqual([expect.objectContaining({ field: 'words', words: 'says "Hafen"' })]);
    const [given] = copyDifference(doc, de, layer('word').id, 'words', [de, fr]);
    expect(given).toMatchObject({ id: fr.id, overrides: { [layer('word').id]: { words: 'Hafen' } } });
    const push = givenToBase(doc, de, layer('word').id);
    if (push) doc.apply(push);
    expect(textWords(layer('word'))).toBe('Hafen');
    expect((doc.find('edition', de.id) as Edition).overrides).toEqual({});
  });
});

describe('holding to edges', () => {
  test('layers go with the edge, the middle, or are stretched between both; others stay; hidden ones go along', () => {
    const { doc, board, layer } = card();
    const hold = (name: string, x: 'left' | 'right' | 'centre' | 'both', y?: 'bottom') =>
      doc.apply({ puts: [{ ...layer(name), hold: { x, y } }], removes: [] });
    hold('ground', 'both');
    hold('winter', 'right', 'bottom');
    hold('front', 'centre');
    const [x, y] = [board.x, board.y];
    const at = (name: string) => {
      const { attrs, transform } = layer(name);
      return {
        x: Number(attrs.x ?? attrs.cx ?? 60) + (transform?.[4] ?? 0),
        y: Number(attrs.cy ?? 0) + (transform?.[5] ?? 0),
        width: Number(attrs.width),
      };
    };
    const [ground, winter, summer, front] = [at('ground'), at('winter'), at('summer'), at('front')];
    doc.apply({ puts: resizeArtboard(doc, board, { x, y, width: 160, height: 100 }), removes: [] });
    expect(at('ground').width).toBeCloseTo(ground.width + 60, 6);
    expect(at('winter').x - winter.x).toBeCloseTo(60, 6);
    expect(at('winter').y - winter.y).toBeCloseTo(40, 6);
    expect(at('front').x - front.x).toBeCloseTo(30, 6);
    expect(at('summer')).toEqual(summer);
  });

  test('there and back again is where it was', () => {
    const { doc, board, layer } = card();
    for (const name of ['ground', 'summer', 'front', 'word'])
      doc.apply({ puts: [{ ...layer(name), hold: { x: 'right', y: 'centre' } }], removes: [] });
    const before = svgOf(doc, board.id);
    const larger = { x: board.x - 10, y: board.y - 20, width: 200, height: 90 };
    doc.apply({ puts: resizeArtboard(doc, board, larger), removes: [] });
    expect(svgOf(doc, board.id)).not.toBe(before);
    doc.apply({
      puts: resizeArtboard(doc, doc.find('artboard', board.id) as Artboard, {
        x: board.x,
        y: board.y,
        width: board.width,
        height: board.height,
      }),
      removes: [],
    });
    expect(svgOf(doc, board.id)).toBe(before);
  });
});

describe('an edition is what the base would be', () => {
  const names = ['ground', 'season', 'summer', 'winter', 'side', 'front', 'word'];
  const change = fc.record({
    name: fc.constantFrom(...names),
    shown: fc.option(fc.boolean(), { nil: undefined }),
    offset: fc.option(fc.record({ x: fc.integer({ min: -40, max: 40 }), y: fc.integer({ min: -40, max: 40 }) }), {
      nil: undefined,
    }),
    opacity: fc.option(fc.constantFrom(0.25, 0.5, 1), { nil: undefined }),
    words: fc.option(fc.constantFrom('Hafen', 'Port\nneuf'), { nil: undefined }),
  });

  test('shown, moved, faded or saying other words: the same picture as the base edited by hand, and after a push', () => {
    fc.assert(
      fc.property(fc.array(change, { minLength: 1, maxLength: 4 }), (changes) => {
        const { doc, board, layer } = card();
        let edition: Edition = editionRecord.parse({
          id: newId(),
          kind: 'edition',
          artboardId: board.id,
          order: 'a0',
          name: 'e',
          specIds: board.specIds,
        });
        for (const { name, words, ...fields } of changes) {
          const said = name === 'word' && words !== undefined ? { words } : {};
          edition = withOverrides(doc, edition, [layer(name).id], (before) => ({
            ...before,
            ...Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined)),
            ...said,
          }));
        }
        doc.apply({ puts: [edition], removes: [] });
        const picture = svgOf(doc, edition.id);
        for (const id of Object.keys(edition.overrides)) {
          const push = givenToBase(doc, doc.find('edition', edition.id) as Edition, id);
          if (push) doc.apply(push);
          expect(svgOf(doc, edition.id)).toBe(picture);
        }
        expect(doc.find('edition', edition.id)?.overrides).toEqual({});
        expect(svgOf(doc, board.id)).toBe(picture);
      }),
      runs(60),
    );
  });
});
