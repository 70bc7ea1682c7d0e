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

/** Where the picture of a frame goes when one looks from nearer or further: stretched to a place of the frame. */
export type Stretch = {
  /** In device px, between them too. */
  place: Region;
  /** What that leaves open, in whole device px. */
  open: readonly Region[];
};

/** With more than this in view a frame of its own for each step of a zoom would not come in time. */
const CROWD = 1200;
/** A picture stretched by more than this tells too little. */
const MOST_STRETCHED = 2;

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
    const isCrowded = isZooming && !atRest && !isMoving(preview) && inView(view) > CROWD;
    const stretch =
      isCrowded && key.length === this.key.length && key.every((part, i) => i === 0 || part === this.key[i])
        ? stretchOf({ ...this.at, scale: this.key[0] as number }, camera, dpr, width, height)
        : null;
    if (stretch) {
      this.context.imageSmoothingQuality = 'low';
      this.move(stretch.place);
      for (const part of stretch.open) this.drawPart(view, part, still);
      this.fine = false;
      return this.put(target, view, key);
    }
    if (
      !atRest &&
      ((isZooming && !isCrowded) || (isMoving(preview) && !touchedSince(NO_PREVIEW, view, width, height)))
    ) {
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
      if (shift && (shift.dx !== 0 || shift.dy !== 0)) this.move({ x: shift.dx, y: shift.dy, width, height });
      for (const part of open) this.drawPart(view, part, still);
      this.fine = false;
    }
    this.put(target, view, key);
  }

  /** The kept picture goes to a place of the frame, and nothing is where it does not reach. */
  private move({ x, y, width, height }: Region): void {
    this.context.setTransform(1, 0, 0, 1, 0, 0);
    this.context.globalCompositeOperation = 'copy';
    this.context.drawImage(this.canvas, x, y, width, height);
    this.context.globalCompositeOperation = 'source-over';
  }

  /** Puts the kept picture onto the canvas, which is what it was drawn for from now on. */
  private put(target: CanvasRenderingContext2D, { camera, dpr, preview }: PlaneView, key: Key): void {
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

/** How many artboards and parts of artwork are in view. */
function inView(view: PlaneView): number {
  const seen = seenIn(view, { x: 0, y: 0, width: view.width, height: view.height });
  const { artboards, items } = view.scene.placed;
  return Math.max(artboards.in(seen).length, items.in(seen).length);
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
    artworkStays,
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
    artworkStays,
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

type Looking = { x: number; y: number; scale: number };

/** How a picture is stretched when one looks from nearer or further; null when it cannot stand in. */
export function stretchOf(from: Looking, to: Looking, dpr: number, widthPx: number, heightPx: number): Stretch | null {
  const by = to.scale / from.scale;
  if (!(by <= MOST_STRETCHED && by >= 1 / MOST_STRETCHED)) return null;
  const unit = to.scale * dpr;
  const place = { x: (from.x - to.x) * unit, y: (from.y - to.y) * unit, width: widthPx * by, height: heightPx * by };
  // A px that it covers in part is drawn anew.
  const left = Math.max(0, Math.ceil(place.x));
  const top = Math.max(0, Math.ceil(place.y));
  const right = Math.min(widthPx, Math.floor(place.x + place.width));
  const bottom = Math.min(heightPx, Math.floor(place.y + place.height));
  if (right <= left || bottom <= top) return null;
  const open: Region[] = [
    { x: 0, y: 0, width: widthPx, height: top },
    { x: 0, y: bottom, width: widthPx, height: heightPx - bottom },
    { x: 0, y: top, width: left, height: bottom - top },
    { x: right, y: top, width: widthPx - right, height: bottom - top },
  ];
  return { place, open: open.filter(({ width, height }) => width > 0 && height > 0) };
}
