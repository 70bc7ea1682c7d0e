import { type CanvasShape, type CanvasStep, canvasSteps, parseColour, printColour } from '@tolvik/core';
import fc from 'fast-check';
import { runs } from '../../core/test/properties';
import { rasterise } from '../src';
import { icon } from './files';
import { written } from './written-steps';

const SIDE = 96;

/** The largest difference of any channel of any px, 0 to 255. */
function apart(one: string, other: string): number {
  const [a, b] = [one, other].map((inner) => rasterise(icon(inner, SIDE), SIDE, SIDE).data);
  let most = 0;
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i] - b[i]));
  return most;
}

const LINEAR =
  '<linearGradient id="g" x1="0.1" y1="0" x2="0.9" y2="1"><stop offset="0" stop-color="#0c6a53"/><stop offset="40%" stop-color="#e8b04a" stop-opacity="0.6"/><stop offset="1" stop-color="#d2452a"/></linearGradient>';
const TURNED =
  '<linearGradient id="g" gradientUnits="userSpaceOnUse" x1="2" y1="2" x2="20" y2="9" gradientTransform="rotate(20) skewX(15) scale(1.2 0.8)"><stop stop-color="#123456"/><stop offset="0.9" stop-color="#fedcba"/></linearGradient>';
const RADIAL =
  '<radialGradient id="g" cx="0.5" cy="0.5" r="0.6" fx="0.3" fy="0.4"><stop stop-color="#ffffff"/><stop offset="0.5" stop-color="#3355aa"/><stop offset="1" stop-color="#0b1220"/></radialGradient>';

const DRAWN: [what: string, inner: string][] = [
  [
    'shapes of every kind',
    '<rect x="1" y="1" width="9" height="6" rx="2"/><circle cx="17" cy="6" r="4.5"/><ellipse cx="6" cy="17" rx="5" ry="3"/><line x1="12" y1="12" x2="22" y2="13" stroke="#d2452a"/><polyline points="12 15 15 22 18 16" fill="none" stroke="#0c6a53"/><polygon points="19 15 23 22 16 22"/><path d="M1 11h8l-2 3z"/>',
  ],
  [
    'a rectangle with unequal corners, beyond half its side',
    '<rect x="2" y="2" width="20" height="12" rx="14" ry="3"/>',
  ],
  [
    'style that groups hand down',
    '<g fill="#0c6a53" stroke="#e8b04a" stroke-width="1.5"><g fill="none"><path d="M3 3h18v6z"/></g><path d="M3 14h18v6z" stroke="none"/></g>',
  ],
  [
    'transforms within transforms',
    '<g transform="translate(12 12) rotate(30)"><g transform="scale(1.5 0.5)"><rect x="-5" y="-5" width="10" height="10" fill="#d2452a" stroke="#123456"/></g></g>',
  ],
  [
    'strokes: ends, joins, limits, dashes',
    '<g fill="none" stroke="#171b1c" stroke-width="2"><path d="M2 4h9l-8 3" stroke-linejoin="round" stroke-linecap="round"/><path d="M13 4h9l-8 3" stroke-linejoin="bevel" stroke-linecap="square"/><path d="M2 12l9 1-9 1" stroke-miterlimit="20"/><path d="M2 19h20" stroke-dasharray="3 1 0.5" stroke-dashoffset="1.5"/></g>',
  ],
  ['both rules of filling', '<path d="M2 2h20v20H2zM7 7h10v10H7z" fill-rule="evenodd"/>'],
  [
    'a stroke below its fill',
    '<path d="M4 4h16v16H4z" fill="#e8b04a" stroke="#0c6a53" stroke-width="4" paint-order="stroke"/>',
  ],
  [
    'opacity of a paint, of a colour and of a group that holds one',
    '<g opacity="0.5"><rect x="2" y="2" width="8" height="8" fill="#d2452a"/></g><rect x="12" y="2" width="8" height="8" fill="#d2452a80" fill-opacity="0.7"/><rect x="2" y="13" width="8" height="8" fill="none" stroke="#123456" stroke-width="2" stroke-opacity="0.4" opacity="0.9"/>',
  ],
  [
    'opacity of a group in which things lie over one another',
    '<g opacity="0.6"><circle cx="9" cy="12" r="7" fill="#d2452a"/><g opacity="0.5"><circle cx="15" cy="12" r="7" fill="#0c6a53" stroke="#12343b"/></g></g>',
  ],
  [
    'what is hidden',
    '<g visibility="hidden"><rect width="9" height="9"/><rect x="12" width="9" height="9" visibility="visible" fill="#0c6a53"/></g>',
  ],
  [
    'a clip by a shape, within another',
    '<defs><clipPath id="a"><circle cx="12" cy="12" r="9"/></clipPath><clipPath id="b" transform="rotate(10)"><path d="M2 2h20v20H2zM8 2h8v8H8z" clip-rule="evenodd"/></clipPath></defs><g clip-path="url(#a)"><g clip-path="url(#b)"><rect width="24" height="24" fill="#0c6a53"/></g></g>',
  ],
  ['a gradient over the box of a shape', `<defs>${LINEAR}</defs><path d="M2 3h20v9l-9 6z" fill="url(#g)"/>`],
  [
    'a gradient that is turned and skewed',
    `<defs>${TURNED}</defs><rect x="1" y="1" width="22" height="22" fill="url(#g)" stroke="url(#g)" stroke-width="2"/>`,
  ],
  ['a gradient from a point', `<defs>${RADIAL}</defs><circle cx="12" cy="12" r="10" fill="url(#g)"/>`],
  [
    'a gradient with the stops of another',
    `<defs>${LINEAR}<linearGradient id="h" xlink:href="#g" x2="0" y2="1" xmlns:xlink="http://www.w3.org/1999/xlink"/></defs><rect x="2" y="2" width="20" height="20" fill="url(#h)"/>`,
  ],
  [
    'a gradient on a line, whose box has no height',
    `<defs>${LINEAR}</defs><path d="M2 12h20" stroke="url(#g)" stroke-width="3"/><circle cx="4" cy="4" r="2"/>`,
  ],
];

