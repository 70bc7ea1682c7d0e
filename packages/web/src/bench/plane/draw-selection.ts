import { type Artboard, type Bounds, followedLayout, type Matrix, type Region } from '@tolvik/core';
import { toScreen } from './camera';
import { drawGround, drawMarks } from './draw-pieces';
import { HANDLE, handlesOf, isResizable, turnHandle } from './handles';
import { COLOURS, MONO_ADVANCE, NAME_FONT } from './look';
import type { PlaneView } from './plane-view';
import type { Preview } from './preview';

export function drawSelection(
  context: CanvasRenderingContext2D,
  view: PlaneView,
  rectOf: (artboard: Artboard) => Region,
): void {
  const { camera, selection, scene, preview } = view;
  context.lineWidth = 2;
  for (const id of selection) {
    const piece = scene.pieceById.get(id);
    if (!piece || piece.problem) continue;
    const record = piece.record;
    let rect = record.kind === 'artboard' ? rectOf(record) : piece.region;
    if (record.kind === 'slice')
      rect =
        preview.resized?.id === id
          ? preview.resized.rect
          : preview.moving.has(id)
            ? { ...rect, x: rect.x + preview.dx, y: rect.y + preview.dy }
            : rect;
    const [x, y] = toScreen(camera, rect.x, rect.y);
    context.strokeStyle = COLOURS.spruce;
    context.strokeRect(
      Math.round(x) - 1,
      Math.round(y) - 1,
      Math.round(rect.width * camera.scale) + 2,
      Math.round(rect.height * camera.scale) + 2,
    );
    if (record.kind === 'artboard') drawClearSpace(context, view, record, rect);
    if (selection.size === 1 && isResizable(piece))
      for (const handle of handlesOf(camera, rect)) drawHandle(context, handle.x, handle.y);
  }
}

/** The room around a selected lockup that nothing else may enter. */
function drawClearSpace(
  context: CanvasRenderingContext2D,
  { camera, doc }: PlaneView,
  artboard: Artboard,
  { x, y }: Region,
): void {
  const layout = artboard.follows?.lockup && followedLayout(doc, artboard);
  if (!layout || typeof layout === 'string' || layout.clearSpacePx === 0) return;
  const left = Math.min(...layout.placements.map((part) => part.x));
  const top = Math.min(...layout.placements.map((part) => part.y));
  const right = Math.max(...layout.placements.map((part) => part.x + part.source.width * part.scale));
  const bottom = Math.max(...layout.placements.map((part) => part.y + part.source.height * part.scale));
  const [sx, sy] = toScreen(camera, x + left, y + top);
  context.save();
  context.setLineDash([4, 3]);
  context.lineWidth = 1;
  context.strokeRect(
    Math.round(sx) + 0.5,
    Math.round(sy) + 0.5,
    Math.round((right - left) * camera.scale),
    Math.round((bottom - top) * camera.scale),
  );
  context.restore();
}

const corners = ({ minX, minY, maxX, maxY }: Bounds): [number, number][] => [
  [minX, minY],
  [maxX, minY],
  [maxX, maxY],
  [minX, maxY],
];
const through = ([a, b, c, d, e, f]: Matrix, [x, y]: [number, number]): [number, number] => [
  a * x + c * y + e,
  b * x + d * y + f,
];

/** Selected layers: a thin frame with square corners each, apart from the frame of pieces. */
export function drawLayerBoxes(
  context: CanvasRenderingContext2D,
  { camera, layerBoxes, preview, layerFrame }: PlaneView,
): void {
  context.strokeStyle = COLOURS.spruce;
  context.lineWidth = 1;
  for (const { id, box } of layerBoxes) {
    if (!box) continue;
    const moved = preview.moving.has(id);
    const points = corners(box).map((point) => toScreen(camera, ...(moved ? through(preview.matrix, point) : point)));
    context.beginPath();
    points.forEach(([x, y], i) =>
      i === 0
        ? context.moveTo(Math.round(x) + 0.5, Math.round(y) + 0.5)
        : context.lineTo(Math.round(x) + 0.5, Math.round(y) + 0.5),
    );
    context.closePath();
    context.stroke();
    context.fillStyle = COLOURS.spruce;
    for (const [x, y] of points) context.fillRect(Math.round(x) - 2, Math.round(y) - 2, 4, 4);
  }
  if (!layerFrame || preview.moving.size > 0) return;
  const region = {
    x: layerFrame.minX,
    y: layerFrame.minY,
    width: layerFrame.maxX - layerFrame.minX,
    height: layerFrame.maxY - layerFrame.minY,
  };
  if (layerBoxes.length > 1) {
    const [x, y] = toScreen(camera, region.x, region.y);
    context.strokeRect(
      Math.round(x) + 0.5,
      Math.round(y) + 0.5,
      Math.round(region.width * camera.scale),
      Math.round(region.height * camera.scale),
    );
  }
  for (const handle of handlesOf(camera, region)) drawHandle(context, handle.x, handle.y);
  drawTurnHandle(context, turnHandle(camera, region));
}

