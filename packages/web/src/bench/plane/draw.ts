import {
  type Artboard,
  type Bounds,
  boundsOf,
  isIdentity,
  type Matrix,
  multiply,
  type Region,
  touches,
} from '@tolvik/core';
import type { Painter } from '../../painter/painter';
import { type Camera, toScreen } from './camera';
import { drawGround, drawMarks, drawSlice, drawTicket, REACH_OF_MARKS, ticketWidth } from './draw-pieces';
import { drawPixelGrid, drawRulers } from './draw-rulers';
import { drawDrawing, drawGuides, drawLayerBoxes, drawSelection, drawWords } from './draw-selection';
import { drawWireframe } from './draw-wireframe';
import { bitmapFor } from './item-bitmaps';
import { COLOURS } from './look';
import type { PlaneCache } from './plane-cache';
import type { PlaneView } from './plane-view';
import type { Preview } from './preview';
import type { Drawing } from './stand-ins';
import { type Going, goingAlong, REACH } from './touched';

/** Draws one frame of the plane: what lies still from the cache, and over it what follows the hand. */
export function drawPlane(
  context: CanvasRenderingContext2D,
  painter: Painter,
  cache: PlaneCache,
  view: PlaneView,
): void {
  cache.draw(context, painter, view, (on, of, seen) => drawStill(on, painter, of, seen));
  if (view.pixels > 0 && !view.wireframe) view.drawOffEdges?.(context, view);
  if (view.selection.size > 0) drawSelection(context, view, (artboard) => rectOf(view.preview, artboard));
  drawLayerBoxes(context, view);
  if (view.preview.drawing) drawDrawing(context, view, view.preview.drawing);
  drawGuides(context, view);
  if (view.rulers) drawRulers(context, view);
  if (view.preview.words) drawWords(context, view.preview.words, view.pointer.x, view.pointer.y);
}

function rectOf(preview: Preview, artboard: Artboard): Region {
  if (preview.resized?.id === artboard.id) return preview.resized.rect;
  return preview.moving.has(artboard.id)
    ? { x: artboard.x + preview.dx, y: artboard.y + preview.dy, width: artboard.width, height: artboard.height }
    : artboard;
}

/** Pieces and artwork as far as they lie in a box of the plane. */
function drawStill(context: CanvasRenderingContext2D, painter: Painter, view: PlaneView, seen: Bounds): void {
  const { camera, width, height, dpr, scene, preview } = view;
  context.setTransform(dpr, 0, 0, dpr, 0, 0);
  context.fillStyle = COLOURS.table;
  context.fillRect(0, 0, width, height);
  const near = grown(seen, REACH / camera.scale);
  // Where no words stand beside a piece, only its marks reach out of it, and far fewer have to be drawn.
  const bare = grown(seen, REACH_OF_MARKS / camera.scale);
  // What a gesture moves is wherever it moves it to.
  const going = goingAlong(scene, preview);
  const visible: { artboard: Artboard; rect: Region }[] = [];
  for (const artboard of scene.placed.artboards.in(near, going.artboards)) {
    const rect = rectOf(preview, artboard);
    if (touches(boundsOf(rect), ticketWidth(view, rect) > 0 ? near : bare)) visible.push({ artboard, rect });
  }
  const rects = visible.map(({ rect }) => rect);

  for (const { artboard, rect } of visible)
    drawGround(context, view, rect, view.wireframe ? null : artboard.background);
  if (view.wireframe) drawWireframe(context, view, seen, visible);
  else drawArtwork(context, painter, view, seen, visible, going);
  if (view.pixelGrid) drawPixelGrid(context, view, rects);

  drawMarks(context, view, rects);
  for (const { artboard, rect } of visible) drawTicket(context, view, artboard, rect);
  for (const slice of scene.placed.slices.in(near, going.slices)) {
    const moved = preview.moving.has(slice.id);
    const rect =
      preview.resized?.id === slice.id
        ? preview.resized.rect
        : moved
          ? { ...slice.region, x: slice.region.x + preview.dx, y: slice.region.y + preview.dy }
          : slice.region;
    if (touches(boundsOf(rect), near)) drawSlice(context, view, slice, rect);
  }
}

