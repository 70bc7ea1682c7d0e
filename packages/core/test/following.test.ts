import fc from 'fast-check';
import {
  type Artboard,
  artboardRecord,
  Composer,
  changeRule,
  colourFacts,
  emblemFirst,
  follow,
  followedLayout,
  handoverVariants,
  keepFollowers,
  LOCKUP_OPTIONS,
  lockupRule,
  lockupSize,
  makeGuide,
  makeLockups,
  makeVariants,
  NO_FONTS,
  newId,
  type ProjectDocument,
  pieces,
  planFiles,
  type RecolourRule,
  stopFollowing,
  withFollowerSizes,
  withLockup,
} from '../src';
import { project, refusalOf, svg } from './fixtures';
import { runs } from './properties';

const EMBLEM = svg(
  '<defs><linearGradient id="g"><stop stop-color="#0c6a53"/><stop offset="1" stop-color="#98630f" stop-opacity=".5"/></linearGradient><mask id="m"><rect width="24" height="24" fill="#fff"/></mask></defs><g id="leaf" stroke="#171b1c" mask="url(#m)"><circle cx="12" cy="12" r="9" fill="url(#g)"/></g><path d="M2 2h6v6z"/><g color="#d2452a"><rect x="14" y="14" width="4" height="4" fill="currentColor"/></g>',
);
const WORDMARK = svg('<rect width="60" height="10" fill="#171b1c"/>', 'width="60" height="10" viewBox="0 0 60 10"');
const RULES: RecolourRule[] = [
  { kind: 'asDrawn' },
  { kind: 'white' },
  { kind: 'grey' },
  { kind: 'tint', colour: '#12343b' },
  {
    kind: 'map',
    colours: [
      { from: '#171b1c', to: '#ffffff' },
      { from: '#000000', to: 'none' },
    ],
  },
];

const svgOf = (doc: ProjectDocument, pieceId: string): string => {
  const composer = new Composer(doc, { fonts: NO_FONTS, pictures: () => undefined });
  const file = planFiles(doc, 'f').files.find((each) => each.pieceId === pieceId && each.format === 'svg');
  if (!file) throw new Error('no file');
  return composer.compose(file).svg;
};
const logo = () => {
  const { doc, artboard } = project({ emblem: EMBLEM, wordmark: WORDMARK });
  return { doc, emblem: artboard('emblem'), wordmark: artboard('wordmark') };
};
const following = (doc: ProjectDocument, source: Artboard, rule: RecolourRule): Artboard => {
  const made = artboardRecord.parse({
    ...source,
    id: newId(),
    order: 'b00',
    name: 'variant',
    y: source.y + 400,
    follows: { artboardId: source.id, rule },
  });
  doc.apply({ puts: [made], removes: [] });
  return made;
};

