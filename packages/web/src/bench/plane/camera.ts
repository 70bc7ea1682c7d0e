import type { Bounds } from '@tolvik/core';

export const MIN_SCALE = 0.01;
export const MAX_SCALE = 64;

/** Where one looks from: the plane point at the upper left corner of the view, and CSS px for one px of the plane. */
export type Camera = { x: number; y: number; scale: number };

export const toScreen = (camera: Camera, x: number, y: number): [number, number] => [
  (x - camera.x) * camera.scale,
  (y - camera.y) * camera.scale,
];
export const toPlane = (camera: Camera, x: number, y: number): [number, number] => [
  x / camera.scale + camera.x,
  y / camera.scale + camera.y,
];

/** Zoomed by a factor around a point of the view, which stays where it is. */
export function zoomed(camera: Camera, factor: number, atX: number, atY: number): Camera {
  const scale = Math.min(MAX_SCALE, Math.max(MIN_SCALE, camera.scale * factor));
  const [x, y] = toPlane(camera, atX, atY);
  return { x: x - atX / scale, y: y - atY / scale, scale };
}

/** A camera that shows a box with some room around; never closer than `most`. */
export function fitting(box: Bounds, width: number, height: number, room = 56, most = 16): Camera {
  const w = Math.max(1, box.maxX - box.minX);
  const h = Math.max(1, box.maxY - box.minY);
  const scale = Math.min(
    most,
    MAX_SCALE,
    Math.max(MIN_SCALE, Math.min((width - room * 2) / w, (height - room * 2) / h)),
  );
  return { x: (box.minX + box.maxX) / 2 - width / 2 / scale, y: (box.minY + box.maxY) / 2 - height / 2 / scale, scale };
}

/** Panned so that plane px and device px stay in step and bitmaps at rest are drawn one to one. */
export function snapped(camera: Camera, dpr: number): Camera {
  const unit = camera.scale * dpr;
  return { scale: camera.scale, x: Math.round(camera.x * unit) / unit, y: Math.round(camera.y * unit) / unit };
}
