import fc from 'fast-check';
import { differingShare } from '../../../fidelity/compare';
import { runs } from '../../core/test/properties';
import { rasterise, renderFile } from '../src';
import { icon, job } from './files';

/** What comes down into a drawing, with the values that nobody needs to say where nothing else is said, first. */
const SAYS = {
  fill: ['#000', 'none', '#d2452f', '#1b5fa8'],
  stroke: ['none', '#000', '#0c6a53', '#e8b93a'],
  'stroke-width': ['1', '.4', '2'],
  'stroke-linecap': ['butt', 'square', 'round'],
  'stroke-linejoin': ['miter', 'round', 'bevel'],
  'stroke-dasharray': ['none', '1 .6'],
  'fill-rule': ['nonzero', 'evenodd'],
  'fill-opacity': ['1', '.5'],
  'stroke-opacity': ['1', '.4'],
  visibility: ['visible', 'hidden'],
};
const SHAPES = [
  'M1 1h7v7H1zM3 3h3v3H3z',
  'M2 2zM6 2zM4 4v3M2 7zM7 7h.6M6 5v1',
  'M0 4l3-1 1-3 1 3 3 1-3 1-1 3-1-3z',
  'M1 1l6 2-3 5M6 8l1-3',
];

const said = fc
  .subarray(Object.keys(SAYS) as (keyof typeof SAYS)[], { maxLength: 3 })
  .chain((names) => fc.tuple(...names.map((name) => fc.constantFrom(...SAYS[name]).map((v) => ` ${name}="${v}"`))))
  .map((all) => all.join(''));
const shape = fc.record({ d: fc.constantFrom(...SHAPES), own: said }).map(({ d, own }) => `<path d="${d}"${own}/>`);
const part = fc
  .record({ own: said, shapes: fc.array(shape, { minLength: 2, maxLength: 4 }) })
  .map(({ own, shapes }) => `<g${own}>${shapes.join('')}</g>`);
const copies = fc.record({
  part,
  places: fc.array(
    fc.record({
      around: said,
      x: fc.nat(15),
      y: fc.nat(15),
      turned: fc.constantFrom('', ' rotate(40 4 4)', ' scale(-1 1)'),
    }),
    { minLength: 2, maxLength: 4 },
  ),
});
const drawing = fc
  .record({ around: said, all: fc.array(copies, { minLength: 1, maxLength: 2 }) })
  .map(({ around, all }) => {
    const inner = all.flatMap(({ part: each, places }) =>
      places.map(
        ({ around: said, x, y, turned }) => `<g${said}><g transform="translate(${x} ${y})${turned}">${each}</g></g>`,
      ),
    );
    return `<g${around}>${inner.join('')}</g>`;
  });

const SIDE = 120;
const drawn = (svg: string) => {
  const { data } = rasterise(svg, SIDE, SIDE);
  return { width: SIDE, height: SIDE, data: Uint8Array.from(data) };
};

test('whatever comes down into the copies of a part, the written file looks as what was composed', () =>
  fc.assert(
    fc.asyncProperty(drawing, async (inner) => {
      const text = (await renderFile(job('svg', SIDE, inner))).bytes.toString();
      expect(differingShare(drawn(text), drawn(icon(inner, SIDE)))).toBeLessThan(0.002);
    }),
    runs(120),
  ));

test.each([
  ['black said against what comes down', 'fill="#c51a4a"', '<path d="M1 1h7v7H1z" fill="#000"/>', /fill="#000"/],
  ['points that caps make seen', 'fill="none" stroke="#000" stroke-linecap="square"', '<path d="M5 5z"/>', /d="M5 5z"/],
  ['a stroke that is not drawn', 'stroke="#c51a4a"', '<path d="M1 1h7v7H1z" stroke="none"/>', /stroke="none"/],
])('a part keeps %s', async (_, around, shape, kept) => {
  const one = `<g>${shape}<path d="M0 4l3-1 1-3 1 3 3 1-3 1-1 3-1-3z"/><path d="M2 2c4-1 7 3 8 5" stroke-width="2"/></g>`;
  const inner = `<g ${around}>${one}<g transform="translate(10 4)">${one}</g><g transform="matrix(-1 0 0 1 12 12)">${one}</g></g>`;
  const text = (await renderFile(job('svg', SIDE, inner))).bytes.toString();
  expect(text).toContain('<use');
  expect(text).not.toContain('inherit');
  expect(text).toMatch(kept);
  expect(differingShare(drawn(text), drawn(icon(inner, SIDE)))).toBe(0);
});
