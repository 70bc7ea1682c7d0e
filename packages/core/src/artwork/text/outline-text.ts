import svgpath from 'svgpath';
import type { Layer } from '../../document/records';
import { type Bounds, unite } from '../../geometry/matrix';
import { TEXT_PROPERTIES } from '../../profile/initial-values';
import { decorationOf, gapped, type Line, type Standing } from './decoration';
import type { Fonts } from './fonts';
import { glyphBox, glyphPath, round, stretched } from './glyphs';
import { isDown, type Letter, layOut } from './layout';

/** Path data of a run, the box around it without any stroke, and the attributes that it still has. */
export type OutlinedRun = { d: string; box: Bounds | null; attrs: Record<string, string> };
export type OutlinedText = {
  runs: OutlinedRun[];
  /** The box around the cells of all letters, which what is said of the text's box goes by (SVG 2 §8.10). */
  cells: Bounds | null;
  /** Families that were asked for and are not here. */
  missing: string[];
};

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

/**
 * Text as path data, one path a run. `inherited` holds the font attributes of the parents. Letters a font lacks are
 * drawn as its .notdef glyph.
 */
function outline(layer: Layer, inherited: Record<string, string>, fonts: Fonts): OutlinedText {
  const base = { ...inherited, ...layer.attrs };
  const { letters, missing } = layOut(layer, base, fonts);
  const runs = (layer.text ?? []).map(({ attrs }): OutlinedRun => ({ d: '', box: null, attrs: paintOnly(attrs) }));
  const standing: Standing[] = [];
  for (const letter of letters) {
    for (const { steps, ...at } of glyphsAt(letter)) {
      const run = runs[letter.run];
      run.d += glyphPath(steps, at);
      run.box = unite(run.box, glyphBox(steps, at));
      standing.push({ run: letter.run, steps, ...at });
    }
  }
  for (const line of decorationOf(letters)) drawLine(runs[line.run], line, standing);
  if (isDown(base)) for (const run of runs) turnDown(run);
  const isStraight = letters.every(({ walk, turn }) => !walk && turn === 0);
  const straight = isStraight ? cellsOf(letters) : null;
  const cells =
    (straight && isDown(base) ? turnedDown(straight) : straight) ??
    runs.reduce<Bounds | null>((box, run) => unite(box, run.box), null);
  return { runs: runs.filter((run) => run.d), cells, missing };
}

/** The cells of letters on a straight line: from the font's ascent to its descent, as wide as they are set. */
function cellsOf(letters: readonly Letter[]): Bounds | null {
  let cells: Bounds | null = null;
  for (const { x, y, advance, style } of letters) {
    const scale = style.size / style.font.unitsPerEm;
    const line = y + style.rise;
    cells = unite(cells, {
      minX: x,
      maxX: x + advance,
      minY: line - style.font.ascent * scale,
      maxY: line - style.font.descent * scale,
    });
  }
  return cells;
}

/** The glyphs of a letter where they stand; none when it is off the ends of its path. */
function glyphsAt(letter: Letter) {
  const { glyphs, style, stretch } = letter;
  const place = letter.walk
    ? letter.walk.at(letter.x + letter.width / 2)
    : { x: letter.x, y: letter.y + style.rise, angle: 0 };
  if (!place) return [];
  const turn = letter.turn + (place.angle * 180) / Math.PI;
  // On a path, the middle of the letter is where it stands.
  const origin = letter.walk ? turned(place, [-letter.width / 2, letter.y + style.rise], place.angle) : place;
  return glyphs.map(({ steps, dx, dy, scale }) => ({
    steps: stretch === 1 ? steps : stretched(steps, stretch),
    scale,
    turn,
    ...turned(origin, [dx * stretch, dy], (turn * Math.PI) / 180),
  }));
}

/** A point that lies `along` and `across` from another, on axes turned by an angle in radians. */
function turned({ x, y }: { x: number; y: number }, [along, across]: readonly [number, number], angle: number) {
  if (angle === 0) return { x: x + along, y: y + across };
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return { x: x + along * cos - across * sin, y: y + along * sin + across * cos };
}

function drawLine(run: OutlinedRun, line: Line, standing: readonly Standing[]): void {
  const { y, thickness } = line;
  for (const [from, to] of line.skips ? gapped(line, standing) : [[line.from, line.to]]) {
    run.d += `M${round(from)} ${round(y)}H${round(to)}V${round(y + thickness)}H${round(from)}Z`;
    run.box = unite(run.box, { minX: from, maxX: to, minY: y, maxY: y + thickness });
  }
}

/** Text set from top to bottom has been laid out as a line along the x axis; it is turned a quarter (CSS Writing Modes 4 §5.1, letters on their side). */
function turnDown(run: OutlinedRun): void {
  run.d = run.d && svgpath(run.d).rotate(90).round(4).toString();
  run.box = run.box && turnedDown(run.box);
}

const turnedDown = (box: Bounds): Bounds => ({ minX: -box.maxY, maxX: -box.minY, minY: box.minX, maxY: box.maxX });
