import fc from 'fast-check';
import {
  type Artboard,
  artboardRecord,
  artboardsAround,
  centreArtwork,
  cutIntoTiles,
  layerBounds,
  layersOn,
  layOutInRows,
  moveArtboards,
  ProjectDocument,
  performRequest,
  previewRename,
  renamed,
  rowPlaces,
  tileRegions,
  trimToArtwork,
  wholePixels,
} from '../src';
import { project, refusalOf, snapshot, svg } from './fixtures';
import { runs } from './properties';

const blob = (x: number, y: number, w: number, h: number) =>
  svg(`<rect x="${x}" y="${y}" width="${w}" height="${h}"/>`);
const board = (fields: Partial<Artboard>) =>
  artboardRecord.parse({
    id: 'b',
    kind: 'artboard',
    order: 'a0',
    name: 'b',
    x: 0,
    y: 0,
    width: 24,
    height: 24,
    ...fields,
  });
const artboardShape = fc.record({
  x: fc.double({ min: -900, max: 900, noNaN: true }),
  y: fc.double({ min: -900, max: 900, noNaN: true }),
  width: fc.double({ min: 0.6, max: 300, noNaN: true }),
  height: fc.double({ min: 0.6, max: 300, noNaN: true }),
});

describe('moving', () => {
  test('what lies on an artboard goes along, its neighbour stays', () => {
    const { doc, artboard } = project({ a: blob(2, 2, 8, 8), b: blob(2, 2, 8, 8) });
    const before = layerBounds(doc, layersOn(doc, artboard('b'))[0].id);
    doc.apply({ puts: moveArtboards(doc, [artboard('a')], 5, 7, true), removes: [] });
    const [layer] = layersOn(doc, artboard('a'));
    expect(layerBounds(doc, layer.id)).toMatchObject({ minX: 7, minY: 9 });
    expect(layerBounds(doc, layersOn(doc, artboard('b'))[0].id)).toEqual(before);
  });

  test('without carrying, artwork stays', () => {
    const { doc, artboard } = project({ a: blob(2, 2, 8, 8) });
    expect(moveArtboards(doc, [artboard('a')], 5, 7, false).map((record) => record.kind)).toEqual(['artboard']);
  });

  test('there and back again is nothing', () => {
    fc.assert(
      fc.property(fc.integer({ min: -500, max: 500 }), fc.integer({ min: -500, max: 500 }), (dx, dy) => {
        const { doc, artboard } = project({ a: blob(2, 2, 8, 8) });
        const [layer] = layersOn(doc, artboard('a'));
        const before = layerBounds(doc, layer.id);
        doc.apply({ puts: moveArtboards(doc, [artboard('a')], dx, dy, true), removes: [] });
        doc.apply({ puts: moveArtboards(doc, [artboard('a')], -dx, -dy, true), removes: [] });
        expect(layerBounds(doc, layer.id)).toEqual(before);
      }),
      runs(40),
    );
  });
});

describe('trim and centre', () => {
  const art = fc.record({
    x: fc.double({ min: 0, max: 12, noNaN: true }),
    y: fc.double({ min: 0, max: 12, noNaN: true }),
    w: fc.double({ min: 1, max: 11, noNaN: true }),
    h: fc.double({ min: 1, max: 11, noNaN: true }),
    margin: fc.integer({ min: 0, max: 6 }),
  });
  const made = ({ x, y, w, h }: { x: number; y: number; w: number; h: number }) => project({ a: blob(x, y, w, h) });

  test('trimmed: on whole px, all artwork inside with its margin, and again is nothing', () => {
    fc.assert(
      fc.property(art, (a) => {
        const { doc, artboard } = made(a);
        doc.apply({ puts: trimToArtwork(doc, [artboard('a')], a.margin), removes: [] });
        const trimmed = artboard('a');
        const box = layerBounds(doc, layersOn(doc, trimmed)[0].id);
        if (!box) throw new Error('no artwork');
        expect([trimmed.x, trimmed.y, trimmed.width, trimmed.height].every(Number.isInteger)).toBe(true);
        expect(trimmed.x).toBeLessThanOrEqual(box.minX - a.margin + 0.002);
        expect(trimmed.x + trimmed.width).toBeGreaterThanOrEqual(box.maxX + a.margin - 0.002);
        expect(trimToArtwork(doc, [trimmed], a.margin)).toEqual([]);
      }),
      runs(100),
    );
  });

  test('centred within half a px, and again is nothing', () => {
    fc.assert(
      fc.property(art, (a) => {
        const { doc, artboard } = made(a);
        doc.apply({ puts: centreArtwork(doc, [artboard('a')]), removes: [] });
        const box = layerBounds(doc, layersOn(doc, artboard('a'))[0].id);
        if (!box) throw new Error('no artwork');
        expect(Math.abs((box.minX + box.maxX) / 2 - 12)).toBeLessThanOrEqual(0.5 + 1e-6);
        expect(centreArtwork(doc, [artboard('a')])).toEqual([]);
      }),
      runs(100),
    );
  });

  test('an empty artboard is left alone', () => {
    const { doc, artboard } = project({ a: svg('') });
    expect(trimToArtwork(doc, [artboard('a')])).toEqual([]);
    expect(centreArtwork(doc, [artboard('a')])).toEqual([]);
  });
});

