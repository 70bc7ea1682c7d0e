import fc from 'fast-check';
import {
  artboardRecord,
  type CanvasShape,
  canvasSteps,
  composeBenchPiece,
  LIMITS,
  NO_FONTS,
  newId,
  type Piece,
  type ProjectDocument,
  pieces,
  type RecolourRule,
  recolouredSteps,
} from '../src';
import { project, svg } from './fixtures';
import { runs } from './properties';

const GRADIENT =
  '<linearGradient id="g"><stop stop-color="#0c6a53"/><stop offset="1" stop-color="#98630f"/></linearGradient>';

const DOTS = '<stop/><stop offset="1" stop-color="#fff"/>';

describe('what is left to the rasteriser', () => {
  test.each([
    ['a mask', '<mask id="m"><rect width="9" height="9"/></mask>', '<rect width="9" height="9" mask="url(#m)"/>'],
    [
      'a filter',
      '<filter id="f"><feGaussianBlur stdDeviation="1"/></filter>',
      '<g filter="url(#f)"><rect width="9" height="9"/></g>',
    ],
    [
      'a pattern',
      '<pattern id="p" width="2" height="2" patternUnits="userSpaceOnUse"><rect width="1" height="1"/></pattern>',
      '<rect width="9" height="9" fill="url(#p)"/>',
    ],
    ['a picture', '', '<image width="9" height="9"/>'],
    ['markers', '<marker id="k"/>', '<path d="M1 1h9" stroke="#000" marker-end="url(#k)"/>'],
    ['mixing', '', '<rect width="9" height="9" mix-blend-mode="multiply"/>'],
    [
      'a gradient that repeats',
      `<linearGradient id="r" spreadMethod="repeat">${DOTS}</linearGradient>`,
      '<rect width="9" height="9" fill="url(#r)"/>',
    ],
    [
      'a gradient from a point outside of its circle',
      `<radialGradient id="r" fx="2">${DOTS}</radialGradient>`,
      '<rect width="9" height="9" fill="url(#r)"/>',
    ],
    [
      'a round gradient over a box that is not square',
      `<radialGradient id="r">${DOTS}</radialGradient>`,
      '<rect width="9" height="5" fill="url(#r)"/>',
    ],
    [
      'gradients that refer to one another',
      '<linearGradient id="a" href="#b"/><linearGradient id="b" href="#a"/>',
      '<rect width="9" height="5" fill="url(#a)"/>',
    ],
    [
      'a gradient of one colour',
      '<linearGradient id="a"><stop/></linearGradient>',
      '<rect width="9" height="5" fill="url(#a)"/>',
    ],
    [
      'a clip by two shapes',
      '<clipPath id="c"><rect width="3" height="3"/><rect x="5" width="3" height="3"/></clipPath>',
      '<rect width="9" height="9" clip-path="url(#c)"/>',
    ],
    [
      'a clip in units of a box',
      '<clipPath id="c" clipPathUnits="objectBoundingBox"><rect width="1" height="1"/></clipPath>',
      '<rect width="9" height="9" clip-path="url(#c)"/>',
    ],
    ['hard edges', '', '<rect width="9" height="9" shape-rendering="crispEdges"/>'],
    ['a colour that is none', '', '<rect width="9" height="9" fill="plaid"/>'],
    [
      'groups deeper than are read',
      '',
      `${'<g>'.repeat(LIMITS.depth)}<rect width="9" height="9"/>${'</g>'.repeat(LIMITS.depth)}`,
    ],
  ])('%s', (_, definitions, drawn) => {
    expect(canvasSteps(svg(`<defs>${definitions}</defs>${drawn}`))).toBeNull();
    // It is this that is left to it, and not what stands around it.
    expect(canvasSteps(svg('<rect width="9" height="9"/>'))).toHaveLength(1);
  });
});

