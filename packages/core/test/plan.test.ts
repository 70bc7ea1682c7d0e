import fc from 'fast-check';
import {
  Composer,
  editionRecord,
  fillTemplate,
  foldPath,
  inCase,
  MAX_SIDE_PX,
  NO_FONTS,
  outputRecord,
  type PlannedFile,
  pickPieces,
  pieces,
  planFiles,
  safeFolders,
  safeSegment,
  sizeOf,
  sizeRule,
  unknownWords,
} from '../src';
import { project, svg } from './fixtures';
import { runs } from './properties';

const icon = svg('<path d="M0 0h24"/>');

describe('sizes', () => {
  const region = fc.record({
    x: fc.double({ min: -5000, max: 5000, noNaN: true }),
    y: fc.double({ min: -5000, max: 5000, noNaN: true }),
    width: fc.double({ min: 0.5, max: 2000, noNaN: true }),
    height: fc.double({ min: 0.5, max: 2000, noNaN: true }),
  });

  test('round(region × scale), wherever the region starts', () => {
    fc.assert(
      fc.property(region, fc.double({ min: 0.25, max: 8, noNaN: true }), (r, factor) => {
        const size = sizeOf(r, { kind: 'factor', factor });
        const moved = sizeOf({ ...r, x: 0, y: 0 }, { kind: 'factor', factor });
        return (
          size.widthPx === Math.max(1, Math.round(r.width * factor + 1e-9)) &&
          size.heightPx === Math.max(1, Math.round(r.height * factor + 1e-9)) &&
          moved.widthPx === size.widthPx &&
          moved.heightPx === size.heightPx &&
          Math.abs(size.view.width * size.scale - size.widthPx) < 1e-6
        );
      }),
      runs(100_000),
    );
  });

  test('a width, a height and a box are met to the pixel', () => {
    fc.assert(
      fc.property(
        region,
        fc.integer({ min: 1, max: MAX_SIDE_PX }),
        fc.integer({ min: 1, max: MAX_SIDE_PX }),
        (r, a, b) => {
          expect(sizeOf(r, { kind: 'width', widthPx: a }).widthPx).toBe(a);
          expect(sizeOf(r, { kind: 'height', heightPx: b }).heightPx).toBe(b);
          const box = sizeOf(r, { kind: 'box', widthPx: a, heightPx: b });
          expect([box.widthPx, box.heightPx]).toEqual([a, b]);
          // The artwork fits and is centred.
          expect(box.view.width).toBeGreaterThanOrEqual(r.width - 1e-6);
          expect(box.view.height).toBeGreaterThanOrEqual(r.height - 1e-6);
          expect(box.view.x + box.view.width / 2).toBeCloseTo(r.x + r.width / 2, 5);
        },
      ),
      runs(5000),
    );
  });

  test('dpi and the scale it was drawn at', () => {
    const r = { x: 0, y: 0, width: 96, height: 48 };
    expect(sizeOf(r, { kind: 'dpi', dpi: 300 })).toMatchObject({ widthPx: 300, heightPx: 150, dpi: 300 });
    expect(sizeOf(r, { kind: 'factor', factor: 2 }, 4)).toMatchObject({ widthPx: 48, heightPx: 24, dpi: 192 });
  });

  test('what cannot be made says so', () => {
    expect(sizeOf({ x: 0, y: 0, width: 100_000, height: 10 }, { kind: 'factor', factor: 1 }).problem).toContain(
      '100000 × 10 px',
    );
    expect(sizeOf({ x: 0, y: 0, width: 20_000, height: 20_000 }, { kind: 'factor', factor: 1 }).problem).toContain(
      'million',
    );
  });

  test.each([
    { kind: 'factor', factor: 0 },
    { kind: 'factor', factor: 65 },
    { kind: 'width', widthPx: 1_000_000 },
    { kind: 'width', widthPx: 1.5 },
    { kind: 'box', widthPx: 10 },
    { kind: 'dpi', dpi: Number.NaN },
  ])('refused: %j', (rule) => {
    expect(sizeRule.safeParse(rule).success).toBe(false);
  });
});

