import { textRuns } from '../artwork/text/words';
import { refuse } from '../basics/problem';
import { type ProjectDocument, ROOT } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Layer, layerRecord } from '../document/records';
import { printNumber } from '../geometry/matrix';
import type { Region } from '../geometry/region';

export const SHAPE_KINDS = ['rectangle', 'ellipse', 'line', 'polygon'] as const;
export type ShapeKind = (typeof SHAPE_KINDS)[number];

export type ShapeLook = {
  fill: string;
  stroke: string;
  strokeWidth: number;
  /** Of a rectangle's corners, in px. */
  radiusPx: number;
  /** Corners of a polygon, 3 to 60. */
  corners: number;
};

const n = (value: number) => printNumber(value, 4);

/** An even-sided polygon in a region, its first corner at the top (SVG 2 §10.6). */
function polygonPoints({ x, y, width, height }: Region, corners: number): string {
  const points = Array.from({ length: corners }, (_, i) => {
    const turn = (i / corners) * 2 * Math.PI - Math.PI / 2;
    return `${n(x + width / 2 + (Math.cos(turn) * width) / 2)},${n(y + height / 2 + (Math.sin(turn) * height) / 2)}`;
  });
  return points.join(' ');
}

/** A new shape in front of everything. A line goes from the region's upper left to its lower right corner, or up when `rising`. */
export function newShape(
  doc: ProjectDocument,
  kind: ShapeKind,
  region: Region,
  look: ShapeLook,
  rising = false,
): Layer {
  if (kind !== 'line' && !(region.width > 0 && region.height > 0))
    refuse('shape.size', `a ${kind} of ${n(region.width)} × ${n(region.height)} px draws nothing`, {
      accepted: 'a width and a height above 0',
    });
  if (kind === 'polygon' && !(Number.isInteger(look.corners) && look.corners >= 3 && look.corners <= 60))
    refuse('shape.corners', `${look.corners} corners make no polygon`, { accepted: '3 to 60' });
  const { x, y, width, height } = region;
  const paint: Record<string, string> =
    kind === 'line'
      ? { fill: 'none', stroke: look.stroke === 'none' ? look.fill : look.stroke }
      : { fill: look.fill, stroke: look.stroke };
  if (paint.stroke !== 'none') paint['stroke-width'] = n(look.strokeWidth);
  const geometry: Record<ShapeKind, () => [string, Record<string, string>]> = {
    rectangle: () => [
      'rect',
      { x: n(x), y: n(y), width: n(width), height: n(height), ...(look.radiusPx > 0 ? { rx: n(look.radiusPx) } : {}) },
    ],
    ellipse: () => ['ellipse', { cx: n(x + width / 2), cy: n(y + height / 2), rx: n(width / 2), ry: n(height / 2) }],
    line: () => [
      'line',
      { x1: n(x), y1: n(rising ? y + height : y), x2: n(x + width), y2: n(rising ? y : y + height) },
    ],
    polygon: () => ['polygon', { points: polygonPoints(region, look.corners) }],
  };
  const [tag, attrs] = geometry[kind]();
  return frontLayer(doc, { tag, name: kind, attrs: { ...attrs, ...paint } });
}

export function frontLayer(
  doc: ProjectDocument,
  fields: Pick<Layer, 'tag' | 'name' | 'attrs'> & Partial<Layer>,
): Layer {
  const [order] = ordersAfter(lastOrder(doc.children(ROOT)), 1);
  return layerRecord.parse({ id: newId(), kind: 'layer', parentId: ROOT, order, ...fields });
}

export type TextLook = { family: string; weight: number; sizePx: number; fill: string };

/** A new text in front of everything; x, y is where its first line stands, in px of the plane. */
export const newText = (
  doc: ProjectDocument,
  words: string,
  x: number,
  y: number,
  { family, weight, sizePx, fill }: TextLook,
): Layer =>
  frontLayer(doc, {
    tag: 'text',
    name: words.split('\n')[0].slice(0, 60),
    attrs: { x: n(x), y: n(y), 'font-family': family, 'font-weight': String(weight), 'font-size': n(sizePx), fill },
    text: textRuns(words, n(x), sizePx),
  });
