import { sha256Hex } from '../basics/sha256';
import type { ProjectDocument } from '../document/document';
import type { Artboard } from '../document/records';
import { pieceAlone } from '../pieces/pieces';
import { regionOf } from '../pieces/placements';
import { type NamedView, viewOfPiece } from './bench-view';
import type { ComposeSources } from './compose';
import type { FileJob } from './composer';

/** The longest side, in px, of the picture in which meetings are measured. */
export const MEETINGS_SIDE = 192;

/**
 * The picture in which it is measured where the colours of an artboard meet: its artwork as drawn, without a ground
 * and without smoothing.
 */
export function meetingsView(doc: ProjectDocument, artboard: Artboard, sources: ComposeSources): NamedView {
  const piece = pieceAlone({ ...artboard, background: null }, regionOf(artboard));
  const view = viewOfPiece(doc, piece, { widthPx: MEETINGS_SIDE, heightPx: MEETINGS_SIDE }, sources);
  const svg = view.svg.replace(/^<svg [^>]*>/, '$&<g shape-rendering="crispEdges">').replace(/<\/svg>$/, '</g></svg>');
  return { ...view, svg };
}

/** The same as a job that draws it without anything being lost. */
export function meetingsJob(doc: ProjectDocument, artboard: Artboard, sources: ComposeSources): FileJob {
  const view = meetingsView(doc, artboard, sources);
  const settings = { format: 'png', effort: 'faster' } as const;
  return { ...view, key: sha256Hex(`meetings ${view.svg}`), settings, dpi: 96, ground: null };
}
