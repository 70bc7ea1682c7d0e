import { inflateSync } from 'node:zlib';
import fc from 'fast-check';
import sharp from 'sharp';
import { differingShare } from '../../../fidelity/compare';
import { runs } from '../../core/test/properties';
import { renderFile } from '../src';
import { settled } from '../src/settle';
import { decodePng, drawPdf, job } from './files';

/** Everything a PDF says: its objects as text, and its streams unpacked. */
function wordsOf(pdf: Buffer): string {
  let text = '';
  const raw = pdf.toString('latin1');
  for (const match of raw.matchAll(/<<([\s\S]*?)>>\s*(?:stream\n([\s\S]*?)\nendstream)?/g)) {
    text += `${match[1]}\n`;
    if (match[2] === undefined || !/FlateDecode/.test(match[1])) continue;
    const unpacked = inflateSync(Buffer.from(match[2], 'latin1')).toString('latin1');
    if (!/Image/.test(match[1])) text += `${unpacked}\n`;
  }
  return text;
}
const pdfOf = async (inner: string, side = 96) => {
  const { bytes, measured } = await renderFile(job('pdf', side, inner));
  return { words: wordsOf(bytes), bytes, measured };
};
const STOPS = '<stop stop-color="#f00"/><stop offset="1" stop-color="#00f"/>';

describe('what stays vectors in a PDF', () => {
  test.each([
    [
      'an axial gradient',
      `<defs><linearGradient id="g">${STOPS}</linearGradient></defs><rect width="24" height="24" fill="url(#g)"/>`,
      /ShadingType 2/,
    ],
    [
      'a radial gradient',
      `<defs><radialGradient id="g">${STOPS}</radialGradient></defs><rect width="24" height="24" fill="url(#g)"/>`,
      /ShadingType 3/,
    ],
    [
      'a gradient that fades',
      '<defs><linearGradient id="g"><stop stop-color="#f00"/><stop offset="1" stop-color="#f00" stop-opacity="0"/></linearGradient></defs><rect width="24" height="24" fill="url(#g)"/>',
      /S \/Luminosity/,
    ],
    [
      'a pattern',
      '<defs><pattern id="p" width="4" height="4" patternUnits="userSpaceOnUse"><rect width="2" height="2"/></pattern></defs><rect width="24" height="24" fill="url(#p)"/>',
      /PatternType 1/,
    ],
    [
      'a blend mode',
      '<rect width="24" height="24" fill="#ff0"/><rect width="12" height="24" fill="#00f" style="mix-blend-mode:color-dodge"/>',
      /BM \/ColorDodge/,
    ],
    [
      'a mask',
      '<defs><mask id="m"><circle cx="12" cy="12" r="9" fill="#fff"/></mask></defs><rect width="24" height="24" mask="url(#m)"/>',
      /S \/Luminosity/,
    ],
    [
      'a mask by alpha',
      '<defs><mask id="m" mask-type="alpha"><circle cx="12" cy="12" r="9"/></mask></defs><rect width="24" height="24" mask="url(#m)"/>',
      /S \/Alpha/,
    ],
    [
      'the opacity of a group',
      '<g opacity=".5"><rect width="14" height="14"/><rect x="8" y="8" width="14" height="14"/></g>',
      /S \/Transparency/,
    ],
    [
      'a clip',
      '<defs><clipPath id="c"><circle cx="12" cy="12" r="9"/></clipPath></defs><rect width="24" height="24" clip-path="url(#c)"/>',
      /\bW n/,
    ],
    [
      'a hard step between colours: a shading for each side of it',
      '<defs><linearGradient id="g"><stop offset=".5" stop-color="#00f"/><stop offset=".5" stop-color="#0f0"/></linearGradient></defs><circle cx="12" cy="12" r="9" fill="url(#g)"/>',
      /\/Shading <<\n\/S0 \d+ 0 R\n\/S1 \d+ 0 R/,
    ],
    ['dashes', '<path d="M2 12H22" stroke="#000" stroke-dasharray="3 2" stroke-linecap="round"/>', /\[3 2\] 0 d/],
  ])('%s', async (_, inner, says) => {
    const { words, measured } = await pdfOf(inner);
    expect(words).toMatch(says);
    expect(words).not.toMatch(/Subtype \/Image/);
    expect(measured).toMatchObject({ flattened: false, colourType: 'vector' });
  });

  test('only what has a filter becomes a picture, of 600 dpi, around what it touches', async () => {
    const { words, measured } = await pdfOf(
      '<defs><filter id="f"><feGaussianBlur stdDeviation=".5"/></filter></defs><path d="M1 1h3v3z" fill="#0a0"/><rect x="10" y="10" width="6" height="6" filter="url(#f)"/>',
      96,
    );
    expect(measured.flattened).toBe(true);
    const images = [...words.matchAll(/Width (\d+)\n\/Height (\d+)/g)].map((match) => Number(match[1]));
    // The region of the filter is 7.2 of 24 units wide: 28.8 px of the page, 180 px at 600 dpi; never the whole page.
    for (const wide of images) expect(wide).toBeGreaterThan(175);
    for (const wide of images) expect(wide).toBeLessThan(400);
    expect(words).toMatch(/0 0\.66667 0 rg/);
  });

  test('a photograph goes in as it came, turned ones and those with transparency are unpacked', async () => {
    const jpeg = await sharp({ create: { width: 40, height: 20, channels: 3, background: '#c04020' } })
      .jpeg()
      .toBuffer();
    const image = (data: Buffer, type: string) =>
      `<image width="24" height="12" xlink:href="data:image/${type};base64,${data.toString('base64')}"/>`;
    const made = await renderFile({
      ...job('pdf', 96),
      svg: job('pdf', 96, image(jpeg, 'jpeg')).svg.replace('<svg ', '<svg xmlns:xlink="http://www.w3.org/1999/xlink" '),
    });
    expect(made.bytes.includes(jpeg)).toBe(true);
    const soft = await sharp({
      create: { width: 8, height: 8, channels: 4, background: { r: 200, g: 0, b: 0, alpha: 0.5 } },
    })
      .png()
      .toBuffer();
    const faded = await renderFile({
      ...job('pdf', 96),
      svg: job('pdf', 96, image(soft, 'png')).svg.replace('<svg ', '<svg xmlns:xlink="http://www.w3.org/1999/xlink" '),
    });
    expect(wordsOf(faded.bytes)).toMatch(/SMask/);
  });

  test('the same drawing gives the same bytes', async () => {
    const inner = `<defs><linearGradient id="g">${STOPS}</linearGradient></defs><rect width="24" height="24" fill="url(#g)" opacity=".5"/>`;
    expect((await pdfOf(inner)).bytes.equals((await pdfOf(inner)).bytes)).toBe(true);
  });
});

