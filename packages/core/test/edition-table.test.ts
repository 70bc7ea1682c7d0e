import fc from 'fast-check';
import {
  anyRecord,
  type Edition,
  editionRecord,
  editionTable,
  type ProjectDocument,
  parseTable,
  performRequest,
  printTable,
  Refusal,
  readEditionTable,
} from '../src';
import { layerNamed, project, refusalOf, snapshot, svg } from './fixtures';
import { runs } from './properties';

const CARD = svg(
  '<rect id="ground" width="100" height="60" fill="#eee"/><g id="season"><circle id="summer" cx="20" cy="20" r="8" fill="#f0a000"/><circle id="winter" cx="20" cy="20" r="8" fill="#9cf" style="display:none"/></g><g id="side"><path id="front" d="M60 10h20v20z"/><path id="back" d="M60 10h20v10z" display="none"/></g><text id="word" x="10" y="50" font-size="8">Harbour</text><path id="twin" d="M0 0h1v1z"/><path id="twin" d="M2 0h1v1z"/>',
  'width="100" height="60" viewBox="0 0 100 60"',
);
const card = () => {
  const { doc, artboard } = project({ card: CARD });
  return { doc, board: artboard('card'), id: (name: string) => layerNamed(doc, name).id };
};
const put = (doc: ProjectDocument, artboardId: string, editions: Partial<Edition>[]) =>
  doc.apply({
    puts: editions.map((fields, i) =>
      editionRecord.parse({ id: `e${i}`, kind: 'edition', artboardId, order: `a${i}`, name: `e${i}`, ...fields }),
    ),
    removes: [],
  });
const fromTable = (doc: ProjectDocument, artboardId: string, table: string, more: object = {}) =>
  performRequest(doc, 'editions-from-table', { ids: [artboardId], settings: { table: parseTable(table), ...more } });

const words = fc.oneof(
  fc.string({ maxLength: 12 }),
  fc.constantFrom(
    '=1+1',
    '-',
    ' padded ',
    'two\nlines',
    'a\\nb',
    '"quoted"',
    'tab\there',
    "'",
    "'=x",
    'no',
    '@here',
    '',
  ),
);
const override = fc.record(
  {
    shown: fc.boolean(),
    words,
    tint: fc.constantFrom('#123456', '#eeeeee'),
    offset: fc.constant({ x: 1, y: 2 }),
    opacity: fc.constant(0.5),
  },
  { requiredKeys: [] },
);
const overridesOn = (ids: readonly string[]) =>
  fc.array(fc.tuple(fc.constantFrom(...ids), override), { maxLength: 5 }).map(Object.fromEntries);

test('written and read again, no edition is changed, whatever it holds', () => {
  const { doc, board } = card();
  const ids = doc.list('layer').map(({ id }) => id);
  fc.assert(
    fc.property(fc.array(overridesOn(ids), { minLength: 1, maxLength: 4 }), (all) => {
      doc.apply({ puts: [], removes: doc.list('edition').map(({ id }) => id) });
      put(
        doc,
        board.id,
        all.map((overrides) => ({ overrides })),
      );
      const text = printTable(editionTable(doc, board).rows);
      const read = readEditionTable(doc, board, parseTable(text));
      expect(read).toMatchObject({ drafts: [], changed: [], missing: [], trouble: [] });
      expect(read.same).toEqual(doc.list('edition'));
      expect(refusalOf(() => fromTable(doc, board.id, text))).toMatchObject({ code: 'act.nothing' });
    }),
    runs(150),
  );
});

