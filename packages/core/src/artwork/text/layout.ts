import type { Font, Glyph } from 'fontkit';
import type { Layer, TextRun } from '../../document/records';
import { backwards, type OnPath, type PathWalk, pathWalk } from '../../geometry/path-walk';
import type { Fonts } from './fonts';
import { type GlyphSteps, numbers, stepsOf } from './glyphs';
import { type RunStyle, runStyle } from './run-style';

/**
 * A typographic character (SVG 2 §11.1): a letter with its marks, or a ligature. Positions are in user units of the
 * text; for text on a path, `x` is the distance along the path and `y` the distance across it.
 */
export type Letter = {
  run: number;
  style: RunStyle;
  /** Its glyphs, from its own origin; `scale` is px for each font unit. */
  glyphs: { steps: GlyphSteps; dx: number; dy: number; scale: number }[];
  /** Of its first code point among those of the whole text. */
  index: number;
  x: number;
  /** The line's; the letter stands `style.rise` below. */
  y: number;
  /** How wide its glyphs are, and how far away the next letter stands, spacing included. */
  width: number;
  advance: number;
  /** In degrees, around its own origin. */
  turn: number;
  /** How much wider than its font has it. */
  stretch: number;
  /** Where it is said to stand, from attributes or the end of a path. */
  at: { x?: number; y?: number };
  by: { x: number; y: number };
  /** Whether it begins a stretch that is anchored as one (SVG 2 §11.5, "anchored chunk"). */
  opensChunk: boolean;
  walk?: TextWalk;
};
/** What letters stand on, by their distance from where the text begins. */
export type TextWalk = { at: PathWalk['at']; end: OnPath | null };

export type LaidOut = {
  letters: Letter[];
  /** Families that were asked for and are not here. */
  missing: string[];
};

/** Whether text is set from top to bottom. */
export const isDown = (base: Readonly<Record<string, string>>): boolean =>
  /^(tb|vertical)/i.test(base['writing-mode'] ?? '');

/**
 * Where the letters of a text stand, in the steps of SVG 2 §11.5. `base` are the font attributes around it and its own.
 * Text that is set from top to bottom is laid out along the x axis, to be turned a quarter.
 */
export function layOut(layer: Layer, base: Readonly<Record<string, string>>, fonts: Fonts): LaidOut {
  const runs = layer.text ?? [];
  const { letters, missing } = new Shaper(layer.attrs, base, fonts).shape(runs);
  shiftBy(letters);
  const whole = { from: 0, to: letters.length, said: layer.attrs, inner: [] as Stretch[] };
  const inner = stretchesOf(runs, letters);
  for (const stretch of inner) fitToLength(letters, stretch);
  fitToLength(letters, { ...whole, inner });
  moveTo(letters);
  anchor(letters);
  return { letters, missing };
}

/** The position attributes of an element as lists: the first number belongs to its first letter, and so on. */
type Lists = Record<PositionList | 'rotate', number[]>;
const POSITIONS = ['x', 'y', 'dx', 'dy'] as const;
type PositionList = (typeof POSITIONS)[number];

/** Positions as said; those of text that is set `down` as they are before it is turned a quarter. */
function listsOf(attrs: Readonly<Record<string, string>>, down: boolean): Lists {
  const [x, y, dx, dy] = POSITIONS.map((name) => numbers(attrs[name]));
  const back = (list: number[]) => list.map((value) => -value);
  return { ...(down ? { x: y, y: back(x), dx: dy, dy: back(dx) } : { x, y, dx, dy }), rotate: numbers(attrs.rotate) };
}

/** Runs as letters in a row from 0, as if nothing were said of where they stand (§11.5, steps 1 to 3). */
class Shaper {
  private readonly letters: Letter[] = [];
  private readonly missing = new Set<string>();
  private readonly down: boolean;
  private readonly whole: Lists;
  private x = 0;
  private index = 0;
  /** The letter before, which the next one is kerned with, whatever run it is in. */
  private before: { style: RunStyle; letter: string } | null = null;
  /** The sum of `dx` and `dy` of the letters inside the last ligature; it moves the next letter. */
  private carried = { x: 0, y: 0 };
  private path = '||';
  private walk: TextWalk | undefined;

