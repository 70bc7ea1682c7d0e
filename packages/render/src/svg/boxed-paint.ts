import {
  type Bounds,
  boxIn,
  type Matrix,
  multiply,
  parseTransform,
  printTransform,
  referred,
  type TreeNode,
} from '@tolvik/core';
import type { Style } from './style';
import { IDENTITY } from './transforms';

const CURVED = /[csqta]/i;

/** Whether a node draws a curve, around whose handles the rasteriser would measure. */
const hasCurve = (node: TreeNode): boolean =>
  node.tag === 'path' ? CURVED.test(node.attrs.d ?? '') : node.children.some(hasCurve);

/** Elements that definitions put in the place of others may have, all told. */
const MOST_ADDED = 20_000;

/** Definitions in the place of others, and room for more. */
export class Added {
  readonly nodes: TreeNode[] = [];
  private left = MOST_ADDED;

  takes(definition: TreeNode): boolean {
    this.left -= sizeOf(definition);
    return this.left >= 0;
  }
}

const sizeOf = (node: TreeNode): number => node.children.reduce((sum, child) => sum + sizeOf(child), 1);

/**
 * A node whose gradients, patterns, clips and masks measure in its box, with ones that measure in user space in their
 * place: the box as SVG means it is tight around curves, and the rasteriser takes the one around their handles.
 * Null where nothing needs to change.
 */
export function withTightBox(
  node: TreeNode,
  style: Style,
  byId: ReadonlyMap<string, TreeNode>,
  added: Added,
): TreeNode | null {
  const isShape = node.tag === 'path';
  const names = isShape ? ['fill', 'stroke', 'clip-path', 'mask'] : ['clip-path', 'mask'];
  let box: Bounds | null | undefined;
  let attrs: Record<string, string> | null = null;
  for (const name of names) {
    const definition = byId.get(referred(name === 'fill' || name === 'stroke' ? style[name] : node.attrs[name]) ?? '');
    if (!definition || !measuresInBox(definition)) continue;
    if (box === undefined) box = hasCurve(node) ? boxIn(node) : null;
    if (!box || !(box.maxX > box.minX) || !(box.maxY > box.minY)) return null;
    // One definition may be large and used often; beyond a point the rasteriser's own boxes must do.
    if (!added.takes(definition)) return null;
    const id = `b-${added.nodes.length}`;
    added.nodes.push(inUserSpace(definition, box, id));
    attrs = { ...(attrs ?? node.attrs), [name]: `url(#${id})` };
  }
  return attrs && { ...node, attrs };
}

function measuresInBox({ tag, attrs }: TreeNode): boolean {
  if (/Gradient$/.test(tag)) return attrs.gradientUnits !== 'userSpaceOnUse';
  if (tag === 'pattern')
    return attrs.patternUnits !== 'userSpaceOnUse' || attrs.patternContentUnits === 'objectBoundingBox';
  if (tag === 'mask') return attrs.maskUnits !== 'userSpaceOnUse' || attrs.maskContentUnits === 'objectBoundingBox';
  return tag === 'clipPath' && attrs.clipPathUnits === 'objectBoundingBox';
}

/** What measures by when it says nothing (SVG 2 §14.2, §14.3, CSS Masking 1 §5.3), as numbers: in user space a percentage would be of the page. */
const AT_FIRST: Record<string, Record<string, string>> = {
  linearGradient: { x1: '0', y1: '0', x2: '1', y2: '0' },
  radialGradient: { cx: '.5', cy: '.5', r: '.5' },
  mask: { x: '-.1', y: '-.1', width: '1.2', height: '1.2' },
  pattern: { x: '0', y: '0', width: '0', height: '0' },
};

function inUserSpace(definition: TreeNode, { minX, minY, maxX, maxY }: Bounds, id: string): TreeNode {
  const { tag, children } = definition;
  const attrs: Record<string, string> = { ...AT_FIRST[tag], ...definition.attrs, id };
  const [wide, high] = [maxX - minX, maxY - minY];
  const box: Matrix = [wide, 0, 0, high, minX, minY];
  for (const [name, value] of Object.entries(attrs))
    if (/^(?:[xy][12]?|c[xy]|f[xyr]|r|width|height)$/.test(name) && value.endsWith('%'))
      attrs[name] = String(Number.parseFloat(value) / 100);
  const within = (matrix: Matrix): TreeNode[] => [
    { tag: 'g', attrs: { transform: printTransform(matrix) || 'translate(0)' }, children },
  ];
  const region = () => {
    for (const [name, of, from] of [
      ['x', wide, minX],
      ['y', high, minY],
      ['width', wide, 0],
      ['height', high, 0],
    ] as const)
      attrs[name] = String(from + Number.parseFloat(attrs[name]) * of);
  };
  const turned = (name: string) => {
    attrs[name] = printTransform(multiply(box, parseTransform(attrs[name] ?? '') ?? IDENTITY)) || 'translate(0)';
  };
  if (tag === 'clipPath') {
    turned('transform');
    return { tag, attrs: { ...attrs, clipPathUnits: 'userSpaceOnUse' }, children };
  }
  if (tag === 'mask') {
    if (attrs.maskUnits !== 'userSpaceOnUse') region();
    const inBox = attrs.maskContentUnits === 'objectBoundingBox';
    return {
      tag,
      attrs: { ...attrs, maskUnits: 'userSpaceOnUse', maskContentUnits: 'userSpaceOnUse' },
      children: inBox ? within(box) : children,
    };
  }
  if (tag === 'pattern') {
    if (attrs.patternUnits !== 'userSpaceOnUse') region();
    const inBox = attrs.patternContentUnits === 'objectBoundingBox' && attrs.viewBox === undefined;
    return {
      tag,
      attrs: { ...attrs, patternUnits: 'userSpaceOnUse', patternContentUnits: 'userSpaceOnUse' },
      children: inBox ? within([wide, 0, 0, high, 0, 0]) : children,
    };
  }
  turned('gradientTransform');
  return { tag, attrs: { ...attrs, gradientUnits: 'userSpaceOnUse' }, children };
}
