import { PLAIN_CONTRAST, sha256Hex } from '@tolvik/core';
import fc from 'fast-check';
import sharp, { type Sharp } from 'sharp';
import { runs } from '../../core/test/properties';
import { encodePng, measurePdf, measurePng, rasterise, renderFile, unpremultiply } from '../src';
import { ANCHOR, decodePng, difference, drawPdf, icon, job, pixel, readPdf } from './files';

const WHITE_GROUND = '<rect width="24" height="24" fill="#ffffff"/>';

describe('PNG', () => {
  test.each([1, 16, 24, 48, 257])('%i px, decoded by another decoder, is what the rasteriser drew', async (side) => {
    const { bytes, measured } = await renderFile(job('png', side));
    const decoded = decodePng(bytes);
    const { data } = rasterise(icon(ANCHOR, side), side, side);
    unpremultiply(data);
    expect([decoded.width, decoded.height]).toEqual([side, side]);
    expect(difference(decoded.data, data)).toBe(0);
    expect(measured).toMatchObject({ widthPx: side, heightPx: side, alpha: true, dpi: expect.closeTo(96, 0) });
  });

  test('any pixels at all survive both ways of packing', () => {
    const picture = fc
      .integer({ min: 1, max: 40 })
      .chain((width) =>
        fc
          .integer({ min: 1, max: 20 })
          .chain((height) =>
            fc.tuple(
              fc.constant(width),
              fc.constant(height),
              fc.uint8Array({ minLength: width * height * 4, maxLength: width * height * 4 }),
              fc.constantFrom(2, 5, 17, 256),
            ),
          ),
      );
    fc.assert(
      fc.property(
        picture,
        fc.constantFrom('smaller' as const, 'faster' as const),
        ([width, height, noise, colours], effort) => {
          const pixels = Uint8Array.from(
            noise,
            (value) => Math.floor(value / (256 / colours)) * Math.floor(255 / colours),
          );
          const bytes = encodePng(Uint8Array.from(pixels), width, height, { dpi: 144, effort });
          expect(difference(decodePng(bytes).data, Buffer.from(pixels))).toBe(0);
          expect(measurePng(bytes).dpi).toBeCloseTo(144, 0);
        },
      ),
      runs(150),
    );
  });

  test('pixels times their alpha are made straight on the way, to the byte', () => {
    const picture = fc.integer({ min: 1, max: 20 }).chain((width) =>
      fc.tuple(
        fc.constant(width),
        fc.array(fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255), fc.constantFrom(0, 1, 2, 7, 128, 254, 255)), {
          minLength: width,
          maxLength: 600,
        }),
      ),
    );
    fc.assert(
      fc.property(picture, fc.constantFrom('smaller' as const, 'faster' as const), ([width, all], effort) => {
        const height = Math.floor(all.length / width);
        const times = Uint8Array.from(
          all.slice(0, width * height).flatMap(([r, g, b, a]) => [...[r, g, b].map((c) => (c * a) / 255), a]),
        );
        const straight = times.slice();
        unpremultiply(straight);
        const options = { dpi: 96, effort };
        expect(encodePng(times, width, height, { ...options, premultiplied: true })).toEqual(
          encodePng(straight, width, height, options),
        );
      }),
      runs(150),
    );
  });

  test('a ground makes it opaque, and the file says so', async () => {
    const { measured } = await renderFile(job('png', 48, WHITE_GROUND + ANCHOR, {}, '#ffffff'));
    expect(measured.alpha).toBe(false);
  });

  test('a file that should be opaque and is not has failed', async () => {
    await expect(renderFile(job('png', 48, ANCHOR, {}, '#ffffff'))).rejects.toThrow(
      'transparent although it has a ground',
    );
  });

  test('smaller is smaller', async () => {
    const [small, fast] = await Promise.all([
      renderFile(job('png', 192, ANCHOR, { effort: 'smaller' } as never)),
      renderFile(job('png', 192, ANCHOR, { effort: 'faster' } as never)),
    ]);
    expect(small.bytes.length).toBeLessThan(fast.bytes.length);
  });

  test('measuring finds damage', async () => {
    const { bytes } = await renderFile(job('png', 24));
    expect(() => measurePng(bytes.subarray(0, bytes.length - 20))).toThrow('cut off');
    const bent = Buffer.from(bytes);
    bent[bent.length - 30] ^= 1;
    expect(() => measurePng(bent)).toThrow('damaged');
    expect(() => measurePng(Buffer.from('no'))).toThrow('not a PNG');
  });
});

