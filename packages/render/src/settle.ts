import {
  type Bounds,
  invert,
  largestScale,
  type Matrix,
  multiply,
  parseTransform,
  parseViewBox,
  printTree,
  readTree,
  referred,
  type TreeNode,
  transformBounds,
  viewBoxTransform,
} from '@tolvik/core';
import { asPicture, drawnAlone, withRegion } from './filtered';
import { Added, withTightBox } from './svg/boxed-paint';
import { INITIAL, inherit, type Style } from './svg/style';
import { flattened, hasExtremeScale, IDENTITY } from './svg/transforms';

/** What may need settling; all else, which is nearly all, goes to the rasteriser as it is. */
const MAY_NEED =
  /<filter|<(?:linear|radial)Gradient|<pattern|<mask|objectBoundingBox|scale\(|matrix\(|image-rendering|viewBox="[^"]*(?:e|\.0|\d{5})/;

/** Definitions that may measure in the box of what they are used for. */
const MEASURES_IN_BOX = /<(?:linear|radial)Gradient|<pattern|<mask|objectBoundingBox/;

/**
 * A composed SVG in terms that the rasteriser draws as browsers do: regions of filters are told in user space, what is
 * filtered under a turn becomes a picture of its own, scales too small or too large for it go into the coordinates.
 */
export function settled(svg: string, width: number, height: number): string {
  if (!MAY_NEED.test(svg)) return svg;
  const { root, byId } = readTree(svg);
  const box = parseViewBox(root.attrs.viewBox) ?? { x: 0, y: 0, width, height };
  const toPage = viewBoxTransform(box, width, height, root.attrs.preserveAspectRatio);
  let made = root;
  if (MEASURES_IN_BOX.test(svg)) made = withTightBoxes(made, byId);
  if (svg.includes('<filter')) made = withSettledFilters(made, byId, toPage, box);
  if (svg.includes('image-rendering'))
    made = mapped(made, ({ attrs, ...node }) =>
      /^(pixelated|crisp-edges)$/.test(attrs['image-rendering'] ?? '')
        ? { ...node, attrs: { ...attrs, 'image-rendering': 'optimizeSpeed' } }
        : null,
    );
  if (hasExtremeScale({ ...made, attrs: {} }, toPage)) {
    const attrs = { ...made.attrs, viewBox: `0 0 ${width} ${height}` };
    made = {
      ...made,
      attrs,
      children: made.children.map((child) => flattened(child, toPage, inherit(INITIAL, made.attrs))),
    };
  }
  return made === root
    ? svg
    : printTree({ ...made, attrs: { 'xmlns:xlink': 'http://www.w3.org/1999/xlink', ...made.attrs } });
}

/** A tree with some of its nodes changed; `change` answers null for those that stay. */
function mapped(node: TreeNode, change: (node: TreeNode) => TreeNode | null): TreeNode {
  const changed = change(node) ?? node;
  const children = changed.children.map((child) => mapped(child, change));
  return children.some((child, i) => child !== changed.children[i]) ? { ...changed, children } : changed;
}

function withTightBoxes(root: TreeNode, byId: ReadonlyMap<string, TreeNode>): TreeNode {
  const added = new Added();
  const visit = (node: TreeNode, outer: Style): TreeNode => {
    if (node.tag === 'defs') return node;
    const style = inherit(outer, node.attrs);
    const made = withTightBox(node, style, byId, added) ?? node;
    const children = made.children.map((child) => visit(child, style));
    return children.some((child, i) => child !== made.children[i]) ? { ...made, children } : made;
  };
  const made = visit(root, INITIAL);
  return added.nodes.length > 0
    ? { ...made, children: [{ tag: 'defs', attrs: {}, children: added.nodes }, ...made.children] }
    : root;
}

function withSettledFilters(
  root: TreeNode,
  byId: ReadonlyMap<string, TreeNode>,
  toPage: Matrix,
  view: { x: number; y: number; width: number; height: number },
): TreeNode {
  const added = new Added();
  const visit = (node: TreeNode, outer: Matrix, seen: Bounds, style: Style): TreeNode => {
    if (node.tag === 'defs') return node;
    const own = node.attrs.transform ? (parseTransform(node.attrs.transform) ?? IDENTITY) : IDENTITY;
    const matrix = multiply(outer, own);
    const inner = own === IDENTITY ? seen : transformBounds(invert(own), seen);
    const settledStyle = inherit(style, node.attrs);
    const filter = byId.get(referred(node.attrs.filter) ?? '');
    let made = node;
    if (filter) {
      const inUserSpace = added.takes(filter) ? withRegion(filter, node, `f-${added.nodes.length}`) : null;
      if (inUserSpace) {
        added.nodes.push(inUserSpace);
        made = { ...node, attrs: { ...node.attrs, filter: `url(#${inUserSpace.attrs.id})` } };
      }
      const [a, b, c, d] = matrix;
      const turned =
        Math.abs(b) + Math.abs(c) > 1e-6 * (Math.abs(a) + Math.abs(d)) ||
        Math.abs(Math.abs(a) - Math.abs(d)) > 1e-6 * Math.abs(a);
      if (turned) {
        const withDefs = { ...root, children: [...root.children, { tag: 'defs', attrs: {}, children: added.nodes }] };
        const alone = drawnAlone(withDefs, made, settledStyle, inner, largestScale(matrix));
        return alone ? asPicture(made, alone) : { tag: 'g', attrs: {}, children: [] };
      }
    }
    const children = made.children.map((child) => visit(child, matrix, inner, settledStyle));
    return { ...made, children };
  };
  const seen = { minX: view.x, minY: view.y, maxX: view.x + view.width, maxY: view.y + view.height };
  const children = root.children.map((child) => visit(child, toPage, seen, inherit(INITIAL, root.attrs)));
  return {
    ...root,
    children: added.nodes.length > 0 ? [{ tag: 'defs', attrs: {}, children: added.nodes }, ...children] : children,
  };
}
