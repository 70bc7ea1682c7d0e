import { Resvg } from '@resvg/resvg-js';
import {
  type Artboard,
  artboardRecord,
  type CanvasStep,
  canvasSteps,
  colourFacts,
  composeBenchPiece,
  defaultSettings,
  handoverVariants,
  MEETINGS_SIDE,
  NO_FONTS,
  ProjectDocument,
  pieceAlone,
  type RecolourRule,
  recolouredSteps,
  regionOf,
  stopFollowing,
  type VariantProposal,
} from '@tolvik/core';
import { differingShare } from '../../../fidelity/compare';
import { project } from '../../core/test/fixtures';
import { drawnMeetings, renderFile } from '../src';
import { EMBLEMS, emblem } from './emblems';
import { decodePng, drawPdf } from './files';
import { written } from './written-steps';

const SOURCES = { fonts: NO_FONTS, pictures: () => undefined };

function svgOf(doc: ProjectDocument, record: Artboard, sidePx: number): string {
  const piece = pieceAlone(record, regionOf(record));
  return composeBenchPiece(doc, piece, { widthPx: sidePx, heightPx: sidePx }, SOURCES);
}

/** An artboard drawn on its ground, or on white, as opaque pixels. */
function drawn(doc: ProjectDocument, record: Artboard): Uint8Array {
  const svg = svgOf(doc, { ...record, background: record.background ?? '#ffffff' }, MEETINGS_SIDE);
  return new Resvg(svg, { font: { loadSystemFonts: false } }).render().pixels;
}

const side = MEETINGS_SIDE;
/** Differences of lightness or channels, 0 to 255, that the source has at an edge and that the variant shows at the least. */
const EDGE = 40;
const SHOWN = 12;

/** How far two pixels are apart, by the channel in which they differ most. */
const apart = (one: Uint8Array, i: number, other: Uint8Array, j: number) =>
  Math.max(
    Math.abs(one[4 * i] - other[4 * j]),
    Math.abs(one[4 * i + 1] - other[4 * j + 1]),
    Math.abs(one[4 * i + 2] - other[4 * j + 2]),
  );

/** Of all places where the source changes colour from one pixel to the next, the share where the variant shows nothing of it within `reach` px. */
function edgesLost(source: Uint8Array, variant: Uint8Array, reach: number): number {
  let edges = 0;
  let lost = 0;
  const varies = (x: number, y: number): boolean => {
    for (let py = Math.max(0, y - reach); py <= Math.min(side - 1, y + reach); py++)
      for (let px = Math.max(0, x - reach); px <= Math.min(side - 1, x + reach); px++)
        if (apart(variant, y * side + x, variant, py * side + px) > SHOWN) return true;
    return false;
  };
  for (let y = 1; y < side - 1; y++)
    for (let x = 1; x < side - 1; x++) {
      const i = y * side + x;
      // From one flat part to another: what lies between them is smoothed.
      if (apart(source, i - 1, source, i + 1) < EDGE && apart(source, i - side, source, i + side) < EDGE) continue;
      edges++;
      if (!varies(x, y)) lost++;
    }
  return lost / (edges || 1);
}

function variantOf(source: Artboard, rule: RecolourRule, background: string | null): Artboard {
  return artboardRecord.parse({ ...source, id: 'variant', background, follows: { artboardId: source.id, rule } });
}

/** Half a gap of the emblems, in px of the picture, and what smoothing takes. */
const REACH = Math.ceil(((100 / 48) * side) / 100) + 1;

