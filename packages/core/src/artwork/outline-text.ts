import type { Layer } from '../document/records';
import { type Fonts, weightOf } from './fonts';
import { printNumber } from './matrix';

export type OutlinedRun = { d: string; attrs: Record<string, string> };
export type OutlinedText = { runs: OutlinedRun[] /** Families that were asked for and are not here. */; missing: string[] };

const numbers = (text: string | undefined): number[] =>
  (text ?? '')
    .split(/[\s,]+/)
    .filter(Boolean)
    .map(Number)
    .filter(Number.isFinite);

const FONT_ATTRIBUTES = new Set([
  'font-family',
  'font-size',
  'font-weight',
  'font-style',
  'font-stretch',
  'font-variant',
  'letter-spacing',
  'word-spacing',
  'text-anchor',
  'x',
  'y',
  'dx',
  'dy',
  'rotate',
  'textLength',
  'lengthAdjust',
  'direction',
  'dominant-baseline',
  'alignment-baseline',
  'baseline-shift',
  'writing-mode',
  'text-decoration',
]);

/** Attributes that still mean something once letters are paths. */
export const paintOnly = (attrs: Record<string, string>) => Object.fromEntries(Object.entries(attrs).filter(([name]) => !FONT_ATTRIBUTES.has(name)));

/**
 * Text as path data, one path a run (SVG 2 §11.5 for positions and anchors). `inherited` holds the
 * font attributes of the parents. Letters a font lacks are drawn as its .notdef glyph.
 */
export function outlineText(layer: Layer, inherited: Record<string, string>, fonts: Fonts): OutlinedText {
  const base = { ...inherited, ...layer.attrs };
  const missing = new Set<string>();
  const runs: OutlinedRun[] = [];
  let x = 0;
  let y = 0;
  let xs = numbers(layer.attrs.x);
  let ys = numbers(layer.attrs.y);
  /** Letters that share one anchor point: they are shifted together once their width is known. */
  let chunk: { start: number; anchor: string; glyphs: { run: number; d: string; scale: number; x: number; y: number }[] } | null = null;

  const closeChunk = () => {
    if (!chunk) return;
    const width = x - chunk.start;
    const shift = chunk.anchor === 'middle' ? -width / 2 : chunk.anchor === 'end' ? -width : 0;
    for (const glyph of chunk.glyphs) runs[glyph.run].d += placeGlyph(glyph.d, glyph.scale, glyph.x + shift, glyph.y);
    chunk = null;
  };

  for (const run of layer.text ?? []) {
    const style: Record<string, string> = { ...base, ...run.attrs };
    const size = Number.parseFloat(style['font-size']) || 16;
    const families = style['font-family'] ?? 'sans-serif';
    const found = fonts.find(families, weightOf(style['font-weight']), /italic|oblique/.test(style['font-style'] ?? ''));
    const index = runs.push({ d: '', attrs: paintOnly(run.attrs) }) - 1;
    if (!found) {
      missing.add(families);
      continue;
    }
    if (!found.exact)
      missing.add(
        families
          .split(',')[0]
          .trim()
          .replace(/^["']|["']$/g, ''),
      );
    if (run.attrs.x !== undefined) xs = numbers(run.attrs.x);
    if (run.attrs.y !== undefined) ys = numbers(run.attrs.y);
    const dx = numbers(run.attrs.dx);
    const dy = numbers(run.attrs.dy);
    const spacing = Number.parseFloat(style['letter-spacing']) || 0;
    const wordSpacing = Number.parseFloat(style['word-spacing']) || 0;
    const anchor = style['text-anchor'] ?? 'start';
    const { font } = found.face;
    const scale = size / font.unitsPerEm;

    const place = (text: string) => {
      const { glyphs, positions } = font.layout(text);
      glyphs.forEach((glyph, i) => {
        const { xAdvance, xOffset, yOffset } = positions[i];
        chunk?.glyphs.push({ run: index, d: glyph.path.toSVG(), scale, x: x + xOffset * scale, y: y - yOffset * scale });
        x += xAdvance * scale + spacing + (text[i] === ' ' ? wordSpacing : 0);
      });
    };

    x += dx[0] ?? 0;
    y += dy[0] ?? 0;
    if (xs.length <= 1 && ys.length <= 1) {
      if (xs.length || ys.length || !chunk) {
        closeChunk();
        if (xs.length) x = xs[0] + (dx[0] ?? 0);
        if (ys.length) y = ys[0] + (dy[0] ?? 0);
        chunk = { start: x, anchor, glyphs: [] };
      }
      place(run.text);
    } else {
      [...run.text].forEach((letter, i) => {
        if (xs[i] !== undefined || ys[i] !== undefined || !chunk) {
          closeChunk();
          x = xs[i] ?? x;
          y = ys[i] ?? y;
          chunk = { start: x, anchor, glyphs: [] };
        }
        place(letter);
      });
    }
    xs = [];
    ys = [];
  }
  closeChunk();
  return { runs: runs.filter((run) => run.d), missing: [...missing] };
}

/** A glyph's path data (M L Q C Z in font units, y up) at its place, rounded to 4 decimals. */
function placeGlyph(d: string, scale: number, dx: number, dy: number): string {
  return d.replace(/([MLQC])([^MLQCZ]*)/g, (_, command: string, args: string) => {
    const n = args
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    return command + n.map((value, i) => printNumber(i % 2 ? dy - value * scale : dx + value * scale, 4)).join(' ');
  });
}
