import { refuse } from '../basics/problem';
import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Artboard, artboardRecord, type ProjectRecord, type Slice, sliceRecord } from '../document/records';
import type { Region } from '../geometry/region';
import { sliceRegion } from '../pieces/pieces';
import { isFollowing } from '../pieces/placements';

/** A slice at the end of all slices. */
function lastSlice(doc: ProjectDocument, fields: Pick<Slice, 'name' | 'source'> & Partial<Slice>): Slice {
  const [order] = ordersAfter(lastOrder(doc.list('slice')), 1);
  return sliceRecord.parse({ id: newId(), kind: 'slice', order, ...fields });
}

/** One page out of several artboards, as they stand. */
export function sliceOfArtboards(
  doc: ProjectDocument,
  artboards: readonly Artboard[],
  specIds: readonly string[],
): Slice {
  if (artboards.length < 2)
    refuse('slice.few', 'one artboard is a piece already', { accepted: 'two artboards or more' });
  return lastSlice(doc, {
    name: `${artboards[0].name} to ${artboards[artboards.length - 1].name}`,
    source: { kind: 'artboards', artboardIds: artboards.map((artboard) => artboard.id) },
    specIds: [...specIds],
  });
}

/** A slice of everything there is, wherever it lies, to the edges of its artwork or of its artboards. */
export const sliceOfEverything = (
  doc: ProjectDocument,
  name: string,
  to: 'artwork' | 'artboards',
  specIds: readonly string[],
): Slice => lastSlice(doc, { name, source: { kind: 'everything', to }, specIds: [...specIds] });

/** A slice becomes an artboard of its region, on whole px when it was drawn so; name, specs and outputs stay, under its id. */
export function sliceToArtboard(doc: ProjectDocument, slice: Slice): Artboard {
  const region = sliceRegion(doc, slice);
  if (typeof region === 'string')
    return refuse('slice.nowhere', `${slice.name} has no region: ${region}`, { where: slice.name });
  const [order] = ordersAfter(lastOrder(doc.list('artboard')), 1);
  const { id, name, on, specIds, offOutputIds } = slice;
  return artboardRecord.parse({ id, kind: 'artboard', order, name, on, specIds, offOutputIds, ...region });
}

/** An artboard becomes a slice of its region. Its background and editions have no place on a slice, and a variant has no artwork to cut: both are refused. */
export function artboardToSlice(doc: ProjectDocument, artboard: Artboard): Slice {
  if (artboard.follows)
    refuse('slice.variant', `${artboard.name} follows another artboard, so there is no artwork of its own to cut`, {
      accepted: 'an artboard with artwork of its own',
    });
  if (doc.list('edition').some((edition) => edition.artboardId === artboard.id))
    refuse('slice.editions', `${artboard.name} has editions, which a slice cannot have`, {
      accepted: 'an artboard without editions',
    });
  if (doc.list('artboard').some((other) => isFollowing(other, artboard.id)))
    refuse('slice.followed', `${artboard.name} is followed by variants`, {
      accepted: 'an artboard that nothing follows',
    });
  const { id, name, on, specIds, offOutputIds, x, y, width, height } = artboard;
  return lastSlice(doc, { id, name, on, specIds, offOutputIds, source: { kind: 'region', x, y, width, height } });
}

/** A slice as one of a region, with nothing around it, and no rule's any more. */
export function cutFrom(slice: Slice, region: Region): Slice {
  const { square: _square, wholePx: _wholePx, byRule: _byRule, ...rest } = slice;
  return { ...rest, source: { kind: 'region', ...region }, margin: 0 };
}

/** Slices among these that follow a layer that is about to go (one of `layerIds`), cut loose: each keeps the region it has now. */
export function slicesKept(doc: ProjectDocument, layerIds: ReadonlySet<string>): { slice: Slice; kept: Slice }[] {
  return doc.list('slice').flatMap((slice) => {
    if (slice.source.kind !== 'layer' || !layerIds.has(slice.source.layerId)) return [];
    const region = sliceRegion(doc, slice);
    return typeof region === 'string' ? [] : [{ slice, kept: cutFrom(slice, region) }];
  });
}

/** Pieces numbered anew: their order becomes the one given; others of the kind keep theirs around them. */
export function renumbered<T extends Artboard | Slice>(all: readonly T[], chosen: readonly T[]): ProjectRecord[] {
  const ids = new Set(chosen.map((each) => each.id));
  let next = 0;
  const list = all.map((each) => (ids.has(each.id) ? chosen[next++] : each));
  const orders = ordersAfter(null, list.length);
  return list.flatMap((each, i) => (each.order === orders[i] ? [] : [{ ...each, order: orders[i] }]));
}
