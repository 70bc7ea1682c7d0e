import {
  type Bounds,
  boundsOf,
  DRAWN,
  grow,
  intersect,
  invert,
  largestScale,
  type Matrix,
  multiply,
  parseTransform,
  parseViewBox,
  pathBox,
  referred,
  SHAPES,
  stepsOf,
  type TreeNode,
  transformBounds,
  unite,
} from '@tolvik/core';
import { patternSpace, tileBox } from '../svg/definition-spaces';
import { number } from '../svg/style';
import { IDENTITY } from '../svg/transforms';
import { type Fixed, fixedClip, fixedFilter, fixedMask } from './own-boxes';

/** An effect on a node that has to stand in user space before a picture in the node is cut. */
export type Fix = { node: TreeNode; attribute: string; definition: TreeNode };
/** A picture of which a part may show: that part in the picture's user space, and what has to be fixed before it is cut. */
export type ShownPicture = { node: TreeNode; shown: Bounds; fixes: readonly Fix[] };

/** By how much of a tile (0 to 1) what a pattern paints may lie beyond it and still be taken for that one tile. */
const ROUNDING = 1e-4;

const EFFECTS: [string, (definition: TreeNode, node: TreeNode, id: string) => Fixed | null][] = [
  ['clip-path', fixedClip],
  ['mask', fixedMask],
  ['filter', fixedFilter],
];

type PaintedBy = { area: Bounds | null; uses: number };

/**
 * Every picture of a page of which it is known what shows: those that are drawn, through groups, clips, masks and
 * filters that draw from no further than is known; those in masks of one thing; and those in patterns of which one tile alone is painted.
 */
export function shownPictures(
  root: TreeNode,
  byId: ReadonlyMap<string, TreeNode>,
  page: { widthPx: number; heightPx: number },
): ShownPicture[] {
  const found: ShownPicture[] = [];
  const painted = new Map<string, PaintedBy>();
  const inMasks: [TreeNode, Bounds][] = [];
  let made = 0;

  const visit = (node: TreeNode, outer: Bounds, above: readonly Fix[]) => {
    if (!DRAWN.has(node.tag)) return;
    const own = node.attrs.transform ? parseTransform(node.attrs.transform) : IDENTITY;
    let shown = own && seenThrough(own, outer);
    if (!shown) return;
    const fixes = [...above];
    for (const [attribute, fixed] of EFFECTS) {
      const said = node.attrs[attribute];
      if (!said || said === 'none') continue;
      const definition = byId.get(referred(said) ?? '');
      const how = definition && fixed(definition, node, `cut-${made++}`);
      if (!how) return;
      if (how.definition) fixes.push({ node, attribute, definition: how.definition });
      shown = grow(shown, how.reach);
      if (attribute === 'mask' && definition.attrs.maskContentUnits !== 'objectBoundingBox')
        inMasks.push([definition, shown]);
    }
    if (node.tag === 'image') found.push({ node, shown, fixes });
    if (SHAPES.has(node.tag)) notePatterns(node, shown);
    for (const child of node.children) visit(child, shown, fixes);
  };

  const notePatterns = (node: TreeNode, shown: Bounds) => {
    for (const paint of ['fill', 'stroke']) {
      const id = referred(node.attrs[paint]);
      const pattern = id === undefined ? undefined : byId.get(id);
      if (id === undefined || pattern?.tag !== 'pattern') continue;
      const box = pathBox(stepsOf(node));
      const space = patternSpace(pattern, box);
      const wide = paint === 'stroke' ? 2 * number(node.attrs['stroke-width'], 1) : 0;
      const reach = box && intersect(grow(box, wide), shown);
      const known = painted.get(id) ?? { area: null, uses: 0 };
      if (space && !reach) painted.set(id, { ...known, uses: known.uses + 1 });
      if (!space || !reach) continue;
      const area = seenThrough(multiply(space.tile, space.content), reach);
      if (area && isWithin(area, tileBox(space)))
        painted.set(id, { area: unite(known.area, area), uses: known.uses + 1 });
    }
  };

  const visitAll = ({ children }: TreeNode, shown: Bounds) => {
    for (const child of children) visit(child, shown, []);
  };

  const box = parseViewBox(root.attrs.viewBox) ?? { x: 0, y: 0, width: page.widthPx, height: page.heightPx };
  visitAll(root, boundsOf(box));
  for (const [mask, shown] of inMasks) if (references(root, mask.attrs.id ?? '') === 1) visitAll(mask, shown);
  // What patterns paint is known when all that refers to them was met. Patterns in patterns are met one by one.
  const done = new Set<string>();
  for (let more = true; more; ) {
    more = false;
    for (const [id, { area, uses }] of painted) {
      const pattern = byId.get(id);
      if (!pattern || !area || done.has(id) || uses < references(root, id)) continue;
      done.add(id);
      more = true;
      visitAll(pattern, area);
    }
  }
  return found;
}

/** What of an area lies in the space that a matrix leads from; null for one that cannot be turned back. */
function seenThrough(matrix: Matrix, area: Bounds): Bounds | null {
  const back = invert(matrix);
  return largestScale(back) < Number.POSITIVE_INFINITY ? transformBounds(back, area) : null;
}

function isWithin(area: Bounds, tile: Bounds): boolean {
  const [x, y] = [(tile.maxX - tile.minX) * ROUNDING, (tile.maxY - tile.minY) * ROUNDING];
  return (
    area.minX >= tile.minX - x && area.minY >= tile.minY - y && area.maxX <= tile.maxX + x && area.maxY <= tile.maxY + y
  );
}

/** How often a tree refers to a definition. */
function references(node: TreeNode, id: string): number {
  let count = 0;
  for (const value of Object.values(node.attrs)) {
    if (value.trim() === `#${id}`) count++;
    for (const [, name] of value.matchAll(/url\(\s*['"]?#([^'")\s]+)/g)) if (name === id) count++;
  }
  for (const child of node.children) count += references(child, id);
  return count;
}
