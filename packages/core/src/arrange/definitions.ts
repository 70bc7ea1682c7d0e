import type { ProjectDocument } from '../document/document';
import { DEFS, type Layer } from '../document/records';
import { layerReferences } from '../profile/references';

/** The layer that a layer is in outermost: itself at the top of the artwork or of the definitions. */
export function outermostOf(doc: ProjectDocument, layer: Layer): Layer {
  let outermost = layer;
  for (const at of doc.lineage(layer)) outermost = at;
  return outermost;
}

/** The definitions that layers use, by themselves or through others: ids of the outermost, of which a part may be all that is used. */
export function definitionsUsed(doc: ProjectDocument, layers: Iterable<Layer>): Set<string> {
  const used = new Set<string>();
  const follow = (layer: Layer) => {
    for (const [, id] of layerReferences(layer)) {
      const target = doc.find('layer', id);
      const definition = target && outermostOf(doc, target);
      if (definition?.parentId !== DEFS || used.has(definition.id)) continue;
      used.add(definition.id);
      for (const inner of doc.descendants(definition.id)) {
        const child = doc.find('layer', inner);
        if (child) follow(child);
      }
    }
  };
  for (const layer of layers) follow(layer);
  return used;
}

/** Definitions, with all in them, that layers use which do not go. */
export function usedElsewhere(doc: ProjectDocument, goes: ReadonlySet<string>): Set<string> {
  const inDefs = new Set(doc.children(DEFS).flatMap(({ id }) => doc.descendants(id)));
  const stay = [...doc.each('layer')].filter(({ id }) => !goes.has(id) && !inDefs.has(id));
  return new Set([...definitionsUsed(doc, stay)].flatMap((id) => doc.descendants(id)));
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
    for (const [, used] of layer ? layerReferences(layer) : []) {
      if (elsewhere.has(used) || left.has(used) || doc.find('layer', used)?.parentId !== DEFS) continue;
      for (const inner of doc.descendants(used)) left.add(inner);
      for (const inner of doc.descendants(used)) follow(inner);
    }
  };
  for (const id of goes) follow(id);
  return [...left].filter((id) => !put.has(id));
}
