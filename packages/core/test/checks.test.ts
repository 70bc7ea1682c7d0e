import { shippedFonts } from '../../render/src/shipped-fonts';
import {
  ALL_FILES,
  acceptanceOf,
  artboardRecord,
  CHECKS,
  editionRecord,
  type Finding,
  findTrouble,
  followedLayout,
  LOCKUP_OPTIONS,
  layersOn,
  makeLockups,
  mendFindings,
  newId,
  type Output,
  outputRecord,
  type ProjectDocument,
  type ProjectRecord,
  planFiles,
  READY_RULES,
  type Seen,
  sliceRecord,
  type Taker,
  troubleFinder,
} from '../src';
import { project, svg, TINY_PNG } from './fixtures';

const fonts = shippedFonts(__filename);
/** Rules of receivers, where a case is about them. */
let intakes: Taker[] | undefined;
/** The rendered facts that every file of a case has; undefined when nothing was rendered. */
let rendered: Seen | undefined;
const around = (doc: ProjectDocument, lastDelivery?: { number: number; paths: string[] }) => ({
  doc,
  plan: planFiles(doc, 'p'),
  fonts,
  pictureSize: () => ({ width: 1, height: 1 }),
  lastDelivery,
  intakes,
  seenOf: () => rendered,
  // As the picture of a sand letter on a pine disc is measured.
  meetingsOf: () => [
    { colours: ['#0c6a53', null] as const, length: 140 },
    { colours: ['#e8d5a9', '#0c6a53'] as const, length: 60 },
  ],
});
const look = (doc: ProjectDocument): Finding[] => findTrouble(around(doc));
const GOOD = svg('<path d="M3 3h18v18z" stroke="#171b1c" stroke-width="2"/>');
const BADGE = svg('<circle cx="12" cy="12" r="10" fill="#0c6a53"/><path d="M9 7h6v10H9z" fill="#e8d5a9"/>');
const of = (findings: readonly Finding[], check: string) => findings.filter((finding) => finding.check === check);

