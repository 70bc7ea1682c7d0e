import {
  type Bounds,
  boxAttributes,
  boxIn,
  DRAWN,
  filterReach,
  grow,
  intersect,
  MAX_SIDE_PX,
  printTree,
  referred,
  type TreeNode,
  thickestMorphology,
  unite,
} from '@tolvik/core';
import { drawPixels, withoutEdges } from './draw-pixels';
import { encodePng } from './png/encode';

import { number, type Style } from './svg/style';

const MOST_SIDE = 8000;
const MOST_PIXELS = 24_000_000;
/** Longest side at which an area is drawn to see where a filter leaves anything. */
const PROBE_SIDE = 400;

/** So many times the pixels of what is shown are drawn for its edges at the most, and some more for small pictures. */
const MOST_TIMES = 3;
const FEW_PIXELS = 250_000;

/** Shapes are grown or thinned by so many px at the most: the time it takes goes by the square. */
const THICKEST_PX = 16;

/** Pixels (premultiplied RGBA) and the box, in the node's user space, that they fill. */
export type DrawnAlone = { pixels: Buffer; width: number; height: number; box: Bounds };

const print = (value: number) => String(+value.toPrecision(10));

/**
 * A node with its filter, but without its transform, clip, mask, opacity and blending, drawn by itself in its own
 * user space: as much of it as lies in `seen`, with `scale` px for each unit. Null when it leaves nothing there.
 */
export function drawnAlone(
  root: TreeNode,
  node: TreeNode,
  style: Style,
  seen: Bounds,
  scale: number,
): DrawnAlone | null {
  const id = referred(node.attrs.filter);
  const definitions = root.children.flatMap((child) => (child.tag === 'defs' ? child.children : [child]));
  const said = id === undefined ? undefined : definitions.find(({ attrs }) => attrs.id === id);
  const region = said && withRegion(said, node, 'filter-region', seenBy(said, seen, scale));
  const {
    'clip-path': _clip,
    mask: _mask,
    opacity: _opacity,
    style: _style,
    transform: _transform,
    ...attrs
  }: Record<string, string> = node.attrs;
  const inherited = Object.entries(style).map(([name, value]) => ` ${name}="${value}"`);
  const defs = root.children
    .filter(({ tag }) => !DRAWN.has(tag))
    .map(printTree)
    .join('');
  if (region) attrs.filter = 'url(#filter-region)';
  const own = region ? `<defs>${printTree(region)}</defs>` : '';
  const body = `${defs}${own}<g${inherited.join('')}>${printTree({ ...node, attrs })}</g>`;
  const reaches = regionOf(region ?? said);
  const draw = (box: Bounds, width: number, height: number) => {
    const px = width / (box.maxX - box.minX);
    const edge = reaches ? edgeFor(reaches, box, px, width, height) : 0;
    const { minX, minY, maxX, maxY } = grow(box, edge / px);
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${width + 2 * edge}" height="${height + 2 * edge}" viewBox="${[minX, minY, maxX - minX, maxY - minY].map(print).join(' ')}" preserveAspectRatio="none">${body}</svg>`;
    return withoutEdges(drawPixels(svg, width + 2 * edge, height + 2 * edge), edge).data;
  };
  const [wide, high] = [seen.maxX - seen.minX, seen.maxY - seen.minY];
  if (!(wide > 0) || !(high > 0)) return null;
  const probe = PROBE_SIDE / Math.max(wide, high);
  const [w, h] = [Math.max(1, Math.round(wide * probe)), Math.max(1, Math.round(high * probe))];
  const left = touched(draw(seen, w, h), w, h);
  if (!left) return null;
  const [sx, sy] = [wide / w, high / h];
  const touch: Bounds = {
    minX: Math.max(seen.minX, seen.minX + (left.minX - 1) * sx),
    minY: Math.max(seen.minY, seen.minY + (left.minY - 1) * sy),
    maxX: Math.min(seen.maxX, seen.minX + (left.maxX + 2) * sx),
    maxY: Math.min(seen.maxY, seen.minY + (left.maxY + 2) * sy),
  };
  const sharp = said ? Math.min(scale, THICKEST_PX / thickestMorphology(said)) : scale;
  const onGrid = gridFor(touch, sharp);
  const box = onGrid?.box ?? touch;
  const [boxWide, boxHigh] = [box.maxX - box.minX, box.maxY - box.minY];
  const most =
    onGrid?.scale ??
    Math.min(sharp, MOST_SIDE / Math.max(boxWide, boxHigh), Math.sqrt(MOST_PIXELS / (boxWide * boxHigh)));
  const [width, height] = [Math.max(1, Math.ceil(boxWide * most)), Math.max(1, Math.ceil(boxHigh * most))];
  return { pixels: draw(box, width, height), width, height, box };
}

