import { type Bounds, boundsOf, parseViewBox, pathBox, referred, stepsOf, type TreeNode } from '@tolvik/core';

/** By how much (of the page's own units, for each 1,000) a clip may miss the page's edge and still be taken for it. */
const ROUNDING = 1e-6;

/**
 * A page without clips that cut nothing off of it: rectangles around the whole page, on what is moved by nothing. The
 * page's own edge cuts there (SVG 2 §3.5.3), so the file is lighter and looks the same. The tree itself is answered
 * when there are none.
 */
export function withoutPageClips(root: TreeNode): TreeNode {
  const page = parseViewBox(root.attrs.viewBox);
  if (!page) return root;
  const around = clipsAround(root, boundsOf(page));
  if (around.size === 0) return root;
  let dropped = 0;
  const bare = (node: TreeNode): TreeNode => {
    const { 'clip-path': clip, ...attrs } = node.attrs;
    const needless = clip !== undefined && around.has(referred(clip) ?? '');
    if (needless) dropped++;
    // Whatever is moved, or has effects of its own, is clipped elsewhere than on the page.
    const plain = node.tag === 'g' && !attrs.transform && !attrs.filter && !attrs.mask && (needless || !clip);
    return {
      ...node,
      attrs: needless ? attrs : node.attrs,
      children: plain ? node.children.map(child) : node.children,
    };
  };
  const child = (node: TreeNode): TreeNode => (node.tag === 'defs' || node.attrs.transform ? node : bare(node));
  const made = { ...root, children: root.children.map(child) };
  if (dropped === 0) return root;
  const used = new Set<string>();
  const note = (node: TreeNode): void => {
    const id = referred(node.attrs['clip-path']);
    if (id !== undefined) used.add(id);
    node.children.forEach(note);
  };
  note(made);
  const without = (node: TreeNode): TreeNode => ({
    ...node,
    children: node.children
      .filter(({ tag, attrs }) => tag !== 'clipPath' || !around.has(attrs.id) || used.has(attrs.id))
      .map((each) => (each.tag === 'defs' ? without(each) : each)),
  });
  const { children, ...rest } = without(made);
  return { ...rest, children: children.filter(({ tag, children: inner }) => tag !== 'defs' || inner.length > 0) };
}

/** Clip paths that are a rectangle around a page. */
function clipsAround(root: TreeNode, page: Bounds): ReadonlySet<string> {
  const found = new Set<string>();
  const slack = Math.max(page.maxX - page.minX, page.maxY - page.minY) * ROUNDING;
  const visit = (node: TreeNode): void => {
    if (node.tag === 'defs') node.children.forEach(visit);
    if (node.tag !== 'clipPath' || node.children.length !== 1) return;
    const { clipPathUnits, transform, 'clip-path': further } = node.attrs;
    const [shape] = node.children;
    if (clipPathUnits === 'objectBoundingBox' || transform || further) return;
    if (shape.attrs.transform || shape.attrs['clip-path'] || !isRectangle(shape)) return;
    const box = pathBox(stepsOf(shape));
    if (
      box &&
      box.minX <= page.minX + slack &&
      box.minY <= page.minY + slack &&
      box.maxX >= page.maxX - slack &&
      box.maxY >= page.maxY - slack
    )
      found.add(node.attrs.id);
  };
  root.children.forEach(visit);
  return found;
}

/** Whether a shape covers all of its box. */
function isRectangle(shape: TreeNode): boolean {
  if (shape.tag === 'rect') return !shape.attrs.rx && !shape.attrs.ry;
  if (shape.tag !== 'path') return false;
  const steps = stepsOf(shape).filter(({ op }) => op !== 'Z');
  const points = steps.map(({ n }) => n);
  if (points.length === 5 && points[4][0] === points[0][0] && points[4][1] === points[0][1]) points.pop();
  if (points.length !== 4 || steps[0].op !== 'M' || steps.slice(1).some(({ op }) => op !== 'L')) return false;
  const [a, b, c, d] = points;
  const upright = a[0] === b[0] && b[1] === c[1] && c[0] === d[0] && d[1] === a[1];
  const lying = a[1] === b[1] && b[0] === c[0] && c[1] === d[1] && d[0] === a[0];
  return upright || lying;
}