test('rows match editions by name: new, changed, as they are, and without a row', () => {
  const { doc, board, id } = card();
  const moved = { offset: { x: 3, y: 0 } };
  put(doc, board.id, [
    { name: 'de', overrides: { [id('word')]: { words: 'Hafen', ...moved }, [id('ground')]: { tint: '#123456' } } },
    { name: 'fr', overrides: { [id('summer')]: { shown: false }, [id('winter')]: { shown: true } } },
    { name: 'sv', overrides: {} },
    { name: 'fi', overrides: {} },
  ]);
  const { rows, left } = editionTable(doc, board);
  const text = printTable(rows);
  expect(text).toBe(
    'edition\tground\tseason\tside\tword\nde\t#123456\t\t\tHafen\nfr\t\twinter\t\t\nsv\t\t\t\t\nfi\t\t\t\t\n',
  );
  expect(left).toBe(1);
  const edited = 'edition;word;season\nDE;Der Hafen;\nfr;;summer\nsv;Harbour;\nnl;Haven;winter';
  const read = readEditionTable(doc, board, parseTable(edited));
  expect(read.drafts.map(({ name }) => name)).toEqual(['nl']);
  expect(read.same.map(({ name }) => name)).toEqual(['sv']);
  expect(read.missing.map(({ name }) => name)).toEqual(['fi']);
  expect(read.likeBase).toBe(2);
  // What no column speaks of stays: the move of the word, the colour of the ground.
  expect(read.changed.map(({ name, overrides }) => [name, overrides])).toEqual([
    ['de', { [id('word')]: { words: 'Der Hafen', ...moved }, [id('ground')]: { tint: '#123456' } }],
    ['fr', {}],
  ]);
  const before = snapshot(doc);
  const change = fromTable(doc, board.id, edited, { takeOutMissing: true });
  expect(change.label).toBe('editions of card: 1 new, 2 changed, 1 taken out');
  const back = doc.apply(change);
  expect(
    doc
      .list('edition')
      .map(({ name }) => name)
      .sort(),
  ).toEqual(['de', 'fr', 'nl', 'sv']);
  expect(doc.find('edition', 'e0')?.name).toBe('de');
  doc.apply(back);
  expect(snapshot(doc)).toEqual(before);
});

test('what a spreadsheet would run as a formula is written as text, and read as it was', () => {
  const { doc, board, id } = card();
  put(doc, board.id, [{ overrides: { [id('word')]: { words: '=HYPERLINK("x")' } } }]);
  expect(printTable(editionTable(doc, board).rows)).toContain("'=HYPERLINK");
  put(doc, board.id, [{ overrides: {} }]);
  const read = readEditionTable(doc, board, parseTable("edition\tword\ne0\t'=1+1"));
  expect(read.changed[0].overrides).toEqual({ [id('word')]: { words: '=1+1' } });
});

test('a table that cannot all be used changes nothing, unless a part is asked for', () => {
  const { doc, board } = card();
  const table = 'edition,word,moon,mist\nde,Hafen,x,x';
  expect(refusalOf(() => fromTable(doc, board.id, table))).toMatchObject({
    code: 'table.trouble',
    message: 'row 1, column 3: no layer here is called moon; and 1 more like it',
  });
  expect(fromTable(doc, board.id, table, { partly: true }).label).toBe('editions of card: 1 new');
  for (const [cell, words] of [
    ['a\u0000b', 'these words hold control characters'],
    ['w'.repeat(10_001), '10,001 letters are more than the 10,000 a text may have'],
  ])
    expect(
      readEditionTable(doc, board, [
        ['edition', 'word'],
        ['de', cell],
      ]).trouble,
    ).toEqual([{ row: 2, column: 2, message: words }]);
  put(doc, board.id, [{ name: 'one' }, { name: 'One' }]);
  expect(readEditionTable(doc, board, parseTable('edition,word\none,x')).trouble[0].message).toBe(
    '2 editions are called one; rename all but one',
  );
  // A table that says nothing takes nothing out.
  for (const nothing of [[], [['edition', 'word']], Array(2500).fill(['x'])])
    expect(
      refusalOf(() =>
        performRequest(doc, 'editions-from-table', {
          ids: [board.id],
          settings: { table: nothing, takeOutMissing: true, partly: true },
        }),
      ),
    ).toMatchObject({ code: 'act.nothing' });
  const rows = Array.from({ length: 1999 }, (_, i) => `row ${i}`).join('\n');
  expect(refusalOf(() => fromTable(doc, board.id, `edition\n${rows}`))).toMatchObject({ code: 'editions.many' });
});

