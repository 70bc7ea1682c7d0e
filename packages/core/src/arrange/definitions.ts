import type { ProjectDocument } from '../document/document';
import { DEFS, type Layer } from '../document/records';
import { referencesIn } from '../profile/references';

/** Definitions that layers use which do not go, by themselves or through other definitions. */
export function usedElsewhere(doc: ProjectDocument, goes: ReadonlySet<string>): Set<string> {
  const used = new Set<string>();
  const follow = (layer: Layer) => {
    for (const [, id] of referencesIn(layer.attrs)) {
      if (used.has(id)) continue;
      used.add(id);
      for (const inner of doc.descendants(id)) {
        const child = doc.find('layer', inner);
        if (child) follow(child);
      }
    }
  };
  const inDefs = new Set(doc.children(DEFS).flatMap(({ id }) => doc.descendants(id)));
  for (const layer of doc.each('layer')) if (!goes.has(layer.id) && !inDefs.has(layer.id)) follow(layer);
  return used;
}

/** Definitions that only what goes had used, and that are not put again. */
export function definitionsLeft(
  doc: ProjectDocument,
  goes: ReadonlySet<string>,
  elsewhere: ReadonlySet<string>,
  put: ReadonlySet<string>,
): string[] {
  const left = new Set<string>();
  const follow = (id: string) => {
    const layer = doc.find('layer', id);
    for (const [, used] of layer ? referencesIn(layer.attrs) : []) {
      if (elsewhere.has(used) || left.has(used) || doc.find('layer', used)?.parentId !== DEFS) continue;
      for (const inner of doc.descendants(used)) left.add(inner);
      for (const inner of doc.descendants(used)) follow(inner);
    }
  };
  for (const id of goes) follow(id);
  return [...left].filter((id) => !put.has(id));
}
