import type { Piece, Region } from '@tolvik/core';
import { type Camera, toScreen } from './camera';

/** Side of a handle, and how far from its middle it can be taken hold of, in CSS px. */
export const HANDLE = 7;

export type Handle = { side: 'nw' | 'n' | 'ne' | 'e' | 'se' | 's' | 'sw' | 'w'; x: number; y: number };

export const isResizable = ({ record }: Piece): boolean =>
  record.kind === 'artboard' || (record.kind === 'slice' && record.source.kind === 'region');

/** The places to take hold of; sides only where there is room between the corners. */
export function handlesOf(camera: Camera, rect: Region): Handle[] {
  const [x0, y0] = toScreen(camera, rect.x, rect.y);
  const x1 = x0 + rect.width * camera.scale;
  const y1 = y0 + rect.height * camera.scale;
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
  const handles: Handle[] = [
    { side: 'nw', x: x0, y: y0 },
    { side: 'ne', x: x1, y: y0 },
    { side: 'se', x: x1, y: y1 },
    { side: 'sw', x: x0, y: y1 },
  ];
  if (x1 - x0 > 36) handles.push({ side: 'n', x: cx, y: y0 }, { side: 's', x: cx, y: y1 });
  if (y1 - y0 > 36) handles.push({ side: 'w', x: x0, y: cy }, { side: 'e', x: x1, y: cy });
  return handles;
}

/** Where a frame is turned: off its upper right corner. */
export function turnHandle(camera: Camera, rect: Region): { x: number; y: number } {
  const [x, y] = toScreen(camera, rect.x + rect.width, rect.y);
  return { x: x + 16, y: y - 16 };
}