test.each([
  [
    "of what holds one paint, is that paint's",
    '<g opacity="0.5"><g><rect width="9" height="9" fill-opacity="0.5"/></g></g>',
    [{ kind: 'shape', fill: { alpha: 0.25 } }],
  ],
  [
    'of a group, is put over it as one',
    '<g opacity="0.5"><rect width="9" height="9"/><rect x="4" width="9" height="9"/></g>',
    [{ kind: 'group', alpha: 0.5, steps: [{ kind: 'shape' }, { kind: 'shape' }] }],
  ],
  [
    'over fill and stroke, too',
    '<rect x="2" y="2" width="9" height="9" stroke="#d2452a" opacity="0.5"/>',
    [{ kind: 'group', alpha: 0.5, steps: [{ fill: { alpha: 1 }, stroke: { alpha: 1 } }] }],
  ],
  [
    'of groups within groups',
    '<g opacity="0.5"><g opacity="0.4"><rect width="9" height="9"/><circle r="3"/></g></g>',
    [{ kind: 'group', alpha: 0.5, steps: [{ kind: 'group', alpha: 0.4 }] }],
  ],
  ['of nothing, is nothing', '<g opacity="0.5"><rect width="0" height="9"/></g>', []],
])('opacity %s', (_, inner, steps) => {
  expect(canvasSteps(svg(inner))).toMatchObject(steps);
});

test('what paints nothing has no step', () => {
  expect(
    canvasSteps(
      svg(
        '<rect width="0" height="5"/><path d="M1 1h4" fill="none"/><circle r="3" fill="transparent"/><rect width="5" height="5" fill="url(#gone)"/><g/>',
      ),
    ),
  ).toEqual([]);
});

test('a line whose gradient has a box without a height is not painted by it', () => {
  const steps = canvasSteps(
    svg(`<defs>${GRADIENT}</defs><path d="M1 5h9" stroke="url(#g)" fill="#d2452a"/>`),
  ) as CanvasShape[];
  expect(steps.map(({ stroke }) => stroke)).toEqual([null]);
});

const RULES: RecolourRule[] = [
  { kind: 'asDrawn' },
  { kind: 'white' },
  { kind: 'black' },
  { kind: 'grey' },
  { kind: 'tint', colour: '#12343b' },
  {
    kind: 'map',
    colours: [
      { from: '#000000', to: 'none' },
      { from: '#0c6a53', to: '#ffffff' },
      { from: '#d2452a80', to: '#12343b' },
    ],
  },
];

const stepsOf = (doc: ProjectDocument, piece: Piece) =>
  canvasSteps(
    composeBenchPiece(
      doc,
      piece,
      { widthPx: piece.region.width, heightPx: piece.region.height },
      { fonts: NO_FONTS, pictures: () => undefined },
    ),
  );

describe('recoloured steps are the steps of what follows', () => {
  const artwork = fc
    .array(
      fc.record({
        x: fc.integer({ min: 0, max: 15 }),
        fill: fc.constantFrom(
          '',
          'fill="none"',
          'fill="#0c6a53"',
          'fill="#d2452a80"',
          'fill="url(#g)"',
          'fill="currentColor"',
        ),
        stroke: fc.constantFrom('', 'stroke="#0c6a53"', 'stroke="#171b1c" stroke-opacity="0.5"', 'stroke="url(#g)"'),
        around: fc.constantFrom('<g>', '<g fill="#98630f">', '<g stroke="#3355aa" color="#d2452a">'),
      }),
      { minLength: 1, maxLength: 6 },
    )
    .map((shapes) =>
      svg(
        `<defs>${GRADIENT}</defs>${shapes.map(({ x, fill, stroke, around }) => `${around}<rect x="${x}" y="2" width="6" height="7" ${fill} ${stroke}/></g>`).join('')}`,
      ),
    );

  test('for any artwork and rule', () => {
    let compared = 0;
    fc.assert(
      fc.property(artwork, fc.constantFrom(...RULES), (text, rule) => {
        const { doc, artboard } = project({ mark: text });
        const source = artboard('mark');
        doc.apply({
          puts: [
            artboardRecord.parse({
              ...source,
              id: newId(),
              order: 'b00',
              name: 'variant',
              y: 400,
              follows: { artboardId: source.id, rule },
            }),
          ],
          removes: [],
        });
        const [own, variant] = pieces(doc).map((piece) => stepsOf(doc, piece));
        if (!own || !variant) return;
        compared++;
        // A step that lost all its paint is still counted, so that steps stay one for one.
        expect((recolouredSteps(own, rule) as CanvasShape[]).filter(({ fill, stroke }) => fill || stroke)).toEqual(
          variant,
        );
      }),
      runs(150),
    );
    expect(compared).toBeGreaterThan(100);
  });

  test('a stop that is knocked out is left to the rasteriser', () => {
    const steps = canvasSteps(
      svg(`<defs>${GRADIENT}</defs><rect width="9" height="9" fill="url(#g)"/>`),
    ) as CanvasShape[];
    expect(recolouredSteps(steps, { kind: 'map', colours: [{ from: '#98630f', to: 'none' }] })).toBeNull();
  });
});