const grown = ({ minX, minY, maxX, maxY }: Bounds, by: number): Bounds => ({
  minX: minX - by,
  minY: minY - by,
  maxX: maxX + by,
  maxY: maxY + by,
});

/** The artwork itself, from bitmaps; an edition shown, variants and a piece in pixels are painted as they come out. */
function drawArtwork(
  context: CanvasRenderingContext2D,
  painter: Painter,
  view: PlaneView,
  seen: Bounds,
  visible: readonly { artboard: Artboard; rect: Region }[],
  going: Going,
): void {
  const { camera, dpr, scene, preview } = view;
  context.imageSmoothingEnabled = true;
  // Scaling well costs many times what scaling plainly does, and cannot be told apart in motion.
  context.imageSmoothingQuality = view.atRest ? 'high' : 'low';
  const board = view.edition ? visible.find(({ artboard }) => artboard.id === view.edition?.artboardId) : undefined;
  const onScreen = screenMatrix(camera, preview.matrix);
  for (const item of scene.placed.items.in(seen, going.items)) {
    if (board && liesOn(item.bounds, board.rect)) continue;
    const bounds = preview.grown.get(item.layerId) ?? item.bounds;
    if (going.moved.has(item)) {
      const drawn = bitmapFor(painter, item, camera, dpr, bounds, false);
      if (!drawn) continue;
      context.setTransform(...multiply([dpr, 0, 0, dpr, 0, 0], onScreen));
      context.drawImage(drawn.image, drawn.x, drawn.y, drawn.width, drawn.height);
      context.setTransform(dpr, 0, 0, dpr, 0, 0);
      continue;
    }
    if (!touches(bounds, seen)) continue;
    const changing = bounds !== item.bounds;
    const drawn = bitmapFor(painter, changing ? { ...item, bounds } : item, camera, dpr, seen, view.atRest || changing);
    const standIn = drawn?.stale ? view.standIns?.item(item) : null;
    if (standIn) putStandIn(context, view, standIn);
    else if (drawn) context.drawImage(drawn.image, drawn.x, drawn.y, drawn.width, drawn.height);
    else drawBeingMade(context, camera, bounds);
  }
  for (const { artboard, rect } of visible)
    if (artboard.follows) drawPainted(context, painter, view, artboard.id, rect);
  if (board && view.edition) drawPainted(context, painter, view, view.edition.id, board.rect);
  if (view.pixels > 0) for (const id of view.selection) drawPixels(context, painter, view, id);
}

/** A matrix of the plane as it acts on the screen. */
function screenMatrix({ x, y, scale }: Camera, onPlane: Matrix): Matrix {
  if (isIdentity(onPlane)) return onPlane;
  return multiply(multiply([scale, 0, 0, scale, -x * scale, -y * scale], onPlane), [1 / scale, 0, 0, 1 / scale, x, y]);
}

const liesOn = ({ minX, minY, maxX, maxY }: Bounds, { x, y, width, height }: Region): boolean => {
  const [cx, cy] = [(minX + maxX) / 2, (minY + maxY) / 2];
  return cx >= x && cx <= x + width && cy >= y && cy <= y + height;
};

/** The painted picture of a piece for a zoom, as far as there is one, and where it is kept. */
export function pictureOf(
  painter: Painter,
  pieceId: string,
  { width, height }: { width: number; height: number },
  camera: Camera,
  dpr: number,
) {
  const side = Math.min(1024, 2 ** Math.ceil(Math.log2(Math.max(width, height) * camera.scale * dpr)));
  const slot = `piece ${pieceId} bench${side}`;
  return { painted: painter.get(slot), slot, side };
}

