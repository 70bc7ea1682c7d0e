import { join } from 'node:path';
import {
  artboardRecord,
  colourFacts,
  composeBenchPiece,
  defaultSettings,
  handoverVariants,
  NO_FONTS,
  pieceAlone,
  readTree,
  regionOf,
} from '@tolvik/core';
import { project } from '../../core/test/fixtures';
import { drawnMeetings, rasterise, renderFile } from '../src';
import { withInkOutlines } from '../src/outlines/ink-outlines';
import { type Outliner, outlineHere, outlineInThread } from '../src/outlines/outliner';
import { RenderPool } from '../src/pool/pool';
import { EMBLEMS, emblem } from './emblems';
import { decodePng, drawPdf } from './files';
import { type Logo, maskedLogo, randomLogo, seeded } from './support/random-logo';

const box = (body: string, side = 100): Logo => ({ defs: '', body, width: side, height: side });
const jobOf = (svg: string, format: 'svg' | 'pdf' | 'png', widthPx: number, heightPx = widthPx) => ({
  svg,
  settings: defaultSettings(format),
  widthPx,
  heightPx,
  dpi: 96,
  ground: null,
});

/** The share of pixels at so many times its size in which the opacity of two drawings differs by more than half. */
function shareOff(one: string, other: string, width: number, height: number, times: number): number {
  const [w, h] = [Math.round(width * times), Math.round(height * times)];
  const sized = (svg: string) =>
    rasterise(svg.replace(/width="[^"]*" height="[^"]*"/, `width="${w}" height="${h}"`), w, h).data;
  const [a, b] = [sized(one), sized(other)];
  let off = 0;
  for (let i = 3; i < a.length; i += 4) if (Math.abs(a[i] - b[i]) > 127) off++;
  return off / (a.length / 4);
}

/** Of an SVG file: the tags in it, and how many segments its paths have. */
function facts(svg: string): { tags: string[]; segments: number; attributes: string[] } {
  const tags: string[] = [];
  const attributes = new Set<string>();
  let segments = 0;
  const visit = ({ tag, attrs, children }: ReturnType<typeof readTree>['root']) => {
    tags.push(tag);
    if (tag === 'path') for (const name of Object.keys(attrs)) attributes.add(name);
    segments += (attrs.d?.match(/[a-z]/gi) ?? []).length;
    children.forEach(visit);
  };
  visit(readTree(svg).root);
  return { tags, segments, attributes: [...attributes].sort() };
}

test('random logos in one ink become one path that shows the same by both fill rules, or are told', async () => {
  const told: number[] = [];
  for (let seed = 1; seed <= 40; seed++) {
    const logo = randomLogo(seed);
    const { width, height } = logo;
    const made = await withInkOutlines(maskedLogo(logo), outlineHere);
    if (made.masked > 0) {
      told.push(seed);
      continue;
    }
    expect(made.svg).not.toMatch(/mask|clip|<rect|defs/);
    const times = Math.min(8, 1024 / width);
    for (const rule of ['nonzero', 'evenodd']) {
      const path = made.svg.replace('<path', `<path fill-rule="${rule}"`);
      expect([seed, rule, shareOff(maskedLogo(logo), path, width, height, times) <= 0.001]).toEqual([seed, rule, true]);
    }
  }
  expect(told.length).toBeLessThanOrEqual(1);
});

describe.each(Object.entries(EMBLEMS))('%s in one ink', (name, inner) => {
  const sources = { fonts: NO_FONTS, pictures: () => undefined };
  const { doc, artboard } = project({ [name]: emblem(inner) });
  const source = artboard(name);
  const mono = handoverVariants(colourFacts(doc, source, drawnMeetings(doc, source, sources))).find(
    ({ key }) => key === 'mono-dark',
  );
  const variant = artboardRecord.parse({
    ...source,
    id: 'variant',
    background: null,
    follows: { artboardId: source.id, rule: mono?.rule },
  });
  const sized = (side: number) =>
    composeBenchPiece(doc, pieceAlone(variant, regionOf(variant)), { widthPx: side, heightPx: side }, sources);
  const svg = sized(100);

  test('is a path with a fill and nothing else, in SVG, in PDF and in pictures', async () => {
    expect(svg).toContain('<mask id="ink.1"');
    const file = await renderFile(jobOf(svg, 'svg', 100));
    const text = file.bytes.toString();
    const { tags, attributes } = facts(text);
    expect(tags.slice(0, 2)).toEqual(['svg', 'path']);
    expect(tags.slice(1).every((tag) => tag === 'path')).toBe(true);
    expect(attributes.every((attribute) => attribute === 'd' || attribute === 'fill')).toBe(true);
    expect(file.measured.seen?.masked).toBeUndefined();
    expect(shareOff(svg, text, 100, 100, 8)).toBeLessThanOrEqual(0.001);
    const pdf = await renderFile(jobOf(svg, 'pdf', 100));
    expect(pdf.bytes.toString('latin1')).not.toMatch(/SMask|\/Group|\/ExtGState/);
    const png = decodePng((await renderFile(jobOf(sized(200), 'png', 200))).bytes).data;
    const page = drawPdf(pdf.bytes, 192).data;
    let off = 0;
    for (let i = 0; i < png.length; i += 4) if (Math.abs(255 - png[i + 3] - page[i + 1]) > 160) off++;
    expect(off).toBeLessThan(40);
  });
});

