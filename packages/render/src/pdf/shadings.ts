import { type Bounds, invert, type Matrix, multiply, type PathStep, stepsOf, transformBounds } from '@tolvik/core';
import { Content, type Doc, Exact, matrixText, type Ref } from './content';
import type { Gradient, Stop } from './gradients';
import { pathOperators } from './paths';

/** Stops so near to each other that their step is hard. */
const HARD = 1e-6;
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
  return { ...gradient, spread: 'pad', stops: all, line: [...along(line, from), ...along(line, to)] };
}

/** The point, or the circle, that lies so far on the way from a gradient's first to its last; 0 to 1 between them. */
function along(line: readonly number[], t: number): number[] {
  const half = line.length / 2;
  return line.slice(0, half).map((value, i) => value + t * (line[half + i] - value));
}

/** How much longer a line is made, of itself, where a step at its end has to lie within it. */
const LONGER = 0.25;

/**
 * The gradient with steps at its very ends a little within them: a shading goes on beyond its ends with the value there,
 * which at a step is that of one side. Circles end where they have no radius.
 */
function endsApart(gradient: Gradient): Gradient {
  const { stops, line, radial } = gradient;
  const stepsAt = (i: number, at: number) => Math.abs(stops[i].at - at) < HARD && Math.abs(stops[i + 1].at - at) < HARD;
  let from = stepsAt(0, 0) ? -LONGER : 0;
  let to = stepsAt(stops.length - 2, 1) ? 1 + LONGER : 1;
  if (radial) {
    const [, , fr, , , r] = line;
    const pointAt = fr / (fr - r);
    if (r > fr) from = Math.max(from, pointAt);
    else if (r < fr) to = Math.min(to, pointAt);
  }
  if (from === 0 && to === 1) return gradient;
  const moved = stops.map((stop) => ({ ...stop, at: (stop.at - from) / (to - from) }));
  return { ...gradient, stops: moved, line: [...along(line, from), ...along(line, to)] };
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

/** What a shading is made of (ISO 32000-1 §8.7.4.5.3 and .4), in gradient space. */
function shadingOf(doc: Doc, { stops, line, radial }: Gradient, of: 'colour' | 'alpha'): Record<string, unknown> {
  return {
    ShadingType: radial ? 3 : 2,
    ColorSpace: of === 'colour' ? 'DeviceRGB' : 'DeviceGray',
    Coords: new Exact(line),
    Function: stitched(doc, stops, (stop) => (of === 'colour' ? stop.rgb : [stop.alpha])),
    Extend: [true, true],
  };
}

/** A shading pattern (ISO 32000-1 §8.7.4.5.3 and .4) of a gradient's colours, or of its alpha as grey. `toStream` leads from user space to that of the stream. */
export function shadingPattern(
  doc: Doc,
  gradient: Gradient,
  area: Bounds,
  toStream: Matrix,
  of: 'colour' | 'alpha',
): Ref {
  const whole = endsApart(unrolled(gradient, area));
  const pattern = doc.ref({
    Type: 'Pattern',
    PatternType: 2,
    Matrix: new Exact(multiply(toStream, whole.matrix)),
    Shading: shadingOf(doc, whole, of),
  });
  pattern.end();
  return pattern;
}

/** With more bands than this a gradient is written as one shading. */
const MOST_BANDS = 64;
/** Decimals of outlines in gradient space, where the unit may be a whole box. */
const DECIMALS = 8;

/**
 * Paints an area (user space) with a gradient that has hard steps, one shading for each band between them: programs
 * that show PDF look up a shading's colours in a table, and a step would be as wide as an entry of it. The last band
 * fills the area, each earlier one lies on it up to its step. Null when the gradient has no hard step, when its bands
 * do not nest (circles that do not lie within each other), or when they are too many.
 */
export function paintedInBands(doc: Doc, gradient: Gradient, area: Bounds, of: 'colour' | 'alpha'): Content | null {
  const whole = unrolled(gradient, area);
  const bands = bandsOf(whole.stops, of);
  if (bands.length < 2 || bands.length > MOST_BANDS) return null;
  const { line, matrix, radial } = whole;
  const [fx, fy, fr, cx, cy, r] = line;
  if (radial && !(r - fr > Math.hypot(cx - fx, cy - fy))) return null;
  const seen = transformBounds(invert(matrix), area);
  const content = new Content();
  content.op(`${matrixText(matrix)} cm`);
  for (const [i, { from, to, stops }] of [...bands.entries()].reverse()) {
    const isLast = i === bands.length - 1;
    // Within the first circle of a gradient that begins at a point there is nothing.
    if (radial && !isLast && !(along(line, to)[2] > 0)) continue;
    // What lies before the first stop or beyond the last is of one colour, wherever its line is.
    const own = to > from ? [...along(line, from), ...along(line, to)] : line;
    const shading = doc.ref(shadingOf(doc, { ...whole, stops, line: own }, of));
    shading.end();
    const before = isLast
      ? null
      : pathOperators(radial ? circle(along(line, to)) : sideBefore(along(line, to), line, seen), DECIMALS);
    content.op(`q\n${before ? `${before}W n\n` : ''}/${content.name('Shading', shading)} sh\nQ`);
  }
  return content;
}

type Band = { from: number; to: number; stops: Stop[] };

/** Stops between hard steps, each band's places from 0 to 1 of its own; a step at an end makes a band without width. */
function bandsOf(stops: readonly Stop[], of: 'colour' | 'alpha'): Band[] {
  const same = (a: Stop, b: Stop) =>
    of === 'alpha' ? a.alpha === b.alpha : a.rgb.every((value, i) => value === b.rgb[i]);
  const steps = stops.flatMap((stop, i) => {
    const next = stops[i + 1];
    return next && next.at - stop.at < HARD && !same(stop, next) ? [i] : [];
  });
  return [...steps, stops.length - 1].map((last, i) => {
    const first = i === 0 ? 0 : steps[i - 1] + 1;
    const from = i === 0 ? 0 : stops[first].at;
    const to = last === stops.length - 1 ? 1 : stops[last].at;
    const wide = to - from || 1;
    return { from, to, stops: stops.slice(first, last + 1).map((stop) => ({ ...stop, at: (stop.at - from) / wide })) };
  });
}

const circle = ([cx, cy, r]: readonly number[]): PathStep[] =>
  stepsOf({ tag: 'circle', attrs: { cx: `${cx}`, cy: `${cy}`, r: `${r}` } });

/** The part of an area that lies before a point of a line, and some more. */
function sideBefore([x, y]: readonly number[], [x1, y1, x2, y2]: readonly number[], seen: Bounds): PathStep[] {
  const length = Math.hypot(x2 - x1, y2 - y1);
  const [ux, uy] = [(x2 - x1) / length, (y2 - y1) / length];
  const far =
    Math.hypot(seen.maxX - seen.minX, seen.maxY - seen.minY) +
    Math.hypot(x - (seen.minX + seen.maxX) / 2, y - (seen.minY + seen.maxY) / 2);
  const at = (alongLine: number, across: number) => [
    x + (alongLine * ux - across * uy) * far,
    y + (alongLine * uy + across * ux) * far,
  ];
  return [
    { op: 'M', n: at(0, -1) },
    { op: 'L', n: at(0, 1) },
    { op: 'L', n: at(-1, 1) },
    { op: 'L', n: at(-1, -1) },
    { op: 'Z', n: [] },
  ];
}
