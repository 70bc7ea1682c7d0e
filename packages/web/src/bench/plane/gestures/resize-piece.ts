import type { Piece } from '@tolvik/core';
import { setRect } from '../acts';
import type { Gesture, Ground, Pointer } from '../gesture';
import type { Handle } from '../handles';
import { NO_PREVIEW } from '../preview';
import { resizedRect } from '../resized-rect';

/** A side or corner of an artboard or drawn slice is dragged; Shift keeps its proportions. */
export function resizePiece(ground: Ground, from: Pointer, piece: Piece, side: Handle['side']): Gesture {
  const before = { ...piece.region };
  return {
    cursor: `${side}-resize`,
    move({ px, py, shift }) {
      const rect = resizedRect(before, side, px - from.px, py - from.py, shift);
      ground.preview = { ...NO_PREVIEW, resized: { id: piece.id, rect }, words: `${+rect.width.toFixed(2)} × ${+rect.height.toFixed(2)}` };
      return undefined;
    },
    finish() {
      const { resized } = ground.preview;
      if (resized) setRect(ground.session, piece.id, resized.rect, 'resize');
    },
  };
}
