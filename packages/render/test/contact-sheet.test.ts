import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  artboardRecord,
  BRAND_SHEET,
  Composer,
  type ContactSheetSettings,
  type FileJob,
  layerRecord,
  newId,
  outputRecord,
  PAPERS,
  type PlannedFile,
  ProjectDocument,
  performRequest,
  planFiles,
  ROOT,
  recordsOfLibrarySpec,
} from '@tolvik/core';
import { renderFile, renderJob, shippedFonts } from '../src';
import { decodePng, drawPdf, readPdf } from './files';

const fonts = shippedFonts(__filename);

/** A project of some artboards, a square of one colour on each, and a contact sheet of them. */
function project(names: readonly string[], sheet: Partial<ContactSheetSettings> = {}, more: object = {}) {
  const doc = new ProjectDocument();
  const { spec } = recordsOfLibrarySpec('web', doc);
  const output = outputRecord.parse({
    id: newId(),
    kind: 'output',
    specId: spec.id,
    order: 'a0',
    size: { kind: 'factor', factor: 1 },
    suffix: '-sheet',
    settings: { format: 'pdf', pages: 'sheet', sheet },
  });
  const boards = names.map((name, i) =>
    artboardRecord.parse({
      id: newId(),
      kind: 'artboard',
      order: `a${String.fromCharCode(97 + Math.floor(i / 26))}${String.fromCharCode(97 + (i % 26))}`,
      name,
      x: i * 40,
      y: 0,
      width: 24,
      height: 24,
      specIds: [spec.id],
      ...more,
    }),
  );
  const squares = boards.map(({ x, order }) =>
    layerRecord.parse({
      id: newId(),
      kind: 'layer',
      parentId: ROOT,
      order,
      tag: 'rect',
      attrs: { x: String(x + 4), y: '4', width: '16', height: '16', fill: '#0c6a53' },
    }),
  );
  doc.apply({ puts: [spec, output, ...boards, ...squares], removes: [] });
  const composer = new Composer(doc, { fonts, pictures: () => undefined });
  const plan = planFiles(doc, 'Harbour');
  return { doc, composer, plan, file: plan.files[0] as PlannedFile, output, boards };
}

const pdfOf = async ({ composer, file }: ReturnType<typeof project>): Promise<Buffer> =>
  (await renderFile(renderJob(composer.job(file) as FileJob, () => undefined))).bytes;

