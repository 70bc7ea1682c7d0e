import type { Font, Glyph } from 'fontkit';
import svgpath from 'svgpath';
import type { Layer } from '../../document/records';
import { type Bounds, unite } from '../../geometry/matrix';
import { pathBounds, pathSegments } from '../../geometry/path-geometry';
import { backwards, type OnPath, type PathWalk, pathWalk } from '../../geometry/path-walk';
import { TEXT_PROPERTIES } from '../../profile/initial-values';
import { type Fonts, weightOf } from './fonts';

/** Path data of a run, the box around it without any stroke, and the attributes that it still has. */
export type OutlinedRun = { d: string; box: Bounds | null; attrs: Record<string, string> };
export type OutlinedText = {
  runs: OutlinedRun[] /** Families that were asked for and are not here. */;
  missing: string[];
};

const numbers = (text: string | undefined): number[] =>
  (text ?? '')
    .split(/[\s,]+/)
    .filter(Boolean)
    .map(Number)
    .filter(Number.isFinite);

const OF_LETTERS: ReadonlySet<string> = new Set([
  ...TEXT_PROPERTIES,
  'font-stretch',
  'x',
  'y',
  'dx',
  'dy',
  'rotate',
  'textLength',
  'lengthAdjust',
  'alignment-baseline',
  'baseline-shift',
  'path',
  'startOffset',
  'side',
]);

/** Attributes that still mean something once letters are paths. */
export const paintOnly = (attrs: Record<string, string>) =>
  Object.fromEntries(Object.entries(attrs).filter(([name]) => !OF_LETTERS.has(name)));

const kept = new WeakMap<Layer, { key: string; stamp: unknown; text: OutlinedText }>();

/** `outline`, answered from before while neither the text, nor what it inherits, nor the fonts change. */
export function outlineText(layer: Layer, inherited: Record<string, string>, fonts: Fonts): OutlinedText {
  const key = TEXT_PROPERTIES.map((name) => inherited[name] ?? '').join('|');
  const stamp = fonts.stamp?.() ?? fonts;
  const known = kept.get(layer);
  if (known?.key === key && known.stamp === stamp) return known.text;
  const text = outline(layer, inherited, fonts);
  kept.set(layer, { key, stamp, text });
  return text;
}

/** A letter or a few that were shaped together, at their place. */
type Placed = {
  run: number;
  steps: GlyphSteps;
  scale: number;
  x: number;
  y: number;
  turn: number /** From its own origin, in px. */;
  middle: number;
  walk?: TextWalk;
};
/** What letters stand on, by their distance from where the text begins. */
type TextWalk = { at: PathWalk['at']; end: OnPath | null };
/** A line under, over or through letters. */
type Line = { run: number; from: number; to: number; y: number; thickness: number; skips: boolean };

/**
 * Text as path data, one path a run (SVG 2 §11.5 for positions and anchors, §11.10.1 for baselines). `inherited` holds
 * the font attributes of the parents. Letters a font lacks are drawn as its .notdef glyph.
 */
