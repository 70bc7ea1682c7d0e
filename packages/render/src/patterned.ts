import {
  type Bounds,
  boxIn,
  DRAWN,
  grow,
  intersect,
  invert,
  type Matrix,
  multiply,
  parseTransform,
  parseViewBox,
  printTree,
  readTree,
  referred,
  SHAPES,
  type TreeNode,
  transformBounds,
  viewBoxTransform,
} from '@tolvik/core';
import type { Pixels } from './draw-pixels';
import { encodePng } from './png/encode';
import { patternSpace } from './svg/definition-spaces';
import { INITIAL, inherit, number, type Style } from './svg/style';
import { IDENTITY } from './svg/transforms';

/** A tile within so much of a px of the grid needs no help. */
const ON_GRID = 0.01;
const FINEST = 8;
/** Where tiles are turned no fineness puts them on the grid; at this one little is off. */
const TURNED = 4;
const MOST_PIXELS = 16_000_000;
const MOST_SHAPES = 200;

/**
 * A composed SVG in which shapes painted with a pattern whose tiles lie between px are pictures: the rasteriser draws a
 * tile once, in whole px, and repeats that. They are drawn so finely that tiles have whole px, by `draw`, and made smaller.
 */
export function withPatternsOnGrid(
  svg: string,
  width: number,
  height: number,
  draw: (svg: string, width: number, height: number) => Pixels,
): string {
  if (!svg.includes('<pattern')) return svg;
  const { root, byId } = readTree(svg);
  const box = parseViewBox(root.attrs.viewBox) ?? { x: 0, y: 0, width, height };
  const toPage = viewBoxTransform(box, width, height, root.attrs.preserveAspectRatio);
  const page = { minX: 0, minY: 0, maxX: width, maxY: height };
  const definitions = root.children
    .filter(({ tag }) => !DRAWN.has(tag))
    .map(printTree)
    .join('');
  let pictures = 0;
  const visit = (node: TreeNode, outer: Matrix, around: Style): TreeNode => {
    if (!DRAWN.has(node.tag)) return node;
    const own = node.attrs.transform ? (parseTransform(node.attrs.transform) ?? IDENTITY) : IDENTITY;
    const place = multiply(outer, own);
    const style = inherit(around, node.attrs);
    if (!SHAPES.has(node.tag)) {
      const children = node.children.map((child) => visit(child, place, style));
      return children.some((child, i) => child !== node.children[i]) ? { ...node, children } : node;
    }
    const fine = pictures < MOST_SHAPES ? finenessOf(node, style, place, byId) : 1;
    const area = fine > 1 ? areaOf(node, style, place, page) : null;
    if (!area) return node;
    pictures++;
    const [wide, high] = [area.maxX - area.minX, area.maxY - area.minY];
    const most = Math.max(1, Math.min(fine, Math.floor(Math.sqrt(MOST_PIXELS / (wide * high)))));
    const { opacity, style: blending, transform: _, ...attrs } = node.attrs;
    const inherited = Object.entries(style).map(([name, value]) => ` ${name}="${value}"`);
    const alone = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${wide * most}" height="${high * most}" viewBox="${area.minX} ${area.minY} ${wide} ${high}">${definitions}<g transform="matrix(${place.join(' ')})"${inherited.join('')}>${printTree({ ...node, attrs })}</g></svg>`;
    const image = picture(smaller(draw(alone, wide * most, high * most), most), area, place);
    const kept = {
      ...(opacity === undefined ? {} : { opacity }),
      ...(blending === undefined ? {} : { style: blending }),
    };
    return {
      tag: 'g',
      attrs: { ...kept, ...(node.attrs.transform ? { transform: node.attrs.transform } : {}) },
      children: [image],
    };
  };
  const children = root.children.map((child) => visit(child, toPage, inherit(INITIAL, root.attrs)));
  if (pictures === 0) return svg;
  return printTree({ ...root, attrs: { 'xmlns:xlink': 'http://www.w3.org/1999/xlink', ...root.attrs }, children });
}

/** Patterns in patterns are followed so deep. */
const DEEPEST = 3;