/** What a piece will become, painted in its place: for variants, which have no artwork of their own, and editions. */
function drawPainted(
  context: CanvasRenderingContext2D,
  painter: Painter,
  view: PlaneView,
  pieceId: string,
  rect: Region,
): void {
  const { camera, dpr, scene } = view;
  const { painted, slot, side } = pictureOf(painter, pieceId, rect, camera, dpr);
  if (!painted || painted.stale) painter.want(slot, { kind: 'piece', pieceId }, null, side, side);
  if (!painted)
    return drawBeingMade(context, camera, {
      minX: rect.x,
      minY: rect.y,
      maxX: rect.x + rect.width,
      maxY: rect.y + rect.height,
    });
  const piece = painted.stale ? scene.pieceById.get(pieceId) : undefined;
  const standIn = piece && !piece.problem ? view.standIns?.piece(piece) : null;
  const [x, y] = toScreen(camera, rect.x, rect.y);
  const [width, height] = [rect.width * camera.scale, rect.height * camera.scale];
  if (!standIn) return context.drawImage(painted.bitmap, x, y, width, height);
  context.save();
  context.beginPath();
  context.rect(x, y, width, height);
  context.clip();
  putStandIn(context, view, standIn);
  context.restore();
}

/** Hatches a place of the plane whose picture is on its way, so that it is not taken for empty. */
function drawBeingMade(context: CanvasRenderingContext2D, camera: Camera, { minX, minY, maxX, maxY }: Bounds): void {
  const [x, y] = toScreen(camera, minX, minY);
  const [width, height] = [(maxX - minX) * camera.scale, (maxY - minY) * camera.scale];
  if (width < HATCH_PX || height < HATCH_PX) return;
  context.save();
  context.beginPath();
  context.rect(x, y, width, height);
  context.clip();
  context.beginPath();
  const reach = Math.min(height, MOST_HATCHED_PX);
  for (let at = -reach; at < Math.min(width, MOST_HATCHED_PX); at += HATCH_PX) {
    context.moveTo(x + at, y + reach);
    context.lineTo(x + at + reach, y);
  }
  context.strokeStyle = COLOURS.making;
  context.lineWidth = 2;
  context.stroke();
  context.restore();
}

/** How far the lines of a hatch lie apart, and how far they go at the most, in CSS px. */
const HATCH_PX = 8;
const MOST_HATCHED_PX = 2000;

/** Puts a stand-in where it lies on the plane. */
function putStandIn(context: CanvasRenderingContext2D, { camera, standIns }: PlaneView, standIn: Drawing): void {
  const { x, y, scale } = camera;
  context.save();
  context.transform(scale, 0, 0, scale, -x * scale, -y * scale);
  standIns?.draw(context, standIn);
  context.restore();
}

/** A piece as the pixels that a PNG of it would hold, each a square. */
function drawPixels(context: CanvasRenderingContext2D, painter: Painter, view: PlaneView, pieceId: string): void {
  const { camera, scene, pixels } = view;
  const piece = scene.pieceById.get(pieceId);
  if (!piece || piece.problem) return;
  const { region } = piece;
  const [w, h] = [Math.max(1, Math.round(region.width * pixels)), Math.max(1, Math.round(region.height * pixels))];
  if (w * h > MOST_PIXELS) return;
  const slot = `piece ${pieceId} pixels${pixels}`;
  const painted = painter.get(slot);
  if (!painted || painted.stale || painted.widthPx !== w || painted.heightPx !== h)
    painter.want(slot, { kind: 'piece', pieceId }, null, w, h, true);
  if (!painted) return;
  const [x, y] = toScreen(camera, region.x, region.y);
  // What shines through is the backdrop, not the smooth drawing.
  drawGround(context, view, region, null);
  context.imageSmoothingEnabled = false;
  context.drawImage(painted.bitmap, x, y, region.width * camera.scale, region.height * camera.scale);
  context.imageSmoothingEnabled = true;
}

/** More pixels than this are not shown as squares: nobody could tell them apart. */
const MOST_PIXELS = 16_000_000;