type Made = ReturnType<typeof project>;
const cases: Record<string, { make(): Made; message: RegExp; mended?: boolean; seen?: Seen }> = {
  'off-grid': {
    make: () => change(project({ good: GOOD }), (m) => [{ ...m.artboard('good'), x: 41.25 }]),
    message: /^starts at x 41.25, between pixels$/,
    mended: true,
  },
  'default-name': { make: () => project({ 'Artboard 7': GOOD }), message: /still called “Artboard 7”/ },
  'name-twice': {
    make: () => change(project({ tide: GOOD, boat: GOOD }), (m) => [{ ...m.artboard('boat'), name: 'TIDE' }]),
    message: /taken by piece \d too/,
    mended: true,
  },
  'nothing-inside': {
    make: () => project({ good: svg('<path id="x" display="none" d="M3 3h9v9z"/>') }),
    message: /^nothing is in it$/,
    mended: true,
  },
  'pokes-out': {
    make: () => project({ good: svg('<rect x="4" y="10" width="9" height="16"/>') }),
    message: /at the bottom by 2 px/,
    mended: true,
  },
  hairline: {
    make: () => project({ good: svg('<path d="M3 3h18v18" fill="none" stroke="#000" stroke-width="0.5"/>') }),
    message: /^lines of 0.5 px at 24 × 24$/,
  },
  'live-text': {
    make: () => project({ good: svg('<text x="3" y="12" font-size="8" font-family="Harbourmaster">tide</text>') }),
    message: /Harbourmaster is missing; Schibsted Grotesk is used instead/,
  },
  'only-a-picture': {
    make: () => project({ good: svg(`<image width="24" height="24" href="data:image/png;base64,${TINY_PNG}"/>`) }),
    message: /only a bitmap/,
    mended: true,
  },
  'too-little-contrast': {
    make: () =>
      change(project({ good: svg('<path d="M3 3h18v18z" fill="#fff"/>') }), (m) => [
        outputRecord.parse({ ...m.outputs[1], id: newId(), suffix: '-j', settings: { format: 'jpeg' } }) as Output,
      ]),
    message: /^White on white$/,
    mended: true,
  },
  'cannot-be-made': {
    make: () =>
      change(project({ good: GOOD }), (m) => [
        sliceRecord.parse({
          id: newId(),
          kind: 'slice',
          order: 'a0',
          name: 'gone',
          source: { kind: 'layer', layerId: 'nowhere' },
          specIds: [m.doc.list('spec')[0].id],
        }),
      ]),
    message: /^the layer it follows was deleted$/,
    mended: true,
  },
  'off-multiple': {
    make: () =>
      change(project({ good: GOOD }), (m) => [
        { ...m.doc.settings, gridPx: 8 },
        { ...m.artboard('good'), height: 23 },
      ]),
    message: /^24 × 23 is no multiple of 8$/,
    mended: true,
  },
  'small-inside': {
    make: () => project({ good: svg('<rect x="9" y="9" width="6" height="5"/>') }),
    message: /^artwork fills only 25 % of it$/,
    mended: true,
  },
  'below-smallest': {
    make: () => change(project({ good: GOOD }), (m) => [{ ...m.artboard('good'), smallest: { px: 40 } }]),
    message: /^24 px wide, less than the 40 px set for it$/,
    mended: true,
  },
  'between-pixels': {
    make: () => project({ good: svg('<rect id="Bar" x="3.37" y="4.2" width="17" height="3"/>') }),
    message: /^0 % of its edges lie on pixels at 24 × 24: Bar is off by up to 0\.37 px$/,
    mended: true,
  },
  'off-centre': {
    make: () =>
      project({ good: svg('<circle cx="5" cy="12" r="4"/><path d="M3 12h18" stroke="#000" stroke-width="0.5"/>') }),
    message: /px left of the middle$/,
  },
  'name-changed': { make: () => project({ 'Crab: 1?': GOOD }), message: /^its name becomes “Crab- 1-” on disk$/ },
  'set-differs': {
    make: () =>
      project({
        ...Object.fromEntries(Array.from({ length: 8 }, (_, i) => [`icon ${i}`, GOOD])),
        odd: svg('<g stroke="#171b1c" transform="scale(2)"><path d="M2 2h8v8z" stroke-width="0.75"/></g>'),
      }),
    message: /^lines of 1.5 px where most have 2$/,
    mended: true,
  },
  'picture-enlarged': {
    make: () =>
      project({
        good: svg(`<image width="24" height="24" href="data:image/png;base64,${TINY_PNG}"/><path d="M2 2h3v3z"/>`),
      }),
    message: /^its picture of 1 × 1 px is enlarged 48 times$/,
  },
  'heavy-svg': {
    make: () => project({ good: svg(`<path d="M2 2${'l.5 .5-.5-.5'.repeat(3000)}h18v18z"/>`) }),
    message: /^its paths alone take \d\d KB$/,
  },
  'pdf-flattens': {
    make: () =>
      project(
        {
          good: svg(
            '<filter id="f"><feGaussianBlur stdDeviation="1"/></filter><path filter="url(#f)" d="M3 3h18v18z"/>',
          ),
        },
        'print',
      ),
    message: /^part of its PDF becomes a picture, for a filter$/,
  },
  'colours-alike': {
    make: () =>
      project({
        good: svg(
          '<path d="M3 3h18v18z" fill="#0c6a53"/><path d="M3 3h9" stroke="#0c6b54" stroke-width="2"/><path d="M3 9h9" stroke="#0c6a53" stroke-width="2"/>',
        ),
      }),
    message: /^#0c6b54 \(1\) is nearly #0c6a53 \(2\)$/,
    mended: true,
  },
  'output-idle': {
    make: () => change(project({ good: GOOD }), (m) => [{ ...m.artboard('good'), offOutputIds: [m.outputs[2].id] }]),
    message: /^PNG 2× of Web makes nothing$/,
    mended: true,
  },
  'no-longer-made': {
    make: () => project({ good: GOOD }),
    message: /^delivery 3 had 2 files that would not be made again: old.svg, older.svg$/,
  },
  'difference-lost': {
    make: () =>
      change(project({ good: GOOD }), (m) => [
        editionRecord.parse({
          id: 'night',
          kind: 'edition',
          artboardId: m.artboard('good').id,
          order: 'a0',
          name: 'night',
          specIds: m.artboard('good').specIds,
          overrides: { gone1: { shown: false, was: 'Swell' }, gone2: { tint: '#ffffff', was: 'Crest' } },
        }),
      ]),
    message: /^2 of its differences are for layers that are gone: Swell, Crest$/,
    mended: true,
  },
  'intake-refuses': {
    make: () => project({ Boat: GOOD }),
    message: /^App build takes names in small letters$/,
    mended: true,
  },
  'parts-melt': {
    make: () =>
      change(project({ badge: BADGE }), (m) => [
        artboardRecord.parse({
          ...m.artboard('badge'),
          id: 'mono',
          name: 'badge mono',
          order: 'b05',
          y: 400,
          follows: { artboardId: m.artboard('badge').id, rule: { kind: 'tint', colour: '#171b1c' } },
        }),
      ]),
    message: /^#e8d5a9 and #0c6a53 meet in the source and cannot be told apart here$/,
    mended: true,
  },
  'ink-masked': {
    seen: { masked: 1 },
    make: () => project({ good: GOOD }),
    message: /^no outline of its ink was found: the file is a rectangle behind a mask, and cannot be cut$/,
  },
  'shapes-apart': {
    seen: { apart: true },
    make: () => project({ good: GOOD }),
    message:
      /^its shapes could not be united by colour: a part is half transparent, there is a picture, a mask or an effect, or it is too much$/,
    mended: true,
  },
  'strokes-left': {
    seen: { strokes: 1 },
    make: () => project({ good: GOOD }),
    message: /^1 stroke stays a stroke$/,
  },
  'cut-thin': {
    seen: { cut: { inks: 1, nodes: 9, thinParts: 2, thinGaps: 1, searched: true } },
    make: () => project({ good: GOOD }, 'cutting'),
    message: /^2 parts and 1 gap are thinner than 0\.5 mm$/,
  },
  'cut-inks': {
    seen: { cut: { inks: 2, nodes: 9, thinParts: 0, thinGaps: 0, searched: true } },
    make: () => project({ good: GOOD }, 'cutting'),
    message: /^has 2 colours to cut; a variant in one ink has one$/,
  },
  'cut-nodes': {
    seen: { cut: { inks: 1, nodes: 2001, thinParts: 0, thinGaps: 0, searched: true } },
    make: () => project({ good: GOOD }, 'cutting'),
    message: /^has 2,001 nodes to cut along$/,
  },
  'eps-picture': {
    seen: { asPicture: true },
    make: () => project({ good: GOOD }),
    message: /^its EPS is a picture on white: /,
    mended: true,
  },
  'ink-solid': {
    make: () =>
      inked(
        project({
          badge: svg(
            '<linearGradient id="g"><stop stop-color="#0c6a53"/><stop offset="1" stop-color="#171b1c"/></linearGradient><path d="M3 3h18v18z" fill="url(#g)"/><g opacity=".7"><path d="M3 3h9v9z"/><path d="M9 3h9v9z" fill-opacity=".5"/></g><path d="M3 9h9" stroke="#000" stroke-opacity="0.2"/>',
          ),
        }),
      ),
    message: /^in one ink 1 gradient becomes solid, 1 half transparent part becomes solid, 2 faint parts are left out$/,
  },
  'hidden-inside': {
    make: () => project({ good: svg('<path d="M3 3h18v18z"/><path display="none" d="M4 4h9v9z"/>') }),
    message: /1 hidden or bench-only layer lies in it/,
  },
};

