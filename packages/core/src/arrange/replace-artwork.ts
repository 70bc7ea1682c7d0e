import type { ReadArtwork } from '../artwork/reading/read-svg';
import { same } from '../basics/same';
import { ProjectDocument } from '../document/document';
import { lastOrder, ordersAfter } from '../document/order';
import { type Artboard, DEFS, type Edition, type Layer, type ProjectRecord, ROOT } from '../document/records';
import { isProgramsName, layerTitle } from '../document/titles';
import { multiply, translate, unlessIdentity } from '../geometry/matrix';
import { regionOf } from '../pieces/placements';
import { foldPath } from '../plan/names';
import { layerReferences, withLayerReferences } from '../profile/references';
import { definitionsLeft, usedElsewhere } from './definitions';
import { resizeArtboard } from './hold';
import { type LayerMatch, likeliest, matchLayers } from './match-layers';
import { layersOn } from './move';

/** Artboards that have the names of files about to come in; variants have no artwork to replace. */
export function artboardsNamed(doc: ProjectDocument, names: readonly string[]): Artboard[] {
  const wanted = new Set(names.map(foldPath));
  return doc.list('artboard').filter((artboard) => !artboard.follows && wanted.has(foldPath(artboard.name)));
}

export type Replacement = {
  puts: ProjectRecord[];
  removes: string[];
  /** Layers that were known again; they keep their ids, and with them all that hangs on them. */
  matches: LayerMatch[];
  /** Ids of layers that are gone. */
  gone: string[];
  /** Ids that new layers have in what came in. */
  fresh: string[];
  /** For what is gone, the likeliest of the new ones; worked out when it is asked for. */
  likely(): Map<string, string>;
};

/** What is given to a layer here and not by its file, so that it stays. */
const GIVEN_HERE = ['shown', 'locked', 'benchOnly', 'hold'] as const;

/**
 * What a layer that is known again is called: as somebody called it here, else as its drawing calls it now, unless that
 * is a name that no one gave.
 */
function nameOf(former: Layer, { name }: Layer): Pick<Layer, 'name' | 'drawnName'> {
  if (former.drawnName === undefined) return { name: isProgramsName(name) ? former.name || name : name };
  return former.name === name ? { name } : { name: former.name, drawnName: name };
}

/**
 * New artwork in place of what lies on an artboard. The artboard keeps its name, place, specs and outputs, and takes
 * the size of the new file, unless `size` says that it keeps its own; what holds to its edges is then where it would be
 * had the artboard been resized to it. Layers that are known again (`matchLayers`)
 * keep their ids, so that differences of editions, slices and accepted findings go on; definitions that are only
 * theirs are taken along. `attach` says of layers that would be gone which of the new ones, by its place among the
 * layers that came, takes their ids. What stays as it was is not in the change.
 */
export function replaceArtwork(
  doc: ProjectDocument,
  artboard: Artboard,
  artwork: ReadArtwork,
  { size = 'new', attach = {} }: { size?: 'new' | 'kept'; attach?: Readonly<Record<string, number>> } = {},
): Replacement {
  const old = layersOn(doc, artboard);
  const incoming = new ProjectDocument(artwork.layers);
  const before = { doc, topIds: old.map(({ id }) => id), origin: artboard };
  const after = { doc: incoming, topIds: [artwork.rootId], origin: { x: 0, y: 0 } };
  const matches = withAttached(matchLayers(before, after), attach, artwork.layers);
  const idOf = new Map(matches.map(({ newId, oldId }) => [newId, oldId]));
  const goes = new Set(old.flatMap(({ id }) => doc.descendants(id)));
  const elsewhere = usedElsewhere(doc, goes);
  for (const [now, before] of definitionsAlike(doc, incoming, idOf, elsewhere)) idOf.set(now, before);
  const named = (id: string) => idOf.get(id) ?? id;

  const puts: ProjectRecord[] = [];
  const put = new Set<string>();
  for (const layer of artwork.layers) {
    const made = asHere(layer);
    put.add(made.id);
    if (!same(doc.find('layer', made.id), made)) puts.push(made);
  }
  const { width, height } = artwork;
  const resized = artboard.width !== width || artboard.height !== height;
  if (resized && size === 'new') puts.push({ ...artboard, width, height });
  const gone = [...goes].filter((id) => !put.has(id));
  puts.push(...withLostNamed(doc, gone));
  const unused = definitionsLeft(doc, goes, elsewhere, put);
  if (resized && size === 'kept') holdTo(doc, artboard, { ...artboard, width, height }, puts, [...gone, ...unused]);
  const known = new Set(matches.map(({ newId }) => newId));
  const fresh = incoming.descendants(artwork.rootId).filter((id) => !known.has(id));
  const likely = () => likeliest(before, after, gone, fresh);
  return { puts, removes: [...gone, ...unused], matches, gone, fresh, likely };

  function asHere(layer: Layer): Layer {
    const former = doc.find('layer', named(layer.id));
    const made: Layer = {
      ...withLayerReferences(layer, named),
      id: named(layer.id),
      parentId: named(layer.parentId),
    };
    if (former && former.parentId !== DEFS)
      Object.assign(made, Object.fromEntries(GIVEN_HERE.map((field) => [field, former[field]])), nameOf(former, layer));
    if (layer.id !== artwork.rootId) return made;
    const transform = multiply(translate(artboard.x, artboard.y), layer.transform ?? [1, 0, 0, 1, 0, 0]);
    const home = former && former.parentId !== DEFS ? former : undefined;
    return {
      ...made,
      parentId: home?.parentId ?? ROOT,
      order: home?.order ?? ordersAfter(lastOrder(doc.children(ROOT)), 1)[0],
      name: former?.name || made.name || artboard.name,
      transform: unlessIdentity(transform),
    };
  }
}

