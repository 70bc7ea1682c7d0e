import type { ProjectDocument } from '../document/document';
import { lastOrder, ordersAfter } from '../document/order';
import type { Layer } from '../document/records';
import { multiply, translate, unlessIdentity } from '../geometry/matrix';
import type { NamedArtwork } from './place-files';

const GAP = 16;

/** Puts files on the Bench as artwork alone, with their groups, side by side around a point of the plane, on whole px; no artboards. */
export function placeArtwork(
  doc: ProjectDocument,
  files: readonly NamedArtwork[],
  at: { x: number; y: number },
): { records: Layer[]; rootIds: string[] } {
  const width = files.reduce((sum, { artwork }) => sum + artwork.width, 0) + GAP * Math.max(0, files.length - 1);
  const orders = ordersAfter(lastOrder(doc.children('root')), files.length);
  let x = at.x - width / 2;
  const records = files.flatMap(({ name, artwork }, i) => {
    const step = translate(Math.round(x), Math.round(at.y - artwork.height / 2));
    x += artwork.width + GAP;
    return artwork.layers.map((layer): Layer => {
      if (layer.id !== artwork.rootId) return layer;
      const transform = multiply(step, layer.transform ?? [1, 0, 0, 1, 0, 0]);
      return {
        ...layer,
        order: orders[i],
        name: layer.name || name,
        transform: unlessIdentity(transform),
      };
    });
  });
  return { records, rootIds: files.map(({ artwork }) => artwork.rootId) };
}
