import type { Region } from '@tolvik/core';
import type { Handle } from './handles';

/** A rectangle after one side or corner was dragged, on whole px, at least 1 × 1; with `even`, sides keep their ratio. */
export function resizedRect(from: Region, side: Handle['side'], dx: number, dy: number, even: boolean): Region {
  let x0 = from.x;
  let y0 = from.y;
  let x1 = from.x + from.width;
  let y1 = from.y + from.height;
  if (side.includes('w')) x0 = Math.min(Math.round(x0 + dx), x1 - 1);
  if (side.includes('e')) x1 = Math.max(Math.round(x1 + dx), x0 + 1);
  if (side.includes('n')) y0 = Math.min(Math.round(y0 + dy), y1 - 1);
  if (side.includes('s')) y1 = Math.max(Math.round(y1 + dy), y0 + 1);
  if (even && side.length === 2) {
    const ratio = from.width / from.height;
    const width = Math.max(1, Math.round(Math.max(x1 - x0, (y1 - y0) * ratio)));
    const height = Math.max(1, Math.round(width / ratio));
    if (side.includes('w')) x0 = x1 - width;
    else x1 = x0 + width;
    if (side.includes('n')) y0 = y1 - height;
    else y1 = y0 + height;
  }
  return { x: x0, y: y0, width: x1 - x0, height: y1 - y0 };
}
