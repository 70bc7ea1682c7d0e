import { artworkIndex, layerBoxes } from '../artwork/bounds/artwork-index';
import { type ProjectDocument, ROOT } from '../document/document';
import { type Artboard, COORDINATE_LIMIT, type Layer, type ProjectRecord, type Slice } from '../document/records';
import { type Bounds, translate } from '../geometry/matrix';
import { transformedLayer } from './transform';

const centreIn = (box: Bounds, { x, y, width, height }: Artboard) => {
  const cx = (box.minX + box.maxX) / 2;
  const cy = (box.minY + box.maxY) / 2;
  return cx >= x && cx <= x + width && cy >= y && cy <= y + height;
};

/**
 * The layers that lie on an artboard and go along when it moves: the outermost whose middle is
 * inside it. A group that spans several artboards is taken apart.
 */
export function layersOn(doc: ProjectDocument, artboard: Artboard): Layer[] {
  const area = {
    minX: artboard.x,
    minY: artboard.y,
    maxX: artboard.x + artboard.width,
    maxY: artboard.y + artboard.height,
  };
  const near = artworkIndex(doc).search(area);
  const tops = new Set<Layer>();
  for (const leaf of near) {
    let top = leaf.layer;
    for (const at of doc.lineage(leaf.layer)) top = at;
    tops.add(top);
  }
  if (tops.size === 0) return [];
  const boxes = layerBoxes(doc);
  const found: Layer[] = [];
  const walk = (layer: Layer) => {
    const box = boxes.get(layer.id);
    if (!box) return;
    const fits = box.maxX - box.minX <= artboard.width * 2 && box.maxY - box.minY <= artboard.height * 2;
    if (centreIn(box, artboard) && (fits || layer.tag !== 'g')) found.push(layer);
    else if (layer.tag === 'g') for (const child of doc.children(layer.id)) walk(child);
  };
  for (const layer of doc.children(ROOT)) if (tops.has(layer)) walk(layer);
  return found;
}

/** A layer moved by dx, dy px of the plane, whatever its parents do to it. */
export const movedLayer = (doc: ProjectDocument, layer: Layer, dx: number, dy: number): Layer =>
  transformedLayer(doc, layer, translate(dx, dy));

/** A slice of a region, moved by dx, dy px; others lie where their layer or artboards do. */
export const movedSlice = (slice: Slice, dx: number, dy: number): Slice[] =>
  slice.source.kind === 'region'
    ? [{ ...slice, source: { ...slice.source, x: slice.source.x + dx, y: slice.source.y + dy } }]
    : [];

const within = (value: number) => Math.min(COORDINATE_LIMIT, Math.max(-COORDINATE_LIMIT, value));

/** Artboards moved by dx, dy px; with `carry`, what lies on them goes along. */
export function moveArtboards(
  doc: ProjectDocument,
  artboards: readonly Artboard[],
  dx: number,
  dy: number,
  carry: boolean,
): ProjectRecord[] {
  const puts = new Map<string, ProjectRecord>();
  for (const artboard of artboards)
    puts.set(artboard.id, { ...artboard, x: within(artboard.x + dx), y: within(artboard.y + dy) });
  if (carry)
    for (const artboard of artboards)
      if (!artboard.follows)
        for (const layer of layersOn(doc, artboard))
          if (!puts.has(layer.id)) puts.set(layer.id, movedLayer(doc, layer, dx, dy));
  return [...puts.values()];
}
