import { planeFirst } from '../../project/session/context';
import { useBench } from '../bench-state';
import { learned, mention } from '../first-hints/first-hints';
import { toPlane } from './camera';
import type { Gesture, GestureHost, Pointer } from './gesture';
import { band, drawRegion, drawShape, drawText } from './gestures/draw';
import { press } from './gestures/move';
import { pan } from './gestures/pan';
import { resizePiece } from './gestures/resize-piece';
import { resizeLayers, turnLayers } from './gestures/shape-layers';
import { layerHandleAt, pieceAt, pieceHandleAt, selectedLayerAt } from './hit';
import { Picking } from './picking';
import { NO_PREVIEW } from './preview';

/** The plane as its pointer sees it. */
export type PointerHost = GestureHost & {
  invalidate(): void;
  /** Something moved just now, so that the picture is not at rest. */
  moved(): void;
};

/** What the mouse does on the plane: presses become gestures (`gestures/`), clicks pick, double clicks go in. */
export class PlanePointer {
  readonly picking: Picking;
  /** Where it is on the canvas, in CSS px. */
  at = { x: 0, y: 0 };
  gesture: Gesture | null = null;
  /** The pointer that the gesture belongs to; others are passed over until it ends. */
  private pointerId: number | null = null;
  private isSpaceDown = false;

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly host: PointerHost,
  ) {
    this.picking = new Picking(host);
  }

  /** Listens to the canvas. Answers how to stop. */
  listen(): () => void {
    const { canvas } = this;
    const stop = new AbortController();
    const { signal } = stop;
    const ifOwn = (event: PointerEvent) => event.pointerId === this.pointerId && this.cancel();
    canvas.addEventListener('pointerdown', (event) => this.down(event), { signal });
    canvas.addEventListener('pointermove', (event) => this.move(event), { signal });
    canvas.addEventListener('pointerup', (event) => this.up(event), { signal });
    canvas.addEventListener('pointercancel', ifOwn, { signal });
    // Let go of elsewhere, or taken away: what was dragged is as it was.
    canvas.addEventListener('lostpointercapture', ifOwn, { signal });
    canvas.addEventListener('dblclick', (event) => this.doubleClick(event), { signal });
    window.addEventListener('blur', () => this.cancel(), { signal });
    const space = (event: KeyboardEvent) => {
      if (event.code !== 'Space' || document.activeElement !== canvas) return;
      this.isSpaceDown = event.type === 'keydown';
      event.preventDefault();
    };
    window.addEventListener('keydown', space, { signal });
    window.addEventListener('keyup', space, { signal });
    return () => {
      this.gesture?.cancel?.();
      stop.abort();
    };
  }

  /** Gives up what is being dragged; nothing of it is done. */
  cancel(): void {
    this.gesture?.cancel?.();
    this.gesture = null;
    this.pointerId = null;
    this.host.preview = NO_PREVIEW;
    this.host.invalidate();
  }

  /** Selects what lies under the pointer, unless it is selected already: what a menu there is about. */
  pickUnder(event: MouseEvent): void {
    const at = this.point(event);
    const { session } = this.host;
    if (selectedLayerAt(this.host, at.px, at.py)) return;
    const picked = this.picking.at(at);
    if (!picked) session.select([]);
    else if (!session.selection.has(picked.id)) session.select([picked.id]);
  }

  private point(event: MouseEvent): Pointer {
    const box = this.canvas.getBoundingClientRect();
    const x = event.clientX - box.left;
    const y = event.clientY - box.top;
    const [px, py] = toPlane(this.host.camera, x, y);
    this.at = { x, y };
    return { x, y, px, py, shift: event.shiftKey, ctrl: event.ctrlKey || event.metaKey };
  }

  private down(event: PointerEvent): void {
    // A second finger takes back what the first began: it was no drag, and nothing of it is done.
    if (this.gesture && event.pointerId !== this.pointerId) return this.cancel();
    if (this.gesture) return;
    this.canvas.focus({ preventScroll: true });
    this.canvas.setPointerCapture(event.pointerId);
    const at = this.point(event);
    const pans = event.button === 1 || (event.button === 0 && this.isSpaceDown);
    if (pans) {
      event.preventDefault();
      learned('pan');
    }
    if (!pans && event.button !== 0) return;
    this.pointerId = event.pointerId;
    this.gesture = pans ? pan(this.host, at) : this.gestureAt(at);
    this.canvas.style.cursor = this.gesture.cursor ?? this.canvas.style.cursor;
  }

  /** What pressing here begins. */
  private gestureAt(at: Pointer): Gesture {
    const { host } = this;
    const { session } = host;
    const { tool } = useBench.getState();
    if (tool === 'artboard' || tool === 'slice') return drawRegion(host, at, tool);
    if (tool === 'shape') return drawShape(host, at);
    if (tool === 'text') return drawText(host);
    const pieceHandle = pieceHandleAt(host, at.x, at.y);
    if (pieceHandle) return resizePiece(host, at, pieceHandle.piece, pieceHandle.side);
    const handle = layerHandleAt(host, at.x, at.y);
    if (handle?.side === 'turn') return turnLayers(host, at, handle.box);
    if (handle) return resizeLayers(host, at, handle.box, handle.side);
    const picked = at.ctrl ? this.picking.layersAt(at.px, at.py).at(-1) : this.picking.at(at);
    if (at.shift && picked) {
      const next = new Set(session.selection);
      if (!next.delete(picked.id)) next.add(picked.id);
      session.select(next);
      learned('more');
      return press(host, at, null);
    }
    // What is selected is dragged from anywhere on it; let go without a drag, it was a click on what lies there.
    if (!at.ctrl && this.picking.holds(at)) return press(host, at, picked?.id ?? null);
    if (!picked) {
      if (!at.shift) session.select([]);
      return band(host, at, at.shift ? session.selection : new Set());
    }
    if (!session.selection.has(picked.id)) {
      // One after the other was picked: somebody may want both.
      if (session.selection.size === 1) mention('more');
      session.select([picked.id]);
      if (session.doc.children(picked.id).length > 0) mention('inside');
    }
    return press(host, at, picked.id);
  }

  private move(event: PointerEvent): void {
    if (this.gesture && event.pointerId !== this.pointerId) return;
    const at = this.point(event);
    if (!this.gesture) {
      this.canvas.style.cursor = this.cursorAt(at);
      return;
    }
    const next = this.gesture.move(at);
    if (next) {
      this.gesture = next;
      next.move(at);
    }
    if (!this.gesture.still) this.host.moved();
    this.host.invalidate();
  }

  private cursorAt({ x, y, px, py }: Pointer): string {
    const { host } = this;
    const { tool } = useBench.getState();
    if (this.isSpaceDown) return 'grab';
    if (tool === 'text') return 'text';
    if (tool !== 'select') return 'crosshair';
    const handle = pieceHandleAt(host, x, y) ?? layerHandleAt(host, x, y);
    if (handle) return handle.side === 'turn' ? 'grab' : `${handle.side}-resize`;
    return selectedLayerAt(host, px, py) || pieceAt(host.scene, host.camera, x, y) ? 'move' : 'default';
  }

  private up(event: PointerEvent): void {
    const { gesture } = this;
    if (!gesture || event.pointerId !== this.pointerId) return;
    const at = this.point(event);
    this.gesture = null;
    this.pointerId = null;
    planeFirst(() => gesture.finish(at));
    this.host.preview = NO_PREVIEW;
    this.host.moved();
    this.host.invalidate();
  }

  /** Double click: one step deeper into the artwork than what is selected; on text, its words; on a ticket, its name. */
  private doubleClick(event: MouseEvent): void {
    const { x, y, px, py } = this.point(event);
    const { session, scene, camera } = this.host;
    const { set } = useBench.getState();
    const piece = pieceAt(scene, camera, x, y);
    const onTicket = !!piece && py > piece.region.y + piece.region.height;
    const path = onTicket ? [] : this.picking.layersAt(px, py);
    if (path.length === 0) {
      if (piece) set({ renaming: piece.id });
      return;
    }
    const at = path.findIndex((layer) => session.selection.has(layer.id));
    const deeper = path[Math.min(path.length - 1, at + 1)];
    session.select([deeper.id]);
    learned('inside');
    if (deeper.tag === 'text' && at === path.length - 1) set({ typing: deeper.id });
  }
}
