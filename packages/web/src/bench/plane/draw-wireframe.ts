import {
  type Artboard,
  artworkIndex,
  type Bounds,
  boundsOf,
  followedLayout,
  type Layer,
  layerToPlane,
  type Matrix,
  type Region,
  shapePath,
} from '@tolvik/core';
import { COLOURS } from './look';
import type { PlaneView } from './plane-view';

const paths = new WeakMap<Layer, { matrix: string; path: Path2D }>();

/** The outline of a drawn element in its own coordinates; a picture as its box, crossed. */
function outline({ tag, attrs }: Layer): Path2D {
  if (tag !== 'image') return new Path2D(shapePath(tag, attrs));
  const [x, y, width, height] = ['x', 'y', 'width', 'height'].map((name) => Number.parseFloat(attrs[name] ?? '0') || 0);
  return new Path2D(`M${x} ${y}h${width}v${height}h${-width}zl${width} ${height}m0 ${-height}l${-width} ${height}`);
}

/** The outline on the plane; kept until the layer, or what turns or scales it, changes. */
function onPlane(layer: Layer, matrix: Matrix): Path2D {
  const key = matrix.join();
  const known = paths.get(layer);
  if (known?.matrix === key) return known.path;
  const path = new Path2D();
  path.addPath(outline(layer), new DOMMatrix([...matrix]));
  paths.set(layer, { matrix: key, path });
  return path;
}

/**
 * Outlines of everything shown, whatever it is painted with: white on white is found so. What follows shows the
 * outlines of its sources; `visible` are the artboards in view, where they are now.
 */
export function drawWireframe(
  context: CanvasRenderingContext2D,
  view: PlaneView,
  seen: Bounds,
  visible: readonly { artboard: Artboard; rect: Region }[],
): void {
  const { camera, dpr, doc, artwork, preview } = view;
  const { scale } = camera;
  const elsewhere = artworkIndex(doc)
    .search(seen)
    .filter(({ layer }) => !artwork?.find('layer', layer.id));
  const inEdition = artwork ? artworkIndex(artwork).search(seen) : [];
  context.save();
  context.setTransform(dpr * scale, 0, 0, dpr * scale, -camera.x * scale * dpr, -camera.y * scale * dpr);
  context.strokeStyle = COLOURS.ink;
  context.lineWidth = 1 / scale;
  for (const leaf of [...elsewhere, ...inEdition]) {
    const { layer } = leaf;
    const from = artwork?.find('layer', layer.id) ? artwork : doc;
    if (!leaf.visible) continue;
    const moved = preview.moving.size > 0 && isMoving(from, layer, preview.moving);
    if (moved) {
      context.save();
      context.transform(...preview.matrix);
    }
    if (layer.tag === 'text') {
      context.strokeRect(leaf.minX, leaf.minY, leaf.maxX - leaf.minX, leaf.maxY - leaf.minY);
    } else context.stroke(onPlane(layer, layerToPlane(from, layer)));
    if (moved) context.restore();
  }
  for (const { artboard, rect } of visible) if (artboard.follows) drawFollower(context, view, artboard, rect);
  context.restore();
}

/** The outlines of what an artboard follows, at their places on it; the context draws in px of the plane. */
function drawFollower(
  context: CanvasRenderingContext2D,
  { doc, camera }: PlaneView,
  artboard: Artboard,
  rect: Region,
): void {
  const layout = followedLayout(doc, artboard);
  if (!layout || typeof layout === 'string') return;
  context.save();
  context.beginPath();
  context.rect(rect.x, rect.y, rect.width, rect.height);
  context.clip();
  for (const { source, x, y, scale } of layout.placements) {
    context.save();
    context.transform(scale, 0, 0, scale, rect.x + x - source.x * scale, rect.y + y - source.y * scale);
    context.lineWidth = 1 / (camera.scale * scale);
    for (const leaf of artworkIndex(doc).search(boundsOf(source))) {
      if (!leaf.visible) continue;
      if (leaf.layer.tag === 'text')
        context.strokeRect(leaf.minX, leaf.minY, leaf.maxX - leaf.minX, leaf.maxY - leaf.minY);
      else context.stroke(onPlane(leaf.layer, layerToPlane(doc, leaf.layer)));
    }
    context.restore();
  }
  context.restore();
}

function isMoving(doc: PlaneView['doc'], layer: Layer, moving: ReadonlySet<string>): boolean {
  for (const at of doc.lineage(layer)) if (moving.has(at.id)) return true;
  return false;
}
