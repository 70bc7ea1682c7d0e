import { parseColour, type Rgba, type Seen, standsOut } from '@tolvik/core';
import type { RenderJob } from './job';
import { rasterise, resized } from './rasterise';

/** Longest side at which a file without pixels of its own is drawn to be judged. */
const JUDGED_SIDE = 96;

/** The ground of a file, when it hides everything behind it. */
export function opaqueGround(ground: string | null): Rgba | null {
  const colour = ground === null ? null : parseColour(ground);
  return colour && colour.a === 1 ? colour : null;
}

/** What can be seen of pixels on the ground they were drawn on; undefined when it does not hide what is behind. */
export function seenOn(ground: string | null, pixels: Buffer, width: number): Seen | undefined {
  const behind = opaqueGround(ground);
  return behind ? standsOut(pixels, width, behind) : undefined;
}

/** The same of a file of vectors, drawn small. */
export function seenWhenDrawn({ svg, ground, widthPx, heightPx }: RenderJob): Seen | undefined {
  if (!opaqueGround(ground)) return undefined;
  const scale = JUDGED_SIDE / Math.max(widthPx, heightPx);
  const [w, h] = [Math.max(1, Math.round(widthPx * scale)), Math.max(1, Math.round(heightPx * scale))];
  return seenOn(ground, rasterise(resized(svg, w, h), w, h).data, w);
}