/** What poppler reads of it, page by page. */
function wordsIn(pdf: Buffer): string[] {
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-sheet-'));
  try {
    writeFileSync(join(folder, 'a.pdf'), pdf);
    execFileSync('pdftotext', ['-layout', join(folder, 'a.pdf'), join(folder, 'a.txt')]);
    return readFileSync(join(folder, 'a.txt'), 'utf8').split('\f').slice(0, -1);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const NAMES = ['anchor', 'boat', 'crane', 'dock', 'ebb', 'ferry', 'gull'];

test('one file of the paper asked for, every piece on it with its words as text, and nothing a picture', async () => {
  const made = project(NAMES);
  expect(made.plan.files).toHaveLength(1);
  expect(made.file.path).toBe('Harbour-sheet.pdf');
  const pdf = await pdfOf(made);
  const { sizes, bookmarks } = readPdf(pdf);
  expect(sizes).toHaveLength(1);
  expect(sizes[0][0]).toBeCloseTo((PAPERS.a4.widthMm / 25.4) * 72, 1);
  expect(sizes[0][1]).toBeCloseTo((PAPERS.a4.heightMm / 25.4) * 72, 1);
  expect(bookmarks).toEqual(['anchor – gull']);
  const [words] = wordsIn(pdf);
  for (const [i, name] of NAMES.entries()) {
    expect(words).toContain(name);
    expect(words).toContain(`${i + 1} · 24 × 24 px`);
  }
  expect(words).toContain('Harbour');
  expect(words).toContain('1 of 1');
  expect(pdf.toString('latin1')).not.toMatch(/\/Subtype \/Image/);
});

test('each piece is drawn where its words are, as large as its cell', async () => {
  const made = project(NAMES.slice(0, 2), { columns: 2, captions: 'none' });
  const page = drawPdf(await pdfOf(made), 96);
  /** The columns of px in which the colour of the artwork is. */
  const green = new Set<number>();
  for (let x = 0; x < page.width; x++)
    for (let y = 0; y < page.height; y++) {
      const at = 4 * (y * page.width + x);
      if (page.data[at] === 12 && page.data[at + 1] === 106 && page.data[at + 2] === 83) green.add(x);
    }
  const xs = [...green].sort((a, b) => a - b);
  const breaks = xs.filter((x, i) => i > 0 && x > xs[i - 1] + 1).length;
  expect(breaks).toBe(1);
  // Two thirds of 24 px, in a cell that is nearly half of 182 mm, with a little room around it.
  expect(xs.length / 2).toBeGreaterThan(180);
  expect(xs.length / 2).toBeLessThan(230);
});

test('as many pages as are needed, in the order of the project, landscape too, with what stands on each in its bookmark', async () => {
  const names = Array.from({ length: 61 }, (_, i) => `icon ${i + 1}`);
  const made = project(names, { paper: 'letter', landscape: true, columns: 6 });
  const pages = made.file.pages ?? [];
  expect(pages.flatMap((page) => page.sheet?.pieceIds)).toEqual(made.boards.map(({ id }) => id));
  const pdf = await pdfOf(made);
  const { sizes, bookmarks } = readPdf(pdf);
  expect(sizes).toHaveLength(pages.length);
  expect(pages.length).toBeGreaterThan(1);
  expect(sizes[0]).toEqual([792, 612]);
  expect(bookmarks[0]).toMatch(/^icon 1 – icon \d+$/);
  const words = wordsIn(pdf);
  expect(words.at(-1)).toContain('icon 61');
  expect(words.at(-1)).toContain(`${pages.length} of ${pages.length}`);
});

test('every cell of the output is the page that its piece is on, and looks like it', async () => {
  const made = project(NAMES, { columns: 3 });
  expect(made.plan.pages.map(({ pieceId, page }) => [pieceId, page])).toEqual(made.boards.map(({ id }) => [id, 1]));
  const [first] = made.plan.pages;
  const picture = await renderFile({
    ...renderJob(made.composer.job(first) as FileJob, () => undefined),
    settings: { format: 'png', effort: 'faster' },
    widthPx: 794,
    heightPx: 1123,
    svg: made.composer.job(first).svg.replace(/width="[\d.]+" height="[\d.]+"/, 'width="794" height="1123"'),
  });
  const [png, pdf] = [decodePng(picture.bytes), drawPdf(await pdfOf(made), 96)];
  /** Whether there is ink in each square of 4 px: words are outlines in one and text in the other, and hinted otherwise. */
  const inked = ({ width, data }: { width: number; data: Buffer }): Set<string> => {
    const squares = new Set<string>();
    for (let i = 0; i < data.length; i += 4) {
      const at = i / 4;
      if (data[i] < 100) squares.add(`${(at % width) >> 2} ${Math.floor(at / width) >> 2}`);
    }
    return squares;
  };
  const [one, other] = [inked(png), inked(pdf)];
  const both = [...one].filter((square) => other.has(square)).length;
  expect(both / new Set([...one, ...other]).size).toBeGreaterThan(0.9);
});

describe('its key', () => {
  const keyOf = ({ composer, file }: ReturnType<typeof project>) => composer.key(file);

  test('is the same for the same pieces, and the bytes are', async () => {
    const [one, two] = [project(NAMES), project(NAMES)];
    expect(keyOf(one)).toBe(keyOf(two));
    expect((await pdfOf(one)).equals(await pdfOf(two))).toBe(true);
  });

  test.each([
    ['a name', () => project(['bollard', ...NAMES.slice(1)])],
    ['one piece fewer', () => project(NAMES.slice(1))],
    ['its columns', () => project(NAMES, { columns: 4 })],
    ['what stands above', () => project(NAMES, { heading: 'Icons, autumn' })],
    ['a ground', () => project(NAMES, {}, { background: '#f2f0ea' })],
  ])('is another with %s', (_, other) => {
    expect(keyOf(other())).not.toBe(keyOf(project(NAMES)));
  });

  test('is another when artwork of one piece is', () => {
    const made = project(NAMES);
    const before = keyOf(made);
    const [square] = made.doc.list('layer');
    made.doc.apply({ puts: [{ ...square, attrs: { ...square.attrs, fill: '#d2452a' } }], removes: [] });
    expect(made.composer.key(planFiles(made.doc, 'Harbour').files[0])).not.toBe(before);
  });
});

describe('a brand sheet', () => {
  const sheet = { ...BRAND_SHEET, columns: 2 };
  const marks = () => project(['mark', 'mark reversed'], sheet, { background: '#123a5c' });

  test('has a page of colours with their values and contrasts, and one of what files there are', async () => {
    const made = marks();
    expect(made.file.pages?.map(({ title, sheet: on }) => [title, on?.part])).toEqual([
      ['mark – mark reversed', 'pieces'],
      ['Colours', 'colours'],
      ['Files', 'files'],
    ]);
    const pdf = await pdfOf(made);
    const [, colours, files] = wordsIn(pdf);
    expect(colours).toContain('#0c6a53');
    expect(colours).toContain('RGB 12 106 83');
    expect(colours).toMatch(/contrast: 6\.\d on white, 3\.\d on black/);
    expect(colours).toContain('#123a5c');
    expect(files).toMatch(/Web +PDF sheet +…-sheet\.pdf +of 2 pieces/);
    expect(wordsIn(pdf)[2]).toContain('3 of 3');
  });

  test('shows marks on their grounds, which fill the cells', async () => {
    const page = drawPdf(await pdfOf(marks()), 72);
    /** The share of the page that has the ground's colour. */
    const at = (i: number) => [page.data[4 * i], page.data[4 * i + 1], page.data[4 * i + 2]].join();
    let ground = 0;
    for (let i = 0; i < page.width * page.height; i++) if (at(i) === '18,58,92') ground++;
    // Two cells of three to two beside each other, of which the marks cover a part.
    expect(ground / (page.width * page.height)).toBeGreaterThan(0.3);
    expect(page.width).toBeGreaterThan(page.height);
  });

  test('colours of which more is known stand first, with name, CMYK and spot as they were said', async () => {
    const made = marks();
    made.doc.apply(
      performRequest(made.doc, 'set-colour', {
        settings: { colour: '#123A5C', name: 'deep water', cmyk: [90, 60, 20, 37.5], spot: 'Tide 12' },
      }),
    );
    const [, colours] = wordsIn(await pdfOf({ ...made, file: planFiles(made.doc, 'Harbour').files[0] }));
    expect(colours.indexOf('deep water')).toBeLessThan(colours.indexOf('#0c6a53'));
    expect(colours).toContain('CMYK 90 60 20 37.5');
    expect(colours).toContain('spot: Tide 12');
    expect(colours.match(/CMYK/g)).toHaveLength(1);
  });

  test('what has a smallest width stands on a page of its own, there also as large as that, to a tenth of a mm', async () => {
    const made = marks();
    const [mark] = made.boards;
    made.doc.apply(performRequest(made.doc, 'set-smallest', { ids: [mark.id], settings: { px: 24, mm: 8 } }));
    const file = planFiles(made.doc, 'Harbour').files[0];
    expect(file.pages?.map(({ title, sheet: on }) => [title, on?.part, on?.pieceIds.length])).toEqual([
      ['mark – mark reversed', 'pieces', 2],
      ['Lockups', 'lockups', 1],
      ['Colours', 'colours', 0],
      ['Files', 'files', 0],
    ]);
    const pdf = await pdfOf({ ...made, file });
    const words = wordsIn(pdf)[1];
    expect(words).toContain('clear space and smallest size');
    expect(words).toContain('smallest: 24 px wide on screens, 8 mm in print');
    const page = drawPdf(pdf, 254, 2);
    // Below the large one: rows of px with the ground's colour that are not as wide as its cell.
    const widths = Array.from({ length: page.height }, (_, y) => {
      let width = 0;
      for (let x = 0; x < page.width; x++) {
        const i = 4 * (y * page.width + x);
        if (page.data[i] < 60 && page.data[i + 2] > 60 && page.data[i + 1] < 130) width++;
      }
      return width;
    });
    const small = widths.filter((width) => width > 40 && width < 200);
    // 24 × 24 px at 8 mm: 80 px of 0.1 mm each way, within a px of how edges are drawn.
    // Letters beside it are in some of the rows.
    expect(Math.abs(small.sort((a, b) => a - b)[40] - 80)).toBeLessThanOrEqual(1);
    expect(Math.abs(small.length - 80)).toBeLessThanOrEqual(2);
  });

  test('a lockup shows its clear space in words and lines, and its key is another by another rule', async () => {
    const made = project(['emblem', 'words'], { ...BRAND_SHEET, columns: 2 });
    const ids = made.boards.map(({ id }) => id);
    const lockups = performRequest(made.doc, 'make-lockups', {
      ids,
      settings: { arrangements: ['wide'], clearSpace: 0.75, colourings: ['mono-light'] },
    });
    made.doc.apply(lockups);
    const plan = () => planFiles(made.doc, 'Harbour').files[0];
    const at = plan().pages?.findIndex(({ sheet: on }) => on?.part === 'lockups') ?? -1;
    // Its variants stand among the marks.
    expect(plan().pages?.[at].sheet?.pieceIds).toEqual([lockups.puts[0].id]);
    const pdf = await pdfOf({ ...made, file: plan() });
    expect(wordsIn(pdf)[at]).toContain('clear space: 0.75 × the height of the wordmark');
    const drawn = drawPdf(pdf, 72, at + 1);
    const isLine = (i: number) => drawn.data[i] > 180 && drawn.data[i + 1] < 140 && drawn.data[i + 2] < 110;
    expect(
      Array.from({ length: drawn.width * drawn.height }, (_, i) => isLine(4 * i)).filter(Boolean).length,
    ).toBeGreaterThan(100);
    const before = made.composer.key(plan());
    made.doc.apply(performRequest(made.doc, 'set-lockup', { ids: [lockups.puts[0].id], settings: { gap: 1.5 } }));
    expect(made.composer.key(plan())).not.toBe(before);
  });

  test('its key is another when a colour of the project is', () => {
    const made = marks();
    const before = made.composer.key(made.file);
    const [board] = made.boards;
    made.doc.apply({ puts: [{ ...board, background: '#ffffff' }], removes: [] });
    expect(made.composer.key(planFiles(made.doc, 'Harbour').files[0])).not.toBe(before);
  });
});

test('names that are too long for their cell are shortened in the middle, and stay apart', async () => {
  const long = (end: string) => `a mark with a name that nobody will ever read to its end ${end}`;
  const [words] = wordsIn(await pdfOf(project([long('light'), long('dark')], { columns: 8 })));
  expect(words).toMatch(/a mar\S* ?… ?\S* ?light/);
  expect(words).toMatch(/… ?\S* ?dark/);
});

test('words of any letters make a whole file', async () => {
  const { sizes } = readPdf(await pdfOf(project(['Ž & <b>', '錨', '"quoted" \\ (brackets)', '👋'])));
  expect(sizes).toHaveLength(1);
});
