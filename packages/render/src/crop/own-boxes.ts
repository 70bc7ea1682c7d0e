import { type Bounds, type Matrix, multiply, parseTransform, type TreeNode } from '@tolvik/core';
import { withRegion } from '../filtered';
import { boxMatrix } from '../pdf/gradients';
import { boxIn } from '../svg/boxes';
import { reachOf } from '../svg/filter-reach';
import { number } from '../svg/style';
import { IDENTITY } from '../svg/transforms';

/**
 * Effects that measure by the box of what they are on, as ones in user space: what lies in them may then be cut without
 * their moving.
 */

/** What a node's effect becomes when the pictures in the node are cut; `reach` tells how far (user units) it draws from beyond what shows. */
export type Fixed = { definition: TreeNode | null; reach: number };

const STAYS: Fixed = { definition: null, reach: 0 };

const printed = (matrix: Matrix) => `matrix(${matrix.map((value) => +value.toPrecision(12)).join(' ')})`;

function hasText(node: TreeNode): boolean {
  return node.tag === 'text' || node.tag === 'use' || node.tag === 'svg' || node.children.some(hasText);
}

/** The box of a node; null when it cannot be told from its shapes and pictures alone. */
const known = (node: TreeNode): Bounds | null => (hasText(node) ? null : boxIn(node));

/** A clip path that goes by a node's box; null when it cannot be freed of it. */
export function fixedClip(clip: TreeNode, node: TreeNode, id: string): Fixed | null {
  if (clip.attrs.clipPathUnits !== 'objectBoundingBox') return STAYS;
  const matrix = boxMatrix(known(node));
  const own = parseTransform(clip.attrs.transform ?? '');
  if (!matrix || !own) return null;
  const attrs = { ...clip.attrs, id, clipPathUnits: 'userSpaceOnUse', transform: printed(multiply(matrix, own)) };
  return { definition: { ...clip, attrs }, reach: 0 };
}

/** A mask that goes by a node's box, its region (-10 % to 120 %, unless it says another) and what it holds. */
export function fixedMask(mask: TreeNode, node: TreeNode, id: string): Fixed | null {
  const inBox = mask.attrs.maskUnits !== 'userSpaceOnUse';
  const holdsInBox = mask.attrs.maskContentUnits === 'objectBoundingBox';
  if (!inBox && !holdsInBox) return STAYS;
  const matrix = boxMatrix(known(node));
  if (!matrix) return null;
  const { maskContentUnits: _units, ...rest } = mask.attrs;
  const share = (name: string, otherwise: number) => {
    const text = mask.attrs[name];
    return text?.trim().endsWith('%') ? number(text, 0) / 100 : number(text, otherwise);
  };
  const region = {
    x: `${matrix[4] + matrix[0] * share('x', -0.1)}`,
    y: `${matrix[5] + matrix[3] * share('y', -0.1)}`,
    width: `${matrix[0] * share('width', 1.2)}`,
    height: `${matrix[3] * share('height', 1.2)}`,
  };
  const children = holdsInBox
    ? [{ tag: 'g', attrs: { transform: printed(matrix) }, children: mask.children }]
    : mask.children;
  const attrs = { ...rest, id, maskUnits: 'userSpaceOnUse', ...(inBox ? region : {}) };
  return { definition: { ...mask, attrs, children }, reach: 0 };
}

/** A filter that goes by a node's box. Null for one of which it is not known how far it reaches. */
export function fixedFilter(filter: TreeNode, node: TreeNode, id: string): Fixed | null {
  // How large a px of the filter's picture is depends on who draws it, so what goes by px may come from anywhere.
  const { units: reach, px } = reachOf(filter) ?? { units: 0, px: Number.POSITIVE_INFINITY };
  if (px > 1) return null;
  if (filter.attrs.filterUnits === 'userSpaceOnUse') return { definition: null, reach };
  if (!known(node)) return null;
  const definition = withRegion(filter, node, id);
  return definition && { definition, reach };
}

/** The matrix from the content of a pattern to the user space of what it paints, and the tile in the content's space. */
export function patternSpace(pattern: TreeNode, box: Bounds | null): { matrix: Matrix; tile: Bounds } | null {
  const { attrs } = pattern;
  const inBox = boxMatrix(box);
  const units = attrs.patternUnits === 'userSpaceOnUse' ? IDENTITY : inBox;
  const own = parseTransform(attrs.patternTransform ?? '');
  if (!units || !own || attrs.viewBox) return null;
  const length = (name: string) =>
    attrs[name]?.trim().endsWith('%') ? number(attrs[name], 0) / 100 : number(attrs[name], 0);
  const corner: Matrix = [1, 0, 0, 1, units[0] * length('x') + units[4], units[3] * length('y') + units[5]];
  const content: Matrix | null =
    attrs.patternContentUnits === 'objectBoundingBox' ? inBox && [inBox[0], 0, 0, inBox[3], 0, 0] : IDENTITY;
  const [width, height] = [units[0] * length('width'), units[3] * length('height')];
  if (!content || !(width > 0) || !(height > 0)) return null;
  return {
    matrix: multiply(multiply(own, corner), content),
    tile: { minX: 0, minY: 0, maxX: width / content[0], maxY: height / content[3] },
  };
}
