import { type Bounds, type Matrix, multiply, parseColour, parseTransform, type TreeNode } from '@tolvik/core';
import { boxMatrix } from '../svg/definition-spaces';
import { number, share } from '../svg/style';

/** A stop of a gradient: place 0–1, colour 0–1 each, alpha 0–1. */
export type Stop = { at: number; rgb: readonly [number, number, number]; alpha: number };

export type Gradient = {
  stops: readonly Stop[] /** Gradient space to the user space of what it paints. */;
  matrix: Matrix;
  spread: string;
  line: readonly number[];
  radial: boolean;
};

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

/** The one alpha that all stops have; null when they differ. */
export const commonAlpha = ({ stops }: Gradient): number | null =>
  stops.every(({ alpha }) => alpha === stops[0].alpha) ? stops[0].alpha : null;