function outline(layer: Layer, inherited: Record<string, string>, fonts: Fonts): OutlinedText {
  const base = { ...inherited, ...layer.attrs };
  const down = /^(tb|vertical)/i.test(base['writing-mode'] ?? '');
  const missing = new Set<string>();
  const runs: OutlinedRun[] = [];
  const placed: Placed[] = [];
  const lines: Line[] = [];
  let [x, y] = [0, 0];
  /** Where the letters that share one anchor point begin; they are shifted together once their width is known. */
  let chunk: { start: number; glyphs: number; lines: number; anchor: string } | null = null;
  /** The letter before, which the next one is kerned with, whatever run it is in. */
  let before = null as { font: Font; size: number; letter: string } | null;

  const closeChunk = () => {
    if (!chunk) return;
    const width = x - chunk.start;
    const shift = chunk.anchor === 'middle' ? -width / 2 : chunk.anchor === 'end' ? -width : 0;
    for (const glyph of placed.slice(chunk.glyphs)) glyph.x += shift;
    for (const line of lines.slice(chunk.lines)) [line.from, line.to] = [line.from + shift, line.to + shift];
    chunk = null;
  };
  // What the whole text says goes letter by letter, over all its runs.
  const whole = listsOf(layer.attrs, down);
  let letters = 0;
  /** The path that the letters stand on, and its data. */
  let walk: TextWalk | undefined;
  let path = '';

  for (const run of layer.text ?? []) {
    const style: Record<string, string> = { ...base, ...run.attrs };
    const size = Number.parseFloat(style['font-size'] ?? '16');
    const families = style['font-family'] ?? 'sans-serif';
    const found = fonts.find(
      families,
      weightOf(style['font-weight']),
      /italic|oblique/.test(style['font-style'] ?? ''),
    );
    const index = runs.push({ d: '', box: null, attrs: paintOnly(run.attrs) }) - 1;
    if (!found) {
      missing.add(families);
      continue;
    }
    if (!found.exact) missing.add(firstFamily(families));
    const own = listsOf(run.attrs, down);
    const spacing = Number.parseFloat(style['letter-spacing']) || 0;
    const wordSpacing = Number.parseFloat(style['word-spacing']) || 0;
    const anchor = anchorOf(style);
    const { font } = found.face;
    const scale = size / font.unitsPerEm;
    const rise = baselineOf(
      down ? { ...style, 'dominant-baseline': 'central' } : style,
      run.attrs,
      font,
      size,
      Number.parseFloat(base['font-size'] ?? '16'),
    );
    const smallCaps = /small-caps/i.test(style['font-variant'] ?? '');
    const line = `${run.attrs.path ?? ''}|${run.attrs.startOffset ?? ''}|${run.attrs.side ?? ''}`;
    if (line !== path) {
      finishLine(x);
      closeChunk();
      const end = walk?.end;
      if (end) [x, y] = [end.x, end.y];
      path = line;
      walk = walkOf(run.attrs);
      if (walk) [x, y] = [0, 0];
    }
    let lineFrom = x;

    const place = (all: string, turn: number) => {
      for (const { text, scale: share } of smallCaps ? inSmallCapitals(all) : [{ text: all, scale: 1 }]) {
        const { glyphs, positions } = font.layout(text);
        const unit = scale * share;
        glyphs.forEach((glyph, i) => {
          const { xAdvance, xOffset, yOffset } = positions[i];
          placed.push({
            run: index,
            steps: stepsOf(font, glyph),
            scale: unit,
            x: x + xOffset * unit,
            y: y + rise - yOffset * unit,
            turn,
            middle: (xAdvance / 2 - xOffset) * unit,
            walk,
          });
          x += xAdvance * unit + spacing + (text[i] === ' ' || text[i] === '\u00a0' ? wordSpacing : 0);
        });
      }
    };
    const at = (name: PositionList, letter: number): number | undefined =>
      own[name][letter] ?? whole[name][letters + letter];
    const turnAt = (letter: number): number => {
      const list = own.rotate.length > 0 ? own.rotate : whole.rotate;
      const from = own.rotate.length > 0 ? letter : letters + letter;
      return list[from] ?? list.at(-1) ?? 0;
    };

    // Letters that nothing is said of are shaped together with those before them.
    const all = [...run.text];
    const turns = own.rotate.length > 0 || whole.rotate.length > 0;
    for (let from = 0; from < all.length; ) {
      const [toX, toY] = [at('x', from), walk ? undefined : at('y', from)];
      if (toX !== undefined || toY !== undefined || !chunk) {
        finishLine(lineFrom);
        closeChunk();
        x = toX ?? x;
        y = toY ?? y;
        chunk = { start: x, glyphs: placed.length, lines: lines.length, anchor };
        lineFrom = x;
      } else if (before?.font === font && before.size === size && !('baseline-shift' in run.attrs))
        x += kern(font, before.letter, all[from]) * scale;
      x += at('dx', from) ?? 0;
      y += at('dy', from) ?? 0;
      let to = from + 1;
      while (!turns && to < all.length && POSITIONS.every((name) => at(name, to) === undefined)) to++;
      place(all.slice(from, to).join(''), turnAt(from));
      before = { font, size, letter: all[to - 1] };
      from = to;
    }
    finishLine(lineFrom);
    letters += all.length;

    function finishLine(from: number): void {
      if (walk) return;
      for (const line of linesOf(style['text-decoration'] ?? '', font, size))
        if (x > from) lines.push({ ...line, run: index, from, to: x, y: y + rise + line.y });
    }
  }
  closeChunk();
  fitToLength(layer, placed, lines, x);
  for (const { run, steps, scale, x: left, y: line, turn } of placed.flatMap(onItsPath)) {
    runs[run].d +=
      turn === 0 ? placeGlyph(steps, scale, left, line) : placeTurned(steps, scale, left, line, (turn * Math.PI) / 180);
    const { box } = steps;
    if (!box) continue;
    const reach =
      turn === 0
        ? null
        : Math.hypot(
            Math.max(Math.abs(box.minX), Math.abs(box.maxX)),
            Math.max(Math.abs(box.minY), Math.abs(box.maxY)),
          ) * scale;
    runs[run].box = unite(
      runs[run].box,
      reach === null
        ? {
            minX: left + box.minX * scale,
            maxX: left + box.maxX * scale,
            minY: line - box.maxY * scale,
            maxY: line - box.minY * scale,
          }
        : { minX: left - reach, maxX: left + reach, minY: line - reach, maxY: line + reach },
    );
  }
  for (const line of lines) {
    for (const [from, to] of line.skips ? gapped(line, placed) : [[line.from, line.to]]) {
      runs[line.run].d +=
        `M${round(from)} ${round(line.y)}H${round(to)}V${round(line.y + line.thickness)}H${round(from)}Z`;
      runs[line.run].box = unite(runs[line.run].box, {
        minX: from,
        maxX: to,
        minY: line.y,
        maxY: line.y + line.thickness,
      });
    }
  }
  if (down) for (const run of runs) turnDown(run);
  return { runs: runs.filter((run) => run.d), missing: [...missing] };
}

