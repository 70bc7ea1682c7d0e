import { INHERITED } from '@tolvik/core';
import type { CustomPlugin, PluginInfo, XastElement, XastRoot } from 'svgo';

/** What is inside one of these is never drawn where it stands, so that nothing can be moved into or out of it. */
const APART = new Set(['clipPath', 'mask', 'pattern', 'filter', 'marker', 'symbol']);
const HREF = 'xlink:href';
const TRANSLATION = /^translate\(([^\s,()]+)(?:[\s,]+([^\s,()]+))?\)$/;

type Reference = { node: XastElement; parent: XastElement | XastRoot; apart: boolean };

/** What can be shared, by its id; every `use` in the order of drawing; and ids that something else refers to. */
function look(root: XastRoot) {
  const parts = new Map<string, { node: XastElement; parent: XastElement }>();
  const uses: Reference[] = [];
  const visit = (node: XastElement | XastRoot, apart: boolean): void => {
    for (const child of node.children) {
      if (child.type !== 'element') continue;
      if (child.name === 'use') uses.push({ node: child, parent: node, apart });
      if (node.type === 'element' && node.name === 'defs' && child.attributes.id)
        parts.set(child.attributes.id, { node: child, parent: node });
      visit(child, apart || APART.has(child.name));
    }
  };
  visit(root, false);
  return { parts, uses };
}

const refersTo = ({ attributes }: XastElement): string => (attributes[HREF] ?? '').slice(1);
const isBare = ({ attributes }: XastElement, ...names: string[]): boolean =>
  Object.keys(attributes).every((name) => names.includes(name));

/**
 * Writes references as short as they can be (SVG 2 §5.6): a name for a name is the first name; a part that is drawn
 * as it is stands where it is drawn first, not among the definitions; a copy that was only moved says where it is; that
 * a part inherits need not be said, once nothing looks at it any more. The last step of the optimiser: once a copy stands
 * in the drawing, nothing around it may change what it inherits.
 */
export const shortReferences: CustomPlugin<PluginInfo> = {
  name: 'shortReferences',
  fn: (root) => {
    const { parts, uses } = look(root as XastRoot);
    if (uses.length === 0) return null;
    for (const { node } of parts.values())
      for (const [name, value] of Object.entries(node.attributes))
        if (value === 'inherit' && INHERITED.has(name)) delete node.attributes[name];
    for (const [id, { node, parent }] of parts) {
      if (node.name !== 'use' || !isBare(node, 'id', HREF)) continue;
      for (const use of uses) if (refersTo(use.node) === id) use.node.attributes[HREF] = node.attributes[HREF];
      parent.children = parent.children.filter((child) => child !== node);
      uses.splice(
        uses.findIndex((use) => use.node === node),
        1,
      );
    }
    for (const [id, part] of parts) {
      const first = uses.find(({ node }) => refersTo(node) === id);
      if (!first || first.apart || !isBare(first.node, HREF) || part.node.attributes.transform) continue;
      if (part.node.name === 'use' || APART.has(part.node.name)) continue;
      part.parent.children = part.parent.children.filter((child) => child !== part.node);
      first.parent.children = first.parent.children.map((child) => (child === first.node ? part.node : child)) as never;
      uses.splice(uses.indexOf(first), 1);
      for (const use of uses) if (use.parent === part.parent) use.parent = first.parent;
    }
    for (const { node } of uses) {
      const moved = isBare(node, HREF, 'transform') ? TRANSLATION.exec(node.attributes.transform ?? '') : null;
      if (!moved) continue;
      delete node.attributes.transform;
      if (Number(moved[1]) !== 0) node.attributes.x = moved[1];
      if (Number(moved[2] ?? 0) !== 0) node.attributes.y = moved[2];
    }
    const withoutEmpty = (node: XastElement | XastRoot): void => {
      node.children = node.children.filter(
        (child) => !(child.type === 'element' && child.name === 'defs' && child.children.length === 0),
      ) as never;
    };
    withoutEmpty(root as XastRoot);
    for (const child of root.children) if (child.type === 'element' && child.name === 'svg') withoutEmpty(child);
    return null;
  },
};
