import type { ProjectDocument } from '../../document/document';
import { referred } from '../../profile/references';

/** The colours a paint lays down (SVG 2 §13.2, §14.2): itself, or those of a gradient's stops; none for `none`, null for patterns. */
export function coloursOfPaint(doc: ProjectDocument, paint: string): readonly string[] | null {
  if (/^(none|transparent)$/i.test(paint)) return [];
  if (/^currentcolor$/i.test(paint)) return ['#000000'];
  return /^url\(/i.test(paint) ? stopsOf(doc, referred(paint) ?? '') : [paint];
}

/** Gradients that take their stops from one another, one after the other, at the most. */
const LONGEST_CHAIN = 5;

function stopsOf(doc: ProjectDocument, id: string, depth = 0): readonly string[] | null {
  const server = doc.find('layer', id);
  if (!server || !/Gradient$/.test(server.tag) || depth >= LONGEST_CHAIN) return null;
  const stops = doc
    .children(id)
    .flatMap((child) => (child.tag === 'stop' ? [child.attrs['stop-color'] ?? '#000000'] : []));
  return stops.length > 0 ? stops : stopsOf(doc, server.attrs.href?.slice(1) ?? '', depth + 1);
}
