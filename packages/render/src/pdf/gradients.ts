import {
  type Bounds,
  invert,
  type Matrix,
  multiply,
  parseColour,
  parseTransform,
  type TreeNode,
  transformBounds,
} from '@tolvik/core';
import { number, share } from '../svg/style';
import { type Doc, Exact, type Ref } from './content';

/** A stop of a gradient: place 0–1, colour 0–1 each, alpha 0–1. */
export type Stop = { at: number; rgb: readonly [number, number, number]; alpha: number };

export type Gradient = {
  stops: readonly Stop[] /** Gradient space to the user space of what it paints. */;
  matrix: Matrix;
  spread: string;
  line: readonly number[];
  radial: boolean;
};

const MATRIX_TO_BOX = ({ minX, minY, maxX, maxY }: Bounds): Matrix => [maxX - minX, 0, 0, maxY - minY, minX, minY];

/** `objectBoundingBox` units as a matrix; null where the box has no extent, so that nothing is painted (SVG 2 §8.13). */
export function boxMatrix(box: Bounds | null): Matrix | null {
  return box && box.maxX > box.minX && box.maxY > box.minY ? MATRIX_TO_BOX(box) : null;
}

/** Luminance as a mask measures it: the coefficients apply to sRGB values as they are (CSS Masking 1 §5.1.1). */
export const greyOf = ([r, g, b]: readonly number[]): [number, number, number] => {
  const value = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  return [value, value, value];
};

/** Stops with places that never go back (SVG 2 §14.2.4). */
export function stopsOf(node: TreeNode, colour: string, grey: boolean): Stop[] {
  let least = 0;
  return node.children
    .filter(({ tag }) => tag === 'stop')
    .map(({ attrs }) => {
      least = Math.max(least, share(attrs.offset, 0));
      const said = attrs['stop-color'] ?? '#000';
      const { r, g, b, a } = parseColour(/^currentcolor$/i.test(said) ? colour : said) ?? { r: 0, g: 0, b: 0, a: 1 };
      const rgb: [number, number, number] = [r / 255, g / 255, b / 255];
      return { at: least, rgb: grey ? greyOf(rgb) : rgb, alpha: a * share(attrs['stop-opacity']) };
    });
}

/** A gradient as it paints something in a box; null when it paints nothing, a stop when it is one colour all over (SVG 2 §14.2). */
export function readGradient(
  node: TreeNode,
  box: Bounds | null,
  colour: string,
  grey: boolean,
): Gradient | Stop | null {
  const stops = stopsOf(node, colour, grey);
  if (stops.length === 0) return null;
  const { attrs } = node;
  const last = stops[stops.length - 1];
  const units = attrs.gradientUnits === 'userSpaceOnUse' ? ([1, 0, 0, 1, 0, 0] as Matrix) : boxMatrix(box);
  if (!units) return null;
  if (stops.length === 1) return last;
  const matrix = multiply(units, parseTransform(attrs.gradientTransform ?? '') ?? [1, 0, 0, 1, 0, 0]);
  const spread = attrs.spreadMethod ?? 'pad';
  // Composed SVG has lengths in user units; percentages are left only where they are of the box.
  const at = (name: string, otherwise: number) =>
    attrs[name]?.trim().endsWith('%') ? number(attrs[name], 0) / 100 : number(attrs[name], otherwise);
  if (node.tag === 'linearGradient') {
    const line = [at('x1', 0), at('y1', 0), at('x2', 1), at('y2', 0)];
    if (line[0] === line[2] && line[1] === line[3]) return last;
    return { stops, matrix, spread, line, radial: false };
  }
  const [cx, cy, r] = [at('cx', 0.5), at('cy', 0.5), at('r', 0.5)];
  if (!(r > 0)) return last;
  return { stops, matrix, spread, line: [at('fx', cx), at('fy', cy), at('fr', 0), cx, cy, r], radial: true };
}

/** How often a gradient that repeats is written out at the most. */
const MOST_REPEATS = 256;

