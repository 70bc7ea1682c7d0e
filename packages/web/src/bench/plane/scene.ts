import {
  type Artboard,
  type BenchItem,
  type Bounds,
  benchItems,
  boundsOf,
  Located,
  type Piece,
  type ProjectDocument,
  pieces,
} from '@tolvik/core';

/** What there is to draw, derived from a document once a revision. */
export type Scene = {
  items: readonly BenchItem[];
  artboards: readonly Artboard[];
  slices: readonly Piece[];
  /** The same by place. */
  placed: { items: Located<BenchItem>; artboards: Located<Artboard>; slices: Located<Piece> };
  pieceById: ReadonlyMap<string, Piece>;
  bounds: Bounds | null;
};

type Cached = { revision: number; layerRevision: number; scene: Scene };
const scenes = new WeakMap<ProjectDocument, Cached>();

export function sceneOf(doc: ProjectDocument): Scene {
  const known = scenes.get(doc);
  if (known?.revision === doc.revision) return known.scene;
  const sameArtwork = known?.layerRevision === doc.layerRevision;
  const items = sameArtwork ? known.scene.items : benchItems(doc);
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
  const artboards = doc.list('artboard');
  const slices = list.filter((piece) => piece.kind === 'slice' && !piece.problem);
  const scene: Scene = {
    items,
    artboards,
    slices,
    placed: {
      items: sameArtwork ? known.scene.placed.items : new Located(items, (item) => item.bounds),
      artboards: new Located(artboards, boundsOf),
      slices: new Located(slices, (slice) => boundsOf(slice.region)),
    },
    pieceById: new Map(list.map((piece) => [piece.id, piece])),
    bounds,
  };
  scenes.set(doc, { revision: doc.revision, layerRevision: doc.layerRevision, scene });
  return scene;
}
