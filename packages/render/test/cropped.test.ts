import { defaultSettings, type Format, type StoredBlob, sha256Hex } from '@tolvik/core';
import sharp, { type Sharp } from 'sharp';
import { rasterise, renderFile } from '../src';
import { jpegSettings } from '../src/jpeg/settings';
import { difference, drawPdf } from './files';

const [WIDTH, HEIGHT] = [720, 480];
/** Soft hills of colour; with grain, every px is its own and nothing in it is cheap to pack. */
const drawn = (grain: number, width = WIDTH, height = HEIGHT): Sharp => {
  const data = Buffer.alloc(width * height * 3);
  let state = 7;
  for (let i = 0; i < data.length; i++) {
    state = (state * 1103515245 + 12345) & 0x7fffffff;
    const at = Math.floor(i / 3);
    data[i] =
      110 + 60 * Math.sin((at % width) / 31) + 40 * Math.cos(Math.floor(at / width) / 17) + ((state >> 16) & grain);
  }
  return sharp(data, { raw: { width, height, channels: 3 } });
};
const [noise, soft] = [drawn(31), drawn(0)];
const picture = async (
  as: (image: Sharp) => Sharp,
  mediaType: StoredBlob['mediaType'],
  of = noise,
): Promise<StoredBlob> => {
  const bytes = await as(of.clone()).toBuffer();
  return { hash: sha256Hex(bytes), mediaType, bytes };
};
const image = ({ hash }: StoredBlob, attrs = `width="${WIDTH}" height="${HEIGHT}"`) =>
  `<image ${attrs} xlink:href="blob:${hash}"/>`;
const page = (inner: string, x: number, y: number, width: number, height: number) =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${width}" height="${height}" viewBox="${x} ${y} ${width} ${height}">${inner}</svg>`;
const render = (format: Format, svg: string, width: number, height: number, pictures: StoredBlob[]) =>
  renderFile({
    svg,
    settings: defaultSettings(format),
    widthPx: width,
    heightPx: height,
    dpi: 96,
    ground: null,
    pictures,
  });
const whole = (svg: string, blob: StoredBlob) =>
  svg.replace(`blob:${blob.hash}`, `data:${blob.mediaType};base64,${Buffer.from(blob.bytes).toString('base64')}`);
const worst = (a: Buffer, b: Buffer) => a.reduce((most, value, i) => Math.max(most, Math.abs(value - b[i])), 0);

describe('24 tiles of a picture', () => {
  test.each([
    ['PNG', (image: Sharp) => image.png(), 'image/png', 1, 0],
    ['JPEG, 4:2:0', (image: Sharp) => image.jpeg({ quality: 82 }), 'image/jpeg', 2, 4],
    ['JPEG, 4:4:4', (image: Sharp) => image.jpeg({ quality: 60, chromaSubsampling: '4:4:4' }), 'image/jpeg', 2, 4],
  ] as const)(
    '%s: each draws what it drew, and together they weigh about what the picture weighs',
    async (_, as, type, scale, off) => {
      const [width, height] = [WIDTH * scale, HEIGHT * scale];
      const blob = await picture(as, type, drawn(31, width, height));
      const weighs = { svg: 0, pdf: 0 };
      const side = 120 * scale;
      const bare = (await render('pdf', page('', 0, 0, side, side), side, side, [])).bytes.length;
      for (let y = 0; y < height; y += side)
        for (let x = 0; x < width; x += side) {
          const svg = page(image(blob, `width="${width}" height="${height}"`), x, y, side, side);
          const { bytes } = await render('svg', svg, side, side, [blob]);
          weighs.svg += bytes.length;
          weighs.pdf += (await render('pdf', svg, side, side, [blob])).bytes.length - bare;
          if (x !== y) continue;
          const [before, after] = [whole(svg, blob), bytes.toString()].map((text) => rasterise(text, side, side).data);
          expect(worst(Buffer.from(before), Buffer.from(after))).toBeLessThanOrEqual(off);
        }
      // An SVG holds its pictures in base64, a PDF holds PNG with less packing; tiles overlap by up to a block.
      expect(weighs.svg / 1.34 / blob.bytes.length).toBeLessThan(1.35);
      expect(weighs.pdf / (type === 'image/png' ? 1.2 : 1) / blob.bytes.length).toBeLessThan(1.35);
    },
  );
});