describe('following', () => {
  test.each(RULES)('stopped, what it shows stays what it was to the byte, and the others too: $kind', (rule) => {
    const { doc, emblem } = logo();
    const variant = following(doc, emblem, rule);
    const [before, beside] = [svgOf(doc, variant.id), svgOf(doc, emblem.id)];
    const undo = doc.apply(stopFollowing(doc, variant));
    expect(doc.find('artboard', variant.id)?.follows).toBeUndefined();
    expect(svgOf(doc, variant.id)).toBe(before);
    expect(svgOf(doc, emblem.id)).toBe(beside);
    // From now on the source is redrawn for itself.
    const circle = doc.list('layer').find((layer) => layer.attrs.r === '9');
    if (!circle) throw new Error('no circle');
    doc.apply({ puts: [{ ...circle, attrs: { ...circle.attrs, r: '3' } }], removes: [] });
    doc.apply({ puts: [circle], removes: [] });
    doc.apply(undo);
    expect(svgOf(doc, variant.id)).toBe(before);
  });

  test('what is under it goes when it follows again, and comes back by undo', () => {
    const { doc, emblem } = logo();
    const variant = following(doc, emblem, { kind: 'white' });
    const white = svgOf(doc, variant.id);
    doc.apply(stopFollowing(doc, variant));
    const own = doc.list('layer').length;
    const undo = doc.apply(follow(doc, doc.find('artboard', variant.id) as Artboard, emblem.id, { kind: 'white' }));
    expect(svgOf(doc, variant.id)).toBe(white);
    expect(doc.list('layer').length).toBeLessThan(own);
    doc.apply(undo);
    expect(doc.list('layer')).toHaveLength(own);
  });

  test('a chain, a ring and itself are refused, saying who', () => {
    const { doc, emblem, wordmark } = logo();
    const variant = following(doc, emblem, { kind: 'white' });
    expect(refusalOf(() => follow(doc, wordmark, variant.id, { kind: 'white' }))).toMatchObject({
      code: 'follow.chain',
      message: 'variant follows another artboard itself',
    });
    expect(refusalOf(() => follow(doc, emblem, wordmark.id, { kind: 'white' }))).toMatchObject({
      code: 'follow.ring',
      message: 'emblem is followed by variant',
    });
    expect(refusalOf(() => follow(doc, emblem, emblem.id, { kind: 'white' })).code).toBe('follow.itself');
    expect(
      refusalOf(() => makeVariants(doc, variant, handoverVariants(colourFacts(doc, emblem, [])), '{source}')).code,
    ).toBe('variant.chain');
  });

  test('the source deleted: followers say so, or keep what they showed', () => {
    const { doc, emblem } = logo();
    const variant = following(doc, emblem, { kind: 'tint', colour: '#12343b' });
    const before = svgOf(doc, variant.id);
    doc.apply({ puts: keepFollowers(doc, new Set([emblem.id])), removes: [emblem.id] });
    expect(svgOf(doc, variant.id)).toBe(before);
    const { doc: other, emblem: gone } = logo();
    const left = following(other, gone, { kind: 'white' });
    other.apply({ puts: [], removes: [gone.id] });
    expect(pieces(other).find((piece) => piece.id === left.id)?.problem).toBe('the artboard it follows was deleted');
  });

  test('a rule applied twice is the same as once, and keeps masks and alpha', () => {
    for (const rule of RULES.slice(1, 4)) {
      const { doc, emblem } = logo();
      const variant = following(doc, emblem, rule);
      const once = svgOf(doc, variant.id);
      doc.apply(stopFollowing(doc, variant));
      const frozen = doc.find('artboard', variant.id) as Artboard;
      const again = artboardRecord.parse({
        ...frozen,
        id: newId(),
        order: 'b09',
        y: 3000,
        follows: { artboardId: frozen.id, rule },
      });
      doc.apply({ puts: [again], removes: [] });
      expect(svgOf(doc, again.id)).toBe(once);
      expect(once).toContain('stop-opacity=".5"');
      expect(once).toMatch(/<mask id="\w+"><rect width="24" height="24" fill="#fff"\/><\/mask>/);
    }
    const { emblem } = logo();
    expect(changeRule(emblem, { kind: 'white' }).puts).toEqual([]);
  });
});

