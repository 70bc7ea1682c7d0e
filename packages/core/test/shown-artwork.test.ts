import fc from 'fast-check';
import { rasterise } from '../../render/src/rasterise';
import { shippedFonts } from '../../render/src/shipped-fonts';
import {
  align,
  boundsOfLayers,
  composeBenchPiece,
  type Edition,
  editionRecord,
  type Layer,
  type LayerOverride,
  measureTextWith,
  movedAsShown,
  newId,
  offsetIn,
  type ProjectDocument,
  pieces,
  scaleAbout,
  shapedAsShown,
  shownArtwork,
} from '../src';
import { layerNamed, project, svg } from './fixtures';
import { runs } from './properties';

const CARD = svg(
  '<defs><clipPath id="c"><rect width="80" height="40"/></clipPath></defs><rect id="ground" width="80" height="40" fill="#dfe8e2"/>' +
    '<g id="turned" transform="translate(30 5) rotate(30) scale(1.5)"><rect id="leaf" width="8" height="5" fill="#0c6a53"/><g id="inner" transform="skewX(20)"><circle id="dot" cx="4" cy="9" r="2"/></g></g>' +
    '<g id="held" clip-path="url(#c)"><path id="wave" d="M0 30h80v10H0z" fill="#12343b"/></g>' +
    '<text id="words" x="4" y="20" font-size="8">spring</text><g id="other" display="none"><rect id="late" x="50" y="8" width="20" height="10" fill="#d2452a"/></g>',
  'width="80" height="40" viewBox="0 0 80 40"',
);
const NAMES = ['ground', 'turned', 'leaf', 'inner', 'dot', 'held', 'wave', 'words', 'other', 'late'];
const fonts = shippedFonts(__filename);
const sources = { fonts, pictures: () => undefined };

function card(overrides: Record<string, LayerOverride> = {}) {
  const { doc, artboard } = project({ card: CARD, beside: svg('<rect id="far" width="9" height="9"/>') });
  measureTextWith(doc, fonts);
  const byId = Object.fromEntries(
    Object.entries(overrides).map(([name, override]) => [layerNamed(doc, name).id, override]),
  );
  const edition = editionRecord.parse({
    id: newId(),
    kind: 'edition',
    artboardId: artboard('card').id,
    order: 'a0',
    name: 'summer',
    specIds: [],
    overrides: byId,
  });
  doc.apply({ puts: [edition], removes: [] });
  return { doc, edition, board: artboard('card') };
}

/** The very pixels; what lies out of sight may be written or not. */
const pictureOf = (doc: ProjectDocument, id: string): Buffer => {
  const piece = pieces(doc).find((each) => each.id === id);
  if (!piece) throw new Error('no such piece');
  return rasterise(composeBenchPiece(doc, piece, { widthPx: 160, heightPx: 80 }, sources), 160, 80).data;
};
const boxIn = (doc: ProjectDocument, edition: Edition, name: string) => {
  const shown = shownArtwork(doc, edition);
  measureTextWith(shown, fonts);
  return boundsOfLayers(shown, [layerNamed(doc, name).id]);
};

test('what an edition shows is the artwork that composes to its picture, whatever it holds', () => {
  const override = fc.record(
    {
      shown: fc.boolean(),
      offset: fc.record({ x: fc.integer({ min: -30, max: 30 }), y: fc.integer({ min: -20, max: 20 }) }),
      opacity: fc.constantFrom(0.25, 0.5, 1),
      words: fc.constantFrom('summer', 'høst'),
    },
    { requiredKeys: [] },
  );
  fc.assert(
    fc.property(fc.dictionary(fc.constantFrom(...NAMES), override, { maxKeys: 6 }), (overrides) => {
      const { doc, edition, board } = card(overrides);
      const [shown, made] = [pictureOf(shownArtwork(doc, edition), board.id), pictureOf(doc, edition.id)];
      // Matrices are rounded once more in between, which may tip one or two of the sixteen points that an edge is told by.
      expect(made.reduce((most, value, i) => Math.max(most, Math.abs(value - shown[i])), 0)).toBeLessThanOrEqual(40);
    }),
    runs(150),
  );
});

