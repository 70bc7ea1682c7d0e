import { layerToPlane } from '../artwork/bounds/bounds';
import { refuse } from '../basics/problem';
import { type ProjectDocument, ROOT } from '../document/document';
import type { Change } from '../document/edits';
import { newId } from '../document/ids';
import { orderBetween, ordersBetween } from '../document/order';
import { type Layer, layerRecord } from '../document/records';
import { invert, multiply, unlessIdentity } from '../geometry/matrix';
import { HOLDS_TOGETHER, INHERITED } from '../profile/allow-list';
import { movedLayer } from './move';
import { outermost } from './outermost';

/** Layers moved by dx, dy px of the plane; locked ones stay. */
export const moveLayers = (doc: ProjectDocument, ids: Iterable<string>, dx: number, dy: number): Layer[] =>
  outermost(doc, ids)
    .filter((layer) => !layer.locked)
    .map((layer) => movedLayer(doc, layer, dx, dy));

export const removeLayers = (doc: ProjectDocument, ids: Iterable<string>): string[] =>
  outermost(doc, ids).flatMap((layer) => doc.descendants(layer.id));

/** One group out of several layers, where the front one was; each keeps its place on the plane. */
export function groupLayers(doc: ProjectDocument, ids: Iterable<string>): { change: Change; groupId: string } {
  const layers = outermost(doc, ids);
  if (layers.length === 0)
    return refuse('group.empty', 'there is nothing to group', { accepted: 'at least one layer' });
  const front = layers[layers.length - 1];
  const siblings = doc.children(front.parentId);
  const next = siblings[siblings.findIndex((layer) => layer.id === front.id) + 1];
  const group = layerRecord.parse({
    id: newId(),
    kind: 'layer',
    parentId: front.parentId,
    order: orderBetween(front.order, next?.order ?? null),
    tag: 'g',
    name: 'group',
  });
  const orders = ordersBetween(null, null, layers.length);
  const home = doc.find('layer', front.parentId);
  const toHome = home ? invert(layerToPlane(doc, home)) : null;
  const puts = layers.map((layer, i): Layer => {
    if (layer.parentId === front.parentId) return { ...layer, parentId: group.id, order: orders[i] };
    const onPlane = layerToPlane(doc, layer);
    return {
      ...withInherited(doc, layer, front.parentId),
      parentId: group.id,
      order: orders[i],
      transform: unlessIdentity(toHome ? multiply(toHome, onPlane) : onPlane),
    };
  });
  return { change: { label: `group ${layers.length} layers`, puts: [group, ...puts], removes: [] }, groupId: group.id };
}

/** A layer that takes along what its parents gave it, for a home that gives it nothing of the kind. */
export function withInherited(doc: ProjectDocument, layer: Layer, homeId: string): Layer {
  const attrs = { ...layer.attrs };
  const home = new Set<string>();
  for (const at of doc.ancestors({ parentId: homeId })) home.add(at.id);
  for (const at of doc.ancestors(layer)) {
    if (home.has(at.id)) break;
    for (const [name, value] of Object.entries(at.attrs))
      if (INHERITED.has(name) && !(name in attrs)) attrs[name] = value;
  }
  return { ...layer, attrs };
}

/** A group taken apart; its children keep their place and look. Refused for a group that has an effect of its own. */
export function ungroup(doc: ProjectDocument, groupId: string): Change {
  const group = doc.find('layer', groupId);
  if (group?.tag !== 'g') return refuse('ungroup.not', 'this is not a group', { accepted: 'a group' });
  if (group.opacity < 1 || HOLDS_TOGETHER.some((name) => name in group.attrs))
    refuse('ungroup.effect', `${group.name || 'the group'} has an opacity, clip, mask or filter that needs it`, {
      accepted: 'a group without one',
    });
  const children = doc.children(groupId);
  const siblings = doc.children(group.parentId);
  const at = siblings.findIndex((layer) => layer.id === groupId);
  const orders = ordersBetween(siblings[at - 1]?.order ?? null, siblings[at + 1]?.order ?? null, children.length);
  const given = Object.fromEntries(Object.entries(group.attrs).filter(([name]) => INHERITED.has(name)));
  const puts = children.map((child, i): Layer => {
    const transform = group.transform
      ? multiply(group.transform, child.transform ?? [1, 0, 0, 1, 0, 0])
      : child.transform;
    return {
      ...child,
      parentId: group.parentId,
      order: orders[i],
      attrs: { ...given, ...child.attrs },
      transform,
      shown: child.shown && group.shown,
      benchOnly: child.benchOnly || group.benchOnly,
    };
  });
  return { label: `ungroup ${group.name || 'a group'}`, puts, removes: [groupId] };
}

export type Direction = 'front' | 'forward' | 'backward' | 'back';

/** One layer moved among its siblings; nothing when it is there already. */
export function reorderLayer(doc: ProjectDocument, layer: Layer, direction: Direction): Layer[] {
  const siblings = doc.children(layer.parentId).filter((each) => each.id !== layer.id);
  const now = doc.children(layer.parentId).findIndex((each) => each.id === layer.id);
  const to = {
    front: siblings.length,
    back: 0,
    forward: Math.min(siblings.length, now + 1),
    backward: Math.max(0, now - 1),
  }[direction];
  if (to === now) return [];
  return [{ ...layer, order: orderBetween(siblings[to - 1]?.order ?? null, siblings[to]?.order ?? null) }];
}

/** What the artwork tree shows in front first: children of a layer from front to back. */
export const frontFirst = (doc: ProjectDocument, parentId: string = ROOT): Layer[] =>
  [...doc.children(parentId)].reverse();
