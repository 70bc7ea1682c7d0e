import {
  artworkIndex,
  type Bounds,
  boundsOf,
  boundsOfLayers,
  type Layer,
  type Piece,
  type ProjectDocument,
  paintsAt,
  type Region,
} from '@tolvik/core';
import { artworkOf } from '../shown-artwork';
import { type Camera, toPlane, toScreen } from './camera';
import { TICKET_HEIGHT } from './draw-pieces';
import type { GestureHost } from './gesture';
import { HANDLE, type Handle, handlesOf, isResizable, turnHandle } from './handles';
import type { Scene } from './scene';

/** What lies at a point of the plane. Hits are found in the document, never in the page. */

const inside = (r: Region, x: number, y: number, near = 0) =>
  x >= r.x - near && x <= r.x + r.width + near && y >= r.y - near && y <= r.y + r.height + near;

const onEdgeOf = (r: Region, x: number, y: number, near: number) =>
  inside(r, x, y, near) && (x < r.x + near || x > r.x + r.width - near || y < r.y + near || y > r.y + r.height - near);

/** The front piece of which an edge, the tab or the ticket is at a point of the screen: what is grabbed to get hold of it, whatever lies in it. */
export function pieceFrameAt(
  { slices, artboards, pieceById }: Scene,
  camera: Camera,
  x: number,
  y: number,
): Piece | undefined {
  const [px, py] = toPlane(camera, x, y);
  const near = 4 / camera.scale;
  for (let i = slices.length - 1; i >= 0; i--) {
    const { region: r, name } = slices[i];
    const [sx, sy] = toScreen(camera, r.x, r.y);
    const tabInside = r.height * camera.scale > 40 && r.width * camera.scale > 60;
    const onTab =
      x >= sx && x < sx + name.length * 6.9 + 10 && y > (tabInside ? sy : sy - 18) && y < (tabInside ? sy + 18 : sy);
    if (onTab || onEdgeOf(r, px, py, near)) return slices[i];
  }
  const ticket = TICKET_HEIGHT / camera.scale;
  for (let i = artboards.length - 1; i >= 0; i--) {
    const { x: ax, y: ay, width, height, id } = artboards[i];
    if (
      inside({ x: ax, y: ay + height, width, height: ticket }, px, py) ||
      onEdgeOf(artboards[i], px, py, Math.min(near, width / 6, height / 6))
    )
      return pieceById.get(id);
    if (inside(artboards[i], px, py)) return undefined;
  }
  return undefined;
}

/** The front piece at a point of the screen: slices by their edges, then artboards with their tickets, then what slices hold. */
export function pieceAt(scene: Scene, camera: Camera, x: number, y: number): Piece | undefined {
  const frame = pieceFrameAt(scene, camera, x, y);
  if (frame) return frame;
  const { slices, artboards, pieceById } = scene;
  const [px, py] = toPlane(camera, x, y);
  for (let i = artboards.length - 1; i >= 0; i--)
    if (inside(artboards[i], px, py)) return pieceById.get(artboards[i].id);
  for (let i = slices.length - 1; i >= 0; i--) if (inside(slices[i].region, px, py)) return slices[i];
  return undefined;
}

/** A handle of the one selected piece. */
export function pieceHandleAt(
  { session, scene, camera }: GestureHost,
  x: number,
  y: number,
): { piece: Piece; side: Handle['side'] } | null {
  if (session.selection.size !== 1) return null;
  const [id] = session.selection;
  const piece = scene.pieceById.get(id);
  if (!piece || piece.problem || !isResizable(piece)) return null;
  const found = nearest(handlesOf(camera, piece.region), x, y);
  return found ? { piece, side: found } : null;
}

const nearest = (handles: readonly Handle[], x: number, y: number) =>
  handles.find((handle) => Math.abs(handle.x - x) <= HANDLE && Math.abs(handle.y - y) <= HANDLE)?.side;

/** The box around the selected layers when nothing else is selected and none of them is locked. */
export function layerFrame(doc: ProjectDocument, selection: ReadonlySet<string>): Bounds | null {
  if (selection.size === 0) return null;
  for (const id of selection) {
    const layer = doc.find('layer', id);
    if (!layer || layer.locked) return null;
  }
  return boundsOfLayers(doc, selection);
}

