import { boxIn } from '../compose/rasteriser/boxes';

/** Attributes of a shape by what becomes of them when its stroke becomes an outline (SVG 2 §10, §13). */

type Attributes = Readonly<Record<string, string>>;

/** Attributes that describe the stroke; an outline replaces them all. */
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
/** Attributes that describe the fill. */
const FILL_ATTRIBUTES: readonly string[] = ['fill', 'fill-opacity', 'fill-rule'];
/** Attributes that hold the geometry of a basic shape or a path (SVG 2 §9, §10). */
const GEOMETRY_ATTRIBUTES: readonly string[] = [
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

/** Whether a stroke depends on more than its shape's own units: on markers, on the zoom, or on a declared path length. */
export const isBeyondOutline = (attrs: Attributes): boolean =>
  (attrs['vector-effect'] ?? 'none') !== 'none' ||
  'pathLength' in attrs ||
  ['marker-start', 'marker-mid', 'marker-end'].some((name) => (attrs[name] ?? 'none') !== 'none');

/** The largest distance, in units of the shape, that a stroke can reach beyond its shape, plus a margin of one stroke width. */
export function strokeReach(attrs: Attributes): number {
  const width = Number.parseFloat(attrs['stroke-width'] ?? '1');
  return (width / 2) * Math.max(Math.SQRT2, Number.parseFloat(attrs['stroke-miterlimit'] ?? '4')) + width;
}

/** The attributes of a shape that are drawn to find its outline: geometry and stroke, in one colour and without a fill. */
export const strokeAlone = (attrs: Attributes, style: Attributes, colour: string): Record<string, string> => ({
  ...picked(attrs, GEOMETRY_ATTRIBUTES),
  ...picked(style, LINE_ATTRIBUTES),
  fill: 'none',
  stroke: colour,
  'stroke-opacity': '1',
});

/**
 * The parts that show what a stroked shape shows, from back to front: its fill, where it encloses an area, and the outline
 * `d` of its stroke, where that is not empty. `place` are the attributes that hold for both: name, transform, effects.
 * `attrs` are the shape's own attributes, `style` those with what it inherits.
 */
export function strokeParts<Tag extends string>(
  tag: Tag,
  attrs: Attributes,
  style: Attributes,
  d: string,
): { place: Record<string, string>; parts: { tag: Tag | 'path'; attrs: Record<string, string> }[] } {
  const place: Record<string, string> = {};
  for (const [name, value] of Object.entries(attrs))
    if (![LINE_ATTRIBUTES, FILL_ATTRIBUTES, GEOMETRY_ATTRIBUTES, ['paint-order']].some((names) => names.includes(name)))
      place[name] = value;
  const parts: { tag: Tag | 'path'; attrs: Record<string, string> }[] = [];
  const box = style.fill === 'none' ? null : boxIn({ tag, attrs: { ...attrs }, children: [] });
  // A straight line encloses no area.
  if (box && box.maxX > box.minX && box.maxY > box.minY)
    parts.push({
      tag,
      attrs: { ...picked(attrs, GEOMETRY_ATTRIBUTES), ...picked(attrs, FILL_ATTRIBUTES), stroke: 'none' },
    });
  // The opacity is always said, since the outline would inherit what is meant for fills.
  const { stroke, 'stroke-opacity': opacity = '1' } = style;
  if (d) parts.push({ tag: 'path', attrs: { d, fill: stroke, 'fill-opacity': opacity, stroke: 'none' } });
  if (/^stroke/.test(style['paint-order'] ?? '')) parts.reverse();
  return { place, parts };
}

const picked = (attrs: Attributes, names: readonly string[]): Record<string, string> =>
  Object.fromEntries(Object.entries(attrs).filter(([name]) => names.includes(name)));