describe('names', () => {
  test.each([
    ['a/b\\c', 'a-b-c'],
    ['CON', '_CON'],
    ['nul.txt', '_nul.txt'],
    ['name. ', 'name'],
    ['..', 'unnamed'],
    ['a\u0000b\u202ec', 'abc'],
    ['Ã\u0303', 'Ã\u0303'.normalize('NFC')],
    ['🦑 squid', '🦑 squid'],
    ['what?*<>:"|', 'what-'],
    ['', 'unnamed'],
  ])('%j is written as %j', (name, safe) => expect(safeSegment(name)).toBe(safe));

  test('any name at all is safe, and safe names stay', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (name) => {
        const safe = safeSegment(name);
        expect(safe).not.toBe('');
        expect(safe).not.toMatch(/[<>:"/\\|?*\p{Cc}]/u);
        expect(safe).not.toMatch(/^[\s.]|[\s.]$/);
        expect(Buffer.byteLength(safe)).toBeLessThanOrEqual(200);
        expect(safeSegment(safe)).toBe(safe);
      }),
      runs(3000),
    );
  });

  test('folders never climb', () => {
    expect(safeFolders('../../etc//./passwd')).toBe('etc/passwd');
    expect(safeFolders('/app\\3x/')).toBe('app/3x');
    fc.assert(
      fc.property(
        fc.string({ unit: 'binary', maxLength: 100 }),
        (path) => void expect(safeFolders(path).split('/')).not.toContain('..'),
      ),
    );
  });

  test('letter cases', () => {
    expect(inCase('Tide High@2x', 'kebab')).toBe('tide-high@2x');
    expect(inCase('tideHigh 2', 'snake')).toBe('tide_high_2');
    expect(inCase('Tide High', 'lower')).toBe('tide high');
  });

  test('templates', () => {
    const values = {
      piece: 'a/b',
      suffix: '@2x',
      width: '48',
      height: '24',
      scale: '2',
      format: 'png',
      spec: 'Web',
      project: 'P',
      number: '07',
    };
    const fill = (template: string) => fillTemplate(template, (word) => values[word]);
    expect(fill('{number}-{piece}{suffix}-{width}x{height}')).toBe('07-a-b@2x-48x24');
    expect(fill('{{piece}} {colour} {toString} {}{')).toBe('{a-b} {colour} {toString} {}{');
    expect(fill('')).toBe('');
    expect(unknownWords('{piece}-{colour}')).toEqual(['colour']);
  });
});

describe('plan', () => {
  test('every on cell is a file, every off one is counted', () => {
    const { doc, artboard, outputs } = project({ anchor: icon, boat: icon });
    expect(planFiles(doc, 'p').files.map((file) => file.path)).toEqual([
      'anchor.svg',
      'anchor.png',
      'anchor@2x.png',
      'boat.svg',
      'boat.png',
      'boat@2x.png',
    ]);
    doc.apply({
      puts: [
        { ...artboard('boat'), offOutputIds: [outputs[1].id] },
        { ...artboard('anchor'), on: false },
      ],
      removes: [],
    });
    const plan = planFiles(doc, 'p');
    expect(plan.files.map((file) => file.path)).toEqual(['boat.svg', 'boat@2x.png']);
    expect(plan.offCount).toBe(4);
  });

  test('two files for one path are both told, whatever their letters', () => {
    const { doc, artboard } = project({ anchor: icon, boat: icon });
    doc.apply({ puts: [{ ...artboard('boat'), name: 'ANCHOR' }], removes: [] });
    const plan = planFiles(doc, 'p');
    expect(plan.troubled).toHaveLength(6);
    for (const file of plan.troubled) expect(file.clashes).toHaveLength(1);
  });

  test('untroubled plans never have two files on one path under case folding', () => {
    const names = fc.array(fc.constantFrom('a', 'A', 'a.', 'a ', 'ä', 'a\u0308', 'b/c', 'b-c', 'CON'), {
      minLength: 1,
      maxLength: 6,
    });
    fc.assert(
      fc.property(names, fc.constantFrom('{piece}{suffix}', '{piece}', '{number}-{piece}', 'same'), (list, naming) => {
        const { doc } = project(Object.fromEntries(list.map((_, i) => [`n${i}`, icon])));
        doc.apply({
          puts: [...doc.list('artboard').map((board, i) => ({ ...board, name: list[i] })), { ...doc.settings, naming }],
          removes: [],
        });
        const plan = planFiles(doc, 'p');
        const paths = plan.files.map((file) => foldPath(file.path));
        for (const [i, file] of plan.files.entries())
          expect(file.clashes.length).toBe(paths.filter((path) => path === paths[i]).length - 1);
      }),
      runs(60),
    );
  });

  test('after an edit the plan is what a fresh one is', () => {
    const { doc, artboard, outputs } = project({ anchor: icon, boat: icon });
    planFiles(doc, 'p');
    doc.apply({
      puts: [
        { ...artboard('boat'), width: 30 },
        { ...outputs[2], suffix: '-x' },
        { ...doc.settings, letterCase: 'snake' },
      ],
      removes: [],
    });
    expect(planFiles(doc, 'q').files.map((file) => [file.path, file.widthPx])).toEqual([
      ['anchor.svg', 24],
      ['anchor.png', 24],
      ['anchor_x.png', 48],
      ['boat.svg', 30],
      ['boat.png', 30],
      ['boat_x.png', 60],
    ]);
  });

  test('folders come from settings and outputs', () => {
    const { doc, outputs } = project({ anchor: icon });
    doc.apply({
      puts: [
        outputRecord.parse({ ...outputs[1], folder: '{format}/{scale}x' }),
        { ...doc.settings, folders: '{project}' },
      ],
      removes: [],
    });
    expect(planFiles(doc, 'Kelp/farm').files[1].path).toBe('Kelp-farm/png/1x/anchor.png');
  });
});