/** The gradient with its repetitions written out, as far as an area (in user space) sees them. */
function unrolled(gradient: Gradient, area: Bounds): Gradient {
  const { spread, stops, line, matrix, radial } = gradient;
  if (spread !== 'repeat' && spread !== 'reflect') return gradient;
  const seen = transformBounds(invert(matrix), area);
  const corners = [
    [seen.minX, seen.minY],
    [seen.maxX, seen.minY],
    [seen.minX, seen.maxY],
    [seen.maxX, seen.maxY],
  ];
  let [from, to] = [0, 1];
  if (radial) {
    const [fx, fy, fr, , , r] = line;
    // The circles grow by r − fr with each repetition and move with it; the slowest side decides.
    const grows = r - fr - Math.hypot(line[3] - fx, line[4] - fy);
    const furthest = Math.max(...corners.map(([x, y]) => Math.hypot(x - fx, y - fy)));
    to = grows > 1e-6 ? Math.ceil(Math.max(1, (furthest - fr) / grows)) : MOST_REPEATS;
    from = fr > 0 ? -Math.ceil(fr / (r - fr || 1)) : 0;
    // No circle has a radius below nothing.
    while (from < 0 && fr + from * (r - fr) < 0) from++;
  } else {
    const [x1, y1, x2, y2] = line;
    const length = (x2 - x1) ** 2 + (y2 - y1) ** 2;
    const places = corners.map(([x, y]) => ((x - x1) * (x2 - x1) + (y - y1) * (y2 - y1)) / length);
    from = Math.floor(Math.min(0, ...places));
    to = Math.ceil(Math.max(1, ...places));
  }
  if (to - from > MOST_REPEATS) [from, to] = [Math.max(from, -MOST_REPEATS / 2), Math.min(to, MOST_REPEATS / 2)];
  const count = to - from;
  const all: Stop[] = [];
  for (let i = from; i < to; i++) {
    const turned = spread === 'reflect' && i % 2 !== 0;
    const once = turned ? [...stops].reverse().map((stop) => ({ ...stop, at: 1 - stop.at })) : stops;
    const filled = [{ ...once[0], at: 0 }, ...once, { ...once[once.length - 1], at: 1 }];
    for (const stop of filled) all.push({ ...stop, at: (i - from + stop.at) / count });
  }
  const half = line.length / 2;
  const along = (t: number) => line.slice(0, half).map((value, i) => value + t * (line[half + i] - value));
  return { ...gradient, spread: 'pad', stops: all, line: [...along(from), ...along(to)] };
}

/** Values between stops as a function of one number (ISO 32000-1 §7.10.3, §7.10.4). */
function stitched(doc: Doc, stops: readonly Stop[], value: (stop: Stop) => readonly number[]): Ref {
  const all = [...stops];
  if (all[0].at > 0) all.unshift({ ...all[0], at: 0 });
  if (all[all.length - 1].at < 1) all.push({ ...all[all.length - 1], at: 1 });
  const pieces = all
    .slice(1)
    .map((stop, i) => ({ FunctionType: 2, Domain: [0, 1], C0: [...value(all[i])], C1: [...value(stop)], N: 1 }));
  const ref =
    pieces.length === 1
      ? doc.ref(pieces[0])
      : doc.ref({
          FunctionType: 3,
          Domain: [0, 1],
          Functions: pieces,
          Bounds: all.slice(1, -1).map(({ at }) => at),
          Encode: pieces.flatMap(() => [0, 1]),
        });
  ref.end();
  return ref;
}

/** A shading pattern (ISO 32000-1 §8.7.4.5.3 and .4) of a gradient's colours, or of its alpha as grey. `toStream` leads from user space to that of the stream. */
export function shadingPattern(
  doc: Doc,
  gradient: Gradient,
  area: Bounds,
  toStream: Matrix,
  of: 'colour' | 'alpha',
): Ref {
  const { stops, line, matrix, radial } = unrolled(gradient, area);
  const pattern = doc.ref({
    Type: 'Pattern',
    PatternType: 2,
    Matrix: new Exact(multiply(toStream, matrix)),
    Shading: {
      ShadingType: radial ? 3 : 2,
      ColorSpace: of === 'colour' ? 'DeviceRGB' : 'DeviceGray',
      Coords: new Exact(line),
      Function: stitched(doc, stops, (stop) => (of === 'colour' ? stop.rgb : [stop.alpha])),
      Extend: [true, true],
    },
  });
  pattern.end();
  return pattern;
}

/** The one alpha that all stops have; null when they differ. */
export const commonAlpha = ({ stops }: Gradient): number | null =>
  stops.every(({ alpha }) => alpha === stops[0].alpha) ? stops[0].alpha : null;
