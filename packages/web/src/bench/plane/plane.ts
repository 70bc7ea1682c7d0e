import { type Bounds, boundsOf, layerBounds, unite } from '@tolvik/core';
import type { Painter } from '../../painter/painter';
import { planeFirst, planOf } from '../../project/context';
import type { Session } from '../../project/session';
import { fetched } from '../../ui/part';
import { useBench } from '../bench-state';
import { artworkOf, shownNow } from '../shown-artwork';
import { shownEdition } from '../shown-edition';
import { type Camera, fitting, snapped, toPlane, toScreen, zoomed } from './camera';
import { drawPlane, pictureOf } from './draw';
import { RULER } from './draw-rulers';
import type { Gesture, GestureHost, Pointer } from './gesture';
import { band, drawRegion, drawShape, drawText } from './gestures/draw';
import { press } from './gestures/move';
import { pan } from './gestures/pan';
import { resizePiece } from './gestures/resize-piece';
import { resizeLayers, turnLayers } from './gestures/shape-layers';
import { layerFrame, layerHandleAt, pieceAt, pieceHandleAt, selectedLayerAt } from './hit';
import { itemsIn, paintedPiecesIn, seenBy } from './in-view';
import { bitmapFor } from './item-bitmaps';
import { Picking } from './picking';
import { PlaneCache } from './plane-cache';
import { NO_PREVIEW, type Preview } from './preview';
import { type Scene, sceneOf } from './scene';
import type { StandIns } from './stand-ins';

/** How long after the last movement the picture is made sharp. */
const REST_MS = 90;
/** By then stand-ins have been tried, however busy the page is. */
const PRACTISE_BY_MS = 5000;

/** The plane of the Bench: camera, pointer and drawing, with no React in it. What drags do is in `gestures/`. */
export class Plane implements GestureHost {
  camera: Camera = { x: 0, y: 0, scale: 1 };
  preview: Preview = NO_PREVIEW;
  width = 0;
  height = 0;
  onCamera: (camera: Camera) => void = () => {};
  private gesture: Gesture | null = null;
  /** The pointer that the gesture belongs to; others are passed over until it ends. */
  private pointerId: number | null = null;
  private pointer = { x: 0, y: 0 };
  private frame = 0;
  private lastMoved = 0;
  private restTimer: ReturnType<typeof setTimeout> | undefined;
  private readonly context: CanvasRenderingContext2D;
  private readonly cache = new PlaneCache();
  /** Null until its code is here, which nothing waits for. */
  private standIns: StandIns | null = null;
  private dpr = 1;
  private placed = false;
  private practised = false;
  readonly picking: Picking;
  private spaceDown = false;
  private counts: { plan: unknown; files: Map<string, number> } | null = null;
  private trouble: ReadonlyMap<string, string> = new Map();
  private readonly stops: (() => void)[] = [];

  constructor(
    private readonly canvas: HTMLCanvasElement,
    readonly session: Session,
    readonly painter: Painter,
  ) {
    this.picking = new Picking(this);
    this.context = canvas.getContext('2d', { alpha: false }) as CanvasRenderingContext2D;
    this.stops.push(
      session.subscribe(() => {
        this.picking.follow();
        this.invalidate();
      }),
      painter.onPainted(() => this.invalidate()),
      painter.onExpired(() => this.askAgain()),
      useBench.subscribe(() => this.invalidate()),
    );
    void fetched(() => import('./stand-ins')).then(({ StandIns }) => {
      this.standIns = new StandIns(session.doc);
      this.invalidate();
    });
    void document.fonts.ready.then(() => {
      this.cache.forget();
      this.invalidate();
    });
    const resize = new ResizeObserver(() => this.measure());
    resize.observe(canvas);
    this.stops.push(() => resize.disconnect());
    const on = <K extends keyof HTMLElementEventMap>(
      type: K,
      act: (event: HTMLElementEventMap[K]) => void,
      options?: AddEventListenerOptions,
    ) => {
      canvas.addEventListener(type, act, options);
      this.stops.push(() => canvas.removeEventListener(type, act));
    };
    on('wheel', (event) => this.wheel(event), { passive: false });
    on('pointerdown', (event) => this.down(event));
    on('pointermove', (event) => this.moved(event));
    on('pointerup', (event) => this.up(event));
    on('pointercancel', (event) => event.pointerId === this.pointerId && this.cancel());
    // Let go of elsewhere, or taken away: what was dragged is as it was.
    on('lostpointercapture', (event) => event.pointerId === this.pointerId && this.cancel());
    const away = () => this.cancel();
    window.addEventListener('blur', away);
    this.stops.push(() => window.removeEventListener('blur', away));
    on('dblclick', (event) => this.doubleClick(event));
    const space = (event: KeyboardEvent) => {
      if (event.code === 'Space' && document.activeElement === canvas) {
        this.spaceDown = event.type === 'keydown';
        event.preventDefault();
      }
    };
    window.addEventListener('keydown', space);
    window.addEventListener('keyup', space);
    this.stops.push(() => {
      window.removeEventListener('keydown', space);
      window.removeEventListener('keyup', space);
    });
    this.measure();
  }

