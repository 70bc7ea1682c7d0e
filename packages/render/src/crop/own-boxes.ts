import {
  type Bounds,
  boxAttributes,
  boxIn,
  filterReach,
  type Matrix,
  multiply,
  parseTransform,
  type TreeNode,
} from '@tolvik/core';
import { withRegion } from '../filtered';
import { boxMatrix, maskSpace } from '../svg/definition-spaces';

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
  const holdsInBox = mask.attrs.maskContentUnits === 'objectBoundingBox';
  if (mask.attrs.maskUnits === 'userSpaceOnUse' && !holdsInBox) return STAYS;
  const space = maskSpace(mask, known(node));
  if (!space) return null;
  const { maskContentUnits: _units, ...rest } = mask.attrs;
  const children = holdsInBox
    ? [{ tag: 'g', attrs: { transform: printed(space.content) }, children: mask.children }]
    : mask.children;
  const attrs = { ...rest, id, maskUnits: 'userSpaceOnUse', ...boxAttributes(space.region) };
  return { definition: { ...mask, attrs, children }, reach: 0 };
}

/** A filter that goes by a node's box. Null for one of which it is not known how far it reaches. */
export function fixedFilter(filter: TreeNode, node: TreeNode, id: string): Fixed | null {
  // How large a px of the filter's picture is depends on who draws it, so what goes by px may come from anywhere.
  const { units: reach, px } = filterReach(filter) ?? { units: 0, px: Number.POSITIVE_INFINITY };
  if (px > 1) return null;
  if (filter.attrs.filterUnits === 'userSpaceOnUse') return { definition: null, reach };
  if (!known(node)) return null;
  const definition = withRegion(filter, node, id);
  return definition && { definition, reach };
}
