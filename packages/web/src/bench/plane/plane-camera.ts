import { type Bounds, boundsOf, layerBounds, unite } from '@tolvik/core';
import type { Session } from '../../project/session/session';
import { useBench } from '../bench-state';
import { learned, mention } from '../first-hints/first-hints';
import { type Camera, fitting, snapped, toPlane, toScreen, zoomed } from './camera';
import { RULER } from './draw-rulers';
import { type Scene, sceneOf } from './scene';

/** Screen px that stay free around what is fitted. */
const FREE = 56;

/** Cameras are kept while the app is open, so that coming back to the Bench shows what one left. */
const cameras = new Map<string, Camera>();

/** From where one looks at the plane: everything that moves the camera, in CSS px of the canvas. */
export abstract class PlaneCamera {
  camera: Camera = { x: 0, y: 0, scale: 1 };
  width = 0;
  height = 0;
  dpr = 1;
  onCamera: (camera: Camera) => void = () => {};
  private isPlaced = false;

  constructor(
    protected readonly canvas: HTMLCanvasElement,
    readonly session: Session,
  ) {}

  /** Called whenever the camera has moved. */
  protected abstract moved(): void;

  get scene(): Scene {
    return sceneOf(this.session.doc);
  }

  /** Takes the size of the canvas; the first time it has one, looks at what one left, or at all. */
  protected measure(): void {
    const { clientWidth, clientHeight } = this.canvas;
    this.dpr = Math.min(3, window.devicePixelRatio || 1);
    this.width = clientWidth;
    this.height = clientHeight;
    this.canvas.width = Math.round(clientWidth * this.dpr);
    this.canvas.height = Math.round(clientHeight * this.dpr);
    if (this.isPlaced || clientWidth === 0) return;
    this.isPlaced = true;
    const known = cameras.get(this.session.id);
    if (known) this.look(known);
    else this.fitAll();
  }

  look(camera: Camera): void {
    this.camera = snapped(camera, this.dpr);
    cameras.set(this.session.id, this.camera);
    this.onCamera(this.camera);
    this.moved();
  }

  fit(box: Bounds | null, most = 16): void {
    if (box) this.look(fitting(box, this.width, this.height, FREE, most));
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

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    const lines = event.deltaMode === 1 ? 16 : 1;
    if (event.ctrlKey || event.metaKey) {
      mention('pan');
      const box = this.canvas.getBoundingClientRect();
      this.look(
        zoomed(this.camera, Math.exp((-event.deltaY * lines) / 240), event.clientX - box.left, event.clientY - box.top),
      );
    } else {
      learned('pan');
      const [dx, dy] = event.shiftKey && !event.deltaX ? [event.deltaY, 0] : [event.deltaX, event.deltaY];
      this.look({
        ...this.camera,
        x: this.camera.x + (dx * lines) / this.camera.scale,
        y: this.camera.y + (dy * lines) / this.camera.scale,
      });
    }
  }
}