test('whole pixels never change a size by more than half a pixel', () => {
  fc.assert(
    fc.property(artboardShape, (shape) => {
      const [whole] = wholePixels([board(shape)]);
      if (!whole) return expect(Object.values(shape).every(Number.isInteger)).toBe(true);
      expect(Math.abs(whole.width - shape.width)).toBeLessThanOrEqual(0.5);
      expect(Math.abs(whole.height - shape.height)).toBeLessThanOrEqual(0.5);
      expect(Number.isInteger(whole.x) && Number.isInteger(whole.width)).toBe(true);
    }),
  );
});

describe('rows', () => {
  test('never overlap, keep the gap, and stay on whole px', () => {
    fc.assert(
      fc.property(
        fc.array(artboardShape, { minLength: 1, maxLength: 30 }),
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 0, max: 40 }),
        (shapes, columns, gapPx) => {
          const boards = shapes.map((shape) => board(shape));
          const placed = rowPlaces(boards, { columns, gapPx }).map((place, i) => ({ ...boards[i], ...place }));
          for (const [i, a] of placed.entries()) {
            expect(Number.isInteger(a.x) && Number.isInteger(a.y)).toBe(true);
            for (const b of placed.slice(i + 1))
              expect(
                a.x + a.width + gapPx <= b.x + 1e-9 ||
                  b.x + b.width + gapPx <= a.x + 1e-9 ||
                  a.y + a.height + gapPx <= b.y + 1e-9 ||
                  b.y + b.height + gapPx <= a.y + 1e-9,
              ).toBe(true);
          }
        },
      ),
      runs(100),
    );
  });

  test('by name, with artwork carried and numbers following', () => {
    const { doc, artboard } = project({ c: blob(1, 1, 4, 4), a10: blob(2, 2, 4, 4), a2: blob(3, 3, 4, 4) });
    const before = snapshot(doc);
    const undo = doc.apply({
      puts: layOutInRows(doc, doc.list('artboard'), { columns: 2, gapPx: 10, by: 'name', renumber: true }),
      removes: [],
    });
    expect(doc.list('artboard').map(({ name, x, y }) => [name, x, y])).toEqual([
      ['a2', 0, 0],
      ['a10', 34, 0],
      ['c', 0, 34],
    ]);
    expect(layerBounds(doc, layersOn(doc, artboard('c'))[0].id)).toMatchObject({ minX: 1, minY: 35 });
    doc.apply(undo);
    expect(snapshot(doc)).toEqual(before);
  });
});

describe('artboards around layers', () => {
  const three = () => {
    const { doc } = project({
      sheet: svg(
        '<g id="one"><rect x="1.5" y="1" width="4" height="4"/></g><g id="two"><rect x="8" y="2" width="9" height="3"/></g><rect id="three" x="1" y="12" width="5" height="8"/>',
      ),
    });
    const ids = ['one', 'two', 'three'].map((name) => doc.list('layer').find((layer) => layer.name === name)?.id ?? '');
    return { doc, ids };
  };

  test('one each, named, on whole px, artwork inside', () => {
    const { doc, ids } = three();
    const boards = artboardsAround(doc, ids, { marginPx: 1, square: false, equal: false }, []);
    expect(boards.map(({ name, x, y, width, height }) => [name, x, y, width, height])).toEqual([
      ['one', 0, 0, 7, 6],
      ['two', 7, 1, 11, 5],
      ['three', 0, 11, 7, 10],
    ]);
  });

  test('square and equal', () => {
    const { doc, ids } = three();
    const boards = artboardsAround(doc, ids, { marginPx: 0, square: true, equal: true }, []);
    expect(new Set(boards.map(({ width, height }) => `${width} ${height}`))).toEqual(new Set(['9 9']));
    boards.forEach((artboard, i) => {
      const box = layerBounds(doc, ids[i]);
      expect(artboard.x).toBeLessThanOrEqual(box?.minX ?? 0);
      expect(artboard.x + artboard.width).toBeGreaterThanOrEqual(box?.maxX ?? 0);
    });
  });
});

