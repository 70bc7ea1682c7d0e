import {
  type Bounds,
  boundsOf,
  grow,
  IDENTITY,
  intersect,
  invert,
  largestScale,
  type Matrix,
  multiply,
  parseTransform,
  transformBounds,
} from '../../geometry/matrix';
import { parseViewBox, viewBoxTransform } from '../../geometry/viewport';
import { DRAWN } from '../../profile/allow-list';
import { referred } from '../../profile/references';
import { printTree, readTree, type TreeNode } from '../tree';
import { boxIn } from './boxes';
import { filterReach } from './filter-reach';

/** What makes the rasteriser draw something by itself first, as a layer. */
const LAYERED = ['opacity', 'filter', 'mask', 'clip-path', 'style'] as const;
const MAY_BE_LAYERED = /\s(?:opacity|filter|mask|clip-path|style)="/;

/**
 * A composed SVG whose layers all lie about the page: the rasteriser ends its process over a layer that begins more than
 * twice the page's size away from the page, or from the layer that it is in. What lies off the page is no layer, and
 * layers around others are cut at some distance from the page, by a filter that changes nothing else. What is seen stays
 * as it is, and so does every box that something else measures in.
 */
export function withoutLayersOffPage(svg: string): string {
  if (!MAY_BE_LAYERED.test(svg)) return svg;
  const { root, byId } = readTree(svg);
  const [width, height] = [Number(root.attrs.width), Number(root.attrs.height)];
  const box = parseViewBox(root.attrs.viewBox) ?? { x: 0, y: 0, width, height };
  const toPage = viewBoxTransform(box, width, height, root.attrs.preserveAspectRatio);
  const flat = new Flattener(byId);
  const around = { minX: -width / 2, minY: -height / 2, maxX: 1.5 * width, maxY: 1.5 * height };
  flat.all(root.children, [toPage], around);
  if (!flat.changed) return svg;
  return printTree({ ...root, children: [{ tag: 'defs', attrs: {}, children: flat.cuts }, ...root.children] });
}

class Flattener {
  changed = false;
  /** Filters that cut layers. */
  readonly cuts: TreeNode[] = [];
  /** Of masks, where what they are used for stands. */
  private readonly uses = new Map<TreeNode, Matrix[]>();

  constructor(private readonly byId: ReadonlyMap<string, TreeNode>) {}

  /** Takes what makes layers from all nodes that lie outside an area at each of their places. */
  all(nodes: readonly TreeNode[], places: readonly Matrix[], area: Bounds, stroke: Stroke = NO_STROKE): void {
    for (const node of nodes) if (DRAWN.has(node.tag)) this.node(node, places, area, stroke);
    for (const [mask, at] of this.uses) {
      this.uses.delete(mask);
      if (mask.attrs.maskContentUnits !== 'objectBoundingBox') this.all(mask.children, at, area);
    }
    for (const node of nodes) if (node.tag === 'defs') for (const child of node.children) this.pattern(child);
  }

  private node(node: TreeNode, places: readonly Matrix[], area: Bounds, outer: Stroke): void {
    const { attrs } = node;
    const stroke = inherit(outer, attrs);
    const own = attrs.transform ? (parseTransform(attrs.transform) ?? IDENTITY) : IDENTITY;
    const inner = places.map((place) => multiply(place, own));
    if (LAYERED.some((name) => name in attrs)) {
      const painted = this.painted(node, stroke);
      if (painted && inner.every((place) => !intersect(transformBounds(place, painted), area))) {
        for (const name of LAYERED) delete attrs[name];
        this.changed = true;
      } else if (painted && (node.children.length > 0 || attrs.mask) && !attrs.filter)
        this.cut(node, inner, painted, area);
    }
    const mask = this.byId.get(referred(attrs.mask) ?? '');
    if (mask) this.uses.set(mask, [...(this.uses.get(mask) ?? []), ...inner]);
    const filter = attrs.filter?.startsWith('url(#cut-') ? undefined : this.byId.get(referred(attrs.filter) ?? '');
    const seen = filter ? seenThrough(filter, area, inner) : area;
    if (seen) for (const child of node.children) this.node(child, inner, seen, stroke);
  }

