/** Attributes of a shape by what becomes of them when its stroke becomes an outline (SVG 2 §10, §13). */

/** What is said of its stroke, and goes with it. */
export const LINE_ATTRIBUTES: readonly string[] = [
  'stroke',
  'stroke-width',
  'stroke-opacity',
  'stroke-linecap',
  'stroke-linejoin',
  'stroke-miterlimit',
  'stroke-dasharray',
  'stroke-dashoffset',
];
/** What is said of its fill. */
export const FILL_ATTRIBUTES: readonly string[] = ['fill', 'fill-opacity', 'fill-rule', 'paint-order'];
/** Where it is. */
export const GEOMETRY_ATTRIBUTES: readonly string[] = [
  'd',
  'x',
  'y',
  'width',
  'height',
  'rx',
  'ry',
  'r',
  'cx',
  'cy',
  'x1',
  'y1',
  'x2',
  'y2',
  'points',
];

type Attributes = Readonly<Record<string, string>>;

/** Whether a stroke is drawn in another way than by its shape's own units alone: markers lie on it, it is as wide on every scale. */
export const isBeyondOutline = (attrs: Attributes): boolean =>
  (attrs['vector-effect'] ?? 'none') !== 'none' ||
  'pathLength' in attrs ||
  ['marker-start', 'marker-mid', 'marker-end'].some((name) => (attrs[name] ?? 'none') !== 'none');

/** How far a stroke reaches beyond its shape at the most, in units of the shape, and a little room. */
export function strokeReach(attrs: Attributes): number {
  const width = Number.parseFloat(attrs['stroke-width'] ?? '1');
  return (width / 2) * Math.max(Math.SQRT2, Number.parseFloat(attrs['stroke-miterlimit'] ?? '4')) + width;
}