describe('what shows of a picture', () => {
  const cases: [string, string, number][] = [
    ['turned', 'width="720" height="480" transform="rotate(30 200 200)"', 1],
    ['scaled down and fitted', 'x="-40" y="10" width="300" height="300" preserveAspectRatio="xMaxYMid slice"', 2],
    ['scaled up', 'x="-900" y="-300" width="2880" height="1920"', 1],
    ['mirrored', 'width="720" height="480" transform="matrix(-1 0 0 1 500 0)"', 1],
  ];
  test.each(cases)('%s: the part draws what the whole drew', async (_, attrs, off) => {
    const blob = await picture((image) => image.png(), 'image/png', soft);
    const svg = page(image(blob, attrs), 100, 100, 90, 70);
    const { bytes } = await render('svg', svg, 90, 70, [blob]);
    expect(bytes.length).toBeLessThan((blob.bytes.length * 1.34) / 2);
    const [before, after] = [whole(svg, blob), bytes.toString()].map((text) =>
      Buffer.from(rasterise(text, 90, 70).data),
    );
    expect(worst(before, after)).toBeLessThanOrEqual(off);
    const pdf = await render('pdf', svg, 90, 70, [blob]);
    expect(pdf.bytes.length).toBeLessThan(blob.bytes.length);
    const wholePdf = await render('pdf', whole(svg, blob), 90, 70, []);
    expect(difference(drawPdf(pdf.bytes).data, drawPdf(wholePdf.bytes).data)).toBeLessThan(2);
  });

  test('what nothing shows of is not in the file', async () => {
    const blob = await picture((image) => image.jpeg(), 'image/jpeg');
    const svg = page(`<path d="M0 0h9v9z"/>${image(blob, 'x="50" width="720" height="480"')}`, 0, 0, 20, 20);
    expect((await render('svg', svg, 20, 20, [blob])).bytes.toString()).not.toContain('<image');
  });

  test.each([
    [
      'a blur draws from a few px around',
      '<filter id="f"><feGaussianBlur stdDeviation="4"/></filter>',
      'filter="url(#f)"',
      true,
    ],
    [
      'a shadow and what it is moved by',
      '<filter id="f" x="0" y="0" width="1" height="1"><feDropShadow dx="9" dy="-7" stdDeviation="2"/></filter>',
      'filter="url(#f)"',
      true,
    ],
    [
      'tiles may come from anywhere',
      '<filter id="f"><feOffset x="0" y="0" width="90" height="90"/><feTile/></filter>',
      'filter="url(#f)"',
      false,
    ],
    [
      'colours alone do not',
      '<filter id="f" x="0" y="0" width="1" height="1"><feColorMatrix type="saturate" values="0"/></filter>',
      'filter="url(#f)"',
      true,
    ],
    [
      'a clip in the box of the picture',
      '<clipPath id="f" clipPathUnits="objectBoundingBox"><rect width="0.5" height="1"/></clipPath>',
      'clip-path="url(#f)"',
      true,
    ],
    ['a mask', '<mask id="f"><rect width="140" height="200" fill="#fff"/></mask>', 'mask="url(#f)"', true],
    [
      'a mask in the box of the picture',
      '<mask id="f" x=".1" y="0" width=".1" height="1" maskContentUnits="objectBoundingBox"><rect width=".5" height=".25" fill="#999"/></mask>',
      'mask="url(#f)"',
      true,
    ],
  ])('%s', async (_, defs, attr, cropped) => {
    const blob = await picture((image) => image.jpeg(), 'image/jpeg');
    const svg = page(`<defs>${defs}</defs><g ${attr}>${image(blob)}</g>`, 100, 100, 60, 60);
    const { bytes } = await render('svg', svg, 60, 60, [blob]);
    expect(bytes.length < blob.bytes.length).toBe(cropped);
    const [before, after] = [whole(svg, blob), bytes.toString()].map((text) =>
      Buffer.from(rasterise(text, 60, 60).data),
    );
    expect(worst(before, after)).toBeLessThanOrEqual(cropped ? 4 : 0);
  });

  const fill = (attrs: string, of: string) => (blob: StoredBlob) =>
    `<defs><pattern id="p" ${attrs}>${image(blob, of)}</pattern></defs>`;
  const once = fill(
    'width="1" height="1" patternContentUnits="objectBoundingBox"',
    'width="720" height="480" transform="scale(.00138889 .00208333)"',
  );
  const shape = '<rect x="20" y="30" width="640" height="420" fill="url(#p)"/>';
  test.each([
    ['fills a shape', once, shape, true],
    ['fills a shape that is moved and turned', once, `<g transform="rotate(20) translate(9 -30)">${shape}</g>`, true],
    ['fills two shapes', once, `${shape}<circle cx="130" cy="130" r="60" fill="url(#p)"/>`, true],
    ['fills a shape and its line', once, shape.replace('/>', ' stroke="url(#p)" stroke-width="90"/>'), true],
    [
      'fills a shape and a line beyond it',
      once,
      shape.replace('x="20"', 'x="120"').replace('/>', ' stroke="url(#p)" stroke-width="90"/>'),
      false,
    ],
    [
      'repeats',
      fill('width="70" height="70" patternUnits="userSpaceOnUse"', 'width="720" height="480" x="-200" y="-100"'),
      shape,
      false,
    ],
    [
      'lies in one tile in user space',
      fill('x="9" width="720" height="480" patternUnits="userSpaceOnUse"', 'width="720" height="480"'),
      shape,
      true,
    ],
    [
      'has a view box of its own',
      fill('width="1" height="1" viewBox="0 0 720 480" preserveAspectRatio="none"', 'width="720" height="480"'),
      shape,
      true,
    ],
    [
      'paints a shape in a mask',
      once,
      `<mask id="m">${shape}</mask><rect width="500" height="400" mask="url(#m)"/>`,
      true,
    ],
    [
      'paints in a mask of two things',
      once,
      `<mask id="m">${shape}</mask><rect width="500" height="400" mask="url(#m)"/><path d="M0 0H900V900Z" mask="url(#m)"/>`,
      false,
    ],
  ])('in a pattern that %s', async (_, defs, drawn, cropped) => {
    const blob = await picture((image) => image.jpeg(), 'image/jpeg');
    const svg = page(`${defs(blob)}${drawn}`, 100, 100, 60, 60);
    const { bytes } = await render('svg', svg, 60, 60, [blob]);
    expect(bytes.length < blob.bytes.length).toBe(cropped);
    const [before, after] = [whole(svg, blob), bytes.toString()].map((text) =>
      Buffer.from(rasterise(text, 60, 60).data),
    );
    expect(worst(before, after)).toBeLessThanOrEqual(cropped ? 8 : 2);
  });

  test('WebP without loss stays so', async () => {
    const blob = await picture((image) => image.webp({ lossless: true }), 'image/webp');
    const svg = page(image(blob), 100, 100, 60, 60);
    const { bytes } = await render('svg', svg, 60, 60, [blob]);
    expect(bytes.length).toBeLessThan(blob.bytes.length / 4);
    const [before, after] = [whole(svg, blob), bytes.toString()].map((text) =>
      Buffer.from(rasterise(text, 60, 60).data),
    );
    expect(worst(before, after)).toBe(0);
  });

  test('a picture of which nearly all shows goes in as it is', async () => {
    const blob = await picture((image) => image.jpeg(), 'image/jpeg');
    const { bytes } = await render('svg', page(image(blob), 0, 0, WIDTH, HEIGHT), WIDTH, HEIGHT, [blob]);
    expect(bytes.toString()).toContain(Buffer.from(blob.bytes).toString('base64'));
  });

  test('16 bits a channel stay 16, a palette stays a palette', async () => {
    const deep = await picture((image) => image.toColourspace('rgb16').png(), 'image/png');
    const few = await picture((image) => image.png({ palette: true, colours: 16 }), 'image/png');
    const held = async (blob: StoredBlob) => {
      const { bytes } = await render('svg', page(image(blob), 100, 100, 60, 60), 60, 60, [blob]);
      return sharp(Buffer.from(/base64,([^"]+)/.exec(bytes.toString())?.[1] ?? '', 'base64')).metadata();
    };
    expect((await sharp(deep.bytes).metadata()).depth).toBe('ushort');
    expect((await held(deep)).depth).toBe('ushort');
    expect((await held(few)).isPalette).toBe(true);
  });
});

test.each([10, 49, 50, 75, 92, 100])('quality %i is known again from the tables of a file', async (quality) => {
  for (const chromaSubsampling of ['4:2:0', '4:4:4'] as const) {
    const bytes = await noise.clone().jpeg({ quality, chromaSubsampling }).toBuffer();
    expect(jpegSettings(bytes)).toEqual({ quality, chromaSubsampling });
  }
});
