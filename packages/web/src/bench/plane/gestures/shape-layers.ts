import {
  acts,
  type Bounds,
  type Matrix,
  outermost,
  type Reference,
  referencePoint,
  resizeTo,
  rotateAbout,
} from '@tolvik/core';
import { act } from '../../act';
import type { Gesture, GestureHost, Pointer } from '../gesture';
import type { Handle } from '../handles';
import { NO_PREVIEW, type Preview } from '../preview';
import { liveLayers, paintedWithin } from './live';

const ACROSS: Record<Handle['side'], Reference> = {
  nw: 'se',
  n: 's',
  ne: 'sw',
  e: 'w',
  se: 'nw',
  s: 'n',
  sw: 'ne',
  w: 'e',
};
/** Least size something is dragged to, in px; smaller is a matter of numbers. */
const LEAST = 0.1;
const TURN_STEP = 15;

/** The selected layers under a matrix that follows the pointer. */
function shaping(
  host: GestureHost,
  verb: 'resize' | 'turn',
  cursor: string,
  matrixAt: (at: Pointer) => { matrix: Matrix; words: string },
): Gesture {
  const { session } = host;
  const { doc } = session;
  const ids = outermost(doc, session.selection).map((layer) => layer.id);
  const nested = paintedWithin(host, ids);
  const live = liveLayers(host, nested);
  const moving = new Set(ids);
  let latest: Matrix | null = null;
  return {
    cursor,
    move(at) {
      const { matrix, words } = matrixAt(at);
      latest = matrix;
      const grown = live.show(matrix);
      host.preview = { ...NO_PREVIEW, moving, grown, matrix, words } satisfies Preview;
      return undefined;
    },
    finish() {
      live.end();
      if (latest) act(session, acts.transform, { matrix: latest, verb }, ids);
    },
    cancel: () => live.end(),
  };
}

/** A handle of the frame is dragged: the far side stays. Corners keep proportions unless Shift frees them; sides land on whole px. */
export function resizeLayers(host: GestureHost, from: Pointer, box: Bounds, side: Handle['side']): Gesture {
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  return shaping(host, 'resize', `${side}-resize`, ({ px, py, shift }) => {
    const pull = {
      x: side.includes('w') ? from.px - px : side.includes('e') ? px - from.px : 0,
      y: side.startsWith('n') ? from.py - py : side.startsWith('s') ? py - from.py : 0,
    };
    let width = Math.max(LEAST, w + pull.x);
    let height = Math.max(LEAST, h + pull.y);
    if (side.length === 2 && !shift && w > 0 && h > 0) {
      const factor = Math.max(width / w, height / h);
      width = w * factor;
      height = h * factor;
    }
    if (width >= 2 && side !== 'n' && side !== 's') {
      const whole = Math.round(width);
      if (side.length === 2 && !shift) height *= whole / width;
      width = whole;
    }
    if (height >= 2 && (side === 'n' || side === 's' || (side.length === 2 && shift))) height = Math.round(height);
    return {
      matrix: resizeTo(box, w > 0 ? width : w, h > 0 ? height : h, ACROSS[side]),
      words: `${+width.toFixed(2)} × ${+height.toFixed(2)}`,
    };
  });
}

/** The frame is turned about its middle; Shift turns in steps of 15°. */
export function turnLayers(host: GestureHost, from: Pointer, box: Bounds): Gesture {
  const { x, y } = referencePoint(box, 'c');
  const start = Math.atan2(from.py - y, from.px - x);
  return shaping(host, 'turn', 'grabbing', ({ px, py, shift }) => {
    let degrees = ((Math.atan2(py - y, px - x) - start) * 180) / Math.PI;
    degrees = shift ? Math.round(degrees / TURN_STEP) * TURN_STEP : Math.round(degrees * 10) / 10;
    if (degrees > 180) degrees -= 360;
    if (degrees < -180) degrees += 360;
    return { matrix: rotateAbout(x, y, degrees), words: `${degrees}°` };
  });
}