/** With a variant of the artboard “badge” in one ink. */
const inked = (made: Made): Made =>
  change(made, ({ artboard }) => [
    artboardRecord.parse({
      ...artboard('badge'),
      id: 'mono',
      name: 'badge mono',
      order: 'b05',
      y: 400,
      follows: {
        artboardId: artboard('badge').id,
        rule: { kind: 'ink', colour: '#171b1c', out: [], apart: [], gap: 0 },
      },
    }),
  ]);

function change(made: Made, records: (made: Made) => ProjectRecord[]): Made {
  made.doc.apply({ puts: records(made), removes: [] });
  return made;
}

test('every check has its case here, words and an example', () => {
  expect(Object.keys(cases).sort()).toEqual(CHECKS.map((check) => check.name).sort());
  for (const check of CHECKS) expect([check.about.endsWith('.'), check.example.endsWith('.')]).toEqual([true, true]);
});

test('clean artwork has no findings', () => {
  expect(look(project({ anchor: GOOD, boat: GOOD }).doc)).toEqual([]);
});

describe.each(Object.entries(cases))('%s', (name, { make, message, mended, seen }) => {
  beforeAll(() => {
    if (name === 'intake-refuses') intakes = [{ rules: { ...READY_RULES[0], complete: [] }, takes: ALL_FILES }];
    rendered = seen;
  });
  afterAll(() => {
    intakes = rendered = undefined;
  });
  test('fires on its example', () => {
    const found = of(findTrouble(around(make().doc, { number: 3, paths: ['good.svg', 'old.svg', 'older.svg'] })), name);
    expect(found.length).toBeGreaterThan(0);
    expect(found[0].message).toMatch(message);
  });

  if (mended) {
    test('is settled by its mend, and by undo is back', () => {
      const { doc } = make();
      const before = of(look(doc), name);
      const mendable = before.filter((finding) => finding.mend);
      expect(mendable.length).toBeGreaterThan(0);
      const fix = mendFindings(mendable, around(doc));
      if (!fix) throw new Error('no mend');
      const undo = doc.apply(fix);
      expect(of(look(doc), name)).toEqual([]);
      doc.apply(undo);
      expect(of(look(doc), name)).toEqual(before);
    });
  }
});