  constructor(
    own: Readonly<Record<string, string>>,
    private readonly base: Readonly<Record<string, string>>,
    private readonly fonts: Fonts,
  ) {
    this.down = isDown(base);
    // What the whole text says goes letter by letter, over all its runs.
    this.whole = listsOf(own, this.down);
  }

  shape(runs: readonly TextRun[]): LaidOut {
    runs.forEach((run, i) => this.run(run, i));
    return { letters: this.letters, missing: [...this.missing] };
  }

  private run({ text, attrs }: TextRun, run: number): void {
    const all = [...text];
    const { style, missing } = runStyle(attrs, this.base, this.fonts, this.down);
    if (missing) this.missing.add(missing);
    if (style) {
      const arrives = this.onto(attrs);
      const own = listsOf(attrs, this.down);
      const said = (name: PositionList, letter: number): number | undefined =>
        own[name][letter] ?? this.whole[name][this.index + letter];
      const at = (letter: number): Letter['at'] => {
        const first = letter === 0 ? arrives : {};
        return { x: said('x', letter) ?? first.x, y: (this.walk ? undefined : said('y', letter)) ?? first.y };
      };
      const turns =
        own.rotate.length > 0 ? { list: own.rotate, from: 0 } : { list: this.whole.rotate, from: this.index };
      // A letter that is placed by itself is shaped apart from those before it.
      const isPlaced = (letter: number) => at(letter).x !== undefined || at(letter).y !== undefined;
      for (let from = 0; from < all.length; ) {
        let to = from + 1;
        while (to < all.length && !isPlaced(to)) to++;
        this.piece(
          all.slice(from, to),
          { run, style, at: at(from), isShifted: 'baseline-shift' in attrs },
          (letter) => ({
            index: this.index + from + letter,
            by: { x: said('dx', from + letter) ?? 0, y: said('dy', from + letter) ?? 0 },
            turn: turns.list[turns.from + from + letter] ?? turns.list.at(-1) ?? 0,
          }),
        );
        from = to;
      }
    }
    this.index += all.length;
  }

  /** Where letters begin that come onto a path, or from one. */
  private onto(attrs: Readonly<Record<string, string>>): Letter['at'] {
    const line = `${attrs.path ?? ''}|${attrs.startOffset ?? ''}|${attrs.side ?? ''}`;
    if (line === this.path) return {};
    const end = this.walk?.end;
    this.path = line;
    this.walk = walkOf(attrs);
    return this.walk ? { x: 0, y: 0 } : end ? { x: end.x, y: end.y } : {};
  }

  /** Letters that are shaped together; `at` is where the first is placed, `said` what is said of each. */
  private piece(
    text: readonly string[],
    { run, style, at, isShifted }: Pick<Letter, 'run' | 'style' | 'at'> & { isShifted: boolean },
    said: (letter: number) => Pick<Letter, 'index' | 'by' | 'turn'>,
  ): void {
    const { font } = style;
    const scale = style.size / font.unitsPerEm;
    const opensChunk = at.x !== undefined || at.y !== undefined || this.letters.length === 0;
    const isKerned = !opensChunk && this.before && !isShifted && areShapedAlike(this.before.style, style);
    const last = this.letters.at(-1);
    if (isKerned && this.before && last) {
      const closer = kern(style, this.before.letter, text[0]) * scale;
      last.width += closer;
      last.advance += closer;
      this.x += closer;
    }
    let isFirst = true;
    let letter = 0;
    for (const part of style.smallCaps ? inSmallCapitals(text) : [{ text, scale: 1 }]) {
      const unit = scale * part.scale;
      for (const { codePoints, glyphs } of clustersOf(font, part.text, style.letterSpacing === 0)) {
        const width = glyphs.reduce((sum, { advance }) => sum + advance, 0) * unit;
        const spacing = style.letterSpacing + (SPACE.test(part.text[codePoints.from]) ? style.wordSpacing : 0);
        const { by, ...rest } = said(letter);
        this.letters.push({
          ...rest,
          by: {
            x: by.x + (isFirst && at.x !== undefined ? 0 : this.carried.x),
            y: by.y + (isFirst && at.y !== undefined ? 0 : this.carried.y),
          },
          run,
          style,
          at: isFirst ? at : {},
          opensChunk: isFirst && opensChunk,
          glyphs: glyphs.map(({ glyph, dx, dy }) => ({
            steps: stepsOf(font, glyph),
            dx: dx * unit,
            dy: dy * unit,
            scale: unit,
          })),
          x: this.x,
          y: 0,
          width,
          advance: width + spacing,
          stretch: 1,
          walk: this.walk,
        });
        this.x += width + spacing;
        isFirst = false;
        this.before = { style, letter: part.text.slice(codePoints.from, codePoints.to).join('') };
        this.carried = { x: 0, y: 0 };
        for (let inside = codePoints.from + 1; inside < codePoints.to; inside++) {
          const { by: more } = said(letter + inside - codePoints.from);
          this.carried = { x: this.carried.x + more.x, y: this.carried.y + more.y };
        }
        letter += codePoints.to - codePoints.from;
      }
    }
  }
}

