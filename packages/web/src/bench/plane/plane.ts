import { layerBounds } from '@tolvik/core';
import type { Painter } from '../../painter/painter';
import { gestureTeller } from '../../project/files/tell-gesture';
import { planOf } from '../../project/session/context';
import type { Session } from '../../project/session/session';
import { fetched, later } from '../../ui/part';
import { useBench } from '../bench-state';
import { artworkOf, shownNow } from '../shown-artwork';
import { shownEdition } from '../shown-edition';
import { drawPlane, pictureOf } from './draw';
import { layerFrame } from './hit';
import { itemsIn, paintedPiecesIn, seenBy } from './in-view';
import { bitmapFor } from './item-bitmaps';
import type { Picking } from './picking';
import { PlaneCache } from './plane-cache';
import { PlaneCamera } from './plane-camera';
import { PlanePointer, type PointerHost } from './plane-pointer';
import type { PlaneView } from './plane-view';
import { NO_PREVIEW, type Preview } from './preview';
import type { StandIns } from './stand-ins';

const offEdges = later(() => import('./draw-off-edges'));

/** How long after the last movement the picture is made sharp. */
const REST_MS = 90;
/** By then stand-ins have been tried, however busy the page is. */
const PRACTISE_BY_MS = 5000;

/** The plane of the Bench, with no React in it: when it is drawn, and with what. Where one looks from is `PlaneCamera`, what the mouse does `PlanePointer`. */
export class Plane extends PlaneCamera implements PointerHost {
  preview: Preview = NO_PREVIEW;
  private readonly pointer: PlanePointer;
  private readonly context: CanvasRenderingContext2D;
  private readonly cache = new PlaneCache();
  /** Null until its code is here, which nothing waits for. */
  private standIns: StandIns | null = null;
  /** Null until pixels have been looked at. */
  private drawOffEdges: PlaneView['drawOffEdges'] = null;
  private frame = 0;
  private lastMoved = 0;
  private restTimer: ReturnType<typeof setTimeout> | undefined;
  private hasPractised = false;
  private counts: { plan: unknown; files: Map<string, number> } | null = null;
  private trouble: ReadonlyMap<string, string> = new Map();
  private readonly stops: (() => void)[] = [];
  private readonly tellGesture: () => void;

  constructor(
    canvas: HTMLCanvasElement,
    session: Session,
    readonly painter: Painter,
  ) {
    super(canvas, session);
    this.tellGesture = gestureTeller(session.id);
    this.context = canvas.getContext('2d', { alpha: false }) as CanvasRenderingContext2D;
    this.pointer = new PlanePointer(canvas, this);
    const resize = new ResizeObserver(() => this.measure());
    resize.observe(canvas);
    const wheel = (event: WheelEvent) => this.wheel(event);
    canvas.addEventListener('wheel', wheel, { passive: false });
    this.stops.push(
      session.subscribe(() => {
        this.picking.follow();
        this.invalidate();
      }),
      painter.onPainted(() => this.invalidate()),
      painter.onExpired(() => this.askAgain()),
      useBench.subscribe(({ pixels }) => {
        if (pixels > 0 && !this.drawOffEdges) void this.fetchOffEdges();
        this.invalidate();
      }),
      this.pointer.listen(),
      () => resize.disconnect(),
      () => canvas.removeEventListener('wheel', wheel),
    );
    void fetched(() => import('./stand-ins')).then(({ StandIns }) => {
      this.standIns = new StandIns(session.doc);
      this.invalidate();
    });
    void document.fonts.ready.then(() => {
      this.cache.forget();
      this.invalidate();
    });
    this.measure();
  }

  close(): void {
    cancelAnimationFrame(this.frame);
    clearTimeout(this.restTimer);
    this.painter.hold(false);
    for (const stop of this.stops) stop();
  }

  get picking(): Picking {
    return this.pointer.picking;
  }

  get isBusy(): boolean {
    return this.pointer.gesture !== null;
  }

  /** Gives up what is being dragged; nothing of it is done. */
  cancel(): void {
    this.pointer.cancel();
  }

  pickUnder(event: MouseEvent): void {
    this.pointer.pickUnder(event);
  }

  moved(): void {
    this.lastMoved = performance.now();
    this.invalidate();
  }

  protected override measure(): void {
    super.measure();
    this.invalidate();
  }

  invalidate(): void {
    this.frame ||= requestAnimationFrame(() => {
      this.frame = 0;
      this.draw();
    });
  }

  /** What the checks found, by piece; tickets carry a flag. */
  showTrouble(trouble: ReadonlyMap<string, string>): void {
    this.trouble = trouble;
    this.invalidate();
  }

  private async fetchOffEdges(): Promise<void> {
    ({ drawOffEdges: this.drawOffEdges } = await offEdges());
    this.invalidate();
  }

  private draw(): void {
    const { selection, doc } = this.session;
    const { backdrop, ownBackdrop, renaming, wireframe, rulers, pixelGrid, pixels, carry } = useBench.getState();
    const { gesture, at } = this.pointer;
    this.painter.beginFrame();
    const atRest = performance.now() - this.lastMoved > REST_MS && (!gesture || !!gesture.still);
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
      artworkStays: !carry,
      pixels,
      drawOffEdges: this.drawOffEdges,
      preview: this.preview,
      standIns: gesture ? null : this.standIns,
      pointer: at,
      atRest,
      fileCounts: this.fileCounts(),
      trouble: this.trouble,
      renaming,
    });
    if (atRest && this.standIns && !this.hasPractised && this.scene.items.length > 0) this.practise(this.standIns);
    if (atRest) return;
    this.painter.hold(true);
    this.tellGesture();
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
    const standIns = this.isBusy ? null : this.standIns;
    const seen = seenBy(this);
    for (const item of itemsIn(this.scene, seen))
      if (bitmapFor(this.painter, item, this.camera, this.dpr, seen, false)?.stale) standIns?.item(item);
    for (const { piece, artboard } of paintedPiecesIn(this.scene, shownEdition(this.session), seen))
      if (pictureOf(this.painter, piece.id, artboard, this.camera, this.dpr).painted?.stale) standIns?.piece(piece);
  }

  /** The first stand-ins of a page take ten times as long as the next, so some are made before they are needed. */
  private practise(standIns: StandIns): void {
    this.hasPractised = true;
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
}
