import { definitionsLeft, definitionsUsed, outermostOf, usedElsewhere } from '../arrange/definitions';
import { layersOn } from '../arrange/move';
import { layerBoxes } from '../artwork/bounds/artwork-index';
import { layerToPlane } from '../artwork/bounds/bounds';
import { same } from '../basics/same';
import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import { type Artboard, DEFS, type Layer, ROOT } from '../document/records';
import {
  boundsOf,
  IDENTITY,
  invert,
  isIdentity,
  type Matrix,
  multiply,
  touches,
  translate,
  unlessIdentity,
} from '../geometry/matrix';
import { layerReferences, withLayerReferences } from '../profile/references';

/** Transforms whose numbers differ by less than this share are the same: one way there and back leaves that much. */
const SAME_NUMBER = 1e-6;

const sameMatrix = (a: Matrix = IDENTITY, b: Matrix = IDENTITY): boolean =>
  a.every((value, i) => Math.abs(value - b[i]) <= SAME_NUMBER * Math.max(1, Math.abs(value)));

/** Whether two layers draw the same at the same place of the tree. */
function sameLayer(one: Layer | undefined, other: Layer): boolean {
  if (!one || !sameMatrix(one.transform, other.transform)) return false;
  return same(
    { ...one, transform: undefined, locked: undefined },
    { ...other, transform: undefined, locked: undefined },
  );
}

const layersIn = (doc: ProjectDocument, topId: string): Layer[] =>
  doc.descendants(topId).flatMap((id) => doc.find('layer', id) ?? []);

/**
 * The artwork of an artboard as it was in an earlier version of the project, at the place where the artboard is now, with
 * the definitions that it uses. Only what differs is put. Layers that are on another artboard by now stay there, and come
 * back as copies, unless that one is taken back `together` with it; a definition that others use as it is now comes back
 * as one of its own.
 */
export function artworkBack(
  doc: ProjectDocument,
  then: ProjectDocument,
  artboard: Artboard,
  together: ReadonlySet<string> = new Set(),
): { puts: Layer[]; removes: string[] } {
  const now = doc.find('artboard', artboard.id);
  const step = now ? translate(now.x - artboard.x, now.y - artboard.y) : IDENTITY;
  const here = now && !now.follows ? layersOn(doc, now) : [];
  const goes = new Set(here.flatMap(({ id }) => doc.descendants(id)));
  const renamed = new Map<string, string>();
  const named = (id: string) => renamed.get(id) ?? id;

  const tops = layersOn(then, artboard);
  const isTop = new Set(tops.map(({ id }) => id));
  const copies = here.filter(({ id }) => !isTop.has(id));
  for (const top of tops) {
    const inner = layersIn(then, top.id);
    const lie = [...inner.map(({ id }) => id), ...doc.descendants(top.id)].filter((id) => doc.get(id) && !goes.has(id));
    const isElsewhere = isOnAnother(doc, then, top, lie, (id) => id === artboard.id || together.has(id));
    // What lies nowhere comes back, and takes nothing along that came into it since.
    if (!isElsewhere) for (const id of lie) goes.add(id);
    if (inner.every(({ id }) => goes.has(id))) continue;
    const onPlane = multiply(step, layerToPlane(then, top));
    const copy = copies.findIndex(
      (one) => sameMatrix(layerToPlane(doc, one), onPlane) && drawSame(doc, one.id, then, top.id),
    );
    if (copy < 0 && !isElsewhere) continue;
    const ids = copy < 0 ? inner.map(newId) : doc.descendants(copies.splice(copy, 1)[0].id);
    for (const [i, { id }] of inner.entries()) renamed.set(id, ids[i]);
  }
  const around = new Map<string, Layer>();
  const placed = inPresentOrder(
    doc,
    tops.map((top) => inItsGroup(doc, then, top, step, around)),
  );
  const artwork = [...around.values(), ...placed, ...tops.flatMap((top) => layersIn(then, top.id).slice(1))];

  let elsewhere: ReadonlySet<string> | undefined;
  /** Whether a definition has to stay as it is: others use it, or it became artwork. */
  const isTaken = ({ id }: Layer) => {
    const layer = doc.find('layer', id);
    if (!layer) return false;
    elsewhere ??= usedElsewhere(doc, goes);
    return elsewhere.has(id) || outermostOf(doc, layer).parentId !== DEFS;
  };
  const definitions = [...definitionsUsed(then, artwork)].map((id) => layersIn(then, id));
  const wanted = [...artwork];
  /** The definition that stands now where a layer had that one, and draws the same. */
  const ownOf = (definition: string): string | undefined => {
    for (const layer of artwork)
      for (const [attribute, id] of layerReferences(layer)) {
        if (id !== definition) continue;
        const here = doc.find('layer', named(layer.id));
        const used = (here ? [...layerReferences(here)] : []).find(([at]) => at === attribute);
        if (used && used[1] !== id && drawSame(doc, used[1], then, id)) return used[1];
      }
    return undefined;
  };
  for (const inner of definitions) {
    if (inner.every((layer) => sameLayer(doc.find('layer', layer.id), layer))) continue;
    const [{ id: root }] = inner;
    const copy = ownOf(root);
    if (copy === undefined && !inner.some(isTaken)) wanted.push(...inner);
    else {
      const ids = copy === undefined ? inner.map(newId) : doc.descendants(copy);
      for (const [i, { id }] of inner.entries()) renamed.set(id, ids[i]);
      wanted.push(...inner);
    }
  }
  const made = wanted.map((layer): Layer => {
    if (renamed.size === 0) return layer;
    return { ...withLayerReferences(layer, named), id: named(layer.id), parentId: named(layer.parentId) };
  });
  const puts = made.filter((layer) => !sameLayer(doc.find('layer', layer.id), layer));
  const kept = new Set([...made, ...definitions.flat()].map(({ id }) => id));
  const gone = [...goes].filter((id) => !kept.has(id));
  if (puts.length === 0 && gone.length === 0) return { puts, removes: [] };
  return { puts, removes: [...gone, ...definitionsLeft(doc, goes, elsewhere ?? usedElsewhere(doc, goes), kept)] };
}

