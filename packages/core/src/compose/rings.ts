import { coloursOfPaint } from '../artwork/bounds/paint-servers';
import { opaqueKey, parseColour } from '../artwork/colour/colours';
import type { ProjectDocument } from '../document/document';
import type { Layer } from '../document/records';
import { largestScale, type Matrix, printNumber } from '../geometry/matrix';
import { DRAWN } from '../profile/allow-list';
import type { Cutting } from './paint';

type Style = Readonly<Record<string, string>>;

/**
 * Of layers from back to front, those that are set apart, in runs of one colour: what is painted alike is not cut by
 * the gap around its neighbour. `ring` is false for layers that have no gap around them.
 */
export function runsOf(
  doc: ProjectDocument,
  layers: readonly Layer[],
  style: Style,
  { apart }: Cutting,
): { ring: boolean; layers: Layer[] }[] {
  const runs: { ring: boolean; layers: Layer[] }[] = [];
  let before: string | null = null;
  for (const layer of layers) {
    const colour = apart.size > 0 ? loneColour(doc, layer, style) : null;
    const ring = colour !== null && apart.has(colour);
    if (ring && colour === before) runs.at(-1)?.layers.push(layer);
    else runs.push({ ring, layers: [layer] });
    before = ring ? colour : null;
  }
  return runs;
}

/** The one colour that a layer and all in it is painted with; null for several, pictures and patterns. */
function loneColour(doc: ProjectDocument, layer: Layer, around: Style): string | null {
  const colours = new Set<string>();
  const look = (at: Layer, outer: Style): boolean => {
    if (!at.shown) return true;
    const style = { ...outer, ...at.attrs };
    if (at.tag === 'g') return doc.children(at.id).every((child) => look(child, style));
    if (!DRAWN.has(at.tag) || at.tag === 'image') return false;
    const paints = [
      style.fill ?? '#000',
      style.stroke ?? 'none',
      ...(at.text ?? []).map((run) => run.attrs.fill ?? ''),
    ];
    for (const paint of paints) {
      const [first, ...others] = paint ? (coloursOfPaint(doc, paint) ?? ['', '']) : [];
      if (first === undefined) continue;
      const colour = parseColour(first);
      if (!colour || others.some((other) => other !== first)) return false;
      colours.add(opaqueKey(colour));
    }
    return colours.size < 2;
  };
  return look(layer, around) && colours.size === 1 ? [...colours][0] : null;
}

/** Paint with which a shape cuts itself and a gap around it out of what lies below; `matrix` takes it to px of the gap. */
export function ringPaint(style: Style, gapPx: number, matrix: Matrix): Record<string, string> {
  const stroked = style.stroke !== undefined && style.stroke !== 'none';
  const own = stroked ? Number.parseFloat(style['stroke-width'] ?? '1') : 0;
  return {
    fill: style.fill === 'none' ? 'none' : '#000000',
    'fill-opacity': '1',
    stroke: '#000000',
    'stroke-opacity': '1',
    'stroke-width': printNumber(own + (2 * gapPx) / (largestScale(matrix) || 1), 4),
    'stroke-linejoin': 'round',
    'stroke-dasharray': stroked ? (style['stroke-dasharray'] ?? 'none') : 'none',
  };
}