test('contrast is judged on what the variant and the output make of the colours', () => {
  const { doc, artboard, outputs } = project({ good: svg('<path d="M3 3h18v18z" fill="#000"/>') });
  const variant = artboardRecord.parse({
    ...artboard('good'),
    id: newId(),
    order: 'b00',
    name: 'light',
    x: 90,
    background: '#171b1c',
    follows: { artboardId: artboard('good').id, rule: { kind: 'white' } },
  });
  doc.apply({ puts: [variant, { ...outputs[1], background: '#ffffff' }], removes: [] });
  expect(of(look(doc), 'too-little-contrast').map((finding) => [finding.pieceId, finding.outputId])).toEqual([
    [variant.id, outputs[1].id],
  ]);
});

test('contrast is judged on the stops of gradients, and on what an edition shows and tints', () => {
  const { doc, artboard, outputs } = project({
    fade: svg(
      '<defs><linearGradient id="base"><stop stop-color="#fff"/><stop offset="1" stop-color="#f8f8f8"/></linearGradient><linearGradient id="g" xlink:href="#base"/></defs><path d="M3 3h18v18z" fill="url(#g)"/>',
    ),
    mark: svg(
      '<g id="mark"><path id="dark" d="M3 3h18v18z" fill="#12343b"/><path id="pale" d="M3 3h9v9z" fill="#fdfdfd"/></g>',
    ),
  });
  const jpeg = outputRecord.parse({ ...outputs[1], id: newId(), suffix: '-j', settings: { format: 'jpeg' } });
  const layer = (name: string) => doc.list('layer').find((each) => each.name === name)?.id ?? '';
  const base = artboard('mark');
  const edition = (name: string, overrides: Record<string, { shown?: boolean; tint?: string }>) =>
    editionRecord.parse({
      id: newId(),
      kind: 'edition',
      artboardId: base.id,
      order: `a${name}`,
      name,
      specIds: base.specIds,
      overrides,
    });
  const [plain, hidden, tinted] = [
    edition('a', {}),
    edition('b', { [layer('dark')]: { shown: false } }),
    edition('c', { [layer('mark')]: { tint: '#ffffff' } }),
  ];
  doc.apply({ puts: [jpeg, plain, hidden, tinted], removes: [] });
  const found = of(look(doc), 'too-little-contrast');
  expect(found.every((finding) => finding.outputId === jpeg.id)).toBe(true);
  expect(new Set(found.map((finding) => finding.pieceId))).toEqual(
    new Set([artboard('fade').id, hidden.id, tinted.id]),
  );
});

