import type { Font, Glyph } from 'fontkit';
import type { Layer } from '../document/records';
import { type Fonts, weightOf } from './fonts';
import { type Bounds, unite } from './matrix';
import { pathBounds, pathSegments } from './path-geometry';

/** Path data of a run, the box around it without any stroke, and the attributes that it still has. */
export type OutlinedRun = { d: string; box: Bounds | null; attrs: Record<string, string> };
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

const kept = new WeakMap<Layer, { key: string; stamp: unknown; text: OutlinedText }>();

/** `outline`, answered from before while neither the text, nor what it inherits, nor the fonts change. */
export function outlineText(layer: Layer, inherited: Record<string, string>, fonts: Fonts): OutlinedText {
  const key = INHERITED_FONT.map((name) => inherited[name] ?? '').join('|');
  const stamp = fonts.stamp?.() ?? fonts;
  const known = kept.get(layer);
  if (known?.key === key && known.stamp === stamp) return known.text;
  const text = outline(layer, inherited, fonts);
  kept.set(layer, { key, stamp, text });
  return text;
}

const INHERITED_FONT = ['font-family', 'font-size', 'font-weight', 'font-style', 'letter-spacing', 'word-spacing', 'text-anchor'];

/**
 * Text as path data, one path a run (SVG 2 §11.5 for positions and anchors). `inherited` holds the
 * font attributes of the parents. Letters a font lacks are drawn as its .notdef glyph.
 */
function outline(layer: Layer, inherited: Record<string, string>, fonts: Fonts): OutlinedText {
  const base = { ...inherited, ...layer.attrs };
  const missing = new Set<string>();
  const runs: OutlinedRun[] = [];
  let x = 0;
  let y = 0;
  let xs = numbers(layer.attrs.x);
  let ys = numbers(layer.attrs.y);
  /** Letters that share one anchor point: they are shifted together once their width is known. */
  let chunk: { start: number; anchor: string; glyphs: { run: number; steps: GlyphSteps; scale: number; x: number; y: number }[] } | null = null;

  const closeChunk = () => {
    if (!chunk) return;
    const width = x - chunk.start;
    const shift = chunk.anchor === 'middle' ? -width / 2 : chunk.anchor === 'end' ? -width : 0;
    for (const { run, steps, scale, x: at, y: line } of chunk.glyphs) {
      runs[run].d += placeGlyph(steps, scale, at + shift, line);
      const { box } = steps;
      if (box) runs[run].box = unite(runs[run].box, { minX: at + shift + box.minX * scale, maxX: at + shift + box.maxX * scale, minY: line - box.maxY * scale, maxY: line - box.minY * scale });
    }
    chunk = null;
  };

  for (const run of layer.text ?? []) {
    const style: Record<string, string> = { ...base, ...run.attrs };
    const size = Number.parseFloat(style['font-size']) || 16;
    const families = style['font-family'] ?? 'sans-serif';
    const found = fonts.find(families, weightOf(style['font-weight']), /italic|oblique/.test(style['font-style'] ?? ''));
    const index = runs.push({ d: '', box: null, attrs: paintOnly(run.attrs) }) - 1;
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
        chunk?.glyphs.push({ run: index, steps: stepsOf(font, glyph), scale, x: x + xOffset * scale, y: y - yOffset * scale });
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

/** A glyph taken apart: commands with their numbers, in font units, y up. */
type GlyphSteps = { steps: readonly { command: string; numbers: readonly number[] }[] /** In font units. */; box: Bounds | null };
const outlines = new WeakMap<object, Map<number, GlyphSteps>>();

/** The outline of a glyph, taken apart once for each font: text uses few letters many times. */
function stepsOf(font: Font, glyph: Glyph): GlyphSteps {
  let known = outlines.get(font);
  if (!known) outlines.set(font, (known = new Map()));
  let steps = known.get(glyph.id);
  if (!steps) {
    const d = glyph.path.toSVG();
    steps = { steps: (d.match(/[MLQCZ][^MLQCZ]*/g) ?? []).map((part) => ({ command: part[0], numbers: numbers(part.slice(1)) })), box: pathBounds(pathSegments(d), null) };
    if (known.size < MOST_GLYPHS) known.set(glyph.id, steps);
  }
  return steps;
}

const MOST_GLYPHS = 5000;

/** A glyph at its place as path data, rounded to 4 decimals. */
function placeGlyph({ steps }: GlyphSteps, scale: number, dx: number, dy: number): string {
  let d = '';
  for (const { command, numbers: n } of steps) {
    d += command;
    for (let i = 0; i < n.length; i++) {
      const value = Math.round((i % 2 ? dy - n[i] * scale : dx + n[i] * scale) * 1e4) / 1e4;
      d += i === 0 ? value : ` ${value}`;
    }
  }
  return d;
}
