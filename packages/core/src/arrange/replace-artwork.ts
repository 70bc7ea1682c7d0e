import type { ReadArtwork } from '../artwork/reading/read-svg';
import type { ProjectDocument } from '../document/document';
import { lastOrder, ordersAfter } from '../document/order';
import type { Artboard, Layer, ProjectRecord } from '../document/records';
import { isIdentity, multiply, translate } from '../geometry/matrix';
import { foldPath } from '../plan/names';
import { layersOn } from './move';

/** Artboards that have the names of files about to come in; variants have no artwork to replace. */
export function artboardsNamed(doc: ProjectDocument, names: readonly string[]): Artboard[] {
  const wanted = new Set(names.map(foldPath));
  return doc.list('artboard').filter((artboard) => !artboard.follows && wanted.has(foldPath(artboard.name)));
}

/**
 * New artwork in place of what lies on an artboard. The artboard keeps its name, place, specs and outputs, and takes
 * the size of the new file. When one layer held the old artwork, the new one takes over its id, name and place in
 * the tree, so that slices of it go on.
 */
export function replaceArtwork(
  doc: ProjectDocument,
  artboard: Artboard,
  artwork: ReadArtwork,
): { puts: ProjectRecord[]; removes: string[] } {
  const old = layersOn(doc, artboard);
  const heir = old.length === 1 ? old[0] : undefined;
  const removes = old.flatMap((layer) => doc.descendants(layer.id)).filter((id) => id !== heir?.id);
  const [order] = ordersAfter(lastOrder(doc.children('root')), 1);
  const rootId = heir?.id ?? artwork.rootId;
  const puts = artwork.layers.map((layer): Layer => {
    if (layer.id !== artwork.rootId) return layer.parentId === artwork.rootId ? { ...layer, parentId: rootId } : layer;
    const transform = multiply(translate(artboard.x, artboard.y), layer.transform ?? [1, 0, 0, 1, 0, 0]);
    return {
      ...layer,
      id: rootId,
      order: heir && heir.parentId === 'root' ? heir.order : order,
      name: heir?.name || layer.name || artboard.name,
      transform: isIdentity(transform) ? undefined : transform,
    };
  });
  const sized =
    artboard.width === artwork.width && artboard.height === artwork.height
      ? []
      : [{ ...artboard, width: artwork.width, height: artwork.height }];
  return { puts: [...puts, ...sized], removes };
}
