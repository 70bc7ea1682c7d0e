import { type Bounds, DRAWN, printTree, referred, type TreeNode } from '@tolvik/core';
import { drawPixels } from './draw-pixels';
import { encodePng, unpremultiply } from './png/encode';

import { boxIn } from './svg/boxes';
import type { Style } from './svg/style';

const MOST_SIDE = 8000;
const MOST_PIXELS = 24_000_000;
/** Longest side at which an area is drawn to see where a filter leaves anything. */
const PROBE_SIDE = 400;

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
  const region = said && withRegion(said, node, 'filter-region');
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
  const draw = ({ minX, minY, maxX, maxY }: Bounds, width: number, height: number) =>
    drawPixels(
      `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${width}" height="${height}" viewBox="${[minX, minY, maxX - minX, maxY - minY].map(print).join(' ')}" preserveAspectRatio="none">${body}</svg>`,
      width,
      height,
    ).data;
  const [wide, high] = [seen.maxX - seen.minX, seen.maxY - seen.minY];
  if (!(wide > 0) || !(high > 0)) return null;
  const probe = PROBE_SIDE / Math.max(wide, high);
  const [w, h] = [Math.max(1, Math.round(wide * probe)), Math.max(1, Math.round(high * probe))];
  const left = touched(draw(seen, w, h), w, h);
  if (!left) return null;
  const [sx, sy] = [wide / w, high / h];
  const box: Bounds = {
    minX: Math.max(seen.minX, seen.minX + (left.minX - 1) * sx),
    minY: Math.max(seen.minY, seen.minY + (left.minY - 1) * sy),
    maxX: Math.min(seen.maxX, seen.minX + (left.maxX + 2) * sx),
    maxY: Math.min(seen.maxY, seen.minY + (left.maxY + 2) * sy),
  };
  const [boxWide, boxHigh] = [box.maxX - box.minX, box.maxY - box.minY];
  const most = Math.min(scale, MOST_SIDE / Math.max(boxWide, boxHigh), Math.sqrt(MOST_PIXELS / (boxWide * boxHigh)));
  const [width, height] = [Math.max(1, Math.ceil(boxWide * most)), Math.max(1, Math.ceil(boxHigh * most))];
  return { pixels: draw(box, width, height), width, height, box };
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
  unpremultiply(pixels);
  const kept = Object.fromEntries(
    Object.entries(node.attrs).filter(([name]) =>
      ['clip-path', 'mask', 'opacity', 'style', 'transform'].includes(name),
    ),
  );
  const href = `data:image/png;base64,${encodePng(pixels, width, height, { dpi: 96, effort: 'faster' }).toString('base64')}`;
  const place = {
    x: print(box.minX),
    y: print(box.minY),
    width: print(box.maxX - box.minX),
    height: print(box.maxY - box.minY),
    preserveAspectRatio: 'none',
  };
  return { tag: 'image', attrs: { ...kept, ...place, 'xlink:href': href }, children: [] };
}

/** A filter whose region is told in its object's box, as one in user space: the box as SVG means it is tight around curves. */
export function withRegion(filter: TreeNode, node: TreeNode, id: string): TreeNode | null {
  if (filter.attrs.filterUnits === 'userSpaceOnUse') return null;
  const box = boxIn(node);
  if (!box || !(box.maxX > box.minX) || !(box.maxY > box.minY)) return null;
  const share = (name: string, otherwise: number) => {
    const text = filter.attrs[name];
    const value = Number.parseFloat(text ?? '') / (text?.trim().endsWith('%') ? 100 : 1);
    return Number.isFinite(value) ? value : otherwise;
  };
  const [wide, high] = [box.maxX - box.minX, box.maxY - box.minY];
  const region = {
    x: box.minX + share('x', -0.1) * wide,
    y: box.minY + share('y', -0.1) * high,
    width: share('width', 1.2) * wide,
    height: share('height', 1.2) * high,
  };
  const attrs = {
    ...filter.attrs,
    id,
    filterUnits: 'userSpaceOnUse',
    ...Object.fromEntries(Object.entries(region).map(([name, value]) => [name, print(value)])),
  };
  return { ...filter, attrs };
}