describe('JPEG', () => {
  test('size, density, and the ground behind the artwork', async () => {
    const { bytes, measured } = await renderFile({
      ...job('jpeg', 96, WHITE_GROUND + ANCHOR, { quality: 95 } as never, '#ffffff'),
      dpi: 300,
    });
    const facts = await sharp(bytes).metadata();
    expect(facts).toMatchObject({ format: 'jpeg', width: 96, height: 96, density: 300, channels: 3 });
    expect(facts.exif).toBeUndefined();
    const raw = await sharp(bytes).raw().toBuffer();
    expect([...raw.subarray(0, 3)].every((value) => value > 250)).toBe(true);
    expect(measured).toMatchObject({ alpha: false, dpi: 300 });
  });

  test('a lower quality weighs less', async () => {
    const at = (quality: number) =>
      renderFile(job('jpeg', 192, WHITE_GROUND + ANCHOR, { quality } as never, '#ffffff'));
    expect((await at(30)).bytes.length).toBeLessThan((await at(90)).bytes.length);
  });
});

describe('SVG', () => {
  test('draws as before, and is lighter', async () => {
    const wordy = ANCHOR.replace('M12 8v13', 'M 12.0000 8.0000 L 12.0000 21.0000 ');
    const source = icon(wordy, 96);
    const { bytes } = await renderFile(job('svg', 96, wordy));
    const before = rasterise(source, 96, 96).data;
    const after = rasterise(bytes.toString('utf8'), 96, 96).data;
    expect(difference(before, after)).toBeLessThan(0.05);
    expect(bytes.length).toBeLessThan(source.length);
  });

  test('with and without width and height, readable or in one line', async () => {
    const without = (
      await renderFile(job('svg', 24, ANCHOR, { dimensions: false, layout: 'readable' } as never))
    ).bytes.toString('utf8');
    expect(without).toMatch(/^<svg[^>]* viewBox="0 0 24 24"/);
    expect(without).not.toMatch(/^<svg[^>]* (width|height)=/);
    expect(without.split('\n').length).toBeGreaterThan(3);
    const withThem = (await renderFile(job('svg', 24))).bytes.toString('utf8');
    expect(withThem).toMatch(/^<svg[^>]* width="24" height="24"/);
    expect(withThem).not.toContain('\n');
  });

  test('coordinates of few digits in a scaled group keep them, where that is lighter', async () => {
    const zigzag = Array.from({ length: 60 }, (_, i) => `l${(i % 7) + 0.5} ${(i % 5) - 2.5}`).join('');
    const inside = `<g transform="translate(2 3) scale(.0873)"><path d="M10 90${zigzag}z"/></g>`;
    const written = (await renderFile(job('svg', 24, inside))).bytes.toString('utf8');
    expect(written).toContain('scale(.0873)');
    expect(written.length).toBeLessThan(icon(inside, 24).length);
    expect(difference(rasterise(icon(inside, 24), 24, 24).data, rasterise(written, 24, 24).data)).toBeLessThan(0.05);
    // Few points, and the transform is the heavier.
    const few = (await renderFile(job('svg', 24, inside.replace(zigzag, 'h50v50')))).bytes.toString('utf8');
    expect(few).not.toContain('scale');
  });

  test('ids that were kept stay', async () => {
    const leaf = '<g id="leaf"><path id="stem" d="M1 1h9v9z"/></g>';
    const { bytes } = await renderFile(job('svg', 24, leaf, { ids: 'kept' }));
    expect(bytes.toString('utf8')).toMatch(/id="stem"/);
  });

  test('several files in one page of HTML do not take each other’s definitions', async () => {
    const of = async (colour: string, ids: 'kept' | 'minimal') => {
      const gradient = `<defs><linearGradient id="a"><stop stop-color="${colour}"/><stop offset="1" stop-color="#fff"/></linearGradient><clipPath id="b"><circle r="9"/></clipPath></defs>`;
      const drawn = `${gradient}<g clip-path="url(#b)"><path id="stem" d="M1 1h9v9z" fill="url(#a)"/></g>`;
      const { bytes } = await renderFile(job('svg', 24, drawn, { ids }));
      return bytes.toString('utf8');
    };
    const idsOf = (text: string) => [...text.matchAll(/ id="([^"]+)"/g)].map(([, id]) => id);
    for (const ids of ['minimal', 'kept'] as const) {
      const [one, other] = [await of('#d2452f', ids), await of('#0c6a53', ids)];
      const shared = idsOf(one).filter((id) => idsOf(other).includes(id));
      expect(shared).toEqual(ids === 'kept' ? ['stem'] : []);
      for (const text of [one, other])
        for (const [, id] of text.matchAll(/url\(#([^)]+)\)/g)) expect(idsOf(text)).toContain(id);
      // The same drawing is the same file.
      expect(await of('#d2452f', ids)).toBe(one);
    }
  });

  test('decimals', async () => {
    const at = async (decimals: number) =>
      (
        await renderFile(
          job('svg', 24, '<path d="M1.23456 2.34567L9.87654 8.76543 4.44444 5.55555z"/>', { decimals } as never),
        )
      ).bytes.toString('utf8');
    expect(await at(1)).toContain('1.2');
    expect(await at(1)).not.toContain('1.23');
    expect(await at(4)).toContain('1.2346');
  });
});

describe('PDF', () => {
  test('one page of the size in points, drawn by poppler as the picture is', async () => {
    const { bytes, measured } = await renderFile(job('pdf', 96, WHITE_GROUND + ANCHOR));
    expect(measurePdf(bytes)).toEqual({ widthPt: 72, heightPt: 72, pages: 1 });
    expect(measured).toMatchObject({ widthPx: 96, pages: 1, flattened: false, colourType: 'vector' });
    const drawn = drawPdf(bytes);
    const expected = rasterise(icon(WHITE_GROUND + ANCHOR, 96), 96, 96);
    expect([drawn.width, drawn.height]).toEqual([96, 96]);
    expect(difference(drawn.data, expected.data)).toBeLessThan(4);
  });

  test('vectors stay vectors', async () => {
    const { bytes } = await renderFile(job('pdf', 24));
    expect(bytes.includes('/Subtype /Image')).toBe(false);
  });

  test('what PDF cannot say becomes a picture, and is told', async () => {
    const blurred =
      '<filter id="f"><feGaussianBlur stdDeviation="2"/></filter><rect x="6" y="6" width="12" height="12" fill="#f00" filter="url(#f)"/>';
    const { bytes, measured } = await renderFile(job('pdf', 96, WHITE_GROUND + blurred));
    expect(measured).toMatchObject({ flattened: true, colourType: 'picture' });
    expect(pixel(drawPdf(bytes), 48, 48)[0]).toBeGreaterThan(200);
    expect(pixel(drawPdf(bytes), 48, 48)[1]).toBeLessThan(80);
  });

  test('measuring finds damage', async () => {
    const { bytes } = await renderFile(job('pdf', 24));
    expect(() => measurePdf(bytes.subarray(0, bytes.length - 40))).toThrow('cut off');
  });
});

describe.each(['svg', 'pdf', 'png', 'jpeg'] as const)('%s: what can be told from the ground', (format) => {
  const seenOf = async (inner: string, ground: string | null) =>
    (await renderFile(job(format, 96, inner, {}, ground))).measured.seen;
  const BLOCK = '<path d="M6 3h12v6h-12z" fill="#12343b"/>';

  test('is measured on what was drawn', async () => {
    const plain = await seenOf(`${WHITE_GROUND}${BLOCK}<path d="M6 15h12v6h-12z" fill="#fefefe"/>`, '#ffffff');
    expect(plain?.contrast).toBe(PLAIN_CONTRAST);
    expect(plain?.box).toEqual([0.25, 0.125, 0.75, 0.375]);
    const pale = await seenOf(`${WHITE_GROUND}<path d="M3 3h18v18z" fill="#f4f4f4"/>`, '#fff');
    expect(pale).toEqual({ contrast: 1.1, box: null });
    expect((await seenOf(WHITE_GROUND + ANCHOR.replace('<g', '<g opacity="0.004"'), '#ffffff'))?.contrast).toBeLessThan(
      1.05,
    );
  });

  test('is not told where no ground hides what is behind', async () => {
    if (format !== 'jpeg') expect(await seenOf(ANCHOR, null)).toBeUndefined();
    if (format === 'svg' || format === 'pdf') expect(await seenOf(ANCHOR, '#ffffff80')).toBeUndefined();
  });
});

test.each(['svg', 'pdf', 'png', 'jpeg'] as const)('%s: the same input makes the same bytes', async (format) => {
  const make = () => renderFile(job(format, 64, WHITE_GROUND + ANCHOR, {}, '#ffffff'));
  const [one, other] = [await make(), await make()];
  expect(one.bytes.equals(other.bytes)).toBe(true);
});

test('a size that would take the machine down is refused before anything is drawn', async () => {
  await expect(renderFile({ ...job('png', 24), widthPx: 100_000, heightPx: 100_000 })).rejects.toThrow(
    'more than one file may have',
  );
});

describe('a PDF of several pages', () => {
  const pages = [
    { svg: icon(ANCHOR, 24), widthPx: 24, heightPx: 24, title: 'anchor' },
    { svg: icon(ANCHOR, 96), widthPx: 96, heightPx: 96, title: 'Größe & <more>' },
    { svg: icon('<rect width="24" height="24" fill="#d2452a"/>', 48), widthPx: 48, heightPx: 48, title: 'cut' },
  ];

  test('opened by another reader: pages of their own size in order, bookmarks with the names', async () => {
    const { bytes, measured } = await renderFile({ ...job('pdf', 24), pages });
    expect(measured.pages).toBe(3);
    const { sizes, bookmarks } = readPdf(bytes);
    expect(sizes).toEqual([
      [18, 18],
      [72, 72],
      [36, 36],
    ]);
    expect(bookmarks).toEqual(['anchor', 'Größe & <more>', 'cut']);
  });

  test('the same pages give the same bytes', async () => {
    const [one, two] = await Promise.all([
      renderFile({ ...job('pdf', 24), pages }),
      renderFile({ ...job('pdf', 24), pages }),
    ]);
    expect(one.bytes.equals(two.bytes)).toBe(true);
  });
});

test('few decimals round coordinates, never opacities and stroke widths', async () => {
  const { bytes } = await renderFile(
    job('svg', 24, '<path d="M2.4 3.4h9.3" stroke="#000" stroke-width="1.75" stroke-opacity=".55"/>', {
      decimals: 0,
    } as never),
  );
  const text = bytes.toString();
  expect(text).toContain('stroke-width="1.75"');
  expect(text).toMatch(/stroke-opacity="0?\.55"/);
  expect(text).toContain('d="M2 3h10"');
});

test('a picture in one ink covers where it is dark and stays open where it is light', async () => {
  const half = await sharp({ create: { width: 8, height: 8, channels: 3, background: '#ffffff' } })
    .composite([{ input: { create: { width: 4, height: 8, channels: 3, background: '#000000' } }, left: 0, top: 0 }])
    .png()
    .toBuffer();
  const inner = `<filter id="f" x="0" y="0" width="1" height="1" color-interpolation-filters="sRGB"><feColorMatrix values="0 0 0 0 0.05 0 0 0 0 0.4 0 0 0 0 0.3 -0.2126 -0.7152 -0.0722 1 0"/></filter><g filter="url(#f)"><image width="24" height="24" xlink:href="data:image/png;base64,${half.toString('base64')}"/></g>`;
  const { bytes } = await renderFile({
    ...job('png', 24, inner),
    svg: icon(inner).replace('<svg ', '<svg xmlns:xlink="http://www.w3.org/1999/xlink" '),
  });
  const decoded = decodePng(bytes);
  const [r, g, b, a] = pixel(decoded, 4, 12);
  expect([r, g, b].map((value, i) => Math.abs(value - [13, 102, 77][i]) <= 1)).toEqual([true, true, true]);
  expect(a).toBe(255);
  expect(pixel(decoded, 20, 12)[3]).toBe(0);
});

describe('repeated parts of an SVG', () => {
  const STAR = 'M0 -5l1.5 3.5 3.5 .3-2.7 2.3.9 3.6-3.2-2-3.2 2 .9-3.6-2.7-2.3 3.5-.3z';
  const many = Array.from(
    { length: 20 },
    (_, i) =>
      `<g transform="translate(${(i % 5) * 5} ${Math.floor(i / 5) * 5})"><path d="${STAR}" fill="#d2452f"/><circle r="${i === 7 ? 2 : 1}"/></g>`,
  ).join('');

  test('are written once, and look the same', async () => {
    const { bytes } = await renderFile(job('svg', 96, many));
    const text = bytes.toString();
    expect(text.split('l1.5').length - 1).toBeLessThan(3);
    expect(text.match(/<use/g)?.length).toBeGreaterThan(15);
    const [drawn, source] = [rasterise(text, 96, 96), rasterise(icon(many, 96), 96, 96)];
    expect(difference(drawn.data, source.data)).toBeLessThan(0.5);
  });

  test('stay as they are where sharing them would save nothing', async () => {
    const { bytes } = await renderFile(
      job('svg', 96, '<path d="M0 0h3v3z"/><path d="M0 0h3v3z" transform="translate(5)"/>'.repeat(8)),
    );
    expect(bytes.toString()).not.toContain('<use');
  });

  test('a part stands where it is drawn first, and its copies say where they are', async () => {
    const text = (await renderFile(job('svg', 96, many.replace('translate(0 0)', '')))).bytes.toString();
    expect(text).not.toContain('<defs');
    expect(text).toMatch(/<use xlink:href="#\w+a" x="5"\/>/);
    expect(text).not.toMatch(/<use xlink:href="#\w+a"\/>/);
  });

  test('random drawings of few parts look the same, in whatever groups and clips the parts stand', () => {
    const parts = [
      `<path d="${STAR}"/>`,
      `<path d="${STAR}" fill="#d2452f" stroke="#122"/>`,
      `<g><circle cx="3" cy="3" r="2"/><path d="${STAR}"/></g>`,
      `<g opacity=".5"><path d="${STAR}" fill="#2f7d32"/><g transform="translate(6 2)"><circle cx="3" cy="3" r="2"/><path d="${STAR}"/></g></g>`,
    ];
    const placed = fc
      .record({
        part: fc.nat(parts.length - 1),
        how: fc.constantFrom('', 'translate', 'rotate', 'scale'),
        x: fc.integer({ min: 0, max: 20 }),
        y: fc.integer({ min: 0, max: 20 }),
      })
      .map(({ part, how, x, y }) => {
        const transform = {
          '': '',
          translate: `translate(${x} ${y})`,
          rotate: `rotate(${x * 9} ${y} ${x})`,
          scale: `translate(${x} ${y}) scale(.7)`,
        }[how];
        return transform ? `<g transform="${transform}">${parts[part]}</g>` : parts[part];
      });
    const group = fc
      .record({
        around: fc.constantFrom(
          '<g>',
          '<g fill="#1b5fa8">',
          '<g fill="#1b5fa8" stroke="#d90" stroke-width=".5">',
          '<g transform="translate(3 4)">',
          '<g clip-path="url(#half)">',
          '<g mask="url(#soft)">',
        ),
        inside: fc.array(placed, { minLength: 1, maxLength: 8 }),
      })
      .map(({ around, inside }) => `${around}${inside.join('')}</g>`);
    const defs = `<defs><clipPath id="half"><path d="M0 0h14v24H0z"/></clipPath><mask id="soft"><g fill="#fff"><path d="${STAR}" transform="translate(9 9) scale(3)"/></g></mask></defs>`;
    return fc.assert(
      fc.asyncProperty(fc.array(group, { minLength: 1, maxLength: 5 }), async (groups) => {
        const inner = defs + groups.join('');
        const text = (await renderFile(job('svg', 96, inner))).bytes.toString();
        const [drawn, source] = [rasterise(text, 96, 96), rasterise(icon(inner, 96), 96, 96)];
        expect(difference(drawn.data, source.data)).toBeLessThan(0.6);
      }),
      runs(60),
    );
  });
});

test.each([
  ['from quality 80 colours are in every pixel', { quality: 80 }, '4:4:4'],
  ['below they are coarser', { quality: 79 }, '4:2:0'],
  ['or as one says', { quality: 50, chroma: 'full' }, '4:4:4'],
  ['either way', { quality: 95, chroma: 'quarter' }, '4:2:0'],
])('JPEG: %s', async (_, settings, chroma) => {
  const { bytes } = await renderFile(job('jpeg', 48, WHITE_GROUND + ANCHOR, settings as never, '#ffffff'));
  expect((await sharp(bytes).metadata()).chromaSubsampling).toBe(chroma);
});

test.each([
  ['WebP', (image: Sharp) => image.webp({ lossless: true }), 'image/webp'],
  ['GIF', (image: Sharp) => image.gif(), 'image/gif'],
  [
    'a JPEG that lies on its side',
    (image: Sharp) => image.jpeg({ quality: 95 }).withMetadata({ orientation: 6 }),
    'image/jpeg',
  ],
])('%s is drawn in every format, upright', async (_, encode, mediaType) => {
  // Red above, blue below, once it stands upright.
  const upright = Buffer.alloc(12 * 12 * 3, 0);
  for (let i = 0; i < 144; i++) upright[i * 3 + (i < 72 ? 0 : 2)] = 220;
  const stored = sharp(upright, { raw: { width: 12, height: 12, channels: 3 } });
  const bytes = await encode(
    mediaType === 'image/jpeg' ? sharp(await stored.rotate(-90).png().toBuffer()) : stored,
  ).toBuffer();
  const hash = sha256Hex(bytes);
  const inner = `<image width="24" height="24" xlink:href="blob:${hash}"/>`;
  const withPicture = (format: 'png' | 'pdf') => {
    const made = job(format, 96, inner);
    return {
      ...made,
      svg: made.svg.replace('<svg ', '<svg xmlns:xlink="http://www.w3.org/1999/xlink" '),
      pictures: [{ hash, mediaType: mediaType as 'image/webp', bytes }],
    };
  };
  const png = decodePng((await renderFile(withPicture('png'))).bytes);
  const pdf = drawPdf((await renderFile(withPicture('pdf'))).bytes);
  for (const picture of [png, pdf]) {
    const [above, below] = [pixel(picture, 48, 20), pixel(picture, 48, 76)];
    expect(above[0]).toBeGreaterThan(above[2] + 100);
    expect(below[2]).toBeGreaterThan(below[0] + 100);
  }
});