  close(): void {
    this.gesture?.cancel?.();
    cancelAnimationFrame(this.frame);
    clearTimeout(this.restTimer);
    this.painter.hold(false);
    for (const stop of this.stops) stop();
  }

  get scene(): Scene {
    return sceneOf(this.session.doc);
  }

  private measure(): void {
    const { clientWidth, clientHeight } = this.canvas;
    this.dpr = Math.min(3, window.devicePixelRatio || 1);
    this.width = clientWidth;
    this.height = clientHeight;
    this.canvas.width = Math.round(clientWidth * this.dpr);
    this.canvas.height = Math.round(clientHeight * this.dpr);
    if (!this.placed && clientWidth > 0) {
      this.placed = true;
      const known = cameras.get(this.session.id);
      if (known) this.look(known);
      else this.fitAll();
    }
    this.invalidate();
  }

  invalidate(): void {
    this.frame ||= requestAnimationFrame(() => {
      this.frame = 0;
      this.draw();
    });
  }

  private draw(): void {
    const { selection, doc } = this.session;
    const { backdrop, ownBackdrop, renaming, wireframe, rulers, pixelGrid, pixels } = useBench.getState();
    const { trouble } = this;
    this.painter.beginFrame();
    const atRest = performance.now() - this.lastMoved > REST_MS && (!this.gesture || !!this.gesture.still);
    drawPlane(this.context, this.painter, this.cache, {
      doc,
      layerBoxes: [...selection].flatMap((id) =>
        doc.find('layer', id) ? [{ id, box: layerBounds(artworkOf(this.session, [id]), id, true) }] : [],
      ),
      layerFrame: layerFrame(artworkOf(this.session, selection), selection),
      artwork: shownNow(this.session)?.artwork ?? null,
      edition: shownEdition(this.session) ?? null,
      camera: this.camera,
      width: this.width,
      height: this.height,
      dpr: this.dpr,
      scene: this.scene,
      selection,
      backdrop,
      ownBackdrop,
      wireframe,
      rulers,
      pixelGrid,
      pixels,
      preview: this.preview,
      standIns: this.gesture ? null : this.standIns,
      pointer: this.pointer,
      atRest,
      fileCounts: this.fileCounts(),
      trouble,
      renaming,
    });
    if (atRest && this.standIns && !this.practised && this.scene.items.length > 0) this.practise(this.standIns);
    if (atRest) return;
    this.painter.hold(true);
    clearTimeout(this.restTimer);
    this.restTimer = setTimeout(() => {
      this.painter.hold(false);
      this.invalidate();
    }, REST_MS + 10);
  }

  /** After an edit: artwork in view that changed is asked for, and stood in for, now and not when the next frame is drawn. */
  private askAgain(): void {
    if (this.width === 0) return;
    this.standIns?.begin();
    const standIns = this.gesture ? null : this.standIns;
    const seen = seenBy(this);
    for (const item of itemsIn(this.scene, seen))
      if (bitmapFor(this.painter, item, this.camera, this.dpr, seen, false)?.stale) standIns?.item(item);
    for (const { piece, artboard } of paintedPiecesIn(this.scene, shownEdition(this.session), seen))
      if (pictureOf(this.painter, piece.id, artboard, this.camera, this.dpr).painted?.stale) standIns?.piece(piece);
  }

  /** The first stand-ins of a page take ten times as long as the next, so some are made before they are needed. */
  private practise(standIns: StandIns): void {
    this.practised = true;
    const practise = () => {
      standIns.begin();
      const seen = seenBy(this);
      for (const { piece } of paintedPiecesIn(this.scene, shownEdition(this.session), seen)) standIns.piece(piece);
      for (const item of itemsIn(this.scene, seen)) standIns.item(item);
    };
    // Not every browser tells when it is idle.
    if (!('requestIdleCallback' in window)) return;
    const idle = requestIdleCallback(practise, { timeout: PRACTISE_BY_MS });
    this.stops.push(() => cancelIdleCallback(idle));
  }

