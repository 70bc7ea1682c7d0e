import { layerBounds, layerToPlane } from '../artwork/bounds/bounds';
import { type ProjectDocument, ROOT } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import {
  type Artboard,
  type Edition,
  type Layer,
  type ProjectRecord,
  type Slice,
  sliceRecord,
} from '../document/records';
import type { Matrix } from '../geometry/matrix';
import { type Bounds, boundsOf, multiply, translate, unite, unlessIdentity } from '../geometry/matrix';
import { withSources } from '../pieces/placements';
import { artboardUnder } from './align';
import { withInherited } from './layers';
import { layersOn } from './move';
import { outermost } from './outermost';

/**
 * What was copied: layers as they would lie at the top of the tree, with all that is in them, and artboards. Ids are
 * those of the originals; pasting makes new ones.
 */
export type Clip = {
  layers: readonly Layer[];
  topIds: readonly string[];
  artboards: readonly Artboard[];
  slices: readonly Slice[];
  editions: readonly Edition[];
  /** The box around all of it, in px of the plane. */
  box: Bounds;
  /** The artboard that the copied layers lay on, if it was one. */
  from: { x: number; y: number; width: number; height: number } | null;
};

/** Takes a copy of layers, or of artboards with what lies on them; null when there is nothing to copy. */
export function takeCopy(doc: ProjectDocument, ids: Iterable<string>): Clip | null {
  const chosen = [...ids];
  const artboards = chosen.flatMap((id) => doc.find('artboard', id) ?? []);
  const slices = chosen.flatMap((id) => doc.find('slice', id) ?? []).filter((slice) => slice.source.kind === 'region');
  const carried = artboards.flatMap((artboard) => (artboard.follows ? [] : layersOn(doc, artboard)));
  const tops = outermost(doc, [...chosen, ...carried.map((layer) => layer.id)]);
  const layers: Layer[] = [];
  for (const top of tops) {
    const transform = layerToPlane(doc, top);
    layers.push({
      ...withInherited(doc, top, ROOT),
      parentId: ROOT,
      transform: unlessIdentity(transform),
    });
    for (const id of doc.descendants(top.id).slice(1)) layers.push(doc.find('layer', id) as Layer);
  }
  const owned = new Set(artboards.map((artboard) => artboard.id));
  let box: Bounds | null = null;
  for (const top of tops) box = unite(box, layerBounds(doc, top.id));
  for (const artboard of artboards) box = unite(box, boundsOf(artboard));
  for (const { source } of slices)
    if (source.kind === 'region')
      box = unite(box, {
        minX: source.x,
        minY: source.y,
        maxX: source.x + source.width,
        maxY: source.y + source.height,
      });
  if (!box) return null;
  const boards = new Set(
    artboards.length > 0
      ? []
      : tops.map((top) => {
          const b = layerBounds(doc, top.id);
          return b ? artboardUnder(doc, b) : undefined;
        }),
  );
  const [from] = boards;
  return {
    layers,
    topIds: tops.map((top) => top.id),
    artboards,
    slices,
    editions: doc.list('edition').filter((edition) => owned.has(edition.artboardId)),
    box,
    from: boards.size === 1 && from ? { x: from.x, y: from.y, width: from.width, height: from.height } : null,
  };
}