describe('contrast as it was rendered', () => {
  const withJpeg = (inner: string, attrs?: string) =>
    change(project({ good: svg(inner, attrs) }), (m) => [
      outputRecord.parse({ ...m.outputs[1], id: newId(), suffix: '-j', settings: { format: 'jpeg' } }) as Output,
    ]).doc;
  const PICTURE = `<image width="24" height="24" href="data:image/png;base64,${TINY_PNG}"/><path d="M2 2h3v3z" fill="#fff"/>`;
  const found = (doc: ProjectDocument, seen?: Seen) =>
    of(findTrouble({ ...around(doc), seenOf: () => seen }), 'too-little-contrast').map((finding) => finding.message);
  const ALL: Seen = { contrast: 3, box: [0, 0, 1, 1] };
  const NOTHING: Seen = { contrast: 1, box: null };

  test('a picture is judged by what came out, and not before', () => {
    const doc = withJpeg(PICTURE);
    expect(found(doc)).toEqual([]);
    expect(found(doc, { contrast: 1.1, box: null })).toEqual(['nothing in it stands out from its ground']);
    expect(found(doc, ALL)).toEqual([]);
  });

  test('what came out counts for more than the paints', () => {
    expect(found(withJpeg('<path d="M3 3h18v18z" fill="#d2452a" opacity="0.01"/>'), NOTHING)).toEqual([
      'nothing in it stands out from its ground',
    ]);
    expect(found(withJpeg('<path d="M3 3h18v18z" fill="#fff"/>'), ALL)).toEqual([]);
    expect(found(withJpeg('<path d="M3 3h18v18z" fill="#fff"/>'), NOTHING)).toEqual(['White on white']);
  });

  test('a piece is looked at again when its files were rendered', () => {
    const doc = withJpeg(PICTURE);
    const find = troubleFinder();
    const now = around(doc);
    expect(of(find({ ...now, seenOf: () => ALL }), 'too-little-contrast')).toEqual([]);
    const [finding] = of(find({ ...now, seenOf: () => NOTHING }), 'too-little-contrast');
    expect(finding.mend).toBe('Leave that file out');
    const mend = mendFindings([finding], now);
    if (!mend) throw new Error('no mend');
    doc.apply(mend);
    expect(found(doc, NOTHING)).toEqual([]);
  });

  const LOGO =
    '<circle cx="12" cy="12" r="10" fill="#0c6a53"/><circle cx="12" cy="12" r="4" fill="#fff"/><path d="M30 4h60v16h-60z" fill="#fff"/>';
  const WIDE = 'width="100" height="24" viewBox="0 0 100 24"';

  test('a part that vanishes at a side is told; white inside of something else is not missed', () => {
    const doc = withJpeg(LOGO, WIDE);
    expect(found(doc, { contrast: 3, box: [0.02, 0.083, 0.22, 0.917] })).toEqual([
      'part of it cannot be seen on white',
    ]);
    expect(found(doc, { contrast: 3, box: [0.02, 0.083, 0.9, 0.917] })).toEqual([]);
    expect(found(doc, { contrast: 3, box: [0.02, 0.083, 0.8, 0.917] })).toEqual([]);
  });

  test('a ground that the artwork brings along is not missed', () => {
    const doc = withJpeg(`<path d="M0 0h100v24h-100z" fill="#fff"/>${LOGO.slice(0, LOGO.lastIndexOf('<path'))}`, WIDE);
    expect(found(doc, { contrast: 3, box: [0.02, 0.083, 0.22, 0.917] })).toEqual([]);
  });

  test('a slice through artwork is judged as a whole only', () => {
    const doc = withJpeg(LOGO, WIDE);
    const [artboard] = doc.list('artboard');
    const slice = sliceRecord.parse({
      id: newId(),
      kind: 'slice',
      order: 'bzz',
      name: 'end',
      source: { kind: 'region', x: artboard.x, y: artboard.y, width: 100, height: 24 },
      specIds: artboard.specIds,
    });
    doc.apply({ puts: [{ ...artboard, on: false }, slice], removes: [] });
    expect(found(doc, { contrast: 3, box: [0.02, 0.083, 0.22, 0.917] })).toEqual([]);
    expect(found(doc, NOTHING)).toEqual(['nothing in it stands out from its ground']);
  });

  test('a lockup is judged where its parts stand, whatever room the file leaves around', () => {
    const { doc, artboard, outputs } = project({
      emblem: svg('<circle cx="12" cy="12" r="10" fill="#0c6a53"/>'),
      wordmark: svg('<path d="M0 2h60v8h-60z" fill="#fff"/>', 'width="60" height="12" viewBox="0 0 60 12"'),
    });
    const [lockup] = makeLockups(doc, artboard('emblem'), artboard('wordmark'), ['wide'], LOCKUP_OPTIONS);
    const boxed = outputRecord.parse({
      ...outputs[1],
      id: newId(),
      suffix: '-b',
      background: '#ffffff',
      size: { kind: 'box', widthPx: 400, heightPx: 400 },
    });
    doc.apply({ puts: [lockup, boxed], removes: [] });
    const file = planFiles(doc, 'p').files.find((each) => each.pieceId === lockup.id && each.outputId === boxed.id);
    if (!file) throw new Error('no file');
    const layout = followedLayout(doc, lockup);
    if (!layout || typeof layout === 'string') throw new Error('no layout');
    /** The box of the lockup's first parts, as a share of the file. */
    const boxOf = (count: number): Seen['box'] => {
      const parts = layout.placements.slice(0, count).map(({ source, x, y, scale }) => ({
        left: lockup.x + x,
        top: lockup.y + y,
        right: lockup.x + x + source.width * scale,
        bottom: lockup.y + y + source.height * scale,
      }));
      const { view } = file;
      return [
        (Math.min(...parts.map(({ left }) => left)) - view.x) / view.width,
        (Math.min(...parts.map(({ top }) => top)) - view.y) / view.height,
        (Math.max(...parts.map(({ right }) => right)) - view.x) / view.width,
        (Math.max(...parts.map(({ bottom }) => bottom)) - view.y) / view.height,
      ];
    };
    const told = (box: Seen['box']) =>
      of(
        findTrouble({
          ...around(doc),
          seenOf: (pieceId, outputId) =>
            pieceId === lockup.id && outputId === boxed.id ? { contrast: 3, box } : undefined,
        }),
        'too-little-contrast',
      ).filter((finding) => finding.pieceId === lockup.id && finding.outputId === boxed.id);
    expect(told(boxOf(2))).toEqual([]);
    expect(told(boxOf(1)).map((finding) => finding.message)).toEqual(['part of it cannot be seen on white']);
  });
});