describe('tiles', () => {
  const region = fc.record({
    x: fc.integer({ min: -500, max: 500 }),
    y: fc.integer({ min: -500, max: 500 }),
    width: fc.integer({ min: 60, max: 4000 }),
    height: fc.integer({ min: 60, max: 4000 }),
  });

  test('cover the region exactly, each on whole px', () => {
    fc.assert(
      fc.property(region, fc.integer({ min: 1, max: 20 }), fc.integer({ min: 1, max: 20 }), (r, columns, rows) => {
        const tiles = tileRegions(r, { columns, rows, gapPx: 0, naming: '' });
        expect(tiles).toHaveLength(columns * rows);
        expect(tiles.reduce((sum, tile) => sum + tile.region.width * tile.region.height, 0)).toBe(r.width * r.height);
        expect(Math.min(...tiles.map((tile) => tile.region.x))).toBe(r.x);
        expect(Math.max(...tiles.map((tile) => tile.region.y + tile.region.height))).toBe(r.y + r.height);
        expect(tiles.every((tile) => Number.isInteger(tile.region.x) && Number.isInteger(tile.region.width))).toBe(
          true,
        );
      }),
      runs(200),
    );
  });

  test('by size, the last ones may be smaller; gaps are left out', () => {
    const tiles = tileRegions(
      { x: 0, y: 0, width: 100, height: 50 },
      { tileWidthPx: 40, tileHeightPx: 50, gapPx: 5, naming: '' },
    );
    expect(tiles.map((tile) => [tile.region.x, tile.region.width])).toEqual([
      [0, 40],
      [45, 40],
      [90, 10],
    ]);
  });

  test('named by a template', () => {
    const { doc } = project({ map: blob(0, 0, 24, 24) });
    const { tiles } = cutIntoTiles(
      doc,
      { id: 'map', region: { x: 0, y: 0, width: 24, height: 24 }, name: 'map', specIds: [] },
      { columns: 2, rows: 2, gapPx: 0, naming: '{name}-{letter}{column}-{number}' },
    );
    expect(tiles.map((slice) => slice.name)).toEqual(['map-a1-1', 'map-a2-2', 'map-b1-3', 'map-b2-4']);
  });

  test('cut again, tiles at the same place go on as they are called, and the others go; one undo takes it back', () => {
    const { doc, artboard } = project({ map: blob(0, 0, 24, 24) });
    const cut = (columns: number, rows: number, earlier?: string) =>
      doc.apply(
        performRequest(doc, 'tiles', {
          ids: [artboard('map').id],
          settings: { columns, rows, ...(earlier && { earlier }) },
        }),
      );
    const named = () => doc.list('slice').map(({ name }) => name);
    cut(2, 2);
    const [first] = doc.list('slice');
    const given = { ...first, name: 'corner', specIds: [], on: false };
    doc.apply({ puts: [given], removes: [] });
    const before = snapshot(doc);
    const back = cut(3, 1, 'replace');
    expect(named()).toEqual(['corner', 'map-1-2', 'map-1-3']);
    expect(doc.find('slice', first.id)).toEqual({
      ...given,
      source: { kind: 'region', x: artboard('map').x, y: artboard('map').y, width: 8, height: 24 },
    });
    doc.apply(back);
    expect(snapshot(doc)).toEqual(before);

    // A copy of a tile is none of them, and without being asked nothing goes.
    doc.apply(performRequest(doc, 'duplicate', { ids: [first.id] }));
    cut(1, 1, 'replace');
    expect(named()).toEqual(['corner', 'corner 2']);
    cut(2, 1);
    expect(named()).toHaveLength(4);
  });

  test('too many, or of no size, are refused in words', () => {
    const r = { x: 0, y: 0, width: 100, height: 100 };
    expect(refusalOf(() => tileRegions(r, { tileWidthPx: 0.5, tileHeightPx: 0.5, gapPx: 0, naming: '' })).code).toBe(
      'tiles.many',
    );
    expect(refusalOf(() => tileRegions(r, { columns: 10, rows: 1, gapPx: 20, naming: '' })).code).toBe('tiles.small');
  });
});

describe('renaming many', () => {
  test.each([
    ['Icon-high', { kind: 'replace', find: 'Icon-', replaceBy: 'tide-' }, 'tide-high'],
    ['x', { kind: 'template', template: '{name}-{number}', start: 7, digits: 3 }, 'x-008'],
    ['Tide High', { kind: 'case', letterCase: 'kebab' }, 'tide-high'],
  ] as const)('%s', (name, rule, result) => expect(renamed(name, 1, rule)).toBe(result));

  test('clashes and empty names are shown before', () => {
    const { doc } = project({ a: svg(''), b: svg(''), c: svg('') });
    const [a, b] = doc.list('artboard');
    const all = doc.list('artboard');
    expect(
      previewRename([a, b], { kind: 'template', template: 'C', start: 1, digits: 1 }, all).map((each) => each.trouble),
    ).toEqual(['taken', 'taken']);
    expect(previewRename([a], { kind: 'replace', find: 'a', replaceBy: '' }, all)[0].trouble).toBe('empty');
    expect(
      previewRename([a, b], { kind: 'template', template: 'n{number}', start: 1, digits: 1 }, all).map(
        (each) => each.trouble,
      ),
    ).toEqual([null, null]);
  });
});

test('an empty document has nothing to arrange', () => {
  const doc = new ProjectDocument();
  expect(layOutInRows(doc, [], { columns: 3, gapPx: 8, by: 'name', renumber: true })).toEqual([]);
});
