import { acts, type Region } from '@tolvik/core';
import { act } from '../../act';
import { useBench } from '../../bench-state';
import { artworkAt } from '../../shown-artwork';
import type { Gesture, GestureHost, Pointer } from '../gesture';
import { layersIn, piecesIn } from '../hit';
import { NO_PREVIEW } from '../preview';

/** The rectangle between two points; Shift makes it square. */
function between(from: Pointer, at: Pointer, whole: boolean): Region {
  const round = whole ? Math.round : (n: number) => n;
  const [x0, y0, x1, y1] = [round(from.px), round(from.py), round(at.px), round(at.py)];
  let [width, height] = [Math.abs(x1 - x0), Math.abs(y1 - y0)];
  if (at.shift && whole) width = height = Math.max(width, height);
  return { x: x1 < x0 ? x0 - width : x0, y: y1 < y0 ? y0 - height : y0, width, height };
}

const sizeOf = ({ width, height }: Region) => `${+width.toFixed(2)} × ${+height.toFixed(2)}`;

/** What a click makes where a drag would have made a rectangle. */
const CLICKED = 24;

/** A new artboard or slice is drawn. */
export function drawRegion(host: GestureHost, from: Pointer, what: 'artboard' | 'slice'): Gesture {
  return {
    cursor: 'crosshair',
    move(at) {
      const rect = between(from, at, true);
      host.preview = { ...NO_PREVIEW, drawing: { kind: what, rect }, words: sizeOf(rect) };
      return undefined;
    },
    finish(at) {
      const rect = between(from, at, true);
      const drawn =
        rect.width >= 1 && rect.height >= 1
          ? rect
          : { x: Math.round(at.px), y: Math.round(at.py), width: CLICKED, height: CLICKED };
      const { session } = host;
      // Its name is ready to be typed over.
      if (act(session, acts.drawPiece, { what, ...drawn }))
        useBench.getState().set({ tool: 'select', renaming: [...session.selection][0] });
    },
  };
}

/** A new shape is drawn, in the look that shapes have now. */
export function drawShape(host: GestureHost, from: Pointer): Gesture {
  const { shape, shapeLook } = useBench.getState();
  const rising = (at: Pointer) => at.px - from.px < 0 !== at.py - from.py < 0;
  return {
    cursor: 'crosshair',
    move(at) {
      const rect = between(from, at, true);
      host.preview = {
        ...NO_PREVIEW,
        drawing: { kind: 'shape', rect, line: shape === 'line' ? { rising: rising(at) } : undefined },
        words: sizeOf(rect),
      };
      return undefined;
    },
    finish(at) {
      const { session } = host;
      const drawn = between(from, at, true);
      const none = shape === 'line' ? drawn.width + drawn.height < 1 : drawn.width < 1 || drawn.height < 1;
      const rect = none
        ? { x: Math.round(from.px), y: Math.round(from.py), width: CLICKED, height: shape === 'line' ? 0 : CLICKED }
        : drawn;
      act(session, acts.drawShape, { shape, ...rect, ...shapeLook, rising: rising(at) });
      useBench.getState().set({ tool: 'select', panel: 'layers' });
    },
  };
}

/** A new text stands where the plane was clicked; its words are ready to be typed. */
export function drawText(host: GestureHost): Gesture {
  return {
    cursor: 'text',
    move: () => undefined,
    finish({ px, py }) {
      const { session } = host;
      const { textLook, set } = useBench.getState();
      if (act(session, acts.writeText, { words: 'Words', x: Math.round(px), y: Math.round(py), ...textLook }))
        set({ tool: 'select', panel: 'layers', typing: [...session.selection][0] });
    },
  };
}

/** A band picks what it touches: artboards, else slices, else layers that lie wholly in it; with Ctrl, layers at once. */
export function band(host: GestureHost, from: Pointer, keep: ReadonlySet<string>): Gesture {
  const { session } = host;
  return {
    move(at) {
      const rect = between(from, at, false);
      host.preview = { ...NO_PREVIEW, drawing: { kind: 'band', rect } };
      const pieces = at.ctrl ? [] : piecesIn(host.scene, rect);
      session.select(
        new Set([
          ...keep,
          ...(pieces.length > 0
            ? pieces
            : layersIn(artworkAt(session, rect.x + rect.width / 2, rect.y + rect.height / 2), rect)),
        ]),
      );
      return undefined;
    },
    finish() {},
  };
}