test('what only touches the edge of a piece from outside does not lie in it', () => {
  const { doc } = project({ good: svg('<path d="M3 3h18v18z"/><path display="none" d="M24 4h9v9z"/>') });
  expect(of(look(doc), 'hidden-inside')).toEqual([]);
});

test('pieces that are off are not looked at', () => {
  const { doc, artboard } = project({ 'Artboard 1': GOOD });
  doc.apply({ puts: [{ ...artboard('Artboard 1'), on: false }], removes: [] });
  expect(look(doc).filter((finding) => finding.pieceId)).toEqual([]);
});

test('several findings of one piece are mended in one step', () => {
  const { doc, outputs } = project({ good: svg('<path d="M3 3h18v18z" fill="#fff"/>') });
  const jpegs = [1, 2].map((n) =>
    outputRecord.parse({ ...outputs[1], id: newId(), suffix: `-j${n}`, settings: { format: 'jpeg' } }),
  );
  doc.apply({ puts: jpegs, removes: [] });
  const found = of(look(doc), 'too-little-contrast');
  expect(found).toHaveLength(2);
  const fix = mendFindings(found, around(doc));
  if (!fix) throw new Error('no mend');
  expect(fix.label).toBe('mend 2 findings');
  doc.apply(fix);
  expect(of(look(doc), 'too-little-contrast')).toEqual([]);
});