  private fileCounts(): Map<string, number> {
    const plan = planOf(this.session);
    if (this.counts?.plan !== plan) {
      const files = new Map<string, number>();
      for (const { pieceId } of plan.files) files.set(pieceId, (files.get(pieceId) ?? 0) + 1);
      this.counts = { plan, files };
    }
    return this.counts.files;
  }

  /** What the checks found, by piece; tickets carry a flag. */
  showTrouble(trouble: ReadonlyMap<string, string>): void {
    this.trouble = trouble;
    this.invalidate();
  }

  look(camera: Camera): void {
    this.camera = snapped(camera, this.dpr);
    this.lastMoved = performance.now();
    cameras.set(this.session.id, this.camera);
    this.onCamera(this.camera);
    this.invalidate();
  }

  fit(box: Bounds | null, most = 16): void {
    if (box) this.look(fitting(box, this.width, this.height, 56, most));
  }

  fitAll(): void {
    this.fit(this.scene.bounds ?? { minX: 0, minY: 0, maxX: 400, maxY: 300 }, 8);
  }

  fitSelection(): void {
    const box = [...this.session.selection].reduce<Bounds | null>((all, id) => {
      const piece = this.scene.pieceById.get(id);
      return unite(all, piece && !piece.problem ? boundsOf(piece.region) : layerBounds(this.session.doc, id));
    }, null);
    if (box) this.fit(box);
    else this.fitAll();
  }

  /** Brings a piece or layer into view without changing the zoom, when it is not in view. */
  reveal(id: string): void {
    const box = this.scene.pieceById.has(id)
      ? boundsOf((this.scene.pieceById.get(id) as { region: Parameters<typeof boundsOf>[0] }).region)
      : layerBounds(this.session.doc, id);
    if (!box) return;
    const [x0, y0] = toScreen(this.camera, box.minX, box.minY);
    const [x1, y1] = toScreen(this.camera, box.maxX, box.maxY);
    const edge = useBench.getState().rulers ? RULER : 0;
    if (x0 >= edge && y0 >= edge && x1 <= this.width && y1 <= this.height) return;
    const { scale } = this.camera;
    this.look({
      scale,
      x: (box.minX + box.maxX) / 2 - this.width / 2 / scale,
      y: (box.minY + box.maxY) / 2 - this.height / 2 / scale,
    });
  }

  zoomBy(factor: number): void {
    this.look(zoomed(this.camera, factor, this.width / 2, this.height / 2));
  }

  zoomTo(scale: number): void {
    this.zoomBy(scale / this.camera.scale);
  }

  /** The middle of what is in view, on the plane. */
  middle(): { x: number; y: number } {
    const [x, y] = toPlane(this.camera, this.width / 2, this.height / 2);
    return { x, y };
  }

  /** Where a piece is on screen, in CSS px from the canvas's corner. */
  screenRect(id: string): { x: number; y: number; width: number; height: number } | null {
    const region = this.scene.pieceById.get(id)?.region;
    if (!region) return null;
    const [x, y] = toScreen(this.camera, region.x, region.y);
    return { x, y, width: region.width * this.camera.scale, height: region.height * this.camera.scale };
  }

  private wheel(event: WheelEvent): void {
    event.preventDefault();
    const lines = event.deltaMode === 1 ? 16 : 1;
    if (event.ctrlKey || event.metaKey) {
      const { x, y } = this.point(event);
      this.look(zoomed(this.camera, Math.exp((-event.deltaY * lines) / 240), x, y));
    } else {
      const [dx, dy] = event.shiftKey && !event.deltaX ? [event.deltaY, 0] : [event.deltaX, event.deltaY];
      this.look({
        ...this.camera,
        x: this.camera.x + (dx * lines) / this.camera.scale,
        y: this.camera.y + (dy * lines) / this.camera.scale,
      });
    }
  }

  private point(event: MouseEvent): Pointer {
    const box = this.canvas.getBoundingClientRect();
    const x = event.clientX - box.left;
    const y = event.clientY - box.top;
    const [px, py] = toPlane(this.camera, x, y);
    this.pointer = { x, y };
    return { x, y, px, py, shift: event.shiftKey, ctrl: event.ctrlKey || event.metaKey };
  }

  private down(event: PointerEvent): void {
    // A second finger takes back what the first began: it was no drag, and nothing of it is done.
    if (this.gesture && event.pointerId !== this.pointerId) return this.cancel();
    if (this.gesture) return;
    this.canvas.focus({ preventScroll: true });
    this.canvas.setPointerCapture(event.pointerId);
    const at = this.point(event);
    const pans = event.button === 1 || (event.button === 0 && this.spaceDown);
    if (pans) event.preventDefault();
    else if (event.button !== 0) return;
    this.pointerId = event.pointerId;
    this.gesture = pans ? pan(this, at) : this.gestureAt(at);
    this.canvas.style.cursor = this.gesture.cursor ?? this.canvas.style.cursor;
  }