/** A quarter arc with an end stop: this corner can be swung round. */
function drawTurnHandle(context: CanvasRenderingContext2D, { x, y }: { x: number; y: number }): void {
  context.fillStyle = '#fff';
  context.strokeStyle = COLOURS.spruce;
  context.lineWidth = 1.5;
  context.beginPath();
  context.arc(x, y, 7, 0, Math.PI * 2);
  context.fill();
  context.stroke();
  context.beginPath();
  context.arc(x, y, 3.2, Math.PI, Math.PI * 2.25);
  context.moveTo(x + 4.6, y);
  context.lineTo(x + 2.4, y + 2.6);
  context.stroke();
}

function drawHandle(context: CanvasRenderingContext2D, x: number, y: number): void {
  context.fillStyle = '#fff';
  context.strokeStyle = COLOURS.spruce;
  context.lineWidth = 1.5;
  context.beginPath();
  context.rect(Math.round(x) - HANDLE / 2, Math.round(y) - HANDLE / 2, HANDLE, HANDLE);
  context.fill();
  context.stroke();
}

/** What is being drawn, before it is there. */
export function drawDrawing(
  context: CanvasRenderingContext2D,
  view: PlaneView,
  { kind, rect, line }: NonNullable<Preview['drawing']>,
): void {
  const { camera } = view;
  const [x, y] = toScreen(camera, rect.x, rect.y);
  const w = rect.width * camera.scale;
  const h = rect.height * camera.scale;
  context.lineWidth = 1;
  if (kind === 'band') {
    context.fillStyle = 'rgb(12 106 83 / 0.1)';
    context.fillRect(x, y, w, h);
    context.strokeStyle = COLOURS.spruce;
    context.strokeRect(Math.round(x) + 0.5, Math.round(y) + 0.5, w, h);
  } else if (kind === 'artboard') {
    drawGround(context, view, rect, null);
    drawMarks(context, view, [rect]);
  } else {
    context.strokeStyle = kind === 'slice' ? COLOURS.cut : COLOURS.spruce;
    if (kind === 'slice') context.setLineDash([5, 3]);
    context.beginPath();
    if (line) {
      context.moveTo(x, line.rising ? y + h : y);
      context.lineTo(x + w, line.rising ? y : y + h);
    } else context.rect(Math.round(x) + 0.5, Math.round(y) + 0.5, w, h);
    context.stroke();
    context.setLineDash([]);
  }
}

/** Lines that show what a dragged edge has met, from one thing to the other. */
export function drawGuides(context: CanvasRenderingContext2D, { camera, preview }: PlaneView): void {
  context.strokeStyle = COLOURS.cut;
  context.lineWidth = 1;
  for (const { axis, at, from, to } of preview.guides) {
    const [x0, y0] = axis === 'x' ? toScreen(camera, at, from) : toScreen(camera, from, at);
    const [x1, y1] = axis === 'x' ? toScreen(camera, at, to) : toScreen(camera, to, at);
    context.beginPath();
    context.moveTo(Math.round(x0) + 0.5, Math.round(y0) + 0.5);
    context.lineTo(Math.round(x1) + 0.5, Math.round(y1) + 0.5);
    context.stroke();
  }
}

/** Numbers of what is being done, beside the pointer. */
export function drawWords(context: CanvasRenderingContext2D, words: string, x: number, y: number): void {
  context.font = NAME_FONT;
  context.fillStyle = COLOURS.ink;
  context.fillRect(x + 14, y + 14, words.length * MONO_ADVANCE + 10, 18);
  context.fillStyle = '#fff';
  context.fillText(words, x + 19, y + 27);
}