/**
 * A box a little larger, and a scale a little finer, whose px begin and end with whole units: the regions of filters
 * are grown to whole px where they are drawn, and those that the drawing sets at whole units must not grow. Null when
 * that would be more px than a picture may have.
 */
function gridFor(box: Bounds, scale: number): { box: Bounds; scale: number } | null {
  const unit = scale >= 1 ? 1 : Math.floor(1 / scale);
  const fine = scale >= 1 ? Math.ceil(scale) : 1 / unit;
  const grown: Bounds = {
    minX: Math.floor(box.minX / unit) * unit,
    minY: Math.floor(box.minY / unit) * unit,
    maxX: Math.ceil(box.maxX / unit) * unit,
    maxY: Math.ceil(box.maxY / unit) * unit,
  };
  const [wide, high] = [(grown.maxX - grown.minX) * fine, (grown.maxY - grown.minY) * fine];
  const much = wide * high > 2 * scale * scale * (box.maxX - box.minX) * (box.maxY - box.minY);
  return much || Math.max(wide, high) > MOST_SIDE || wide * high > MOST_PIXELS ? null : { box: grown, scale: fine };
}

/** The box of pixels that are not see-through; null when all are. */
function touched(rgba: Buffer, width: number, height: number): Bounds | null {
  let [minX, minY, maxX, maxY] = [width, height, -1, -1];
  for (let y = 0, i = 3; y < height; y++) {
    for (let x = 0; x < width; x++, i += 4) {
      if (rgba[i] === 0) continue;
      if (x < minX) minX = x;
      if (x > maxX) maxX = x;
      if (y < minY) minY = y;
      maxY = y;
    }
  }
  return maxX < 0 ? null : { minX, minY, maxX, maxY };
}

/** A node that was drawn alone as a picture in its place, with what its effects still do to it. */
export function asPicture(node: TreeNode, { pixels, width, height, box }: DrawnAlone): TreeNode {
  const kept = Object.fromEntries(
    Object.entries(node.attrs).filter(([name]) =>
      ['clip-path', 'mask', 'opacity', 'style', 'transform'].includes(name),
    ),
  );
  const href = `data:image/png;base64,${encodePng(pixels, width, height, { dpi: 96, effort: 'faster', premultiplied: true }).toString('base64')}`;
  const place = { ...boxAttributes(box), preserveAspectRatio: 'none' };
  return { tag: 'image', attrs: { ...kept, ...place, 'xlink:href': href }, children: [] };
}

/** What a filter draws from to draw an area, with `scale` px to each unit; null where that is not known. */
export function seenBy(filter: TreeNode, area: Bounds, scale: number): Bounds | null {
  const reach = filterReach(filter);
  return reach && grow(area, reach.units + (reach.px + 1) / scale);
}

/** The region of a filter in user space; null where it is told in a box. */
export function regionOf(filter: TreeNode | undefined): Bounds | null {
  if (filter?.attrs.filterUnits !== 'userSpaceOnUse') return null;
  const [x, y, width, height] = CORNERS.map((name) => Number(filter.attrs[name] ?? Number.NaN));
  const region = { minX: x, minY: y, maxX: x + width, maxY: y + height };
  return Object.values(region).every(Number.isFinite) ? region : null;
}

/**
 * By how many px a picture of a box has to be larger on every side to hold a region: the rasteriser ends its process
 * over some filters whose region does not lie in its picture. None where that would be many times what is shown: what
 * reaches so far is no light and no displacement, and time is limited.
 */
export function edgeFor(region: Bounds, box: Bounds, scale: number, width: number, height: number): number {
  const out = Math.max(box.minX - region.minX, box.minY - region.minY, region.maxX - box.maxX, region.maxY - box.maxY);
  const edge = out > 0 ? Math.ceil(out * scale) + 1 : 0;
  const pixels = (width + 2 * edge) * (height + 2 * edge);
  return pixels > MOST_TIMES * width * height + FEW_PIXELS || Math.max(width, height) + 2 * edge > MAX_SIDE_PX
    ? 0
    : edge;
}

/** What the primitives of a filter are called. */
const PRIMITIVE = /^fe(?!Merge(?:Node)|Func|Dist|Point|Spot)/;
const CORNERS = ['x', 'y', 'width', 'height'] as const;