/** A handle of the frame around the selected layers, or the one that turns them. */
export function layerHandleAt(
  { session, camera }: GestureHost,
  x: number,
  y: number,
): { box: Bounds; side: Handle['side'] | 'turn' } | null {
  const box = layerFrame(artworkOf(session, session.selection), session.selection);
  if (!box) return null;
  const region = { x: box.minX, y: box.minY, width: box.maxX - box.minX, height: box.maxY - box.minY };
  const turn = turnHandle(camera, region);
  if (Math.hypot(turn.x - x, turn.y - y) <= 8) return { box, side: 'turn' };
  const side = nearest(handlesOf(camera, region), x, y);
  return side ? { box, side } : null;
}

/** A selected layer whose box is under the pointer: dragging it there moves it, whatever lies below. */
export function selectedLayerAt({ session }: GestureHost, px: number, py: number): Layer | undefined {
  for (const id of session.selection) {
    const layer = session.doc.find('layer', id);
    const box = layer && boundsOfLayers(artworkOf(session, [id]), [id]);
    if (box && px >= box.minX && px <= box.maxX && py >= box.minY && py <= box.maxY) return layer;
  }
  return undefined;
}

function pathTo(doc: ProjectDocument, layer: Layer): Layer[] {
  const path: Layer[] = [];
  for (const at of doc.lineage(layer)) path.unshift(at);
  return path;
}

/**
 * The drawn element at a point of the plane and the groups around it, the outermost first: the front one that lays
 * paint there, or else, unless only paint counts, the front one whose box it is in.
 */
export function layersAt(doc: ProjectDocument, camera: Camera, px: number, py: number, onlyPaint = false): Layer[] {
  const near = 2 / camera.scale;
  const hits = artworkIndex(doc)
    .search({ minX: px - near, minY: py - near, maxX: px + near, maxY: py + near })
    .flatMap((leaf) => {
      const path = pathTo(doc, leaf.layer);
      return path.some((each) => each.locked || !each.shown)
        ? []
        : [{ leaf, path, key: path.map((each) => each.order).join(' ') }];
    })
    .sort((a, b) => (a.key < b.key ? 1 : -1));
  const painted = hits.find(({ leaf }) => paintsAt(doc, leaf, px, py, near));
  return (painted ?? (onlyPaint ? undefined : hits[0]))?.path ?? [];
}

/** The group that a layer is in; null for what is in none. */
export function levelOf(doc: ProjectDocument, layer: Layer): string | null {
  for (const group of doc.ancestors(layer)) return group.id;
  return null;
}

/**
 * Of an element and the groups around it, the outermost first, what a click picks when one is in a group: what lies
 * right in it, or, for an element elsewhere, what lies right in the first group around it that holds both.
 */
export function atLevel(doc: ProjectDocument, path: readonly Layer[], level: string | null): Layer | undefined {
  const group = level === null ? undefined : doc.find('layer', level);
  if (group)
    for (const around of doc.lineage(group)) {
      const at = path.findIndex(({ id }) => id === around.id);
      if (at >= 0) return path[Math.min(path.length - 1, at + 1)];
    }
  return path[0];
}

/** Pieces that a band touches: artboards, or slices where there are none. */
export function piecesIn(scene: Scene, { x, y, width, height }: Region): string[] {
  const touches = (r: Region) => r.x < x + width && r.x + r.width > x && r.y < y + height && r.y + r.height > y;
  const band = boundsOf({ x, y, width, height });
  const artboards = scene.placed.artboards.in(band).filter(touches);
  return (artboards.length > 0 ? artboards : scene.placed.slices.in(band).filter((slice) => touches(slice.region))).map(
    ({ id }) => id,
  );
}

/** Layers that lie wholly in a band: as far out in the tree as all of a group does. Locked and hidden ones are left. */
export function layersIn(doc: ProjectDocument, { x, y, width, height }: Region): string[] {
  const within = (b: Bounds) => b.minX >= x && b.maxX <= x + width && b.minY >= y && b.maxY <= y + height;
  const found = new Set<string>();
  const known = new Map<string, boolean>();
  const whole = (layer: Layer): boolean => {
    let answer = known.get(layer.id);
    if (answer === undefined) {
      const box = boundsOfLayers(doc, [layer.id]);
      answer = !!box && within(box);
      known.set(layer.id, answer);
    }
    return answer;
  };
  for (const leaf of artworkIndex(doc).search({ minX: x, minY: y, maxX: x + width, maxY: y + height })) {
    if (!within(leaf)) continue;
    const path = pathTo(doc, leaf.layer);
    if (path.some((each) => each.locked || !each.shown)) continue;
    const outer = path.find(whole);
    if (outer) found.add(outer.id);
  }
  return [...found];
}
