import { type Node, printTree } from './tree';

/** What a reference costs: `<use xlink:href="#a"/>`; its transform stands either way. */
const REFERENCE = 24;
/** What a definition costs, with the namespace for references. */
const DEFINITION = 64;
const LEAST = 34;
/** Definitions may not be referred to like artwork, and what is in a clip path must be a shape there (CSS Masking 1 §5.2). */
const KEPT = new Set(['defs', 'clipPath', 'mask', 'pattern', 'filter', 'linearGradient', 'radialGradient', 'marker']);

type Seen = { bare: number; size: number };

/**
 * A composed SVG with parts that stand in it more than once written once (SVG 2 §5.6): copies that differ in nothing
 * but their transform. Null where that would save nothing.
 */
export function withSharedParts(root: Node): Node | null {
  const numbers = new Map<string, number>();
  const numberOf = (key: string): number => {
    const known = numbers.get(key);
    if (known !== undefined) return known;
    numbers.set(key, numbers.size);
    return numbers.size - 1;
  };
  const seen = new Map<Node, Seen>();
  const counts = new Map<number, number>();
  /** The number of a node with its transform; equal nodes have equal numbers. */
  const look = (node: Node): number => {
    const { tag, attrs, children } = node;
    const inner = children.map(look);
    let said = tag;
    let size = tag.length * 2 + 5;
    for (const name in attrs) {
      if (name === 'transform') continue;
      said += ` ${name}="${attrs[name]}"`;
    }
    size += said.length;
    for (const child of children) size += (seen.get(child)?.size ?? 0) + (child.attrs.transform?.length ?? 0);
    const bare = numberOf(`${said}>${inner.join(' ')}`);
    seen.set(node, { bare, size });
    if (!KEPT.has(tag) && !('id' in attrs)) counts.set(bare, (counts.get(bare) ?? 0) + 1);
    return numberOf(`${bare} ${attrs.transform ?? ''}`);
  };
  look(root);

  const worth = (node: Node): boolean => {
    const { bare, size } = seen.get(node) as Seen;
    const count = counts.get(bare) ?? 0;
    return count > 1 && size >= LEAST && (count - 1) * size > count * REFERENCE + DEFINITION;
  };
  const shared = new Map<number, { id: string; node: Node }>();
  const taken = new Set([...printTree(root).matchAll(/ id="([^"]*)"/g)].map((match) => match[1]));
  let next = 0;
  const nextId = (): string => {
    let id: string;
    do id = `${String.fromCharCode(97 + (next % 26))}${next < 26 ? '' : Math.floor(next / 26)}`;
    while (next++ >= 0 && taken.has(id));
    return id;
  };
  const replace = (node: Node): Node => {
    if (KEPT.has(node.tag)) return node;
    const { bare } = seen.get(node) as Seen;
    if (!('id' in node.attrs) && node !== root && worth(node)) {
      const { transform, ...attrs } = node.attrs;
      let part = shared.get(bare);
      if (!part) {
        part = { id: nextId(), node };
        shared.set(bare, part);
        part.node = { ...node, attrs: { id: part.id, ...attrs }, children: node.children.map(replace) };
      }
      return { tag: 'use', attrs: { 'xlink:href': `#${part.id}`, ...(transform ? { transform } : {}) }, children: [] };
    }
    const children = node.children.map(replace);
    return children.some((child, i) => child !== node.children[i]) ? { ...node, children } : node;
  };
  const made = replace(root);
  if (shared.size === 0) return null;
  const defs: Node = { tag: 'defs', attrs: {}, children: [...shared.values()].map(({ node }) => node) };
  return { ...made, attrs: { 'xmlns:xlink': 'http://www.w3.org/1999/xlink', ...made.attrs }, children: [defs, ...made.children] };
}
