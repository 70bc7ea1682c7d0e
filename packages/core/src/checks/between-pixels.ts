import { isOffGrid } from '../arrange/artboards';
import type { ProjectDocument } from '../document/document';
import { layerTitle } from '../document/titles';
import {
  CRISP_ENOUGH,
  type CrisperPlace,
  type Crispness,
  crisperPlace,
  crispness,
  crispnessMoved,
  edgesIn,
  movedTo,
  showsEdges,
} from '../edges';
import { printNumber } from '../geometry/matrix';
import type { PlannedFile } from '../plan/plan';
import type { Check } from './check';

/**
 * With this share it lies right. Short of it, moving puts one side of its strokes on pixels and takes the drawing off the
 * grid it was drawn on.
 */
const LIES_RIGHT = 0.75;
/** How many layers are named. */
const MOST_NAMED = 2;

/** Pictures in which edges are seen, one of each size, the smallest first. */
function sizesAmong(files: readonly PlannedFile[]): PlannedFile[] {
  const sizes = new Map<string, PlannedFile>();
  for (const file of files.filter(showsEdges).sort((one, other) => one.scale - other.scale)) {
    const size = `${file.widthPx} × ${file.heightPx}`;
    if (!sizes.has(size)) sizes.set(size, file);
  }
  return [...sizes.values()];
}

/** “Bar is off by up to 0.37 px, Lid by up to 0.2”: the layers of the longest edges between pixels. */
function offInWords(doc: ProjectDocument, { off }: Crispness): string {
  const most = new Map<string, number>();
  for (const { layer, offPx } of off) most.set(layer.id, Math.max(most.get(layer.id) ?? 0, Math.abs(offPx)));
  const parts = [...most].slice(0, MOST_NAMED).map(([id, px], i) => {
    const layer = doc.find('layer', id);
    const by = `by up to ${printNumber(px, 2)}`;
    return `${layer ? layerTitle(layer) : 'it'} ${i === 0 ? `is off ${by} px` : by}`;
  });
  return parts.join(', ');
}

/** Where the drawing of a piece lies right at a size, and is softer at no other size that it is exported at. */
function worthMoving(
  doc: ProjectDocument,
  pieceId: string,
  size: PlannedFile,
  sizes: readonly PlannedFile[],
): CrisperPlace | null {
  const artboard = doc.find('artboard', pieceId);
  const place = artboard && crisperPlace(doc, artboard, size);
  if (!place) return null;
  const { edges, dx, dy } = place;
  const moved = (at: PlannedFile) => crispnessMoved(edges, dx, dy, at) ?? 0;
  const isNoSofter = (at: PlannedFile) => moved(at) >= (crispness(edges, at).share ?? 0) - 0.01;
  return moved(size) >= LIES_RIGHT && sizes.every(isNoSofter) ? place : null;
}

export const betweenPixels: Check = {
  name: 'between-pixels',
  plural: 'have edges between pixels',
  about: 'Upright and level edges of a small picture lie between pixels, so that it looks soft, and need not.',
  example: 'A bar from x 3.37 to 20.37.',
  look({ piece, leaves, files }, { doc }) {
    // An artboard between pixels is told by `off-grid`, and mended first.
    if (piece.problem || isOffGrid(piece.region)) return [];
    const sizes = sizesAmong(files);
    for (const size of sizes) {
      const found = crispness(edgesIn(doc, leaves), size);
      if (found.share === null || found.share >= CRISP_ENOUGH || !worthMoving(doc, piece.id, size, sizes)) continue;
      const share = `${Math.floor(found.share * 100)} % of its edges lie on pixels`;
      return [
        {
          // At its own size it was meant to lie right.
          severity: size.scale === 1 ? 'warning' : 'hint',
          outputId: size.outputId,
          message: `${share} at ${size.widthPx} × ${size.heightPx}: ${offInWords(doc, found)}`,
          mend: 'Move the drawing',
        },
      ];
    }
    return [];
  },
  mend({ pieceId, outputId }, { doc, plan }) {
    const files = plan.files.filter((file) => file.pieceId === pieceId);
    const size = files.find((file) => file.outputId === outputId);
    const place = size && worthMoving(doc, pieceId, size, sizesAmong(files));
    return place && size
      ? { label: `move the drawing of ${doc.find('artboard', pieceId)?.name}`, puts: movedTo(doc, place), removes: [] }
      : null;
  },
};
