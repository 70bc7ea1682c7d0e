import { readdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import fc from 'fast-check';
import { meansNothing, type ProjectDocument, performRequest, pieces, planFiles, renamed } from '../src';
import { inReadingOrder } from '../src/geometry/reading-order';
import { project, svg } from './fixtures';
import { runs } from './properties';

const request = (doc: ProjectDocument, act: string, ids: readonly string[], settings: object) =>
  performRequest(doc, act, { ids: [...ids], settings: { ...settings } });
const idsOf = (doc: ProjectDocument, ...names: string[]) =>
  names.map((name) => pieces(doc).find((piece) => piece.name === name)?.id ?? `no ${name}`);
const layerNames = (doc: ProjectDocument) => doc.list('layer').map(({ name }) => name);

describe('names that say nothing', () => {
  test.each([
    'Layer_1',
    'g12',
    'path834',
    'Group 1 copy',
    'final_FINAL2',
    'Untitled-3',
    'Artboard 7',
    'Zeichenfläche 3',
    'Plan de travail 2',
    '名称未設定 1',
    'SVGID_00000123',
    'a1b2c3d4e5f6',
    '550e8400-e29b-41d4-a716-446655440000',
    'IMG_2034',
    'Frame 12',
    'Kopie von Ebene 2',
    'v2',
    'use3_copy',
    'Compound Path',
    '',
    '  ',
    '_',
  ])('%s', (name) => expect(meansNothing(name)).toBe(true));

  test.each([
    'nav_home',
    'h1',
    'copy',
    'image',
    'circle',
    'square-2',
    'tide-high',
    '4k',
    'a11y',
    'image-16',
    '6-circle',
    'new moon',
    'circle-star',
    'edit-2',
    'flag-gb-eng',
    '1f600',
    'logo on white',
    'Ebenezer',
    'grouper',
  ])('%s says something', (name) => expect(meansNothing(name)).toBe(false));

  // What others call their icons; two of some twelve thousand read like a program's.
  test.each([
    ['lucide-static', 'icons'],
    ['@primer/octicons', 'build/svg'],
    ['bootstrap-icons', 'icons'],
    ['feather-icons', 'dist/icons'],
  ])('hardly any of the icons of %s', (name, folder) => {
    const root = dirname(createRequire(import.meta.url).resolve(`${name}/package.json`));
    const names = readdirSync(join(root, folder)).flatMap((file) => (file.endsWith('.svg') ? [file.slice(0, -4)] : []));
    expect(names.length).toBeGreaterThan(200);
    expect(names.filter(meansNothing).length).toBeLessThanOrEqual(1);
  });
});

describe('the order in which a page is read', () => {
  test('rows that do not stand on one line, whatever order they come in', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 1, max: 6 }),
        fc.infiniteStream(fc.integer({ min: -4, max: 4 })),
        fc.integer(),
        (rows, columns, shifts, seed) => {
          const boxes = Array.from({ length: rows * columns }, (_, at) => {
            const y = Math.floor(at / columns) * 40 + (shifts.next().value ?? 0);
            const x = (at % columns) * 30;
            return { at, minX: x, minY: y, maxX: x + 24, maxY: y + 24 };
          });
          const mixed = boxes.toSorted((a, b) => Math.sin(seed + a.at) - Math.sin(seed + b.at));
          expect(inReadingOrder(mixed, (box) => box).map(({ at }) => at)).toEqual(boxes.map(({ at }) => at));
        },
      ),
      runs(100),
    );
  });

  test('each thing once, those without a box last', () => {
    const items = [{ box: null }, { box: { minX: 0, minY: 0, maxX: 1, maxY: 1 } }, { box: null }];
    expect(inReadingOrder(items, ({ box }) => box)).toEqual([items[1], items[0], items[2]]);
  });

  test('pieces made of layers follow it, or the layers', () => {
    const { doc } = project({
      set: svg(
        '<g id="d"><rect x="40" y="41" width="9" height="9"/></g><g id="c"><rect x="0" y="40" width="9" height="9"/></g>' +
          '<g id="b"><rect x="40" y="0" width="9" height="9"/></g><g id="a"><rect x="0" y="1" width="9" height="9"/></g>',
        'width="60" height="60" viewBox="0 0 60 60"',
      ),
    });
    const groups = doc.list('layer').filter(({ name }) => /^[abcd]$/.test(name));
    const ids = groups.map(({ id }) => id);
    const made = (act: string, settings: object) => {
      const { change } = { change: request(doc, act, ids, settings) };
      return change.puts
        .flatMap((put) => (put.kind === 'artboard' || put.kind === 'slice' ? [put] : []))
        .sort((one, two) => (one.order < two.order ? -1 : 1))
        .map(({ name }) => name)
        .join('');
    };
    expect(made('artboards-around', {})).toBe('abcd');
    expect(made('slice-layers', {})).toBe('abcd');
    expect(made('artboards-around', { order: 'layers' })).toBe('dcba');
    expect(made('slice-layers', { order: 'layers' })).toBe('dcba');
  });
});

