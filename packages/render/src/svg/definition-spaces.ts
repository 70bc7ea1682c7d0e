import {
  type Bounds,
  IDENTITY,
  invert,
  type Matrix,
  multiply,
  parseTransform,
  parseViewBox,
  type TreeNode,
  transformBounds,
  viewBoxTransform,
} from '@tolvik/core';
import { number } from './style';

/** Where definitions that may measure by the box of what they are used for lie in its user space. */

/** `objectBoundingBox` units as a matrix; null where the box has no extent, so that nothing is painted (SVG 2 §8.13). */
export const boxMatrix = (box: Bounds | null): Matrix | null =>
  box && box.maxX > box.minX && box.maxY > box.minY
    ? [box.maxX - box.minX, 0, 0, box.maxY - box.minY, box.minX, box.minY]
    : null;

/** Composed SVG has lengths in user units; percentages are left only where they are of the box. */
const lengthOf = (text: string | undefined, otherwise: number): number =>
  text?.trim().endsWith('%') ? number(text, 0) / 100 : number(text, otherwise);

/** The region of a mask and what its content is moved by (CSS Masking 1 §5.2); null where the box that it goes by has no extent. */
export function maskSpace({ attrs }: TreeNode, box: Bounds | null): { region: Bounds; content: Matrix } | null {
  const inBox = boxMatrix(box);
  const [x, y, width, height] = [
    lengthOf(attrs.x, -0.1),
    lengthOf(attrs.y, -0.1),
    lengthOf(attrs.width, 1.2),
    lengthOf(attrs.height, 1.2),
  ];
  const said: Bounds = { minX: x, minY: y, maxX: x + width, maxY: y + height };
  const region = attrs.maskUnits === 'userSpaceOnUse' ? said : inBox && transformBounds(inBox, said);
  const content = attrs.maskContentUnits === 'objectBoundingBox' ? inBox : IDENTITY;
  return region && content && { region, content };
}

/**
 * The first tile of a pattern (SVG 2 §14.3): its size, the matrix from its corner to the user space of what it paints,
 * and the one from its content to its corner. Null where it draws nothing.
 */
export function patternSpace(
  { attrs }: TreeNode,
  box: Bounds | null,
): { tile: Matrix; width: number; height: number; content: Matrix } | null {
  const inBox = boxMatrix(box);
  const units = attrs.patternUnits === 'userSpaceOnUse' ? IDENTITY : inBox;
  if (!units) return null;
  const [x, y] = [units[0] * lengthOf(attrs.x, 0) + units[4], units[3] * lengthOf(attrs.y, 0) + units[5]];
  const [width, height] = [units[0] * lengthOf(attrs.width, 0), units[3] * lengthOf(attrs.height, 0)];
  if (!(width > 0) || !(height > 0)) return null;
  const view = parseViewBox(attrs.viewBox);
  const content: Matrix | null = view
    ? viewBoxTransform(view, width, height, attrs.preserveAspectRatio)
    : attrs.patternContentUnits === 'objectBoundingBox'
      ? inBox && [inBox[0], 0, 0, inBox[3], 0, 0]
      : IDENTITY;
  if (!content) return null;
  const tile = multiply(parseTransform(attrs.patternTransform ?? '') ?? IDENTITY, [1, 0, 0, 1, x, y]);
  return { tile, width, height, content };
}

/** The box of a tile in the space of its content. */
export const tileBox = ({ width, height, content }: { width: number; height: number; content: Matrix }): Bounds =>
  transformBounds(invert(content), { minX: 0, minY: 0, maxX: width, maxY: height });
