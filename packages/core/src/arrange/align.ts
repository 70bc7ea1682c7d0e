import { layerBounds } from '../artwork/bounds/bounds';
import type { ProjectDocument } from '../document/document';
import type { Artboard, Layer, ProjectRecord } from '../document/records';
import { type Bounds, boundsOf, translate, unite } from '../geometry/matrix';
import { layersOn, moveArtboards, movedSlice } from './move';
import { outermost } from './outermost';
import { transformedLayer } from './transform';

export const EDGES = ['left', 'centre', 'right', 'top', 'middle', 'bottom'] as const;
export type Edge = (typeof EDGES)[number];
/** What things are aligned to: the box around them all, the artboard each lies on, or whole px. */
export type AlignTo = 'selection' | 'artboard' | 'grid';

export type Placed = { id: string; box: Bounds };
export type Step = { id: string; dx: number; dy: number };

/** How far each box has to move for an edge of it to meet that edge of `frame`. */
export function alignSteps(placed: readonly Placed[], edge: Edge, frameOf: (each: Placed) => Bounds): Step[] {
  return placed.map((each) => {
    const { box } = each;
    const frame = frameOf(each);
    const middle = (a: number, b: number) => (a + b) / 2;
    switch (edge) {
      case 'left':
        return { id: each.id, dx: frame.minX - box.minX, dy: 0 };
      case 'right':
        return { id: each.id, dx: frame.maxX - box.maxX, dy: 0 };
      case 'centre':
        return { id: each.id, dx: middle(frame.minX, frame.maxX) - middle(box.minX, box.maxX), dy: 0 };
      case 'top':
        return { id: each.id, dx: 0, dy: frame.minY - box.minY };
      case 'bottom':
        return { id: each.id, dx: 0, dy: frame.maxY - box.maxY };
      case 'middle':
        return { id: each.id, dx: 0, dy: middle(frame.minY, frame.maxY) - middle(box.minY, box.maxY) };
    }
  });
}

/** Equal gaps along an axis; the first and the last stay. Fewer than three have nothing to share out. */
export function distributeSteps(placed: readonly Placed[], axis: 'across' | 'down'): Step[] {
  if (placed.length < 3) return [];
  const low = axis === 'across' ? 'minX' : 'minY';
  const high = axis === 'across' ? 'maxX' : 'maxY';
  const sorted = [...placed].sort((a, b) => a.box[low] + a.box[high] - b.box[low] - b.box[high]);
  const first = sorted[0].box[low];
  const last = sorted[sorted.length - 1].box[high];
  const lengths = sorted.reduce((sum, { box }) => sum + box[high] - box[low], 0);
  const gap = (last - first - lengths) / (sorted.length - 1);
  let at = first;
  return sorted.map(({ id, box }) => {
    const by = at - box[low];
    at += box[high] - box[low] + gap;
    return axis === 'across' ? { id, dx: by, dy: 0 } : { id, dx: 0, dy: by };
  });
}

/** The smallest artboard that a box has its middle on. */
export function artboardUnder(doc: ProjectDocument, { minX, minY, maxX, maxY }: Bounds): Artboard | undefined {
  const [cx, cy] = [(minX + maxX) / 2, (minY + maxY) / 2];
  let found: Artboard | undefined;
  for (const artboard of doc.list('artboard')) {
    const { x, y, width, height } = artboard;
    const inside = cx >= x && cx <= x + width && cy >= y && cy <= y + height;
    if (inside && (!found || width * height < found.width * found.height)) found = artboard;
  }
  return found;
}

/**
 * Artboards, slices of a region and unlocked layers among some ids, each with its box on the plane. Layers that lie on a
 * chosen artboard go with it and are none of their own; slices of layers and of artboards lie where those do.
 */
function placedOf(doc: ProjectDocument, ids: Iterable<string>): Placed[] {
  const chosen = [...ids];
  const artboards = chosen.flatMap((id) => doc.find('artboard', id) ?? []);
  const slices = chosen.flatMap((id) => doc.find('slice', id) ?? []);
  const along = new Set(artboards.flatMap((artboard) => layersOn(doc, artboard).map((layer) => layer.id)));
  return [
    ...artboards.map((artboard) => ({ id: artboard.id, box: boundsOf(artboard) })),
    ...slices.flatMap(({ id, source }) => (source.kind === 'region' ? [{ id, box: boundsOf(source) }] : [])),
    ...outermost(doc, chosen)
      .filter((layer) => !layer.locked && !along.has(layer.id))
      .flatMap((layer) => {
        const box = layerBounds(doc, layer.id, true);
        return box ? [{ id: layer.id, box }] : [];
      }),
  ];
}

function carryOut(doc: ProjectDocument, steps: readonly Step[], carry: boolean): ProjectRecord[] {
  const puts = new Map<string, ProjectRecord>();
  for (const { id, dx, dy } of steps) {
    if (Math.abs(dx) < 1e-9 && Math.abs(dy) < 1e-9) continue;
    const artboard = doc.find('artboard', id);
    const slice = doc.find('slice', id);
    if (artboard) for (const record of moveArtboards(doc, [artboard], dx, dy, carry)) puts.set(record.id, record);
    else if (slice) for (const record of movedSlice(slice, dx, dy)) puts.set(record.id, record);
    else puts.set(id, transformedLayer(doc, doc.find('layer', id) as Layer, translate(dx, dy)));
  }
  return [...puts.values()];
}

/** Layers, or artboards with what lies on them, aligned by an edge or centre. Layers on no artboard stay when that is asked for. */
export function align(
  doc: ProjectDocument,
  ids: Iterable<string>,
  edge: Edge,
  to: AlignTo,
  carry = true,
): ProjectRecord[] {
  const placed = placedOf(doc, ids);
  const all = placed.reduce<Bounds | null>((box, each) => unite(box, each.box), null);
  if (!all) return [];
  const whole = (box: Bounds): Bounds => ({
    minX: Math.round(box.minX),
    minY: Math.round(box.minY),
    maxX: Math.round(box.maxX),
    maxY: Math.round(box.maxY),
  });
  const frameOf = ({ box }: Placed): Bounds => {
    if (to === 'grid') return whole(box);
    if (to === 'selection') return all;
    const artboard = artboardUnder(doc, box);
    return artboard ? boundsOf(artboard) : box;
  };
  return carryOut(doc, alignSteps(placed, edge, frameOf), carry);
}

export const distribute = (
  doc: ProjectDocument,
  ids: Iterable<string>,
  axis: 'across' | 'down',
  carry = true,
): ProjectRecord[] => carryOut(doc, distributeSteps(placedOf(doc, ids), axis), carry);

/** Moved to whole px by their upper left corner, each by less than half a px. */
export function toPixelGrid(doc: ProjectDocument, ids: Iterable<string>): ProjectRecord[] {
  const steps = placedOf(doc, ids).map(({ id, box }) => ({
    id,
    dx: Math.round(box.minX) - box.minX,
    dy: Math.round(box.minY) - box.minY,
  }));
  return carryOut(doc, steps, true);
}
