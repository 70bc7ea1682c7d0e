import {
  acts,
  type Bounds,
  boundsOf,
  boundsOfLayers,
  layersOn,
  outermost,
  snapMove,
  translate,
  unite,
} from '@tolvik/core';
import { act } from '../../act';
import { useBench } from '../../bench-state';
import { artworkOf } from '../../shown-artwork';
import { DRAG_FROM_PX, type Gesture, type GestureHost, type Pointer } from '../gesture';
import { seenBy } from '../in-view';
import { NO_PREVIEW } from '../preview';
import { liveLayers, paintedWithin } from './live';

/** How near an edge has to come to another to meet it, in CSS px. */
const SNAP_PX = 5;
/** More boxes than this to meet would cost more than they help. */
const MAX_OTHERS = 600;

/** Something selected is pressed: it is a click until the pointer moves, and a click picks `id` alone. */
export function press(host: GestureHost, from: Pointer, id: string | null): Gesture {
  return {
    still: true,
    move: (at) => (Math.hypot(at.x - from.x, at.y - from.y) < DRAG_FROM_PX ? undefined : move(host, from)),
    finish() {
      const { selection } = host.session;
      if (id !== null && (selection.size > 1 || !selection.has(id))) host.session.select([id]);
    },
  };
}

/** What is selected goes along with the pointer, edges meeting edges. Ctrl lets it go free, Shift keeps it on one axis. */
function move(host: GestureHost, from: Pointer): Gesture {
  const { session, scene } = host;
  const { doc, selection } = session;
  const ids = [...selection];
  const layers = outermost(doc, ids).filter((layer) => !layer.locked);
  const moving = new Set([...ids, ...layers.map((layer) => layer.id)]);
  if (useBench.getState().carry) {
    for (const id of ids) {
      const artboard = doc.find('artboard', id);
      if (artboard && !artboard.follows) for (const layer of layersOn(doc, artboard)) moving.add(layer.id);
    }
  }
  const nested = paintedWithin(
    host,
    layers.map((layer) => layer.id),
  );
  const live = liveLayers(host, nested);
  let box: Bounds | null = boundsOfLayers(
    artworkOf(
      session,
      layers.map((layer) => layer.id),
    ),
    layers.map((layer) => layer.id),
  );
  for (const id of ids) {
    const piece = scene.pieceById.get(id);
    if (piece && !piece.problem) box = unite(box, boundsOf(piece.region));
  }
  const others = boxesAround(host, moving);
  return {
    move({ px, py, shift, ctrl }) {
      let dx = px - from.px;
      let dy = py - from.py;
      if (shift) Math.abs(dx) > Math.abs(dy) ? (dy = 0) : (dx = 0);
      const snapped =
        box && !ctrl
          ? snapMove(box, dx, dy, others, SNAP_PX / host.camera.scale)
          : { dx: Math.round(dx), dy: Math.round(dy), guides: [] };
      if (shift && dx === 0) snapped.dx = 0;
      if (shift && dy === 0) snapped.dy = 0;
      const grown = live.show(translate(snapped.dx, snapped.dy));
      const signed = (value: number) => `${value < 0 ? '−' : '+'}${Math.abs(+value.toFixed(2))}`;
      host.preview = {
        ...NO_PREVIEW,
        moving,
        grown,
        dx: snapped.dx,
        dy: snapped.dy,
        matrix: translate(snapped.dx, snapped.dy),
        guides: snapped.guides,
        words: `${signed(snapped.dx)}, ${signed(snapped.dy)}`,
      };
      return undefined;
    },
    finish() {
      live.end();
      const { dx, dy } = host.preview;
      if (dx || dy) act(session, acts.move, { dx, dy });
    },
    cancel: () => live.end(),
  };
}

/** What in view a dragged box may meet: artboards, and items of artwork that stay. */
function boxesAround(host: GestureHost, moving: ReadonlySet<string>): Bounds[] {
  const { scene } = host;
  const seen = seenBy(host);
  const boxes: Bounds[] = [];
  for (const artboard of scene.placed.artboards.in(seen)) if (!moving.has(artboard.id)) boxes.push(boundsOf(artboard));
  if (boxes.length < MAX_OTHERS)
    for (const item of scene.placed.items.in(seen))
      if (!item.path.some((id) => moving.has(id))) boxes.push(item.bounds);
  return boxes.slice(0, MAX_OTHERS);
}
