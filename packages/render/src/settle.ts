import {
  type Bounds,
  boundsOf,
  DRAWN,
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
import { asPicture, drawnAlone, edgeFor, regionOf, seenBy, withRegion } from './filtered';
import { Added, withTightBox } from './svg/boxed-paint';
import { inRasteriserTerms } from './svg/filter-terms';
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
 * `edgePx` is by how much more is to be drawn on every side, and cut off.
 */
export function settled(svg: string, width: number, height: number): { svg: string; edgePx: number } {
  if (!MAY_NEED.test(svg)) return { svg, edgePx: 0 };
  const { root, byId } = readTree(svg);
  const box = parseViewBox(root.attrs.viewBox) ?? { x: 0, y: 0, width, height };
  const toPage = viewBoxTransform(box, width, height, root.attrs.preserveAspectRatio);
  let made = root;
  const said = svg.includes('<filter') && inRasteriserTerms(byId);
  let edgePx = 0;
  if (MEASURES_IN_BOX.test(svg)) made = withTightBoxes(made, byId);
  if (svg.includes('<filter'))
    ({ made, edgePx } = withSettledFilters(made, byId, toPage, boundsOf(box), { width, height }));
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
  if (edgePx > 0) made = withEdges(made, width, height, edgePx);
  return {
    svg:
      made === root && !said
        ? svg
        : printTree({ ...made, attrs: { 'xmlns:xlink': 'http://www.w3.org/1999/xlink', ...made.attrs } }),
    edgePx,
  };
}

/** A page with so many px more on every side. */
function withEdges(root: TreeNode, width: number, height: number, px: number): TreeNode {
  const [wide, high] = [width + 2 * px, height + 2 * px];
  const box = parseViewBox(root.attrs.viewBox) ?? { x: 0, y: 0, width, height };
  const toPage = viewBoxTransform(box, width, height, root.attrs.preserveAspectRatio);
  const transform = `matrix(${toPage.map((value) => +value.toPrecision(12)).join(' ')})`;
  const { preserveAspectRatio: _, ...attrs } = root.attrs;
  const inner = root.children.filter(({ tag }) => DRAWN.has(tag));
  return {
    ...root,
    attrs: { ...attrs, width: `${wide}`, height: `${high}`, viewBox: `${-px} ${-px} ${wide} ${high}` },
    children: [
      ...root.children.filter(({ tag }) => !DRAWN.has(tag)),
      { tag: 'g', attrs: { transform }, children: inner },
    ],
  };
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
  page: Bounds,
  size: { width: number; height: number },
): { made: TreeNode; edgePx: number } {
  const added = new Added();
  let edgePx = 0;
  const visit = (node: TreeNode, outer: Matrix, seen: Bounds, style: Style): TreeNode => {
    if (node.tag === 'defs') return node;
    const own = node.attrs.transform ? (parseTransform(node.attrs.transform) ?? IDENTITY) : IDENTITY;
    const matrix = multiply(outer, own);
    const inner = own === IDENTITY ? seen : transformBounds(invert(own), seen);
    const settledStyle = inherit(style, node.attrs);
    const filter = byId.get(referred(node.attrs.filter) ?? '');
    let made = node;
    let shown = inner;
    if (filter) {
      const reach = seenBy(filter, inner, largestScale(matrix));
      shown = reach ?? inner;
      const inUserSpace = added.takes(filter) ? withRegion(filter, node, `f-${added.nodes.length}`, reach) : null;
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
      const region = regionOf(inUserSpace ?? filter);
      if (region) {
        const onPage = transformBounds(matrix, region);
        const whole = { minX: 0, minY: 0, maxX: size.width, maxY: size.height };
        edgePx = Math.max(edgePx, edgeFor(onPage, whole, 1, size.width, size.height));
      }
    }
    const children = made.children.map((child) => visit(child, matrix, shown, settledStyle));
    return { ...made, children };
  };
  const children = root.children.map((child) => visit(child, toPage, page, inherit(INITIAL, root.attrs)));
  const made = {
    ...root,
    children: added.nodes.length > 0 ? [{ tag: 'defs', attrs: {}, children: added.nodes }, ...children] : children,
  };
  return { made, edgePx };
}
