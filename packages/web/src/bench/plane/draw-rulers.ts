import type { Region } from '@tolvik/core';
import { toScreen } from './camera';
import { COLOURS } from './look';
import type { PlaneView } from './plane-view';

/** Thickness of a ruler in CSS px. */
export const RULER = 18;
/** From this zoom on, the grid of whole px is drawn. */
export const GRID_FROM = 8;

/** The least of 1, 2, 5, 10, 20 … px of the plane that is at least so many CSS px long. */
export function rulerStep(scale: number, leastCssPx: number): number {
  const least = Math.max(1, leastCssPx / scale);
  const power = 10 ** Math.floor(Math.log10(least));
  return [1, 2, 5, 10].map((n) => n * power).find((n) => n >= least - 1e-9) as number;
}

/** Rulers along the upper and left edge in px of the plane; the extent of what is selected is marked. */
export function drawRulers(context: CanvasRenderingContext2D, view: PlaneView): void {
  const { camera, width, height, scene, selection, layerFrame } = view;
  context.fillStyle = COLOURS.paper;
  context.fillRect(0, 0, width, RULER);
  context.fillRect(0, 0, RULER, height);
  const extents: Region[] = [...selection].flatMap((id) => scene.pieceById.get(id)?.region ?? []);
  if (layerFrame)
    extents.push({
      x: layerFrame.minX,
      y: layerFrame.minY,
      width: layerFrame.maxX - layerFrame.minX,
      height: layerFrame.maxY - layerFrame.minY,
    });
  context.fillStyle = '#cfe3db';
  for (const { x, y, width: w, height: h } of extents.slice(0, 200)) {
    const [sx, sy] = toScreen(camera, x, y);
    const [left, top] = [Math.max(RULER, sx), Math.max(RULER, sy)];
    const [right, bottom] = [sx + w * camera.scale, sy + h * camera.scale];
    if (right > left) context.fillRect(left, 0, right - left, RULER);
    if (bottom > top) context.fillRect(0, top, RULER, bottom - top);
  }
  const step = rulerStep(camera.scale, 56);
  context.font = '400 10px "Spline Sans Mono"';
  context.fillStyle = COLOURS.ink2;
  context.strokeStyle = COLOURS.line;
  context.lineWidth = 1;
  context.beginPath();
  for (let at = Math.floor(camera.x / step) * step; at < camera.x + width / camera.scale; at += step) {
    const x = Math.round((at - camera.x) * camera.scale) + 0.5;
    if (x < RULER) continue;
    context.moveTo(x, RULER - 12);
    context.lineTo(x, RULER);
    context.fillText(String(+at.toFixed(3)), x + 3, 11);
  }
  for (let at = Math.floor(camera.y / step) * step; at < camera.y + height / camera.scale; at += step) {
    const y = Math.round((at - camera.y) * camera.scale) + 0.5;
    if (y < RULER) continue;
    context.moveTo(RULER - 12, y);
    context.lineTo(RULER, y);
    context.save();
    context.translate(11, y - 3);
    context.rotate(-Math.PI / 2);
    context.fillText(String(+at.toFixed(3)), 0, 0);
    context.restore();
  }
  context.moveTo(0, RULER - 0.5);
  context.lineTo(width, RULER - 0.5);
  context.moveTo(RULER - 0.5, 0);
  context.lineTo(RULER - 0.5, height);
  context.stroke();
  context.fillStyle = COLOURS.paper;
  context.fillRect(0, 0, RULER - 1, RULER - 1);
}

/** The edges of whole px on artboards, when one looks from close enough to tell them apart. */
export function drawPixelGrid(
  context: CanvasRenderingContext2D,
  { camera, width, height }: PlaneView,
  rects: readonly Region[],
): void {
  if (camera.scale < GRID_FROM) return;
  context.beginPath();
  for (const rect of rects) {
    const [x0, y0] = toScreen(camera, rect.x, rect.y);
    const [x1, y1] = [x0 + rect.width * camera.scale, y0 + rect.height * camera.scale];
    const [left, right, top, bottom] = [Math.max(0, x0), Math.min(width, x1), Math.max(0, y0), Math.min(height, y1)];
    if (left >= right || top >= bottom) continue;
    for (let px = Math.ceil(left / camera.scale + camera.x); px <= right / camera.scale + camera.x; px++) {
      const x = Math.round((px - camera.x) * camera.scale) + 0.5;
      context.moveTo(x, top);
      context.lineTo(x, bottom);
    }
    for (let py = Math.ceil(top / camera.scale + camera.y); py <= bottom / camera.scale + camera.y; py++) {
      const y = Math.round((py - camera.y) * camera.scale) + 0.5;
      context.moveTo(left, y);
      context.lineTo(right, y);
    }
  }
  context.strokeStyle = 'rgb(110 120 122 / 0.28)';
  context.lineWidth = 1;
  context.stroke();
}
