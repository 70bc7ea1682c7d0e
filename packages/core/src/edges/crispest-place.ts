import { layersOn, movedLayer } from '../arrange/move';
import { artworkIndex } from '../artwork/bounds/artwork-index';
import type { Leaf } from '../artwork/bounds/bounds';
import type { ProjectDocument } from '../document/document';
import type { Artboard, Layer } from '../document/records';
import { type Bounds, boundsOf, unite } from '../geometry/matrix';
import { type Crispness, crispestShift, crispness, edgesIn, type Grid, type Room } from './crispness';
import type { Edge } from './edges';

/** The pixels of an artboard as wide as said; without a width in its own px. */
export function ownGrid({ x, y, width, height }: Artboard, widthPx = width): Grid {
  return { view: { x, y, width, height }, widthPx, heightPx: (height * widthPx) / width };
}

/** How far artwork can go without leaving the artboard; as far as it likes where it reaches out of it already. */
function roomOf(box: Bounds, area: Bounds): Room {
  const room = (space: number) => (space < -1e-6 ? Infinity : Math.max(0, space));
  return {
    left: room(box.minX - area.minX),
    right: room(area.maxX - box.maxX),
    up: room(box.minY - area.minY),
    down: room(area.maxY - box.maxY),
  };
}

/** The layers that lie on an artboard, and what of them is seen there. */
export function drawingOn(doc: ProjectDocument, artboard: Artboard): { layers: readonly Layer[]; leaves: Leaf[] } {
  const layers = layersOn(doc, artboard);
  const ids = new Set(layers.map(({ id }) => id));
  const leaves = artworkIndex(doc)
    .search(boundsOf(artboard))
    .filter((leaf) => leaf.visible && [...doc.lineage(leaf.layer)].some(({ id }) => ids.has(id)));
  return { layers, leaves };
}

/** Where a drawing is crisper: what of it moves, by how much in px of the plane, and how crisp it is there. */
export type CrisperPlace = { layers: readonly Layer[]; edges: readonly Edge[]; dx: number; dy: number; share: number };

/**
 * Where what lies on an artboard has the most of its upright and level edges on boundaries of pixels at a size, moved as a
 * whole: no shape changes, and nothing leaves the artboard. Null when it lies there already.
 */
export function crisperPlace(doc: ProjectDocument, artboard: Artboard, grid: Grid): CrisperPlace | null {
  if (artboard.follows) return null;
  const { layers, leaves: moving } = drawingOn(doc, artboard);
  const box = moving.reduce<Bounds | null>((all, leaf) => unite(all, leaf), null);
  if (!box) return null;
  const edges = edgesIn(doc, moving);
  const shift = crispestShift(edges, grid, roomOf(box, boundsOf(artboard)));
  return shift && { layers, edges, ...shift };
}

/** How crisp edges are in a file once they have moved by dx, dy px of the plane. */
export const crispnessMoved = (edges: readonly Edge[], dx: number, dy: number, grid: Grid): Crispness['share'] =>
  crispness(
    edges.map((edge) => {
      const [across, along] = edge.across === 'x' ? [dx, dy] : [dy, dx];
      return { ...edge, at: edge.at + across, of: edge.of + across, from: edge.from + along, to: edge.to + along };
    }),
    grid,
  ).share;

/** The layers of a crisper place, moved there. */
export const movedTo = (doc: ProjectDocument, { layers, dx, dy }: CrisperPlace): Layer[] =>
  layers.map((layer) => movedLayer(doc, layer, dx, dy));
