import svgpath from 'svgpath';
import { DEFS } from '../../document/document';
import type { Layer } from '../../document/records';
import type { Matrix } from '../../geometry/matrix';
import { IDENTITY, invert, isIdentity, multiply, printNumber } from '../../geometry/matrix';
import { shapePath } from '../../geometry/shape-path';
import { INHERITED } from '../../profile/allow-list';
import type { Tell } from '../markup/told';

const STROKE = ['stroke-width', 'stroke-dasharray', 'stroke-dashoffset'];

/**
 * Strokes that keep their width whatever the transforms (`vector-effect`, SVG 2 §8.13) as plain ones that look the
 * same at the file's own size: thinner by the scale, or with the transform in their coordinates where it is uneven.
 */
export function settleStrokes(layers: Layer[], tell: Tell): void {
  if (!layers.some((layer) => 'vector-effect' in layer.attrs)) return;
  const children = new Map<string, Layer[]>();
  for (const layer of layers) children.set(layer.parentId, [...(children.get(layer.parentId) ?? []), layer]);
  const ids = new Set(layers.map(({ id }) => id));
  const visit = (layer: Layer, outer: Matrix, style: Readonly<Record<string, string>>, defined: boolean): void => {
    const own: Record<string, string> = { ...style };
    for (const name of STROKE) if (INHERITED.has(name) && name in layer.attrs) own[name] = layer.attrs[name];
    const matrix = layer.transform ? multiply(outer, layer.transform) : outer;
    const effect = layer.attrs['vector-effect'];
    if (effect !== undefined) {
      delete layer.attrs['vector-effect'];
      if (/^non-scaling-stroke$/i.test(effect) && shapePath(layer.tag, layer.attrs)) {
        if (defined) tell('a stroke inside a definition that keeps its width');
        else settle(layer, outer, matrix, own, tell);
      }
    }
    for (const child of children.get(layer.id) ?? []) visit(child, matrix, own, defined);
  };
  for (const layer of layers) if (!ids.has(layer.parentId)) visit(layer, IDENTITY, {}, layer.parentId === DEFS);
}

function settle(
  layer: Layer,
  outer: Matrix,
  matrix: Matrix,
  style: Readonly<Record<string, string>>,
  tell: Tell,
): void {
  const [a, b, c, d] = matrix;
  const scale = Math.sqrt(Math.abs(a * d - b * c));
  if (!(scale > 0) || isIdentity(matrix)) return;
  const even =
    Math.abs(a * c + b * d) < 1e-6 * scale * scale && Math.abs(Math.hypot(a, b) - Math.hypot(c, d)) < 1e-6 * scale;
  if (even) {
    const thinner = (text: string) =>
      text
        .split(/[\s,]+/)
        .map((part) => printNumber(Number(part) / scale, 9))
        .join(' ');
    layer.attrs['stroke-width'] = thinner(style['stroke-width'] ?? '1');
    if (style['stroke-dasharray'] && style['stroke-dasharray'] !== 'none')
      layer.attrs['stroke-dasharray'] = thinner(style['stroke-dasharray']);
    if (style['stroke-dashoffset']) layer.attrs['stroke-dashoffset'] = thinner(style['stroke-dashoffset']);
    return;
  }
  if (/url\(/.test(`${layer.attrs.fill ?? ''}${layer.attrs.stroke ?? ''}`))
    return tell('a stroke that keeps its width on something with a gradient');
  const path = svgpath(shapePath(layer.tag, layer.attrs))
    .matrix([...matrix])
    .toString();
  for (const name of ['x', 'y', 'width', 'height', 'cx', 'cy', 'r', 'rx', 'ry', 'x1', 'y1', 'x2', 'y2', 'points'])
    delete layer.attrs[name];
  layer.tag = 'path';
  layer.attrs.d = path;
  const back = invert(outer);
  layer.transform = isIdentity(back) ? undefined : back;
}