/** Drawings of the profile: shapes in groups, with paints, opacity, clips and blending. */
const colour = fc.constantFrom('#d2452f', '#1d5fa8', '#e8b93a', '#20262b', 'url(#g)', 'url(#r)', 'none');
const place = fc.integer({ min: 0, max: 18 });
const shape = fc
  .record({
    x: place,
    y: place,
    w: fc.integer({ min: 2, max: 12 }),
    h: fc.integer({ min: 2, max: 12 }),
    fill: colour,
    stroke: colour,
    width: fc.integer({ min: 0, max: 3 }),
    opacity: fc.constantFrom('1', '.6'),
    kind: fc.constantFrom('rect', 'ellipse', 'path'),
  })
  .map(({ x, y, w, h, fill, stroke, width, opacity, kind }) => {
    const paint = `fill="${fill}" stroke="${stroke}" stroke-width="${width}" opacity="${opacity}"`;
    if (kind === 'rect') return `<rect x="${x}" y="${y}" width="${w}" height="${h}" ${paint}/>`;
    if (kind === 'ellipse') return `<ellipse cx="${x}" cy="${y}" rx="${w}" ry="${h}" ${paint}/>`;
    return `<path d="M${x} ${y}l${w} ${h}q${h} ${-w} ${-w} ${-h}z" ${paint}/>`;
  });