/** Whether two layers of two versions of a project draw the same, whatever ids they have and wherever they are. */
function drawSame(doc: ProjectDocument, nowId: string, then: ProjectDocument, thenId: string): boolean {
  const [now, before] = [layersIn(doc, nowId), layersIn(then, thenId)];
  const drawn = ({ tag, attrs, text, opacity, shown, benchOnly, transform }: Layer, isTop: boolean) => ({
    ...{ tag, attrs, text, opacity, shown, benchOnly },
    transform: isTop ? undefined : transform,
  });
  return (
    now.length === before.length && now.every((layer, i) => same(drawn(layer, i === 0), drawn(before[i], i === 0)))
  );
}

/**
 * Whether any of some layers lies on an artboard that is none of these, and that did not have their outermost one then:
 * artboards may lie on one another, such as one for each group of a sheet.
 */
function isOnAnother(
  doc: ProjectDocument,
  then: ProjectDocument,
  top: Layer,
  ids: readonly string[],
  isOfThese: (artboardId: string) => boolean,
): boolean {
  const boxes = layerBoxes(doc);
  const wanted = new Set(ids);
  /** They and the groups that they are in: where those lie, they lie. */
  const within = new Set(ids);
  for (const id of ids)
    for (const at of doc.ancestors({ parentId: doc.find('layer', id)?.parentId ?? ROOT })) within.add(at.id);
  const own = [...within].flatMap((id) => boxes.get(id) ?? []);
  const lineage = new Set([...then.lineage(top)].map(({ id }) => id));
  const hadIt = (before: Artboard | undefined) => before && layersOn(then, before).some(({ id }) => lineage.has(id));
  return doc
    .list('artboard')
    .some(
      (other) =>
        !other.follows &&
        !isOfThese(other.id) &&
        own.some((box) => touches(box, boundsOf(other))) &&
        layersOn(doc, other).some(
          ({ id }) => within.has(id) || doc.descendants(id).some((inner) => wanted.has(inner)),
        ) &&
        !hadIt(then.find('artboard', other.id)),
    );
}

/** What the groups around a layer do to it beside moving it. */
const groupsAround = (doc: ProjectDocument, parentId: string) =>
  [...doc.ancestors({ parentId })].flatMap(({ attrs, opacity, shown, benchOnly }) =>
    opacity < 1 || !shown || benchOnly || Object.keys(attrs).length > 0 ? [{ attrs, opacity, shown, benchOnly }] : [],
  );

const toPlane = (doc: ProjectDocument, id: string): Matrix => {
  const layer = doc.find('layer', id);
  return layer ? layerToPlane(doc, layer) : IDENTITY;
};

/**
 * An outermost layer as it was, in a group that does to it now what its own did then: its former one, else the
 * one that it is in. Where there is none such any more, the groups come back around it (`around`, by the id that they had).
 */
function inItsGroup(
  doc: ProjectDocument,
  then: ProjectDocument,
  top: Layer,
  step: Matrix,
  around: Map<string, Layer>,
): Layer {
  const were = groupsAround(then, top.parentId);
  const isHome = (id: string) =>
    (id === ROOT || doc.find('layer', id) !== undefined) && same(groupsAround(doc, id), were);
  const homes = [top.parentId, doc.find('layer', top.id)?.parentId ?? top.parentId];
  const home = homes.find(isHome);
  if (home !== undefined) {
    const outer = toPlane(doc, home);
    if (isIdentity(step) && sameMatrix(outer, toPlane(then, top.parentId))) return { ...top, parentId: home };
    const transform = multiply(invert(outer), multiply(step, layerToPlane(then, top)));
    return { ...top, parentId: home, transform: unlessIdentity(transform) };
  }
  let parentId = ROOT;
  for (const group of [...then.ancestors(top)].reverse()) {
    const known = around.get(group.id);
    const transform = parentId === ROOT ? multiply(step, group.transform ?? IDENTITY) : group.transform;
    const made: Layer = known ?? {
      ...group,
      id: doc.get(group.id) ? newId() : group.id,
      parentId,
      transform: unlessIdentity(transform),
    };
    around.set(group.id, made);
    parentId = made.id;
  }
  return { ...top, parentId };
}

/** Layers that are still one after the other as they were have the order of now, whatever else came between. */
function inPresentOrder(doc: ProjectDocument, tops: readonly Layer[]): Layer[] {
  const orderNow = ({ id, parentId }: Layer) => {
    const here = doc.find('layer', id);
    return here?.parentId === parentId ? here.order : undefined;
  };
  const last = new Map<string, string>();
  for (const top of tops) {
    const order = orderNow(top);
    if (order === undefined) continue;
    if (order < (last.get(top.parentId) ?? '')) return [...tops];
    last.set(top.parentId, order);
  }
  return tops.map((top) => ({ ...top, order: orderNow(top) ?? top.order }));
}
