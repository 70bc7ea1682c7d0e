import fc from 'fast-check';
import { runs } from '../../core/test/properties';
import { drawPixels } from '../src/draw-pixels';

const page = (inner: string, size = 16) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${size}" height="${size}" viewBox="0 0 ${size} ${size}">${inner}<rect width="8" height="8" fill="#123456"/></svg>`;
const drawn = (inner: string) => drawPixels(page(inner), 16, 16).data;
const PLAIN = drawn('');

const MASK = '<mask id="m" maskUnits="userSpaceOnUse" x="-999" y="-999" width="1998" height="1998">';
const FAR = '<path d="M146-12h1v5h-1z" opacity=".3"/>';

describe('what lies far off the page', () => {
  test.each([
    ['see-through', FAR],
    ['see-through in a group that is', `<g opacity=".5">${FAR}</g>`],
    ['blended', '<path style="mix-blend-mode:multiply" d="M146-12h1v5h-1z"/>'],
    ['isolated', '<g style="isolation:isolate"><path d="M146-12h1v5h-1z"/></g>'],
    [
      'blurred',
      '<filter id="f"><feGaussianBlur stdDeviation="1"/></filter><path filter="url(#f)" d="M146-12h1v5h-1z"/>',
    ],
    ['flooded', '<filter id="f"><feFlood/></filter><path filter="url(#f)" d="M146-12h1v5h-1z"/>'],
    ['masked', `${MASK}<rect fill="#fff" width="9" height="9"/></mask><path mask="url(#m)" d="M146-12h1v5h-1z"/>`],
    [
      'clipped',
      '<clipPath id="c"><rect width="9" height="9"/></clipPath><path clip-path="url(#c)" d="M146-12h1v5h-1z"/>',
    ],
    [
      'see-through in a tile',
      `<defs><pattern id="p" width="4" height="4" patternUnits="userSpaceOnUse">${FAR}<rect width="4" height="4" fill="#123456"/></pattern></defs><rect width="8" height="8" fill="url(#p)"/>`,
    ],
    ['on a page of another place', `<g transform="translate(-900 0)"><path d="M1 2h5v5h-5z" opacity=".3"/></g>`],
  ])('changes nothing where it is %s', (_, inner) => {
    expect(drawn(inner).equals(PLAIN)).toBe(true);
  });

  test('what is seen in a mask, its see-through part far away, is still seen', () => {
    const mask = `${MASK}<rect fill="#fff" width="9" height="9"/><g opacity=".5"><path fill="#fff" d="M146 1h1v5h-1z"/></g></mask>`;
    expect(drawn(`${mask}<rect mask="url(#m)" width="8" height="8"/>`).equals(PLAIN)).toBe(true);
  });

  test('what reaches onto the page by its stroke or its filter is drawn as before', () => {
    const wide = '<path fill="none" stroke="#fff" stroke-width="100" opacity=".5" d="M60 0V16"/>';
    expect(drawn(wide).equals(PLAIN)).toBe(false);
    const moved =
      '<filter id="f" filterUnits="userSpaceOnUse" x="0" y="0" width="32" height="16"><feOffset dx="-20"/></filter>';
    const inside = '<g filter="url(#f)"><path d="M30 10h5v5h-5z" opacity=".5"/></g>';
    expect(drawn(moved + inside).equals(PLAIN)).toBe(false);
  });
});

const far = fc.integer({ min: -200, max: 200 });
const thing = fc.record({
  x: far,
  y: far,
  wide: fc.integer({ min: 1, max: 300 }),
  high: fc.integer({ min: 1, max: 300 }),
});
const LAYERS = ['opacity=".999"', 'style="isolation:isolate"', 'clip-path="url(#all)"', 'mask="url(#white)"'];
const ALL = '<clipPath id="all"><rect x="-999" y="-999" width="1998" height="1998"/></clipPath>';
const WHITE =
  '<mask id="white" maskUnits="userSpaceOnUse" x="-999" y="-999" width="1998" height="1998"><rect x="-999" y="-999" width="1998" height="1998" fill="#fff"/></mask>';

test('layers in layers, anywhere about the page, are drawn as if they were none', () => {
  const layer = fc.constantFrom(...LAYERS);
  fc.assert(
    fc.property(fc.array(thing, { minLength: 3, maxLength: 3 }), layer, layer, ([one, two, three], outer, inner) => {
      const rect = ({ x, y, wide, high }: typeof one, fill: string) =>
        `<rect x="${x}" y="${y}" width="${wide}" height="${high}" fill="${fill}"/>`;
      const nested = (a: string, b: string) =>
        drawn(
          `<defs>${ALL}${WHITE}</defs><g ${a}>${rect(one, '#fff')}<g ${b}>${rect(two, '#080')}${rect(three, '#00f')}</g></g>`,
        );
      const [layered, plain] = [nested(outer, inner), nested('', '')];
      expect(Math.max(...layered.map((value, i) => Math.abs(value - plain[i])))).toBeLessThan(3);
    }),
    runs(150),
  );
});