describe('lockups', () => {
  const rule = fc.record({
    arrangement: fc.constantFrom('wide' as const, 'stacked' as const, 'emblem' as const, 'wordmark' as const),
    gap: fc.double({ min: 0, max: 3, noNaN: true }),
    clearSpace: fc.double({ min: 0, max: 3, noNaN: true }),
    emblemHeight: fc.double({ min: 0.2, max: 6, noNaN: true }),
    align: fc.constantFrom('start' as const, 'centre' as const, 'end' as const),
  });

  test('parts keep their proportions, never overlap, and stand off every edge by the clear space', () => {
    const { doc, emblem, wordmark } = logo();
    fc.assert(
      fc.property(rule, (options) => {
        const lockup = lockupRule.parse({ ...options, wordmarkId: wordmark.id });
        const size = lockupSize(emblem, wordmark, lockup);
        const layout = followedLayout(doc, {
          ...size,
          follows: { artboardId: emblem.id, rule: { kind: 'asDrawn' }, lockup },
        });
        if (!layout || typeof layout === 'string') throw new Error('no layout');
        const boxes = layout.placements.map(({ source, x, y, scale }) => ({
          x,
          y,
          right: x + source.width * scale,
          bottom: y + source.height * scale,
        }));
        for (const { x, y, right, bottom } of boxes) {
          expect(Math.min(x, y, size.width - right, size.height - bottom)).toBeGreaterThanOrEqual(
            layout.clearSpacePx - 1e-6,
          );
        }
        const [one, other] = boxes;
        if (other) expect(Math.max(other.x - one.right, other.y - one.bottom)).toBeCloseTo(layout.gapPx, 6);
        expect(layout.measuredPx).toBe(wordmark.height);
        if (options.arrangement !== 'wordmark')
          expect(one.bottom - one.y).toBeCloseTo(options.emblemHeight * wordmark.height, 6);
      }),
      runs(300),
    );
  });

  test('four lockups in four colourings follow two artboards; redrawn, exactly those with the part differ', () => {
    const { doc, emblem, wordmark } = logo();
    expect(emblemFirst([wordmark, emblem])).toEqual([emblem, wordmark]);
    const lockups = makeLockups(
      doc,
      emblem,
      wordmark,
      ['wide', 'stacked', 'emblem', 'wordmark'],
      LOCKUP_OPTIONS,
      '{emblem}-{lockup}',
    );
    doc.apply({ puts: lockups, removes: [] });
    for (const lockup of lockups)
      doc.apply({
        puts: makeVariants(
          doc,
          lockup,
          handoverVariants(colourFacts(doc, lockup, [])).slice(0, 3),
          '{source}-{variant}',
        ),
        removes: [],
      });
    const made = doc.list('artboard').filter((board) => board.follows);
    expect(made.map((board) => board.name)).toContain('emblem-stacked-mono-light');
    expect(made).toHaveLength(16);
    const before = new Map(made.map((board) => [board.id, svgOf(doc, board.id)]));
    const ring = doc.list('layer').find((layer) => layer.attrs.r === '9');
    if (ring) doc.apply({ puts: [{ ...ring, attrs: { ...ring.attrs, r: '8' } }], removes: [] });
    const changed = made
      .filter((board) => svgOf(doc, board.id) !== before.get(board.id))
      .map((board) => board.follows?.lockup?.arrangement);
    expect(changed).toHaveLength(12);
    expect(changed).not.toContain('wordmark');
  });

  test('a source resized takes along what follows it, and only what had the size of its rule', () => {
    const { doc, emblem, wordmark } = logo();
    const variant = following(doc, emblem, { kind: 'white' });
    const [wide, word] = makeLockups(doc, emblem, wordmark, ['wide', 'wordmark'], LOCKUP_OPTIONS);
    const own = artboardRecord.parse({ ...variant, id: newId(), order: 'b05', width: 99 });
    doc.apply({ puts: [wide, word, own], removes: [] });
    doc.apply(withFollowerSizes(doc, { label: 'resize', puts: [{ ...emblem, width: 48, height: 24 }], removes: [] }));
    const now = (id: string) => doc.find('artboard', id);
    expect(now(variant.id)).toMatchObject({ width: 48, height: 24 });
    expect(now(wide.id)?.width).toBeCloseTo(wide.width + 16, 0);
    expect(now(wide.id)?.height).toBe(wide.height);
    expect(now(word.id)).toEqual(word);
    expect(now(own.id)?.width).toBe(99);
  });

  test('another gap gives another size; a guide shows the clear space; stopped, it is artwork', () => {
    const { doc, emblem, wordmark } = logo();
    const [wide] = makeLockups(doc, emblem, wordmark, ['wide'], LOCKUP_OPTIONS);
    doc.apply({ puts: [wide], removes: [] });
    const wider = withLockup(doc, wide, { gap: 2 });
    expect(wider.width - wide.width).toBeCloseTo(15, 0);
    const guide = makeGuide(doc, wide);
    doc.apply({ puts: [wider, guide], removes: [] });
    expect(svgOf(doc, guide.id)).toContain('stroke-dasharray');
    expect(svgOf(doc, wide.id)).not.toContain('stroke-dasharray');
    doc.apply(stopFollowing(doc, wider));
    expect(svgOf(doc, wide.id)).toContain('<circle');
    expect(refusalOf(() => makeGuide(doc, emblem)).code).toBe('guide.not');
    expect(refusalOf(() => makeLockups(doc, guide, wordmark, ['wide'], LOCKUP_OPTIONS)).code).toBe('lockup.chain');
  });
});

test('a picture alone becomes one ink by its lightness; its contrast is not guessed', () => {
  const PIXEL = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
  const { doc, artboard } = project({
    scan: svg(`<image width="24" height="24" href="data:image/png;base64,${PIXEL}"/>`),
  });
  const picture = { hash: '', mediaType: 'image/png' as const, bytes: new Uint8Array([1]) };
  const proposals = handoverVariants(colourFacts(doc, artboard('scan'), []));
  expect(proposals.find(({ key }) => key === 'reversed')?.contrast).toBeNull();
  const made = makeVariants(doc, artboard('scan'), proposals, '{source}-{variant}');
  doc.apply({ puts: made, removes: [] });
  const composer = new Composer(doc, { fonts: NO_FONTS, pictures: () => picture });
  const svgOfNamed = (name: string) => {
    const file = planFiles(doc, 'f').files.find((each) => each.path === `${name}.svg`);
    return file ? composer.compose(file).svg : '';
  };
  expect(svgOfNamed('scan-mono-light')).toContain(
    '<feColorMatrix values="0 0 0 0 1 0 0 0 0 1 0 0 0 0 1 -0.2126 -0.7152 -0.0722 1 0"/>',
  );
  expect(svgOfNamed('scan-grey')).toContain('feColorMatrix');
  expect(svgOfNamed('scan-reversed')).not.toContain('feColorMatrix');
  expect(svgOfNamed('scan')).not.toContain('filter');
});