/** A name that no other has: "leaf", "leaf 2", "leaf 3" …. */
function freeName(name: string, taken: Set<string>): string {
  const stem = name.replace(/ \d+$/, '');
  let free = name;
  for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${stem} ${n}`;
  taken.add(free.toLowerCase());
  return free;
}

/** A copy put back, moved by each of `steps` (dx, dy in px), in front of everything. Pieces get names of their own. */
export function pasteClip(
  doc: ProjectDocument,
  clip: Clip,
  steps: readonly { dx: number; dy: number }[],
): { puts: ProjectRecord[]; selected: string[] } {
  const puts: ProjectRecord[] = [];
  const selected: string[] = [];
  const tops = new Set(clip.topIds);
  const layerOrders = ordersAfter(lastOrder(doc.children(ROOT)), clip.topIds.length * steps.length);
  const artboardOrders = ordersAfter(lastOrder(doc.list('artboard')), clip.artboards.length * steps.length);
  const sliceOrders = ordersAfter(lastOrder(doc.list('slice')), clip.slices.length * steps.length);
  const taken = new Set([...doc.list('artboard'), ...doc.list('slice')].map((piece) => piece.name.toLowerCase()));
  let nextLayer = 0;
  let nextArtboard = 0;
  let nextSlice = 0;
  for (const { dx, dy } of steps) {
    const ids = new Map<string, string>();
    const idOf = (id: string) => {
      if (!ids.has(id)) ids.set(id, newId());
      return ids.get(id) as string;
    };
    for (const layer of clip.layers) {
      const top = tops.has(layer.id);
      const made: Layer = { ...layer, id: idOf(layer.id), parentId: top ? ROOT : idOf(layer.parentId) };
      if (top) {
        made.order = layerOrders[nextLayer++];
        const transform = multiply(translate(dx, dy), layer.transform ?? [1, 0, 0, 1, 0, 0]).map(
          (value) => +value.toFixed(12),
        ) as Matrix;
        made.transform = unlessIdentity(transform);
        if (clip.artboards.length === 0) selected.push(made.id);
      }
      puts.push(made);
    }
    for (const artboard of clip.artboards) {
      const made: Artboard = {
        ...artboard,
        id: idOf(artboard.id),
        order: artboardOrders[nextArtboard++],
        name: freeName(artboard.name, taken),
        x: artboard.x + dx,
        y: artboard.y + dy,
      };
      // A copy is somebody's own, whatever rule its original is of.
      made.byRule = undefined;
      // A variant whose source was copied too follows the copy.
      if (made.follows) made.follows = withSources(made.follows, (id) => ids.get(id) ?? id);
      puts.push(made);
      selected.push(made.id);
    }
    for (const edition of clip.editions) {
      const overrides = Object.fromEntries(
        Object.entries(edition.overrides).flatMap(([id, override]) =>
          ids.has(id) ? [[ids.get(id) as string, override]] : [],
        ),
      );
      puts.push({ ...edition, id: newId(), artboardId: idOf(edition.artboardId), overrides });
    }
    for (const slice of clip.slices) {
      if (slice.source.kind !== 'region') continue;
      const made = sliceRecord.parse({
        ...slice,
        id: newId(),
        order: sliceOrders[nextSlice++],
        name: freeName(slice.name, taken),
        source: { ...slice.source, x: slice.source.x + dx, y: slice.source.y + dy },
        // A copy is not among the tiles that its original was cut with.
        tile: undefined,
        byRule: undefined,
      });
      puts.push(made);
      selected.push(made.id);
    }
  }
  return { puts, selected };
}

/** Where a copy of layers goes on each artboard: as far from its corner as it was from its own artboard's, else to its middle on whole px. */
export function stepsOnto(clip: Clip, artboards: readonly Artboard[]): { dx: number; dy: number }[] {
  const { box, from } = clip;
  return artboards.map(({ x, y, width, height }) =>
    from
      ? { dx: x - from.x, dy: y - from.y }
      : {
          dx: Math.round(x + width / 2 - (box.minX + box.maxX) / 2),
          dy: Math.round(y + height / 2 - (box.minY + box.maxY) / 2),
        },
  );
}

/** The step that puts a copy of artboards right of everything, on whole px; of layers, a little aside. */
export function stepAside(doc: ProjectDocument, clip: Clip): { dx: number; dy: number } {
  if (clip.artboards.length === 0) return { dx: 8, dy: 8 };
  const gap = Math.max(16, Math.round((clip.box.maxX - clip.box.minX) / 8));
  // Below all that stands in the same columns.
  const below = doc
    .list('artboard')
    .filter((artboard) => artboard.x < clip.box.maxX && artboard.x + artboard.width > clip.box.minX);
  const bottom = Math.max(clip.box.maxY, ...below.map((artboard) => artboard.y + artboard.height));
  return { dx: 0, dy: Math.ceil(bottom) + gap - Math.floor(clip.box.minY) };
}