/** What the letters of a run stand on (SVG 2 §11.8). */
function walkOf({ path, startOffset, side }: Readonly<Record<string, string>>): TextWalk | undefined {
  if (!path) return undefined;
  const walk = side === 'right' ? backwards(pathWalk(path)) : pathWalk(path);
  const start = Number.parseFloat(startOffset ?? '') || 0;
  return { end: walk.at(walk.length), at: (distance) => walk.at(start + distance) };
}

/** A letter where its middle stands on the path, turned as the path goes there; none when that is off its ends. */
function onItsPath(letter: Placed): Placed[] {
  if (!letter.walk) return [letter];
  const place = letter.walk.at(letter.x + letter.middle);
  if (!place) return [];
  const [cos, sin] = [Math.cos(place.angle), Math.sin(place.angle)];
  const [along, across] = [-letter.middle, letter.y];
  return [
    {
      ...letter,
      x: place.x + along * cos - across * sin,
      y: place.y + along * sin + across * cos,
      turn: letter.turn + (place.angle * 180) / Math.PI,
    },
  ];
}

/** Text set from top to bottom has been laid out as a line along the x axis; it is turned a quarter (CSS Writing Modes 4 §5.1, letters on their side). */
function turnDown(run: OutlinedRun): void {
  run.d = run.d && svgpath(run.d).rotate(90).round(4).toString();
  const { box } = run;
  if (box) run.box = { minX: -box.maxY, maxX: -box.minY, minY: box.minX, maxY: box.maxX };
}

/** Stretches of text as browsers draw small capitals that a font does not have: capitals at seven tenths (CSS Fonts 4 §6.6). */
function inSmallCapitals(text: string): { text: string; scale: number }[] {
  return (text.match(/\p{Ll}+|\P{Ll}+/gu) ?? []).map((part) =>
    /^\p{Ll}/u.test(part) ? { text: part.toUpperCase(), scale: 0.7 } : { text: part, scale: 1 },
  );
}