describe('what a file calls its parts', () => {
  const named = (markup: string) => layerNames(project({ a: svg(markup) }).doc);
  test('an id stays as it was given', () => {
    expect(named('<g id="nav_home"><path id="path_1" d="M0 0h1v1z"/></g>')).toContain('nav_home');
  });
  test('spaces where the file shows that it writes them so', () => {
    expect(named('<g id="nav_home"><path id="_x31_st" d="M0 0h1v1z"/></g>')).toEqual(
      expect.arrayContaining(['nav home', '1st']),
    );
    expect(named('<g id="nav_home"><path id="Big_bell" data-name="Big bell" d="M0 0h1v1z"/></g>')).toEqual(
      expect.arrayContaining(['nav home', 'Big bell']),
    );
    expect(named('<g id="nav_x5F_home_page"><path d="M0 0h1v1z"/></g>')).toContain('nav_home page');
  });
});

describe('many names at once', () => {
  test('a list, one each in order; what is empty keeps its name', () => {
    const { doc } = project({ a: svg(''), b: svg(''), c: svg('') });
    const rule = { kind: 'list', names: ['anchor', '', ' bell '] };
    const { puts } = request(doc, 'rename', idsOf(doc, 'c', 'b', 'a'), { rule });
    expect(puts.map((put) => 'name' in put && put.name)).toEqual(['anchor', 'bell']);
    expect(puts.map(({ id }) => id)).toEqual(idsOf(doc, 'c', 'a'));
  });

  test('spaces for what parts words', () =>
    expect(renamed('nav_home - big', 0, { kind: 'case', letterCase: 'spaced' })).toBe('nav home big'));

  test('from layers: the outermost name that says something', () => {
    const { doc } = project({
      'Artboard 1': svg('<g id="Layer_1"><g id="bell"><path id="path834" d="M0 0h9v9z"/></g></g>'),
      'Artboard 2': svg('<g id="g12"><path id="path835" d="M0 0h9v9z"/></g>'),
    });
    const { puts } = request(doc, 'rename', idsOf(doc, 'Artboard 1', 'Artboard 2'), {
      rule: { kind: 'from', from: 'layers' },
    });
    expect(puts.map((put) => 'name' in put && put.name)).toEqual(['bell']);
  });

  test('from texts: each piece by the text nearest to it, each text once', () => {
    const cell = (at: number, name: string) =>
      `<g id="g${at}"><rect x="${at * 60}" y="0" width="24" height="24"/></g><text x="${at * 60}" y="36" font-size="8">${name}</text>`;
    const { doc } = project({
      sheet: svg(
        `${cell(0, 'bell')}${cell(1, 'anchor')}${cell(2, 'boat')}<text x="0" y="190" font-size="8">Page 1</text>`,
        'width="200" height="200" viewBox="0 0 200 200"',
      ),
    });
    const groups = doc.list('layer').filter(({ name }) => /^g\d$/.test(name));
    doc.apply(
      request(
        doc,
        'artboards-around',
        groups.map(({ id }) => id),
        {},
      ),
    );
    const { puts } = request(doc, 'rename', idsOf(doc, 'g0', 'g1', 'g2'), { rule: { kind: 'from', from: 'texts' } });
    expect(puts.map((put) => 'name' in put && put.name)).toEqual(['bell', 'anchor', 'boat']);
  });

  test('a device name is told apart in every file of its piece', () => {
    const { doc } = project({ con: svg(''), 'con-trail': svg('') });
    const paths = (name: string) => {
      const { id } = pieces(doc).find((piece) => piece.name === name) ?? { id: '' };
      return planFiles(doc, 'p').files.flatMap((file) => (file.pieceId === id ? [file.path.split('/').at(-1)] : []));
    };
    expect(paths('con').length).toBeGreaterThan(1);
    for (const path of paths('con')) expect(path).toMatch(/^_con/);
    for (const path of paths('con-trail')) expect(path).toMatch(/^con-trail/);
  });
});