  /** Cuts a layer that begins far from the page. Where axes are turned there is no box to cut it by. */
  private cut({ attrs }: TreeNode, places: readonly Matrix[], painted: Bounds, area: Bounds): void {
    const [place] = places;
    const isTurned = Math.abs(place[1]) + Math.abs(place[2]) > 1e-6 * (Math.abs(place[0]) + Math.abs(place[3]));
    const { minX, minY } = transformBounds(place, painted);
    if (places.length > 1 || isTurned || (minX >= area.minX && minY >= area.minY)) return;
    const id = `cut-${this.cuts.length}`;
    const region = boxAttributes(transformBounds(invert(place), area));
    this.cuts.push({
      tag: 'filter',
      attrs: { id, filterUnits: 'userSpaceOnUse', 'color-interpolation-filters': 'sRGB', ...region },
      children: [{ tag: 'feOffset', attrs: { dx: '0', dy: '0' }, children: [] }],
    });
    attrs.filter = `url(#${id})`;
    this.changed = true;
  }

  /** Checks the content of a pattern against its tile, which is all of it that the rasteriser draws. */
  private pattern({ tag, attrs, children }: TreeNode): void {
    if (tag !== 'pattern' || attrs.patternUnits !== 'userSpaceOnUse' || attrs.viewBox) return;
    if (attrs.patternContentUnits === 'objectBoundingBox') return;
    const [x, y, width, height] = ['x', 'y', 'width', 'height'].map((name) => Number.parseFloat(attrs[name]) || 0);
    if (width > 0 && height > 0)
      this.all(children, [IDENTITY], { minX: x - width, minY: y - height, maxX: x + 2 * width, maxY: y + 2 * height });
  }

  /** Where a node, drawn without its transform, may leave anything; null where that is not known. */
  private painted(node: TreeNode, stroke: Stroke): Bounds | null {
    const box = boxIn(node);
    if (!box) return null;
    const filter = this.byId.get(referred(node.attrs.filter) ?? '');
    if (!filter) return grow(box, strokeReach(node, stroke));
    const inBox = filter.attrs.filterUnits !== 'userSpaceOnUse';
    const [wide, high] = [box.maxX - box.minX, box.maxY - box.minY];
    const side = (name: string, otherwise: number) => {
      const text = filter.attrs[name];
      const value = Number.parseFloat(text ?? '') / (text?.trim().endsWith('%') ? 100 : 1);
      return Number.isFinite(value) ? value : otherwise;
    };
    if (!inBox && ['x', 'y', 'width', 'height'].some((name) => !Number.isFinite(Number(filter.attrs[name]))))
      return null;
    return inBox
      ? boundsOf({
          x: box.minX + side('x', -0.1) * wide,
          y: box.minY + side('y', -0.1) * high,
          width: side('width', 1.2) * wide,
          height: side('height', 1.2) * high,
        })
      : boundsOf({ x: side('x', 0), y: side('y', 0), width: side('width', 0), height: side('height', 0) });
  }
}

const print = (value: number) => String(+value.toPrecision(10));

/** A box as the attributes of a region. */
export const boxAttributes = ({ minX, minY, maxX, maxY }: Bounds): Record<string, string> => ({
  x: print(minX),
  y: print(minY),
  width: print(maxX - minX),
  height: print(maxY - minY),
});

/** What a filter may draw from to fill an area of the page at any of its places; null where that is not known. */
function seenThrough(filter: TreeNode, area: Bounds, places: readonly Matrix[]): Bounds | null {
  const reach = filterReach(filter);
  return reach && grow(area, reach.px + reach.units * Math.max(...places.map(largestScale)));
}

/** What strokes in a node take from around it, and how far they may reach by it. */
type Stroke = { isDrawn: boolean; width: number; miterLimit: number };
const NO_STROKE: Stroke = { isDrawn: false, width: 1, miterLimit: 4 };

const inherit = (outer: Stroke, attrs: Readonly<Record<string, string>>): Stroke => ({
  isDrawn: attrs.stroke === undefined ? outer.isDrawn : attrs.stroke !== 'none',
  width: attrs['stroke-width'] === undefined ? outer.width : Number.parseFloat(attrs['stroke-width']) || 0,
  miterLimit:
    attrs['stroke-miterlimit'] === undefined ? outer.miterLimit : Number.parseFloat(attrs['stroke-miterlimit']) || 4,
});

/** How far strokes in a node reach at the most, in its own units: half their width, at corners as far as they may be mitred. */
function strokeReach({ children }: TreeNode, { isDrawn, width, miterLimit }: Stroke): number {
  const own = isDrawn ? (width / 2) * Math.max(Math.SQRT2, miterLimit) : 0;
  const inner = children.map((child) => {
    const scale = child.attrs.transform ? largestScale(parseTransform(child.attrs.transform) ?? IDENTITY) : 1;
    return scale * strokeReach(child, inherit({ isDrawn, width, miterLimit }, child.attrs));
  });
  return Math.max(own, ...inner);
}
