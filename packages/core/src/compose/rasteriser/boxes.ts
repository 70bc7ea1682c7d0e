import {
  type Bounds,
  IDENTITY,
  type Matrix,
  multiply,
  parseTransform,
  transformBounds,
  unite,
} from '../../geometry/matrix';
import { pathBox, stepsOf } from '../../geometry/path-steps';
import { SHAPES } from '../../profile/allow-list';
import type { TreeNode } from '../tree';

/** The box around what a node draws, without strokes, in the space that `matrix` leads to (SVG 2 §8.10). */
export function boxIn(node: TreeNode, matrix: Matrix = IDENTITY): Bounds | null {
  if (node.tag === 'g') {
    let box: Bounds | null = null;
    for (const child of node.children) {
      if (child.attrs.display === 'none') continue;
      const inner = child.attrs.transform
        ? multiply(matrix, parseTransform(child.attrs.transform) ?? IDENTITY)
        : matrix;
      box = unite(box, boxIn(child, inner));
    }
    return box;
  }
  const own = node.tag === 'image' ? pictureBox(node) : SHAPES.has(node.tag) ? pathBox(stepsOf(node)) : null;
  return own && transformBounds(matrix, own);
}

/** Composed pictures say their width and height. */
export function pictureBox({ attrs }: TreeNode): Bounds | null {
  const [x, y, width, height] = ['x', 'y', 'width', 'height'].map((name) => Number.parseFloat(attrs[name]) || 0);
  return width > 0 && height > 0 ? { minX: x, minY: y, maxX: x + width, maxY: y + height } : null;
}
