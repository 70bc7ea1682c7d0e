import { artworkIndex } from '../artwork/bounds/artwork-index';
import type { ProjectDocument } from '../document/document';
import { FORMATS } from '../formats';
import { boundsOf } from '../geometry/matrix';
import { cellKey, type Plan, type PlannedFile } from '../plan/plan';
import { crispness, edgesIn } from './crispness';

/** In larger pictures a soft edge is not seen, in px of the longer side. */
const LARGEST_PX = 64;

/** Whether one sees in a file how its edges lie on the pixels. */
export const showsEdges = ({ format, problem, widthPx, heightPx }: PlannedFile): boolean =>
  FORMATS[format].raster && !problem && Math.max(widthPx, heightPx) <= LARGEST_PX;

/** The share of upright and level edges that lie on boundaries of pixels, by cell, for small pictures of artboards. */
export function crispShares(doc: ProjectDocument, { files }: Pick<Plan, 'files'>): Map<string, number> {
  const shares = new Map<string, number>();
  const { search } = artworkIndex(doc);
  for (const file of files) {
    if (!showsEdges(file)) continue;
    const artboard = doc.find('artboard', file.pieceId);
    if (!artboard || artboard.follows) continue;
    const leaves = search(boundsOf(artboard)).filter(({ visible }) => visible);
    const { share } = crispness(edgesIn(doc, leaves), file);
    if (share !== null) shares.set(cellKey(file.pieceId, file.outputId), share);
  }
  return shares;
}