const SPACE = /^[ \u00a0]$/;

/** Whether letters of two runs are shaped as if they were one. */
const areShapedAlike = (a: RunStyle, b: RunStyle): boolean =>
  a.font === b.font &&
  a.size === b.size &&
  a.letterSpacing === b.letterSpacing &&
  a.wordSpacing === b.wordSpacing &&
  a.smallCaps === b.smallCaps;

/** Glyphs that stand for some code points together; advances and distances in font units, y down. */
type Cluster = {
  codePoints: { from: number; to: number };
  glyphs: { glyph: Glyph; advance: number; dx: number; dy: number }[];
};

/** Shaped text, each cluster with the code points it stands for. Letters that are set apart form no ligatures (CSS Text 3 §8.2). */
function clustersOf(font: Font, text: readonly string[], withLigatures: boolean): Cluster[] {
  const whole = text.join('');
  const { glyphs, positions } = font.layout(whole, withLigatures ? undefined : NO_LIGATURES);
  const clusters: Cluster[] = [];
  let at = 0;
  glyphs.forEach((glyph, i) => {
    const { xAdvance, xOffset, yOffset } = positions[i];
    const last = clusters.at(-1);
    const isOneEach = glyphs.length === text.length;
    const isMark = isOneEach ? MARK.test(text[at]) : at >= text.length || MARK.test(text[at]);
    const drawn = { glyph, advance: xAdvance, dx: xOffset, dy: -yOffset };
    const to = isOneEach ? at + 1 : Math.min(text.length, at + codePointsOf(font, glyph, text, at));
    if (isMark && last) {
      const before = last.glyphs.reduce((sum, { advance }) => sum + advance, 0);
      last.glyphs.push({ ...drawn, dx: before + xOffset });
      last.codePoints.to = Math.max(last.codePoints.to, to);
    } else clusters.push({ codePoints: { from: at, to }, glyphs: [drawn] });
    at = to;
  });
  return clusters;
}

const NO_LIGATURES = { liga: false, clig: false };
const MARK = /^\p{M}$/u;

/** How many code points from here on a glyph stands for. */
function codePointsOf(font: Font, glyph: Glyph, text: readonly string[], at: number): number {
  const isOwn = font.glyphForCodePoint(text[at]?.codePointAt(0) ?? 0).id === glyph.id;
  const isLigature = !isOwn && glyph.codePoints.every((point, i) => point === text[at + i]?.codePointAt(0));
  return isLigature ? Math.max(1, glyph.codePoints.length) : 1;
}

/** How much closer two letters stand than each by itself, in font units. */
function kern({ font, letterSpacing }: RunStyle, one: string, other: string): number {
  const features = letterSpacing === 0 ? undefined : NO_LIGATURES;
  const wide = (text: string) => font.layout(text, features).positions.reduce((sum, { xAdvance }) => sum + xAdvance, 0);
  return wide(one + other) - wide(one) - wide(other);
}

/** Stretches of text as browsers draw small capitals that a font does not have: capitals at seven tenths (CSS Fonts 4 §6.6). */
function inSmallCapitals(text: readonly string[]): { text: string[]; scale: number }[] {
  return (text.join('').match(/\p{Ll}+|\P{Ll}+/gu) ?? []).map((part) =>
    /^\p{Ll}/u.test(part) ? { text: [...part.toUpperCase()], scale: 0.7 } : { text: [...part], scale: 1 },
  );
}