test('three of one name are numbered apart', () => {
  const { doc } = project({ a: GOOD, b: GOOD, c: GOOD });
  doc.apply({ puts: doc.list('artboard').map((board) => ({ ...board, name: 'same' })), removes: [] });
  const fix = mendFindings(
    of(look(doc), 'name-twice').filter((finding) => finding.mend),
    around(doc),
  );
  if (!fix) throw new Error('no mend');
  doc.apply(fix);
  expect(doc.list('artboard').map((board) => board.name)).toEqual(['same', 'same-2', 'same-3']);
  expect(of(look(doc), 'name-twice')).toEqual([]);
});

describe('after an edit', () => {
  test('remembering finds what looking anew finds, whatever was changed', () => {
    const made = project(Object.fromEntries(Array.from({ length: 8 }, (_, i) => [`icon ${i}`, GOOD])));
    const { doc } = made;
    const finder = troubleFinder();
    const board = made.artboard('icon 3');
    const [layer] = layersOn(doc, board);
    const edits: ProjectRecord[][] = [
      [{ ...board, x: board.x + 0.5 }],
      [{ ...layer, shown: false }],
      [{ ...layer, shown: true, transform: [3, 0, 0, 3, board.x, board.y] }],
      [{ ...board, name: 'ICON 4' }],
      [{ ...doc.settings, gridPx: 7 }],
      [{ ...made.outputs[1], size: { kind: 'factor', factor: 0.25 } }],
      [board, layer],
    ];
    finder(around(doc));
    for (const puts of edits) {
      doc.apply({ puts, removes: [] });
      expect(finder(around(doc))).toEqual(look(doc));
    }
  });
});

describe('accepting', () => {
  test('a finding stays accepted, last of all, until what it says changes', () => {
    const made = project({ good: svg('<rect x="4" y="10" width="9" height="16"/>') });
    const { doc } = made;
    const [found] = of(look(doc), 'pokes-out');
    doc.apply({ puts: [acceptanceOf(found, 'bleeds on purpose')], removes: [] });
    expect(of(look(doc), 'pokes-out')).toEqual([{ ...found, accepted: 'bleeds on purpose' }]);
    expect(look(doc).at(-1)?.check).toBe('pokes-out');
    doc.apply({ puts: [{ ...made.artboard('good'), height: 23 }], removes: [] });
    expect(of(look(doc), 'pokes-out')[0].accepted).toBeUndefined();
  });
  test('an error cannot be accepted: it holds the export up', () => {
    const { doc } = cases['cannot-be-made'].make();
    const [found] = of(look(doc), 'cannot-be-made');
    doc.apply({ puts: [acceptanceOf(found, 'never mind')], removes: [] });
    expect(of(look(doc), 'cannot-be-made')[0].accepted).toBeUndefined();
  });
});

test('a build that wants lower case gets it from the spec, and is told of what it would refuse', () => {
  const made = project({ 'Crab Pot': GOOD, '2 boats': GOOD }, 'density');
  expect(planFiles(made.doc, 'p').files.map((file) => file.path)).toContain('density-2x/crab_pot.png');
  expect(of(look(made.doc), 'name-changed')).toMatchObject([
    { pieceId: made.artboard('2 boats').id, message: expect.stringMatching(/^2_boats.png would be refused/) },
  ]);
});
