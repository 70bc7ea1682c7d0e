import { layerBoxes } from '../artwork/bounds/artwork-index';
import type { ProjectDocument } from '../document/document';
import type { ProjectRecord } from '../document/records';
import { type Bounds, boundsOf, overlaps, touches } from '../geometry/matrix';
import { artboardOf, type Piece } from '../pieces/pieces';
import { sourcesOf } from '../pieces/placements';

/** Boxes of the plane whose artwork a piece may show; null for any. */
export function reachOf(doc: ProjectDocument, { record, region }: Piece): readonly Bounds[] | null {
  if (record.kind === 'slice') {
    // It may be cut by an outline that lies anywhere.
    if (record.shape.kind === 'outline') return null;
    const following = doc
      .list('artboard')
      .filter((artboard) => artboard.follows && overlaps(boundsOf(artboard), boundsOf(region)));
    return [boundsOf(region), ...following.flatMap((artboard) => sourcesOf(doc, artboard).map(boundsOf))];
  }
  const base = artboardOf(doc, record);
  const reach = base?.follows ? sourcesOf(doc, base).map(boundsOf) : [boundsOf(region)];
  if (record.kind === 'edition') {
    const boxes = layerBoxes(doc);
    for (const id of Object.keys(record.overrides)) {
      const box = boxes.get(id);
      if (!box) return null;
      reach.push(box);
    }
  }
  return reach;
}

/**
 * Tells of pieces whether a change may have changed their picture. `artwork` are the boxes of the plane in which it
 * changed artwork, as `artworkChangedSince` tells them; null for anywhere.
 */
export function pictureChanges(
  doc: ProjectDocument,
  { puts, removes }: { puts: readonly ProjectRecord[]; removes: readonly string[] },
  artwork: readonly Bounds[] | null,
): (piece: Piece) => boolean {
  if (!artwork || puts.some((record) => record.kind === 'font')) return () => true;
  const ids = new Set([...puts.flatMap((record) => (record.kind === 'layer' ? [] : [record.id])), ...removes]);
  const boards = removes.length > 0 || puts.some((record) => record.kind === 'artboard');
  return (piece) => {
    const { record } = piece;
    if (piece.problem || ids.has(record.id)) return true;
    if (record.kind === 'slice') {
      // The box around everything may have changed from somewhere that is not in it now.
      if (boards || (record.source.kind === 'everything' && artwork.length > 0)) return true;
    } else {
      const base = artboardOf(doc, record);
      if (!base || ids.has(base.id) || sourcesOf(doc, base).some((source) => ids.has(source.id))) return true;
    }
    return artwork.length > 0 && showsAny(reachOf(doc, piece), artwork);
  };
}

/** Whether what reaches so far may show any of some boxes. */
export const showsAny = (reach: readonly Bounds[] | null, boxes: readonly Bounds[]): boolean =>
  !reach || boxes.some((box) => reach.some((part) => touches(part, box)));