test('an edition that holds nothing shows the base, and only what is on its artboard', () => {
  const { doc, edition } = card();
  const shown = shownArtwork(doc, edition);
  for (const name of NAMES) expect(shown.find('layer', layerNamed(doc, name).id)).toEqual(layerNamed(doc, name));
  expect(shown.find('layer', layerNamed(doc, 'far').id)).toBeUndefined();
  doc.apply({ puts: [], removes: [edition.artboardId] });
  expect(shownArtwork(doc, edition).list('layer')).toEqual([]);
});

test('other words are measured as they are set', () => {
  const { doc, edition } = card({ words: { words: 'midsummer night' } });
  const [short, long] = [boundsOfLayers(doc, [layerNamed(doc, 'words').id]), boxIn(doc, edition, 'words')];
  expect((long?.maxX ?? 0) - (short?.maxX ?? 0)).toBeGreaterThan(10);
});

test('how far a layer is moved counts the groups around it', () => {
  const { doc, edition } = card({
    turned: { offset: { x: 3, y: 1 } },
    inner: { offset: { x: 0, y: 5 } },
    dot: { offset: { x: -1, y: 0 } },
  });
  expect(offsetIn(doc, edition.overrides, layerNamed(doc, 'dot'))).toEqual({ x: 2, y: 6 });
  expect(offsetIn(doc, edition.overrides, layerNamed(doc, 'leaf'))).toEqual({ x: 3, y: 1 });
  expect(offsetIn(doc, edition.overrides, layerNamed(doc, 'ground'))).toEqual({ x: 0, y: 0 });
});

describe.each([
  ['only in the edition', true],
  ['in the base', false],
])('aligned as shown, %s', (_, only) => {
  const aligned = () => {
    const { doc, edition, board } = card({
      turned: { offset: { x: 12, y: 3 } },
      other: { shown: true, offset: { x: -20, y: 0 } },
    });
    const shown = shownArtwork(doc, edition);
    const ids = ['leaf', 'late'].map((name) => layerNamed(doc, name).id);
    const before = ['leaf', 'late'].map((name) => layerNamed(doc, name));
    const puts = movedAsShown(doc, edition, shown, align(shown, ids, 'left', 'artboard', false) as Layer[], only);
    doc.apply({ puts, removes: [] });
    return { doc, edition: doc.find('edition', edition.id) as Edition, board, before, puts };
  };

  test('layers stand where they were sent, inside turned groups as well', () => {
    const { doc, edition, board } = aligned();
    for (const name of ['leaf', 'late']) expect(boxIn(doc, edition, name)?.minX).toBeCloseTo(board.x, 6);
  });

  test('and nothing else is changed', () => {
    const { doc, before, puts } = aligned();
    expect(puts.map(({ kind }) => kind)).toEqual(only ? ['edition'] : ['layer', 'layer']);
    expect(['leaf', 'late'].map((name) => layerNamed(doc, name)).every((layer, i) => layer === before[i])).toBe(only);
  });
});

test('what is not moved but otherwise changed is not taken for a move', () => {
  const { doc, edition } = card();
  const shown = shownArtwork(doc, edition);
  expect(
    movedAsShown(doc, edition, shown, [{ ...layerNamed(doc, 'leaf'), transform: [2, 0, 0, 2, 0, 0] }], true),
  ).toEqual([]);
});

test('a size given where an edition shows a layer keeps the corner it is told from, and the edition holds what it held', () => {
  const { doc, edition } = card({
    held: { offset: { x: 7, y: -4 } },
    wave: { offset: { x: 2, y: 0 } },
    leaf: { offset: { x: 5, y: 5 } },
  });
  for (const name of ['wave', 'leaf']) {
    const before = boxIn(doc, edition, name);
    if (!before) throw new Error('draws nothing');
    doc.apply({
      puts: shapedAsShown(doc, edition, [layerNamed(doc, name).id], scaleAbout(before.minX, before.minY, 0.5, 0.5)),
      removes: [],
    });
    const after = boxIn(doc, edition, name);
    expect(after?.minX).toBeCloseTo(before.minX, 6);
    expect(after?.minY).toBeCloseTo(before.minY, 6);
    expect((after?.maxX ?? 0) - (after?.minX ?? 0)).toBeCloseTo((before.maxX - before.minX) / 2, 5);
  }
  expect(doc.find('edition', edition.id)).toBe(edition);
  doc.apply({ puts: [{ ...layerNamed(doc, 'leaf'), locked: true }], removes: [] });
  expect(shapedAsShown(doc, edition, [layerNamed(doc, 'leaf').id], scaleAbout(0, 0, 2, 2))).toEqual([]);
});