test('picking by number and by text', () => {
  const list = Array.from({ length: 15 }, (_, i) => ({ number: i + 1, name: i === 4 ? 'Crate 12' : `n${i + 1}` }));
  expect(pickPieces(list, '3-5, 12').map((piece) => piece.number)).toEqual([3, 4, 5, 12]);
  expect(pickPieces(list, '14-').map((piece) => piece.number)).toEqual([14, 15]);
  expect(pickPieces(list, 'crate').map((piece) => piece.number)).toEqual([5]);
  expect(pickPieces(list, ' ')).toHaveLength(15);
});

test('words of a template are understood in a suffix and in a folder, too', () => {
  const { doc, outputs } = project({ anchor: svg('<path d="M2 2h9v9z"/>') });
  const [output] = outputs.filter(({ settings }) => settings.format === 'png');
  doc.apply({ puts: [{ ...output, suffix: '-{width}{suffix}', folder: '{format}/{number}' }], removes: [] });
  const file = planFiles(doc, 'p').files.find(({ outputId }) => outputId === output.id);
  expect(file?.path).toBe('png/01/anchor-24.png');
});

test('editions have numbers of their own, by which they are picked', () => {
  const { doc, artboard } = project({ card: svg('<path d="M2 2h9v9z"/>'), other: svg('<path d="M2 2h9v9z"/>') });
  const puts = Array.from({ length: 12 }, (_, i) =>
    editionRecord.parse({
      id: `e${i}`,
      kind: 'edition',
      artboardId: artboard('card').id,
      order: `a${i.toString(36)}`,
      name: `card-${i + 1}`,
    }),
  );
  doc.apply({ puts, removes: [] });
  const list = pieces(doc);
  expect(list.map(({ number }) => number)).toEqual(list.map((_, i) => i + 1));
  expect(pickPieces(list, '3-5, 14').map(({ name }) => name)).toEqual(['card-2', 'card-3', 'card-4', 'other']);
});

describe('one PDF with a page for each', () => {
  const made = () => {
    const m = project({ anchor: icon, boat: icon, crab: icon });
    const output = outputRecord.parse({
      ...m.outputs[0],
      id: 'pdf',
      order: 'b00',
      suffix: '-all',
      settings: { format: 'pdf', pages: 'together' },
    });
    m.doc.apply({ puts: [output], removes: [] });
    return m;
  };
  test('is one file, named after the project, its pages in the order of pieces', () => {
    const { doc } = made();
    const plan = planFiles(doc, 'Harbour');
    const [file] = plan.files.filter((each) => each.outputId === 'pdf');
    expect(plan.files.filter((each) => each.outputId === 'pdf')).toHaveLength(1);
    expect(file.path).toBe('Harbour-all.pdf');
    expect(file.pages?.map((page) => [page.page, page.title])).toEqual([
      [1, 'anchor'],
      [2, 'boat'],
      [3, 'crab'],
    ]);
    expect(plan.pages.every((page) => page.path === file.path)).toBe(true);
  });
  test('what is switched off has no page; none at all makes no file', () => {
    const { doc, artboard } = made();
    doc.apply({ puts: [{ ...artboard('boat'), offOutputIds: ['pdf'] }], removes: [] });
    expect(planFiles(doc, 'p').pages.map((page) => page.title)).toEqual(['anchor', 'crab']);
    doc.apply({ puts: doc.list('artboard').map((each) => ({ ...each, on: false })), removes: [] });
    expect(planFiles(doc, 'p').files).toEqual([]);
  });
  test('its key changes with any page, and only then', () => {
    const { doc, artboard } = made();
    const keyNow = () => {
      const composer = new Composer(doc, { fonts: NO_FONTS, pictures: () => undefined });
      return composer.key(planFiles(doc, 'p').files.find((file) => file.outputId === 'pdf') as PlannedFile);
    };
    const before = keyNow();
    doc.apply({ puts: [{ ...artboard('crab'), x: artboard('crab').x }], removes: [] });
    expect(keyNow()).toBe(before);
    doc.apply({ puts: [{ ...artboard('crab'), width: 30 }], removes: [] });
    expect(keyNow()).not.toBe(before);
  });
});
