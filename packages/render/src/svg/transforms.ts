import { type Matrix, multiply, parseTransform, printTransform, shapePath, type TreeNode } from '@tolvik/core';
import svgpath from 'svgpath';
import { INITIAL, inherit, number, type Style } from './style';

export const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0];

/** The rasteriser takes a scale below this for nothing, and loses digits far above one. */
const LEAST = 0.01;
const MOST = 10_000;

const scaleOf = ([a, b, c, d]: Matrix): number => Math.sqrt(Math.abs(a * d - b * c));
const isExtreme = (matrix: Matrix): boolean => scaleOf(matrix) < LEAST || scaleOf(matrix) > MOST;

/** Whether anything in a tree is drawn through a scale that the rasteriser cannot hold. */
export function hasExtremeScale(node: TreeNode, outer: Matrix): boolean {
  const own = node.attrs.transform ? parseTransform(node.attrs.transform) : undefined;
  const matrix = own ? multiply(outer, own) : outer;
  if (isExtreme(matrix) && scaleOf(matrix) > 0) return true;
  return node.tag !== 'defs' && node.children.some((child) => hasExtremeScale(child, matrix));
}

const LENGTHS = ['stroke-width', 'stroke-dashoffset'];
const GEOMETRY = ['x', 'y', 'width', 'height', 'cx', 'cy', 'r', 'rx', 'ry', 'x1', 'y1', 'x2', 'y2', 'points'];

/**
 * The tree with its transforms in its coordinates, as far as plain groups and shapes go; what clips, masks, filters or
 * is painted with more than a colour keeps its transform as one matrix.
 */
export function flattened(node: TreeNode, outer: Matrix, style: Style = INITIAL): TreeNode {
  const own = node.attrs.transform ? parseTransform(node.attrs.transform) : undefined;
  const matrix = own ? multiply(outer, own) : outer;
  const { transform: _, ...attrs } = node.attrs;
  const settled = inherit(style, attrs);
  if (node.tag === 'defs') return node;
  const holds = ['clip-path', 'mask', 'filter'].some((name) => name in attrs);
  if (node.tag === 'g' && !holds)
    return { ...node, attrs, children: node.children.map((child) => flattened(child, matrix, settled)) };
  const d = holds || /url\(/.test(`${settled.fill}${settled.stroke}`) ? '' : shapePath(node.tag, attrs);
  if (!d) return { ...node, attrs: { ...attrs, transform: printTransform(matrix) || 'translate(0)' } };
  const scale = scaleOf(matrix);
  for (const name of GEOMETRY) delete attrs[name];
  for (const name of LENGTHS) attrs[name] = String(number(settled[name], 0) * scale);
  if (settled['stroke-dasharray'] !== 'none')
    attrs['stroke-dasharray'] = settled['stroke-dasharray']
      .split(/[\s,]+/)
      .map((dash) => String(number(dash, 0) * scale))
      .join(' ');
  return {
    ...node,
    tag: 'path',
    attrs: {
      ...attrs,
      d: svgpath(d)
        .matrix([...matrix])
        .toString(),
    },
  };
}