test('one ink with a hole is that in every format: open where it is knocked out, set apart by a gap', async () => {
  const badge = `${EMBLEMS['letter on a disc']}<path d="M70 50l30-20v40z" fill="#d2452a"/>`;
  const { doc, artboard } = project({ badge: emblem(badge) });
  const source = artboard('badge');
  const rule = {
    kind: 'ink' as const,
    colour: '#5b2a4f',
    out: ['#e8d5a9'],
    apart: ['#d2452a'],
    gap: 3,
  };
  const svg = svgOf(doc, variantOf(source, rule, null), 200);
  const look = { settings: defaultSettings('png'), svg, widthPx: 200, heightPx: 200, dpi: 96, ground: null };
  const png = decodePng((await renderFile(look)).bytes).data;
  const at = (data: Buffer, x: number, y: number) => [
    ...data.subarray(4 * (2 * y * 200 + 2 * x), 4 * (2 * y * 200 + 2 * x) + 4),
  ];
  const INK = [0x5b, 0x2a, 0x4f, 255];
  expect(at(png, 20, 50)).toEqual(INK);
  expect(at(png, 37, 50)[3]).toBe(0);
  expect(at(png, 90, 50)).toEqual(INK);
  expect(at(png, 68, 50)[3]).toBe(0);
  expect(at(png, 2, 2)[3]).toBe(0);
  const file = await renderFile({ ...look, settings: defaultSettings('svg') });
  const again = new Resvg(file.bytes.toString()).render().pixels;
  expect(
    differingShare({ width: 200, height: 200, data: png }, { width: 200, height: 200, data: Buffer.from(again) }),
  ).toBeLessThan(0.001);
  const pdf = drawPdf((await renderFile({ ...look, settings: defaultSettings('pdf') })).bytes);
  for (const [x, y] of [
    [20, 50],
    [90, 50],
  ])
    expect(at(pdf.data, x, y)).toEqual(INK);
  for (const [x, y] of [
    [37, 50],
    [68, 50],
    [2, 2],
  ])
    expect(at(pdf.data, x, y)).toEqual([255, 255, 255, 255]);
});

test('there are at least forty emblems of two to five colours', () => {
  expect(Object.keys(EMBLEMS).length).toBeGreaterThanOrEqual(40);
});

describe.each(Object.entries(EMBLEMS))('%s', (name, inner) => {
  const { doc, artboard } = project({ [name]: emblem(inner) });
  const source = artboard(name);
  const meetings = drawnMeetings(doc, source, SOURCES);
  const asDrawn = drawn(doc, source);
  const proposals = handoverVariants(colourFacts(doc, source, meetings));

  test.each(proposals.map(({ key, ...rest }) => [key, rest] as const))(
    'no part is lost in %s',
    (_, { rule, background, melted }) => {
      expect(melted).toEqual([]);
      expect(edgesLost(asDrawn, drawn(doc, variantOf(source, rule, background)), REACH)).toBeLessThan(0.08);
    },
  );

  test('as the Bench draws it until it is painted, it looks the same', () => {
    const { rule, background } = proposals.find(({ key }) => key === 'mono-dark') as VariantProposal;
    const steps = canvasSteps(svgOf(doc, { ...source, background: null }, MEETINGS_SIDE));
    const inked = steps && recolouredSteps(steps, rule);
    if (rule.kind !== 'ink' || !inked) return;
    // What is cut takes away from what is under it, as black does in a mask.
    const asMask = (all: readonly CanvasStep[]): CanvasStep[] =>
      all.map((step) => {
        if (step.kind === 'group') return { ...step, steps: asMask(step.steps) };
        const paint = step.cut ? '#000000' : '#ffffff';
        return {
          ...step,
          fill: step.fill && { ...step.fill, paint },
          stroke: step.stroke && { ...step.stroke, paint },
        };
      });
    const stood = `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}" viewBox="0 0 100 100"><mask id="ink" maskUnits="userSpaceOnUse" x="0" y="0" width="100" height="100">${written(asMask(inked))}</mask><rect width="100" height="100" fill="#ffffff"/><rect width="100" height="100" fill="${rule.colour}" mask="url(#ink)"/></svg>`;
    const painted = drawn(doc, variantOf(source, rule, background));
    const data = new Resvg(stood).render().pixels;
    expect(
      differingShare({ width: side, height: side, data: painted }, { width: side, height: side, data }),
    ).toBeLessThan(0.002);
  });

  test('stopped following it looks the same', () => {
    const { rule, background } = proposals.find(({ key }) => key === 'mono-light') as VariantProposal;
    const scratch = new ProjectDocument(doc.all());
    const variant = variantOf({ ...source, y: 500 }, rule, background);
    scratch.apply({ puts: [variant], removes: [] });
    const before = drawn(scratch, variant);
    scratch.apply(stopFollowing(scratch, variant));
    const frozen = scratch.find('artboard', variant.id) as Artboard;
    expect(frozen.follows).toBeUndefined();
    const after = drawn(scratch, frozen);
    expect(
      differingShare({ width: side, height: side, data: before }, { width: side, height: side, data: after }),
    ).toBeLessThan(0.001);
  });
});