/**
 * A filter as the rasteriser draws it like browsers do: its region in user space, the object's box as SVG means it,
 * tight around curves; and wide enough for all of what it filters. The rasteriser cuts the source off at the region,
 * browsers only what each primitive leaves of it (Filter Effects 1 §8), so each primitive gets the region for its own.
 * No region reaches further than what can be `seen`, where that is known. Null when the filter is right as it is.
 */
export function withRegion(filter: TreeNode, node: TreeNode, id: string, seen: Bounds | null = null): TreeNode | null {
  const inBox = filter.attrs.filterUnits !== 'userSpaceOnUse';
  const box = boxIn(node);
  if (!box || (inBox && (!(box.maxX > box.minX) || !(box.maxY > box.minY)))) return null;
  const share = (name: string, otherwise: number) => {
    const text = filter.attrs[name];
    const value = Number.parseFloat(text ?? '') / (text?.trim().endsWith('%') ? 100 : 1);
    return Number.isFinite(value) ? value : otherwise;
  };
  const own = CORNERS.map((name) => Number(filter.attrs[name] ?? Number.NaN));
  const [wide, high] = [box.maxX - box.minX, box.maxY - box.minY];
  const [x, y, width, height] = inBox
    ? [
        box.minX + share('x', -0.1) * wide,
        box.minY + share('y', -0.1) * high,
        share('width', 1.2) * wide,
        share('height', 1.2) * high,
      ]
    : own;
  if (![x, y, width, height].every(Number.isFinite) || !(width > 0) || !(height > 0)) return null;
  const region: Bounds = { minX: x, minY: y, maxX: x + width, maxY: y + height };
  const around = widestStroke(node) * 2;
  const source: Bounds = {
    minX: box.minX - around,
    minY: box.minY - around,
    maxX: box.maxX + around,
    maxY: box.maxY + around,
  };
  const cuts =
    filter.attrs.primitiveUnits !== 'objectBoundingBox' &&
    (source.minX < region.minX || source.minY < region.minY || source.maxX > region.maxX || source.maxY > region.maxY);
  const wanted = (cuts && unite(region, source)) || region;
  const drawn = (seen && intersect(wanted, seen)) || wanted;
  const limits = cuts || same(drawn, wanted) ? cuts : true;
  if (!inBox && !limits) return null;
  const leaves = (cuts && intersect(region, drawn)) || drawn;
  const children = limits
    ? filter.children.flatMap((child, i) => (PRIMITIVE.test(child.tag) ? within(child, leaves, `${id}-${i}`) : [child]))
    : filter.children;
  const attrs = { ...filter.attrs, id, filterUnits: 'userSpaceOnUse', ...boxAttributes(drawn) };
  return { ...filter, attrs, children };
}

const same = (a: Bounds, b: Bounds): boolean =>
  a.minX === b.minX && a.minY === b.minY && a.maxX === b.maxX && a.maxY === b.maxY;

/**
 * A primitive that leaves nothing beyond a region; what it says itself of its own region stands (Filter Effects 1 §9.2).
 * The rasteriser does not cut off what is moved, so a merge of that alone, which is cut, stands after it.
 */
function within(primitive: TreeNode, region: Bounds, unused: string): TreeNode[] {
  const { attrs, tag } = primitive;
  if (CORNERS.some((name) => attrs[name] !== undefined && !Number.isFinite(Number(attrs[name])))) return [primitive];
  const x = Number(attrs.x ?? region.minX);
  const y = Number(attrs.y ?? region.minY);
  const own: Bounds = {
    minX: x,
    minY: y,
    maxX: x + Number(attrs.width ?? region.maxX - region.minX),
    maxY: y + Number(attrs.height ?? region.maxY - region.minY),
  };
  const left = intersect(own, region);
  if (!left) return [primitive];
  if (tag !== 'feOffset') return [{ ...primitive, attrs: { ...attrs, ...boxAttributes(left) } }];
  const { result, 'color-interpolation-filters': colours } = attrs;
  const cut = {
    ...boxAttributes(left),
    ...(result === undefined ? {} : { result }),
    ...(colours === undefined ? {} : { 'color-interpolation-filters': colours }),
  };
  return [
    { ...primitive, attrs: { ...attrs, result: unused } },
    { tag: 'feMerge', attrs: cut, children: [{ tag: 'feMergeNode', attrs: { in: unused }, children: [] }] },
  ];
}

/** The widest stroke said anywhere in a node. */
const widestStroke = (node: TreeNode): number =>
  Math.max(
    node.attrs.stroke && node.attrs.stroke !== 'none' ? number(node.attrs['stroke-width'], 1) : 0,
    ...node.children.map(widestStroke),
  );
