import type { Bounds, Region } from '@tolvik/core';
import type { Painter } from '../../painter/painter';
import type { PlaneView } from './plane-view';
import { NO_PREVIEW, type Preview } from './preview';
import { isMoving, touchedSince } from './touched';

/** Draws what lies still within a box of the screen, in CSS px; what lies outside is cut off. */
export type DrawStill = (context: CanvasRenderingContext2D, view: PlaneView, seen: Bounds) => void;

/** Where the picture of a frame is found in the frame before. */
export type Shift = {
  /** Device px to the right and down. */ dx: number;
  dy: number /** What that leaves open, in device px. */;
  open: readonly Region[];
};

/** What a kept picture was drawn from, beside the place one looks from. */
type Key = readonly unknown[];

/**
 * The last frame without what lies over it. Panning moves it along and draws only the strips that come into view, and a
 * gesture draws only where something moves, so that a frame costs the same with 10,000 artboards in view as with ten.
 */
export class PlaneCache {
  private readonly canvas = document.createElement('canvas');
  private readonly context = this.canvas.getContext('2d', { alpha: false }) as CanvasRenderingContext2D;
  private key: Key = [];
  private at = { x: 0, y: 0 };
  private preview: Preview = NO_PREVIEW;
  /** Which pictures of the painter it shows. */
  private revision = -1;
  /** Whether all of it was drawn at rest, at the best quality. */
  private fine = false;

  /** Puts the still part of a frame onto the canvas; without a picture to keep when everything moves anyway. */
  draw(target: CanvasRenderingContext2D, painter: Painter, view: PlaneView, still: DrawStill): void {
    const { camera, dpr, atRest, preview } = view;
    const key = keyOf(view);
    // What was painted since shows when the hand rests; only what a gesture has painted anew is waited for.
    const known =
      key.length === this.key.length &&
      key.every((part, i) => part === this.key[i]) &&
      (this.revision === painter.revision || !(atRest || isMoving(preview)));
    const { width, height } = this.canvas;
    const touched = known ? touchedSince(this.preview, view, width, height) : null;
    const isZooming = camera.scale !== this.key[0];
    if (!atRest && (isZooming || (isMoving(preview) && !touchedSince(NO_PREVIEW, view, width, height)))) {
      this.key = [camera.scale];
      still(target, view, seenIn(view, { x: 0, y: 0, width: view.width, height: view.height }));
      return;
    }
    const shift = touched ? shiftOf(this.at, camera, camera.scale * dpr, width, height) : null;
    const open = shift && touched ? [...shift.open, ...touched] : null;
    // At rest all is drawn again, once, at the best quality.
    if (!open || (atRest && (!this.fine || open.length > 0))) {
      this.canvas.width = target.canvas.width;
      this.canvas.height = target.canvas.height;
      still(this.context, view, seenIn(view, { x: 0, y: 0, width: view.width, height: view.height }));
      this.fine = atRest;
      this.revision = painter.revision;
    } else if (open.length > 0) {
      if (shift && (shift.dx !== 0 || shift.dy !== 0)) {
        this.context.setTransform(1, 0, 0, 1, 0, 0);
        this.context.globalCompositeOperation = 'copy';
        this.context.drawImage(this.canvas, shift.dx, shift.dy);
        this.context.globalCompositeOperation = 'source-over';
      }
      for (const part of open) this.drawPart(view, part, still);
      this.fine = false;
    }
    this.key = key;
    this.preview = preview;
    this.at = { x: camera.x, y: camera.y };
    target.setTransform(1, 0, 0, 1, 0, 0);
    target.drawImage(this.canvas, 0, 0);
    target.setTransform(dpr, 0, 0, dpr, 0, 0);
  }

  /** The next frame is drawn from nothing. */
  forget(): void {
    this.key = [];
  }

  private drawPart(view: PlaneView, { x, y, width, height }: Region, still: DrawStill): void {
    const { context } = this;
    context.save();
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.beginPath();
    context.rect(x, y, width, height);
    context.clip();
    const { dpr } = view;
    still(context, view, seenIn(view, { x: x / dpr, y: y / dpr, width: width / dpr, height: height / dpr }));
    context.restore();
  }
}

/** A part of the screen as a box of the plane. */
const seenIn = ({ camera }: PlaneView, { x, y, width, height }: Region): Bounds => ({
  minX: camera.x + x / camera.scale,
  minY: camera.y + y / camera.scale,
  maxX: camera.x + (x + width) / camera.scale,
  maxY: camera.y + (y + height) / camera.scale,
});

function keyOf(view: PlaneView): Key {
  const {
    camera,
    doc,
    scene,
    selection,
    backdrop,
    ownBackdrop,
    wireframe,
    pixelGrid,
    pixels,
    width,
    height,
    dpr,
    edition,
    renaming,
    fileCounts,
    trouble,
  } = view;
  return [
    camera.scale,
    doc,
    doc.revision,
    scene,
    selection,
    backdrop,
    ownBackdrop,
    wireframe,
    pixelGrid,
    pixels,
    width,
    height,
    dpr,
    edition?.id,
    renaming,
    fileCounts,
    trouble,
  ];
}

/** How a picture moves when one looks from elsewhere; null when it cannot stand in: too far away, or between device px. */
export function shiftOf(
  from: { x: number; y: number },
  to: { x: number; y: number },
  devicePxPerPx: number,
  widthPx: number,
  heightPx: number,
): Shift | null {
  const [exactX, exactY] = [(from.x - to.x) * devicePxPerPx, (from.y - to.y) * devicePxPerPx];
  const [dx, dy] = [Math.round(exactX), Math.round(exactY)];
  if (Math.abs(exactX - dx) > 0.01 || Math.abs(exactY - dy) > 0.01) return null;
  if (Math.abs(dx) > widthPx / 2 || Math.abs(dy) > heightPx / 2) return null;
  const open: Region[] = [];
  if (dx !== 0) open.push({ x: dx > 0 ? 0 : widthPx + dx, y: 0, width: Math.abs(dx), height: heightPx });
  if (dy !== 0)
    open.push({
      x: Math.max(0, dx),
      y: dy > 0 ? 0 : heightPx + dy,
      width: widthPx - Math.abs(dx),
      height: Math.abs(dy),
    });
  return { dx, dy, open };
}