  /** Selects what lies under the pointer, unless it is selected already: what a menu there is about. */
  pickUnder(event: MouseEvent): void {
    const at = this.point(event);
    if (selectedLayerAt(this, at.px, at.py)) return;
    const picked = this.picking.at(at);
    if (!picked) this.session.select([]);
    else if (!this.session.selection.has(picked.id)) this.session.select([picked.id]);
  }

  /** What pressing here begins. */
  private gestureAt(at: Pointer): Gesture {
    const { tool } = useBench.getState();
    const { selection } = this.session;
    if (tool === 'artboard' || tool === 'slice') return drawRegion(this, at, tool);
    if (tool === 'shape') return drawShape(this, at);
    if (tool === 'text') return drawText(this);
    const pieceHandle = pieceHandleAt(this, at.x, at.y);
    if (pieceHandle) return resizePiece(this, at, pieceHandle.piece, pieceHandle.side);
    const handle = layerHandleAt(this, at.x, at.y);
    if (handle)
      return handle.side === 'turn'
        ? turnLayers(this, at, handle.box)
        : resizeLayers(this, at, handle.box, handle.side);
    const picked = at.ctrl ? this.picking.layersAt(at.px, at.py).at(-1) : this.picking.at(at);
    if (at.shift && picked) {
      const next = new Set(selection);
      if (!next.delete(picked.id)) next.add(picked.id);
      this.session.select(next);
      return press(this, at, null);
    }
    // What is selected is dragged from anywhere on it; let go without a drag, it was a click on what lies there.
    if (!at.ctrl && this.picking.holds(at)) return press(this, at, picked?.id ?? null);
    if (!picked) {
      if (!at.shift) this.session.select([]);
      return band(this, at, at.shift ? selection : new Set());
    }
    if (!selection.has(picked.id)) this.session.select([picked.id]);
    return press(this, at, picked.id);
  }

  private moved(event: PointerEvent): void {
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
    this.lastMoved = this.gesture.still ? this.lastMoved : performance.now();
    this.invalidate();
  }

  private cursorAt({ x, y, px, py }: Pointer): string {
    const { tool } = useBench.getState();
    if (this.spaceDown) return 'grab';
    if (tool === 'text') return 'text';
    if (tool !== 'select') return 'crosshair';
    const handle = pieceHandleAt(this, x, y) ?? layerHandleAt(this, x, y);
    if (handle) return handle.side === 'turn' ? 'grab' : `${handle.side}-resize`;
    return selectedLayerAt(this, px, py) || pieceAt(this.scene, this.camera, x, y) ? 'move' : 'default';
  }

  private up(event: PointerEvent): void {
    const { gesture } = this;
    if (!gesture || event.pointerId !== this.pointerId) return;
    const at = this.point(event);
    this.gesture = null;
    this.pointerId = null;
    planeFirst(() => gesture.finish(at));
    this.preview = NO_PREVIEW;
    this.lastMoved = performance.now();
    this.invalidate();
  }

  /** Gives up what is being dragged; nothing of it is done. */
  cancel(): void {
    this.gesture?.cancel?.();
    this.gesture = null;
    this.pointerId = null;
    this.preview = NO_PREVIEW;
    this.invalidate();
  }

  get isBusy(): boolean {
    return this.gesture !== null;
  }

  /** Double click: one step deeper into the artwork than what is selected; on text, its words; on a ticket, its name. */
  private doubleClick(event: MouseEvent): void {
    const { x, y, px, py } = this.point(event);
    const { set } = useBench.getState();
    const piece = pieceAt(this.scene, this.camera, x, y);
    const onTicket = !!piece && py > piece.region.y + piece.region.height;
    const path = onTicket ? [] : this.picking.layersAt(px, py);
    if (path.length === 0) {
      if (piece) set({ renaming: piece.id });
      return;
    }
    const at = path.findIndex((layer) => this.session.selection.has(layer.id));
    const deeper = path[Math.min(path.length - 1, at + 1)];
    this.session.select([deeper.id]);
    if (deeper.tag === 'text' && at === path.length - 1) set({ typing: deeper.id });
  }
}

/** Cameras are kept while the app is open, so that coming back to the Bench shows what one left. */
const cameras = new Map<string, Camera>();