test('edges lie where they were drawn, and curves stay curves', async () => {
  const { svg } = await withInkOutlines(
    maskedLogo(box('<path d="M10 10h40v40h-40z" fill="#ffffff"/><circle cx="70" cy="70" r="20" fill="#ffffff"/>')),
    outlineHere,
  );
  expect(svg).toContain('L50 10');
  expect(facts(svg).segments).toBeLessThanOrEqual(16);
  const { svg: ring } = await withInkOutlines(
    maskedLogo(box('<circle cx="50" cy="50" r="30" fill="none" stroke="#ffffff" stroke-width="7"/>')),
    outlineHere,
  );
  const numbers = /d="([^"]*)"/.exec(ring)?.[1].match(/-?[\d.]+(?= -?[\d.]+(?:[CLMZ]|$))|-?[\d.]+(?=[CLMZ])/g) ?? [];
  const ends = numbers.map(Number);
  for (let i = 0; i + 1 < ends.length; i += 2) {
    const radius = Math.hypot(ends[i] - 50, ends[i + 1] - 50);
    expect(Math.min(Math.abs(radius - 33.5), Math.abs(radius - 26.5))).toBeLessThan(0.02);
  }
});

test('an outline that lacks a small part is not taken for right', async () => {
  const dot = '<circle cx="90" cy="90" r="0.6" fill="#ffffff"/>';
  const logo = maskedLogo(box(`<path d="M10 10h60v60h-60z" fill="#ffffff"/>${dot}`));
  // Of all pixels the dot has less than a thousandth.
  const withoutDot: Outliner = (asked) => outlineHere({ ...asked, svg: asked.svg.replace(dot, '') });
  expect(await withInkOutlines(logo, withoutDot)).toEqual({ svg: logo, masked: 1 });
});

describe('bad input', () => {
  test('what leaves nothing, lies outside or is nothing becomes an empty file', async () => {
    for (const body of [
      '',
      '<path d="M0 0" fill="#ffffff"/>',
      '<rect x="200" y="0" width="50" height="50" fill="#ffffff"/>',
      '<rect x="10" y="10" width="50" height="50" fill="#ffffff"/><rect width="100" height="100" fill="#000000"/>',
    ]) {
      const made = await withInkOutlines(maskedLogo(box(body)), outlineHere);
      expect([body, made.masked, /<path|<mask|<rect/.test(made.svg)]).toEqual([body, 0, false]);
    }
  });
  test('artwork that reaches beyond its artboard ends at its edge', async () => {
    const { svg } = await withInkOutlines(
      maskedLogo(box('<circle cx="0" cy="50" r="900" fill="#ffffff"/>')),
      outlineHere,
    );
    expect(
      /d="([^"]*)"/
        .exec(svg)?.[1]
        .match(/[A-Z][^A-Z]*/g)
        ?.sort(),
    ).toEqual(
      expect.arrayContaining(['Z', expect.stringMatching(/^[LM]0 0$/), expect.stringMatching(/^[LM]100 100$/)]),
    );
    expect(facts(svg).segments).toBe(5);
  });
  test('a word of 2,000 letters is outlined; hundreds of thousands of segments are told', async () => {
    const letter = (i: number) => `M${(i % 100) * 10} ${Math.floor(i / 100) * 10}q4-4 8 0v8q-4 4-8 0zm2 2v4h4v-4z`;
    const word = `<path d="${Array.from({ length: 2000 }, (_, i) => letter(i)).join('')}" fill="#ffffff"/>`;
    const made = await withInkOutlines(maskedLogo(box(word, 1000)), outlineHere);
    expect([made.masked, made.svg.includes('<mask')]).toEqual([0, false]);
    const many = `<path d="M0 0${'l1 2 2-1'.repeat(100_000)}" fill="#ffffff"/>`;
    const kept = await withInkOutlines(maskedLogo(box(many, 1000)), outlineHere);
    expect([kept.masked, kept.svg.includes('<mask')]).toEqual([1, true]);
  });
});

describe('in a thread of its own', () => {
  const path = join(__dirname, '../../../dist/outline-thread.mjs');
  const random = seeded(7);
  const at = () => (random() * 100).toFixed(2);
  const scribble = `<path fill-rule="evenodd" d="M0 0${Array.from({ length: 2500 }, () => `C${at()} ${at()} ${at()} ${at()} ${at()} ${at()}`).join('')}Z" fill="#ffffff"/>`;

  test('a drawing that keeps the kernel busy stays behind its mask, and the next is outlined as ever', async () => {
    const outliner = outlineInThread(path, 300);
    const heavy = await withInkOutlines(maskedLogo(box(scribble)), outliner);
    expect(heavy).toEqual({ svg: maskedLogo(box(scribble)), masked: 1 });
    const light = await withInkOutlines(
      maskedLogo(box('<circle cx="51" cy="50" r="30" fill="#ffffff"/>')),
      outlineInThread(path),
    );
    expect(light.masked).toBe(0);
  });
  test('a render process draws a file whose ink has no outline, and says so', async () => {
    const pool = new RenderPool({ childPath: join(__dirname, '../../../dist/render-child.mjs'), size: 1 });
    try {
      const blurred = `<filter id="f"><feGaussianBlur stdDeviation="1"/></filter><path filter="url(#f)" d="M30 30h30v30z" fill="#ffffff"/>`;
      const { measured, bytes } = await pool.render(jobOf(maskedLogo(box(blurred)), 'svg', 100));
      expect([measured.seen, bytes.includes('<mask')]).toEqual([{ masked: 1 }, true]);
      const clear = await pool.render(jobOf(maskedLogo(box('<path d="M30 30h30v30z" fill="#ffffff"/>')), 'svg', 100));
      expect([clear.measured.seen, clear.bytes.includes('<mask')]).toEqual([undefined, false]);
    } finally {
      await pool.close();
    }
  });
});
