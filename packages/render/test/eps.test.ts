import { measureEps, renderFile } from '../src';
import { decodePng, drawEps, job } from './files';
import { randomLogo } from './support/random-logo';

/** A picture on white, three bytes a px. */
function onWhite({ width, height, data }: { width: number; height: number; data: Buffer }): Buffer {
  const rgb = Buffer.alloc(width * height * 3);
  for (let i = 0; i < width * height; i++) {
    const alpha = data[4 * i + 3] / 255;
    for (let c = 0; c < 3; c++) rgb[3 * i + c] = Math.round(data[4 * i + c] * alpha + 255 * (1 - alpha));
  }
  return rgb;
}

const SIDE = 192;

/** The share of px in which ghostscript draws the EPS of a drawing otherwise than its PNG. */
async function off(inner: string): Promise<{ share: number; text: string; flattened?: boolean }> {
  const [eps, png] = await Promise.all([renderFile(job('eps', SIDE, inner)), renderFile(job('png', SIDE, inner))]);
  const [one, other] = [onWhite(drawEps(eps.bytes)), onWhite(decodePng(png.bytes))];
  expect(one.length).toBe(other.length);
  let count = 0;
  for (let i = 0; i < one.length; i += 3) if ([0, 1, 2].some((c) => Math.abs(one[i + c] - other[i + c]) > 127)) count++;
  return { share: count / (SIDE * SIDE), text: eps.bytes.toString('latin1'), flattened: eps.measured.flattened };
}

test.each([
  [
    'strokes with every cap and join',
    '<g fill="none" stroke="#0c6a53" stroke-width="2"><path stroke-linecap="round" d="M3 3h8"/><path stroke-linecap="square" d="M3 8h8"/><path stroke-linejoin="bevel" d="M3 20l5-8 5 8"/><path stroke-linejoin="round" d="M14 20l4-8 4 8"/><circle cx="18" cy="5" r="3"/></g>',
  ],
  [
    'a line under a skew, dashed',
    '<g transform="translate(3 2) skewX(20) scale(1 .5)"><path d="M2 2h10v10z" fill="#e0a82e" stroke="#00f" stroke-width="2" stroke-dasharray="3 1" stroke-dashoffset="1"/></g>',
  ],
  [
    'a stroke below its fill, even-odd',
    '<path d="M2 2h20v20H2zM8 8h8v8H8z" fill="#0c6a53" fill-rule="evenodd" stroke="#f00" stroke-width="3" paint-order="stroke"/>',
  ],
  ['what reaches over the edge', '<circle cx="24" cy="24" r="12" fill="#5b2a4f"/>'],
  ['nothing', ''],
])('%s: PostScript of level 2 that draws what the PNG shows', async (_, inner) => {
  const { share, text, flattened } = await off(inner);
  expect(share).toBeLessThan(0.002);
  expect(flattened).toBe(false);
  expect(text).toContain('%%LanguageLevel: 2\n');
});

test('gradients are shadings of level 3, along lines, between circles and on strokes', async () => {
  const { share, text } = await off(
    '<defs><linearGradient id="g"><stop offset=".2" stop-color="#f00"/><stop offset=".6" stop-color="#0f0"/><stop offset="1" stop-color="#00f"/></linearGradient><radialGradient id="r" gradientUnits="userSpaceOnUse" cx="17" cy="17" r="5"><stop offset="0" stop-color="#fff"/><stop offset="1" stop-color="#05f"/></radialGradient><linearGradient id="s" gradientUnits="userSpaceOnUse" x1="3" y1="0" x2="21" y2="0"><stop stop-color="#f00"/><stop offset="1" stop-color="#00f"/></linearGradient></defs><rect x="2" y="2" width="12" height="9" fill="url(#g)"/><circle cx="17" cy="17" r="5" fill="url(#r)"/><path d="M3 14v8h8" fill="none" stroke="url(#s)" stroke-width="2"/>',
  );
  expect(share).toBeLessThan(0.01);
  expect(text).toContain('%%LanguageLevel: 3\n');
  expect(text.match(/shfill/g)).toHaveLength(3);
});

test('clips are clips, and what comes after is outside of them', async () => {
  const { share, text } = await off(
    '<defs><clipPath id="c"><rect x="4" y="4" width="10" height="10"/></clipPath></defs><g clip-path="url(#c)"><rect width="24" height="24" fill="#0c6a53"/></g><rect x="18" y="1" width="4" height="4"/>',
  );
  expect(share).toBeLessThan(0.002);
  expect(text).not.toContain('image\n');
});

test('what is half transparent makes the whole a picture on white, and is told', async () => {
  const inner =
    '<rect x="2" y="2" width="12" height="12" fill="#f00"/><rect x="8" y="8" width="12" height="12" fill="#00f" opacity=".5"/>';
  expect(await off(inner)).toMatchObject({ share: 0, flattened: true });
  const { measured } = await renderFile(job('eps', 96, inner));
  expect(measured).toMatchObject({ alpha: false, colourType: 'picture', seen: { asPicture: true } });
});

test('a file is 7-bit text with its comments in order, and the same each time', async () => {
  const eps = () => renderFile(job('eps', 30.5));
  const { bytes } = await eps();
  expect((await eps()).bytes.equals(bytes)).toBe(true);
  const text = bytes.toString('latin1');
  expect(/^[\n\x20-\x7e]*$/.test(text)).toBe(true);
  expect(Math.max(...text.split('\n').map((line) => line.length))).toBeLessThanOrEqual(255);
  expect(text.match(/^%[%!][A-Za-z-]*/gm)).toEqual(
    '%!PS-Adobe- %%BoundingBox %%HiResBoundingBox %%Creator %%LanguageLevel %%DocumentData %%Pages %%EndComments %%BeginProlog %%EndProlog %%Page %%Trailer %%EOF'.split(
      ' ',
    ),
  );
  expect(text).toContain('%%BoundingBox: 0 0 23 23\n%%HiResBoundingBox: 0 0 22.875 22.875\n');
  expect(() => measureEps(bytes.subarray(0, bytes.length - 8))).toThrow('cut off');
});

test('random drawings are drawn by ghostscript as their PNG is', async () => {
  const wrong: [number, number][] = [];
  for (let seed = 100; seed < 124; seed++) {
    const { defs, body, width } = randomLogo(seed);
    const { share } = await off(
      `<g transform="scale(${24 / width})">${defs}${body.replace(/#ffffff/g, '#0c6a53')}</g>`,
    );
    // Clips have edges without grey there.
    if (share > 0.01) wrong.push([seed, share]);
  }
  expect(wrong).toEqual([]);
});
