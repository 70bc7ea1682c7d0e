import { artworkIndex } from '../artwork/bounds/artwork-index';
import type { Leaf } from '../artwork/bounds/bounds';
import { type ProjectDocument, ROOT } from '../document/document';
import type { Layer } from '../document/records';
import { plainColour } from './project-colours';

export type Alike = 'fill' | 'stroke' | 'size';

/** Sizes that differ by less than this are the same, in px. */
const SAME_PX = 0.05;

const paintOf = (value: string) => plainColour(value) ?? value;

/** What makes a drawn element look like another. */
function looksOf(leaf: Leaf, by: Alike): string {
  if (by === 'fill') return paintOf(leaf.fill);
  if (by === 'stroke') return leaf.strokePx > 0 ? `${paintOf(leaf.stroke)} ${leaf.strokePx.toFixed(2)}` : 'none';
  return `${Math.round((leaf.maxX - leaf.minX) / SAME_PX)} ${Math.round((leaf.maxY - leaf.minY) / SAME_PX)}`;
}

/** Drawn layers that have the fill, stroke (paint and width) or size of any of these; shown and unlocked ones, these among them. */
export function layersAlike(doc: ProjectDocument, ids: Iterable<string>, by: Alike): string[] {
  const chosen = new Set(ids);
  const { leaves } = artworkIndex(doc);
  const inside = (layer: Layer) => {
    for (const at of doc.lineage(layer)) if (chosen.has(at.id)) return true;
    return false;
  };
  const looks = new Set(leaves.filter((leaf) => inside(leaf.layer)).map((leaf) => looksOf(leaf, by)));
  const free = (layer: Layer) => {
    for (const at of doc.lineage(layer)) if (at.locked || !at.shown) return false;
    return true;
  };
  return leaves.filter((leaf) => looks.has(looksOf(leaf, by)) && free(leaf.layer)).map((leaf) => leaf.layer.id);
}

/** All children of the parents of these layers, these among them. */
export function siblingsOf(doc: ProjectDocument, ids: Iterable<string>): string[] {
  const parents = new Set([...ids].flatMap((id) => doc.find('layer', id)?.parentId ?? []));
  return [...parents].flatMap((parent) => doc.children(parent === '' ? ROOT : parent).map((layer) => layer.id));
}