/** Moves what holds to the edges of an artboard as the file has it to where it belongs on the artboard as it is. */
function holdTo(
  doc: ProjectDocument,
  artboard: Artboard,
  asFile: Artboard,
  puts: ProjectRecord[],
  removes: readonly string[],
): void {
  const scratch = new ProjectDocument(doc.all());
  scratch.apply({ puts: [...puts, asFile], removes: [...removes] });
  for (const record of resizeArtboard(scratch, asFile, regionOf(artboard))) {
    if (record.kind !== 'layer') continue;
    const at = puts.findIndex(({ id }) => id === record.id);
    if (at < 0) puts.push(record);
    else puts[at] = record;
  }
}

/** What was known again, with what somebody says belongs together; each layer once. */
function withAttached(
  matches: readonly LayerMatch[],
  attach: Readonly<Record<string, number>>,
  layers: readonly Layer[],
): LayerMatch[] {
  const said = Object.entries(attach).flatMap(([oldId, place]): LayerMatch[] =>
    layers[place] ? [{ oldId, newId: layers[place].id, by: 'name' }] : [],
  );
  const taken = new Set(matches.flatMap(({ oldId, newId }) => [oldId, newId]));
  return [...matches, ...said.filter(({ oldId, newId }) => !taken.has(oldId) && !taken.has(newId))];
}

/** Editions that differ in layers that are gone, with what those were called, so that it can be told and attached anew. */
function withLostNamed(doc: ProjectDocument, gone: readonly string[]): Edition[] {
  const left = new Set(gone);
  return doc.list('edition').flatMap((edition) => {
    if (!Object.keys(edition.overrides).some((id) => left.has(id))) return [];
    const overrides = Object.fromEntries(
      Object.entries(edition.overrides).map(([id, override]) => {
        const layer = left.has(id) ? doc.find('layer', id) : undefined;
        return [id, layer ? { ...override, was: layerTitle(layer) } : override];
      }),
    );
    return [{ ...edition, overrides }];
  });
}

/**
 * Definitions of the new artwork that stand where those of the old stood: named by the same attribute of a layer that
 * is known again. One that others use as well is left to them.
 */
function definitionsAlike(
  doc: ProjectDocument,
  incoming: ProjectDocument,
  idOf: ReadonlyMap<string, string>,
  elsewhere: ReadonlySet<string>,
): Map<string, string> {
  const alike = new Map<string, string>();
  const taken = new Set<string>();
  const pair = (now: string, before: string): void => {
    const [fresh, old] = [incoming.find('layer', now), doc.find('layer', before)];
    if (!fresh || !old || alike.has(now) || taken.has(before) || fresh.tag !== old.tag) return;
    if (old.parentId === DEFS && elsewhere.has(before)) return;
    alike.set(now, before);
    taken.add(before);
    pairReferred(fresh, old);
    const [inner, former] = [incoming.children(now), doc.children(before)];
    inner.forEach((child, i) => former[i] && pair(child.id, former[i].id));
  };
  const pairReferred = (fresh: Layer, old: Layer) => {
    const before = new Map(layerReferences(old));
    for (const [attribute, id] of layerReferences(fresh)) {
      const known = before.get(attribute);
      if (known) pair(id, known);
    }
  };
  for (const [now, before] of idOf) {
    const [fresh, old] = [incoming.find('layer', now), doc.find('layer', before)];
    if (fresh && old) pairReferred(fresh, old);
  }
  return alike;
}
