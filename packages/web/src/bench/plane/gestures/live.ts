import {
  type BenchItem,
  type Bounds,
  layerBounds,
  type Matrix,
  type ProjectDocument,
  type ProjectRecord,
  transformBounds,
  unite,
} from '@tolvik/core';
import { expireFor } from '../../../project/session/expire';
import { artworkOf, shapedLayers, shownNow } from '../../shown-artwork';
import type { GestureHost } from '../gesture';
import type { Scene } from '../scene';

/**
 * Shows layers as they are being changed, before it is committed: the painter alone is told, and told the
 * truth again at the end. For layers that are painted as part of something larger.
 */
export function liveLayers({ session, painter, scene }: GestureHost, ids: readonly string[]) {
  const { doc } = session;
  const originals = ids.flatMap((id) => doc.find('layer', id) ?? []);
  let shown = false;
  const seen = artworkOf(session, ids);
  // Where an edition shows them, and where the base has them: both may have to be drawn anew.
  const boxes = ids.flatMap((id) => [layerBounds(seen, id, true) ?? [], layerBounds(doc, id, true) ?? []].flat());
  let artwork: readonly Bounds[] = boxes;
  const tell = (puts: readonly ProjectRecord[]) => {
    painter.apply({ puts, removes: [] });
    expireFor(painter, doc, { puts, removes: [] }, { records: originals, artwork: () => artwork });
  };
  const items = itemsOf(scene, doc, ids);
  return {
    /** Shows them as they would be after `matrix`; answers what the items they are part of take then. */
    show(matrix: Matrix): ReadonlyMap<string, Bounds> {
      if (ids.length === 0) return NOTHING;
      shown = true;
      artwork = [...boxes, ...boxes.map((box) => transformBounds(matrix, box))];
      tell(shapedLayers(session, ids, matrix));
      const grown = new Map<string, Bounds>();
      for (const [id, item] of items) {
        const box = layerBounds(seen, id, true);
        if (box)
          grown.set(
            item.layerId,
            unite(grown.get(item.layerId) ?? item.bounds, transformBounds(matrix, box)) as Bounds,
          );
      }
      return grown;
    },
    end() {
      if (shown) tell(originals);
    },
  };
}

const NOTHING: ReadonlyMap<string, Bounds> = new Map();

/** The item that each layer is painted in. */
function itemsOf(scene: Scene, doc: ProjectDocument, ids: readonly string[]): Map<string, BenchItem> {
  const byLayer = new Map(scene.items.map((item) => [item.layerId, item]));
  const found = new Map<string, BenchItem>();
  for (const id of ids) {
    for (const at of doc.ancestors({ parentId: id })) {
      const item = byLayer.get(at.id);
      if (item) {
        found.set(id, item);
        break;
      }
    }
  }
  return found;
}

/** Those of some layers that the Bench paints only as part of a larger item. */
export function paintedWithin({ scene, session }: GestureHost, ids: readonly string[]): string[] {
  const apart = new Set(scene.items.flatMap((item) => item.path));
  // What an edition shows is one picture.
  const artwork = shownNow(session)?.artwork;
  return ids.filter((id) => !apart.has(id) || artwork?.find('layer', id));
}
