import {
  type Artboard,
  type BenchItem,
  type Bounds,
  benchItems,
  type Piece,
  type ProjectDocument,
  pieces,
} from '@tolvik/core';

/** What there is to draw, derived from a document once a revision. */
export type Scene = {
  items: readonly BenchItem[];
  artboards: readonly Artboard[];
  slices: readonly Piece[];
  pieceById: ReadonlyMap<string, Piece>;
  bounds: Bounds | null;
};

type Cached = { revision: number; layerRevision: number; scene: Scene };
const scenes = new WeakMap<ProjectDocument, Cached>();

export function sceneOf(doc: ProjectDocument): Scene {
  const known = scenes.get(doc);
  if (known?.revision === doc.revision) return known.scene;
  const items = known?.layerRevision === doc.layerRevision ? known.scene.items : benchItems(doc);
  const list = pieces(doc);
  let bounds: Bounds | null = null;
  const include = (box: Bounds) => {
    bounds = bounds
      ? {
          minX: Math.min(bounds.minX, box.minX),
          minY: Math.min(bounds.minY, box.minY),
          maxX: Math.max(bounds.maxX, box.maxX),
          maxY: Math.max(bounds.maxY, box.maxY),
        }
      : { ...box };
  };
  for (const item of items) include(item.bounds);
  for (const piece of list)
    if (!piece.problem)
      include({
        minX: piece.region.x,
        minY: piece.region.y,
        maxX: piece.region.x + piece.region.width,
        maxY: piece.region.y + piece.region.height,
      });
  const scene: Scene = {
    items,
    artboards: doc.list('artboard'),
    slices: list.filter((piece) => piece.kind === 'slice' && !piece.problem),
    pieceById: new Map(list.map((piece) => [piece.id, piece])),
    bounds,
  };
  scenes.set(doc, { revision: doc.revision, layerRevision: doc.layerRevision, scene });
  return scene;
}
