import { layerToPlane } from '../artwork/bounds/bounds';
import { refuse } from '../basics/problem';
import { type ProjectDocument, ROOT } from '../document/document';
import { ordersBetween } from '../document/order';
import type { Layer } from '../document/records';
import type { Matrix } from '../geometry/matrix';
import { invert, multiply, unlessIdentity } from '../geometry/matrix';
import { withInherited } from './layers';
import { outermost } from './outermost';

/**
 * Layers put into a group (or `root`) directly in front of its child `inFrontOf`, or at the
 * very back when that is null. Each keeps its place and look on the plane. Throws a `Refusal` when a group
 * would come to lie inside itself.
 */
export function moveInTree(
  doc: ProjectDocument,
  ids: Iterable<string>,
  parentId: string,
  inFrontOf: string | null,
): Layer[] {
  const layers = outermost(doc, ids);
  const moving = new Set(layers.map((layer) => layer.id));
  for (const at of doc.ancestors({ parentId: parentId }))
    if (moving.has(at.id))
      refuse('tree.ring', `${at.name || 'a group'} cannot lie inside itself`, { accepted: 'another group' });
  const home = doc.find('layer', parentId);
  if (parentId !== ROOT && home?.tag !== 'g') refuse('tree.home', 'only a group holds layers', { accepted: 'a group' });
  const siblings = doc.children(parentId).filter((layer) => !moving.has(layer.id));
  const at = inFrontOf === null ? 0 : siblings.findIndex((layer) => layer.id === inFrontOf) + 1;
  const orders = ordersBetween(siblings[at - 1]?.order ?? null, siblings[at]?.order ?? null, layers.length);
  const toHome = home ? invert(layerToPlane(doc, home)) : null;
  return layers.map((layer, i): Layer => {
    if (layer.parentId === parentId) return { ...layer, order: orders[i] };
    const onPlane = layerToPlane(doc, layer);
    const transform = (toHome ? multiply(toHome, onPlane) : onPlane).map((value) => +value.toFixed(12)) as Matrix;
    return {
      ...withInherited(doc, layer, parentId),
      parentId,
      order: orders[i],
      transform: unlessIdentity(transform),
    };
  });
}