/** How much closer two letters stand than each by itself, in font units. */
function kern(font: Font, one: string, other: string): number {
  const wide = (text: string) => font.layout(text).positions.reduce((sum, { xAdvance }) => sum + xAdvance, 0);
  return wide(one + other) - wide(one) - wide(other);
}

const firstFamily = (families: string): string =>
  families
    .split(',')[0]
    .trim()
    .replace(/^["']|["']$/g, '');

const POSITIONS = ['x', 'y', 'dx', 'dy'] as const;
type PositionList = (typeof POSITIONS)[number];

/** Positions as said; those of text that is set `down` as they are before it is turned a quarter. */
function listsOf(attrs: Readonly<Record<string, string>>, down: boolean): Record<PositionList | 'rotate', number[]> {
  const [x, y, dx, dy] = POSITIONS.map((name) => numbers(attrs[name]));
  const back = (list: number[]) => list.map((value) => -value);
  return { ...(down ? { x: y, y: back(x), dx: dy, dy: back(dx) } : { x, y, dx, dy }), rotate: numbers(attrs.rotate) };
}

/** Text that reads from the right starts there (SVG 2 §11.4.4). */
function anchorOf(style: Readonly<Record<string, string>>): string {
  const anchor = style['text-anchor'] ?? 'start';
  if (style.direction !== 'rtl') return anchor;
  return anchor === 'start' ? 'end' : anchor === 'end' ? 'start' : anchor;
}

/** How far below the line of the text its letters stand, in px (SVG 2 §11.10.1, CSS Inline 3 §5). */
function baselineOf(
  style: Readonly<Record<string, string>>,
  own: Readonly<Record<string, string>>,
  font: Font,
  size: number,
  around: number,
): number {
  const scale = size / font.unitsPerEm;
  const [ascent, descent] = [font.ascent * scale, -font.descent * scale];
  const aligned: Record<string, number> = {
    middle: (font.xHeight * scale) / 2,
    central: (ascent - descent) / 2,
    hanging: ascent * 0.8,
    mathematical: ascent * 0.5,
    'text-before-edge': ascent,
    'text-top': ascent,
    'before-edge': ascent,
    'text-after-edge': -descent,
    'text-bottom': -descent,
    'after-edge': -descent,
    ideographic: -descent,
  };
  const shift = own['baseline-shift'] ?? '';
  const raised = shift === 'super' ? around / 3 : shift === 'sub' ? -around / 5 : Number.parseFloat(shift) || 0;
  return (aligned[own['alignment-baseline'] ?? ''] ?? aligned[style['dominant-baseline'] ?? ''] ?? 0) - raised;
}

/** Lines that decorate text, from its baseline (CSS Text Decoration 4 §2). */
function linesOf(said: string, font: Font, size: number): { y: number; thickness: number; skips: boolean }[] {
  const thickness = size / 10;
  const ascent = (font.ascent * size) / font.unitsPerEm;
  return [
    ...(/underline/.test(said) ? [{ y: thickness * 0.625, thickness, skips: true }] : []),
    ...(/overline/.test(said) ? [{ y: -ascent, thickness, skips: false }] : []),
    ...(/line-through/.test(said) ? [{ y: -ascent / 3 - thickness / 2, thickness, skips: false }] : []),
  ];
}

/** A line without what letters that reach through it take away (CSS Text Decoration 4 §5.1). */
function gapped(line: Line, placed: readonly Placed[]): [number, number][] {
  const [top, bottom] = [line.y, line.y + line.thickness];
  const gaps = placed
    .filter(({ run }) => run === line.run)
    .flatMap(({ steps, scale, x, y }): [number, number][] => {
      if (!steps.box || y - steps.box.minY * scale <= top) return [];
      let [from, to] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
      let last: [number, number] | null = null;
      const meet = (toX: number, toY: number) => {
        if (last) {
          for (let i = 0; i <= PIECES; i++) {
            const [px, py] = [last[0] + ((toX - last[0]) * i) / PIECES, last[1] + ((toY - last[1]) * i) / PIECES];
            if (py >= top && py <= bottom) [from, to] = [Math.min(from, px), Math.max(to, px)];
          }
        }
        last = [toX, toY];
      };
      for (const { command, numbers: n } of steps.steps) {
        if (command === 'M') last = null;
        for (let i = 0; i < n.length; i += 2) meet(x + n[i] * scale, y - n[i + 1] * scale);
      }
      return to >= from ? [[from - line.thickness, to + line.thickness]] : [];
    })
    .sort((a, b) => a[0] - b[0]);
  const parts: [number, number][] = [];
  let from = line.from;
  for (const [start, end] of gaps) {
    if (start > from) parts.push([from, Math.min(start, line.to)]);
    from = Math.max(from, end);
  }
  if (from < line.to) parts.push([from, line.to]);
  return parts;
}

const PIECES = 8;

/** Stretches letters to the length that the text says it has (SVG 2 §11.5, `textLength`). */
function fitToLength(layer: Layer, placed: Placed[], lines: Line[], end: number): void {
  const wanted = Number.parseFloat(layer.attrs.textLength ?? '');
  const first = placed[0];
  if (!(wanted > 0) || !first) return;
  const start = first.x;
  const width = end - start;
  if (!(width > 0)) return;
  if (layer.attrs.lengthAdjust === 'spacingAndGlyphs') {
    const by = wanted / width;
    for (const glyph of placed) {
      glyph.x = start + (glyph.x - start) * by;
      glyph.steps = stretched(glyph.steps, by);
    }
    for (const line of lines) [line.from, line.to] = [start + (line.from - start) * by, start + (line.to - start) * by];
    return;
  }
  const step = placed.length > 1 ? (wanted - width) / (placed.length - 1) : 0;
  placed.forEach((glyph, i) => {
    glyph.x += step * i;
  });
  for (const line of lines) line.to += step * (placed.length - 1);
}

const stretched = ({ steps, box }: GlyphSteps, by: number): GlyphSteps => ({
  steps: steps.map(({ command, numbers: n }) => ({
    command,
    numbers: n.map((value, i) => (i % 2 ? value : value * by)),
  })),
  box: box && { ...box, minX: box.minX * by, maxX: box.maxX * by },
});

const round = (value: number) => Math.round(value * 1e4) / 1e4;

/** A glyph turned around its own origin, as path data. */
function placeTurned({ steps }: GlyphSteps, scale: number, dx: number, dy: number, angle: number): string {
  const [cos, sin] = [Math.cos(angle) * scale, Math.sin(angle) * scale];
  let d = '';
  for (const { command, numbers: n } of steps) {
    d += command;
    for (let i = 0; i < n.length; i += 2)
      d += `${i === 0 ? '' : ' '}${round(dx + n[i] * cos + n[i + 1] * sin)} ${round(dy + n[i] * sin - n[i + 1] * cos)}`;
  }
  return d;
}

/** A glyph taken apart: commands with their numbers, in font units, y up. */
type GlyphSteps = {
  steps: readonly { command: string; numbers: readonly number[] }[] /** In font units. */;
  box: Bounds | null;
};
const outlines = new WeakMap<object, Map<number, GlyphSteps>>();

/** The outline of a glyph, taken apart once for each font: text uses few letters many times. */
function stepsOf(font: Font, glyph: Glyph): GlyphSteps {
  let known = outlines.get(font);
  if (!known) outlines.set(font, (known = new Map()));
  let steps = known.get(glyph.id);
  if (!steps) {
    const d = glyph.path.toSVG();
    steps = {
      steps: (d.match(/[MLQCZ][^MLQCZ]*/g) ?? []).map((part) => ({
        command: part[0],
        numbers: numbers(part.slice(1)),
      })),
      box: pathBounds(pathSegments(d), null),
    };
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
