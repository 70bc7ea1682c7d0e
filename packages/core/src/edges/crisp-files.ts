import { artworkIndex } from '../artwork/bounds/artwork-index';
import type { Leaf } from '../artwork/bounds/bounds';
import { groupBy } from '../basics/group-by';
import { same } from '../basics/same';
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

/** What a share was worked out from. */
type Kept = { leaves: readonly Leaf[]; file: PlannedFile; share: number | null };

const sameGrid = (one: PlannedFile, other: PlannedFile): boolean =>
  one.widthPx === other.widthPx && one.heightPx === other.heightPx && same(one.view, other.view);
// A leaf stays the same object until something in its top layer changes.
const sameLeaves = (one: readonly Leaf[], other: readonly Leaf[]): boolean =>
  one.length === other.length && one.every((leaf, i) => leaf === other[i]);

/**
 * Answers the share of upright and level edges that lie on boundaries of pixels, by cell, for small pictures of artboards.
 * It remembers: after an edit, only pictures are measured again that the edit may have changed.
 */
export function crispFinder(): (doc: ProjectDocument, plan: Pick<Plan, 'files'>) => Map<string, number> {
  let memory = new Map<string, Kept>();
  return (doc, { files }) => {
    const next = new Map<string, Kept>();
    const { search } = artworkIndex(doc);
    for (const [pieceId, own] of groupBy(files.filter(showsEdges), (file) => file.pieceId)) {
      const artboard = doc.find('artboard', pieceId);
      if (!artboard || artboard.follows) continue;
      const leaves = search(boundsOf(artboard)).filter(({ visible }) => visible);
      for (const file of own) {
        const cell = cellKey(pieceId, file.outputId);
        const before = memory.get(cell);
        const kept = before && sameLeaves(before.leaves, leaves) && sameGrid(before.file, file);
        next.set(cell, kept ? before : { leaves, file, share: crispness(edgesIn(doc, leaves), file).share });
      }
    }
    memory = next;
    return new Map([...next].flatMap(([cell, { share }]) => (share === null ? [] : [[cell, share]])));
  };
}
