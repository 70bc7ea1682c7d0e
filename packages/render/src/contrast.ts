import { parseColour, type Rgba, standsOut } from '@tolvik/core';
import type { RenderJob } from './job';
import { rasterise, resized } from './rasterise';

/** Longest side at which a file without pixels of its own is drawn to be judged. */
const JUDGED_SIDE = 64;

/** The ground of a file, when it hides everything behind it. */
export function opaqueGround(ground: string | null): Rgba | null {
  const colour = ground === null ? null : parseColour(ground);
  return colour && colour.a === 1 ? colour : null;
}

/** How far pixels stand out from the ground they were drawn on. */
export function contrastWith(ground: string | null, pixels: Buffer): number | undefined {
  const behind = opaqueGround(ground);
  return behind ? standsOut(pixels, behind) : undefined;
}

/** The same of a file of vectors, drawn small. */
export function contrastOfDrawn({ svg, ground, widthPx, heightPx }: RenderJob): number | undefined {
  if (!opaqueGround(ground)) return undefined;
  const scale = JUDGED_SIDE / Math.max(widthPx, heightPx);
  const [w, h] = [Math.max(1, Math.round(widthPx * scale)), Math.max(1, Math.round(heightPx * scale))];
  return contrastWith(ground, rasterise(resized(svg, w, h), w, h).data);
}