test.each(DRAWN)('the steps of a canvas draw what the rasteriser draws: %s', (_, inner) => {
  const steps = canvasSteps(icon(inner, SIDE));
  expect(steps).not.toBeNull();
  expect(apart(written(steps as CanvasStep[]), inner)).toBeLessThanOrEqual(6);
});

test('the measure sees a step that is missing, moved or of another colour', () => {
  const inner = DRAWN[0][1];
  const steps = canvasSteps(icon(inner, SIDE)) as CanvasShape[];
  expect(apart(written(steps.slice(1)), inner)).toBeGreaterThan(100);
  expect(apart(written(steps.map((step) => ({ ...step, matrix: [1, 0, 0, 1, 0.5, 0] }))), inner)).toBeGreaterThan(100);
  expect(
    apart(
      written(steps.map((step) => (step.fill ? { ...step, fill: { ...step.fill, paint: '#2a2a2a' } } : step))),
      inner,
    ),
  ).toBeGreaterThan(20);
});

test('any colours, places and opacities', () => {
  const colour = fc.integer({ min: 0, max: 0xffffff }).map((value) => `#${value.toString(16).padStart(6, '0')}`);
  const number = (min: number, max: number) => fc.integer({ min: min * 10, max: max * 10 }).map((value) => value / 10);
  const shape = fc
    .record({
      x: number(-4, 20),
      y: number(-4, 20),
      w: number(1, 16),
      h: number(1, 16),
      fill: colour,
      stroke: colour,
      width: number(0, 3),
      alpha: number(0, 1),
      turn: number(-180, 180),
    })
    .map(
      ({ x, y, w, h, fill, stroke, width, alpha, turn }) =>
        `<g transform="rotate(${turn} 12 12)"><rect x="${x}" y="${y}" width="${w}" height="${h}" fill="${fill}" fill-opacity="${alpha}" stroke="${stroke}" stroke-width="${width}"/></g>`,
    );
  fc.assert(
    fc.property(fc.array(shape, { minLength: 1, maxLength: 5 }), (shapes) => {
      const inner = shapes.join('');
      expect(apart(written(canvasSteps(icon(inner, SIDE)) as CanvasStep[]), inner)).toBeLessThanOrEqual(6);
    }),
    runs(60),
  );
});

test('the colour of a step keeps its own alpha, so that a rule finds it', () => {
  const [step] = canvasSteps(icon('<rect width="9" height="9" fill="#d2452a80"/>')) as CanvasShape[];
  expect(step.fill).toEqual({
    paint: printColour(parseColour('#d2452a80') as NonNullable<ReturnType<typeof parseColour>>),
    alpha: 1,
  });
});
