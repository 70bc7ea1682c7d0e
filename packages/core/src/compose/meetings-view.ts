import type { ProjectDocument } from '../document/document';
import type { Artboard } from '../document/records';
import { pieceAlone } from '../pieces/pieces';
import { regionOf } from '../pieces/placements';
import { composeBenchPiece } from './bench-view';
import type { ComposeSources } from './compose';

/**
 * The picture in which it is measured where the colours of an artboard meet: its artwork as drawn, without a ground,
 * without smoothing, as an SVG of `sidePx` at most.
 */
export function composeForMeetings(
  doc: ProjectDocument,
  artboard: Artboard,
  sidePx: number,
  sources: ComposeSources,
): string {
  const piece = pieceAlone({ ...artboard, background: null }, regionOf(artboard));
  const svg = composeBenchPiece(doc, piece, { widthPx: sidePx, heightPx: sidePx }, sources);
  return svg.replace(/^<svg [^>]*>/, '$&<g shape-rendering="crispEdges">').replace(/<\/svg>$/, '</g></svg>');
}