const group = fc
  .record({
    inner: fc.array(shape, { minLength: 1, maxLength: 3 }),
    turn: fc.integer({ min: 0, max: 3 }),
    opacity: fc.constantFrom('', 'opacity=".7"'),
    clip: fc.constantFrom('', 'clip-path="url(#c)"'),
    blend: fc.constantFrom('', 'style="mix-blend-mode:multiply"'),
  })
  .map(
    ({ inner, turn, opacity, clip, blend }) =>
      `<${['g', `transform="rotate(${turn * 15} 12 12)"`, opacity, clip, blend].filter(Boolean).join(' ')}>${inner.join('')}</g>`,
  );

test('PDF and PNG of any drawing agree', async () => {
  const defs = `<defs><linearGradient id="g">${STOPS}</linearGradient><radialGradient id="r">${STOPS}</radialGradient><clipPath id="c"><circle cx="12" cy="12" r="9"/></clipPath></defs>`;
  await fc.assert(
    fc.asyncProperty(fc.array(group, { minLength: 1, maxLength: 3 }), async (groups) => {
      const inner = `${defs}<rect width="24" height="24" fill="#ffffff"/>${groups.join('')}`;
      const [png, pdf] = await Promise.all([renderFile(job('png', 192, inner)), renderFile(job('pdf', 192, inner))]);
      expect(differingShare(decodePng(png.bytes), drawPdf(pdf.bytes))).toBeLessThan(0.01);
    }),
    runs(20),
  );
}, 300_000);

test.each([
  [5, 25],
  [25, 2],
  [0, 25],
])('no circle of a gradient with steps at its ends has a radius below nothing: from %i to %i', async (fr, r) => {
  const stops = [0, 0, 1, 1].map(
    (at, i) => `<stop offset="${at}" stop-color="${['#d22', '#eb3', '#15a', '#063'][i]}"/>`,
  );
  const stroked = `<radialGradient id="g" gradientUnits="userSpaceOnUse" cx="12" cy="12" fr="${fr}" r="${r}">${stops.join('')}</radialGradient><path d="M2 2h20v9" fill="none" stroke="url(#g)" stroke-width="3"/>`;
  const text = (await renderFile(job('pdf', 24, stroked))).bytes.toString('latin1');
  const coords = [...text.matchAll(/\/ShadingType 3[\s\S]*?\/Coords \[([^\]]*)\]/g)].map((match) =>
    match[1].split(' ').map(Number),
  );
  expect(coords.length).toBeGreaterThan(0);
  for (const [, , from, , , to] of coords) expect(Math.min(from, to)).toBeGreaterThanOrEqual(-1e-9);
});

describe('definitions that lean on each other', () => {
  const nested = (count: number) =>
    Array.from(
      { length: count },
      (_, i) =>
        `<mask id="m${i}"><rect width="24" height="24" fill="#fff"${i + 1 < count ? ` mask="url(#m${i + 1})"` : ''}/></mask>`,
    ).join('');

  test('masks in masks cost what they hold, not twice for each of them', async () => {
    const { measured } = await pdfOf(`<defs>${nested(40)}</defs><rect width="24" height="24" mask="url(#m0)"/>`);
    expect(measured.flattened).toBe(false);
  });

  test('rings end', async () => {
    const ring =
      '<defs><clipPath id="a" clip-path="url(#b)"><circle r="9"/><rect width="5" height="5"/></clipPath><clipPath id="b" clip-path="url(#a)"><circle r="9"/><rect width="5" height="5"/></clipPath><mask id="m" mask="url(#m)"><rect width="9" height="9" mask="url(#m)"/></mask><pattern id="p" width="5" height="5" patternUnits="userSpaceOnUse"><rect width="5" height="5" fill="url(#p)"/></pattern></defs>';
    for (const use of ['clip-path="url(#a)"', 'mask="url(#m)"', 'fill="url(#p)"'])
      expect((await pdfOf(`${ring}<rect width="24" height="24" ${use}/>`)).measured.pages).toBe(1);
  });

  test('a large definition used often is not written out each time', async () => {
    const mask = `<mask id="m">${'<path d="M0 0q1 2 3 4z" fill="#fff"/>'.repeat(1000)}</mask>`;
    const inner = `<defs>${mask}</defs>${'<path d="M2 2q9 2 3 14z" mask="url(#m)"/>'.repeat(1000)}`;
    expect(settled(job('png', 48, inner).svg, 48, 48).svg.length).toBeLessThan(3_000_000);
  });
});
