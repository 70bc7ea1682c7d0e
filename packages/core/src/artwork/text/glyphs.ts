import type { Font, Glyph } from 'fontkit';
import type { Bounds } from '../../geometry/matrix';
import { pathBounds, pathSegments } from '../../geometry/path-geometry';

/** A glyph taken apart: commands with their numbers and the box around them, in font units, y up. */
export type GlyphSteps = {
  steps: readonly { command: string; numbers: readonly number[] }[];
  box: Bounds | null;
};

const MOST_GLYPHS = 5000;
const outlines = new WeakMap<object, Map<number, GlyphSteps>>();

/** The outline of a glyph, taken apart once for each font: text uses few letters many times. */
export function stepsOf(font: Font, glyph: Glyph): GlyphSteps {
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

/** Numbers of a list that spaces or commas part. */
export const numbers = (text: string | undefined): number[] =>
  (text ?? '')
    .split(/[\s,]+/)
    .filter(Boolean)
    .map(Number)
    .filter(Number.isFinite);

/** A glyph that is wider by a factor. */
export const stretched = ({ steps, box }: GlyphSteps, by: number): GlyphSteps => ({
  steps: steps.map(({ command, numbers: n }) => ({
    command,
    numbers: n.map((value, i) => (i % 2 ? value : value * by)),
  })),
  box: box && { ...box, minX: box.minX * by, maxX: box.maxX * by },
});

/** To 4 decimals of a px. */
export const round = (value: number) => Math.round(value * 1e4) / 1e4;

/** Where a glyph stands: its origin in px, px for each font unit, and its turn around the origin in degrees. */
export type At = { x: number; y: number; scale: number; turn: number };

/** A glyph at its place as path data, rounded to 4 decimals. */
export function glyphPath({ steps }: GlyphSteps, { x, y, scale, turn }: At): string {
  const angle = (turn * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle) * scale, Math.sin(angle) * scale];
  let d = '';
  for (const { command, numbers: n } of steps) {
    d += command;
    for (let i = 0; i < n.length; i += 2) {
      const [left, up] = [n[i], n[i + 1]];
      d +=
        turn === 0
          ? `${i === 0 ? '' : ' '}${round(x + left * scale)} ${round(y - up * scale)}`
          : `${i === 0 ? '' : ' '}${round(x + left * cos + up * sin)} ${round(y + left * sin - up * cos)}`;
    }
  }
  return d;
}

/** The box around a glyph at its place, in px; of a turned one the box around all its turns. */
export function glyphBox({ box }: GlyphSteps, { x, y, scale, turn }: At): Bounds | null {
  if (!box) return null;
  if (turn === 0)
    return {
      minX: x + box.minX * scale,
      maxX: x + box.maxX * scale,
      minY: y - box.maxY * scale,
      maxY: y - box.minY * scale,
    };
  const reach =
    Math.hypot(Math.max(Math.abs(box.minX), Math.abs(box.maxX)), Math.max(Math.abs(box.minY), Math.abs(box.maxY))) *
    scale;
  return { minX: x - reach, maxX: x + reach, minY: y - reach, maxY: y + reach };
}