/** What the letters of a run stand on (SVG 2 §11.8). */
function walkOf({ path, startOffset, side }: Readonly<Record<string, string>>): TextWalk | undefined {
  if (!path) return undefined;
  const walk = side === 'right' ? backwards(pathWalk(path)) : pathWalk(path);
  const start = Number.parseFloat(startOffset ?? '') || 0;
  return { end: walk.at(walk.length), at: (distance) => walk.at(start + distance) };
}

/** `dx` and `dy` move a letter and all after it, up to one that is placed by itself (§11.5, step 4). */
function shiftBy(letters: readonly Letter[]): void {
  let [x, y] = [0, 0];
  for (const letter of letters) {
    x = (letter.at.x === undefined ? x : 0) + letter.by.x;
    y = (letter.at.y === undefined ? y : 0) + letter.by.y;
    letter.x += x;
    letter.y += y;
  }
}

/** Letters that are stretched to a length as one; `inner` are those among them that were stretched before. */
type Stretch = { from: number; to: number; said: Readonly<Record<string, string>>; inner: readonly Stretch[] };

/** Stretches of runs that say the same length: parts of one `tspan` follow each other. */
function stretchesOf(runs: readonly TextRun[], letters: readonly Letter[]): Stretch[] {
  const found: Stretch[] = [];
  let key = '';
  letters.forEach(({ run }, i) => {
    const { textLength = '', lengthAdjust = '' } = runs[run].attrs;
    const own = textLength && `${textLength} ${lengthAdjust}`;
    const last = found.at(-1);
    if (own && own === key && last) last.to = i + 1;
    else if (own) found.push({ from: i, to: i + 1, said: runs[run].attrs, inner: [] });
    key = own;
  });
  return found;
}

/** Stretches letters to the length that is said (§11.5, step 5); what follows moves along, up to a letter that is placed by itself. */
function fitToLength(letters: readonly Letter[], { from, to, said, inner }: Stretch): void {
  const wanted = Number.parseFloat(said.textLength ?? '');
  const own = letters.slice(from, to);
  if (!(wanted > 0) || own.length === 0) return;
  const [start, end] = extentOf(own);
  const width = end - start;
  if (!(width > 0)) return;
  let more = wanted - width;
  if (said.lengthAdjust === 'spacingAndGlyphs') {
    const by = wanted / width;
    for (const letter of own) {
      letter.x = start + (letter.x - start) * by;
      letter.stretch *= by;
      letter.width *= by;
      letter.advance *= by;
    }
  } else {
    const isInside = (i: number) => inner.some((each) => i >= each.from && i + 1 < each.to);
    const gaps = own.filter((_, i) => !isInside(from + i)).length - 1;
    if (gaps === 0) return;
    const step = more / gaps;
    more = 0;
    own.forEach((letter, i) => {
      letter.x += more;
      // The last one, too, is set apart from what follows.
      if (!isInside(from + i)) more += step;
    });
  }
  for (let i = to; i < letters.length && !letters[i].opensChunk; i++) letters[i].x += more;
}

/** From where to where letters reach along the line. */
function extentOf(letters: readonly Letter[]): [number, number] {
  let [start, end] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const { x, advance } of letters) [start, end] = [Math.min(start, x), Math.max(end, x + advance)];
  return [start, end];
}

/** `x` and `y` move a letter, and all after it along (§11.5, step 6). */
function moveTo(letters: readonly Letter[]): void {
  let [x, y] = [0, 0];
  for (const letter of letters) {
    const { at, by } = letter;
    if (at.x !== undefined) x = at.x + by.x - letter.x;
    if (at.y !== undefined) y = at.y + by.y - letter.y;
    letter.x += x;
    letter.y += y;
  }
}

/** Each stretch that begins at a position of its own is moved by its anchor (§11.5, step 7). */
function anchor(letters: readonly Letter[]): void {
  for (let from = 0; from < letters.length; ) {
    let to = from + 1;
    while (to < letters.length && !letters[to].opensChunk) to++;
    const chunk = letters.slice(from, to);
    const [start, end] = extentOf(chunk);
    const [first] = chunk;
    const side = { start, middle: (start + end) / 2, end }[first.style.anchor];
    const shift = first.x - side;
    for (const letter of chunk) letter.x += shift;
    from = to;
  }
}
