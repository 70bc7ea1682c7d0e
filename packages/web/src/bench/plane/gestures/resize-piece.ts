import { acts, type Piece } from '@tolvik/core';
import { act } from '../../act';
import type { Gesture, GestureHost, Pointer } from '../gesture';
import type { Handle } from '../handles';
import { NO_PREVIEW } from '../preview';
import { resizedRect } from '../resized-rect';

/** A region is never smaller than this, in px. */
const LEAST = 0.01;

/** A side or corner of an artboard or drawn slice is dragged; Shift keeps its proportions. */
export function resizePiece(host: GestureHost, from: Pointer, piece: Piece, side: Handle['side']): Gesture {
  const before = { ...piece.region };
  // What is dragged is the edge that shows; a slice's own region lies within it by its margin.
  const margin = piece.record.kind === 'slice' ? piece.record.margin : 0;
  return {
    cursor: `${side}-resize`,
    move({ px, py, shift }) {
      const rect = resizedRect(before, side, px - from.px, py - from.py, shift);
      host.preview = {
        ...NO_PREVIEW,
        resized: { id: piece.id, rect },
        words: `${+rect.width.toFixed(2)} × ${+rect.height.toFixed(2)}`,
      };
      return undefined;
    },
    finish() {
      const { resized } = host.preview;
      if (!resized) return;
      const { x, y, width, height } = resized.rect;
      const own = {
        x: x + margin,
        y: y + margin,
        width: Math.max(LEAST, width - 2 * margin),
        height: Math.max(LEAST, height - 2 * margin),
      };
      act(host.session, acts.setRect, own, [piece.id]);
    },
  };
}
