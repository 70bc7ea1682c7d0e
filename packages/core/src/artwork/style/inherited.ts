import type { ProjectDocument } from '../../document/document';
import type { Layer } from '../../document/records';

/** The value of an inherited attribute as it applies to a layer: its own, or the nearest of its groups' (SVG 2 §6.3). */
export function inheritedValue(doc: ProjectDocument, layer: Layer, name: string): string | undefined {
  for (const at of doc.lineage(layer)) if (name in at.attrs) return at.attrs[name];
  return undefined;
}