/** How many times as finely a shape is to be drawn for its patterns' tiles to have whole px; 1 when there is nothing to do. */
function finenessOf(
  node: TreeNode,
  style: Style,
  place: Matrix,
  byId: ReadonlyMap<string, TreeNode>,
  depth = 0,
): number {
  // Shapes with a filter are drawn as pictures elsewhere (`filtered.ts`).
  if (node.attrs.filter || depth > DEEPEST || !(Math.abs(place[0] * place[3] - place[1] * place[2]) > 1e-9)) return 1;
  let finest = 1;
  for (const paint of [style.fill, style.stroke]) {
    const pattern = byId.get(referred(paint) ?? '');
    const space = pattern?.tag === 'pattern' ? patternSpace(pattern, boxIn(node)) : null;
    if (!pattern || !space) continue;
    const tile = multiply(place, space.tile);
    const [a, b, c, d, x, y] = tile;
    if (Math.abs(b) + Math.abs(c) > 1e-6 * (Math.abs(a) + Math.abs(d))) finest = Math.max(finest, TURNED);
    else finest = Math.max(finest, finenessFor([a * space.width, d * space.height, x, y]));
    const inner = multiply(tile, space.content);
    for (const child of pattern.children)
      if (SHAPES.has(child.tag)) {
        const own = multiply(inner, parseTransform(child.attrs.transform ?? '') ?? IDENTITY);
        finest = Math.max(finest, finenessOf(child, inherit(INITIAL, child.attrs), own, byId, depth + 1));
      }
  }
  return finest;
}

/** The smallest fineness at which lengths in px are whole; where none is, the finest. */
function finenessFor(lengths: readonly number[]): number {
  for (let fine = 1; fine <= FINEST; fine++)
    if (lengths.every((length) => Math.abs(length * fine - Math.round(length * fine)) < ON_GRID)) return fine;
  return FINEST;
}

/** The px of a page that a shape and its stroke may touch. */
function areaOf(node: TreeNode, style: Style, place: Matrix, page: Bounds): Bounds | null {
  const box = boxIn(node);
  if (!box) return null;
  const stroke = style.stroke === 'none' ? 0 : number(style['stroke-width'], 1);
  const reach = (stroke / 2) * Math.max(Math.SQRT2, number(style['stroke-miterlimit'], 4));
  const seen = intersect(transformBounds(place, grow(box, reach)), page);
  if (!seen) return null;
  const area = {
    minX: Math.floor(seen.minX),
    minY: Math.floor(seen.minY),
    maxX: Math.ceil(seen.maxX),
    maxY: Math.ceil(seen.maxY),
  };
  return area.maxX > area.minX && area.maxY > area.minY ? area : null;
}

/** Each square of so many px a side as one px of their mean. */
function smaller({ data, width, height }: Pixels, by: number): Pixels {
  if (by === 1) return { data, width, height };
  const [w, h] = [width / by, height / by];
  const made = Buffer.alloc(w * h * 4);
  const share = by * by;
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      let [r, g, b, a] = [0, 0, 0, 0];
      for (let row = 0; row < by; row++) {
        let at = ((y * by + row) * width + x * by) * 4;
        for (let column = 0; column < by; column++, at += 4) {
          r += data[at];
          g += data[at + 1];
          b += data[at + 2];
          a += data[at + 3];
        }
      }
      const to = (y * w + x) * 4;
      made[to] = Math.round(r / share);
      made[to + 1] = Math.round(g / share);
      made[to + 2] = Math.round(b / share);
      made[to + 3] = Math.round(a / share);
    }
  }
  return { data: made, width: w, height: h };
}

/** Pixels as an image that lies on the px of the page, seen from a place on it. */
function picture({ data, width, height }: Pixels, area: Bounds, place: Matrix): TreeNode {
  const png = encodePng(data, width, height, { dpi: 96, effort: 'faster', premultiplied: true });
  const attrs = {
    transform: `matrix(${invert(place).join(' ')})`,
    x: String(area.minX),
    y: String(area.minY),
    width: String(width),
    height: String(height),
    preserveAspectRatio: 'none',
    'image-rendering': 'optimizeSpeed',
    'xlink:href': `data:image/png;base64,${png.toString('base64')}`,
  };
  return { tag: 'image', attrs, children: [] };
}