test('whatever the cells hold, nothing breaks, and what comes of them are records that can be stored', () => {
  const { doc, board } = card();
  put(doc, board.id, [{ name: 'de' }, { name: 'fr' }]);
  const title = fc.oneof(
    fc.constantFrom('edition', 'word', 'season', 'side', 'ground', 'ground: shown', 'twin', 'word: colour', ': shown'),
    fc.string({ unit: 'binary', maxLength: 20 }),
  );
  const cell = fc.oneof(
    fc.constantFrom('de', 'winter', 'yes', 'no', '#fff', '#12345678', 'rgb(1 2 3)', 'url(#x)', '=1', '\0', '\u001b[2J'),
    fc.constant('w'.repeat(10_001)),
    fc.string({ unit: 'binary', maxLength: 30 }),
  );
  const table = fc.tuple(
    fc.array(title, { maxLength: 6 }),
    fc.array(fc.array(cell, { maxLength: 8 }), { maxLength: 8 }),
  );
  fc.assert(
    fc.property(table, fc.boolean(), ([titles, rows], takeOutMissing) => {
      const cells = parseTable(printTable([titles, ...rows]));
      const read = readEditionTable(doc, board, cells);
      expect(read.same.length + read.changed.length + read.missing.length).toBeLessThanOrEqual(2);
      const settings = { table: cells, takeOutMissing };
      try {
        const change = performRequest(doc, 'editions-from-table', {
          ids: [board.id],
          settings: { ...settings, partly: true },
        });
        for (const record of change.puts) expect(anyRecord.safeParse(record).error?.issues).toBeUndefined();
      } catch (error) {
        expect(error).toBeInstanceOf(Refusal);
      }
    }),
    runs(300),
  );
});

describe('a layer that was renamed since its table was saved', () => {
  const renamed = () => {
    const made = card();
    put(made.doc, made.board.id, [
      { name: 'de', overrides: { [made.id('word')]: { words: 'Hafen' }, [made.id('ground')]: { tint: '#123456' } } },
      { name: 'fr', overrides: { [made.id('word')]: { words: 'Port' } } },
      { name: 'da', overrides: { [made.id('word')]: { words: 'Havn' } } },
    ]);
    const { rows } = editionTable(made.doc, made.board);
    const [word, ground] = [layerNamed(made.doc, 'word'), layerNamed(made.doc, 'ground')];
    made.doc.apply({
      puts: [
        { ...word, name: 'headline' },
        { ...ground, name: 'sky' },
      ],
      removes: [],
    });
    return { ...made, rows, word: word.id };
  };

  test('its column is known by what it says, and told', () => {
    const { doc, board, rows, word } = renamed();
    const read = readEditionTable(doc, board, rows);
    expect(read).toMatchObject({ changed: [], trouble: [], drafts: [], missing: [] });
    expect(read.renamed).toEqual(
      expect.arrayContaining([
        { was: 'word', now: 'headline' },
        { was: 'ground', now: 'sky' },
      ]),
    );
    const edited = rows.map((row) => row.map((cell) => (cell === 'Port' ? 'Le port' : cell)));
    const { changed } = readEditionTable(doc, board, edited);
    expect(changed.map(({ name, overrides }) => [name, overrides[word].words])).toEqual([['fr', 'Le port']]);
  });

  test('a column that says something else altogether is of no layer, and is told', () => {
    const { doc, board, rows } = renamed();
    const other = rows.map((row, i) => row.map((cell, c) => (i > 0 && rows[0][c] === 'word' ? `other ${i}` : cell)));
    const { trouble, changed } = readEditionTable(doc, board, other);
    expect(trouble.map(({ message }) => message)).toEqual(['no layer here is called word']);
    expect(changed).toEqual([]);
  });

  test('a name that another layer has now is that layer’s', () => {
    const { doc, board, rows, id, word } = renamed();
    const twin = { ...layerNamed(doc, 'headline'), id: 'other', name: 'word' };
    doc.apply({ puts: [twin], removes: [] });
    const { changed, renamed: found } = readEditionTable(doc, board, rows);
    expect(found.some(({ was }) => was === 'word')).toBe(false);
    expect(changed.find(({ name }) => name === 'fr')?.overrides.other.words).toBe('Port');
    expect(id('headline')).toBe(word);
  });
});
