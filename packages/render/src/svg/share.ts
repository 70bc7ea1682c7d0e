import { INHERITED, printTree, type TreeNode } from '@tolvik/core';

/** What a reference costs: `<use xlink:href="#a"/>`; its transform stands either way. */
const REFERENCE = 24;
/** What its name costs, with the namespace for references. */
const DEFINITION = 52;
const LEAST = 34;
/** Definitions may not be referred to like artwork, and what is in a clip path must be a shape there (CSS Masking 1 §5.2). */
const KEPT = new Set(['defs', 'clipPath', 'mask', 'pattern', 'filter', 'linearGradient', 'radialGradient', 'marker']);

/** The number of a part without its transform, and with it; and about how many characters it has. */
type Seen = { bare: number; placed: number; size: number };

/** Numbers for parts of a tree: equal parts have equal numbers. */
function numbering() {
  const numbers = new Map<string, number>();
  const numberOf = (key: string): number => {
    const known = numbers.get(key);
    if (known !== undefined) return known;
    numbers.set(key, numbers.size);
    return numbers.size - 1;
  };
  const seen = new Map<TreeNode, Seen>();
  const look = (node: TreeNode): number => {
    const { tag, attrs, children } = node;
    const inner = children.map(look);
    let said = tag;
    for (const name in attrs) if (name !== 'transform') said += ` ${name}="${attrs[name]}"`;
    let size = tag.length * 2 + 5 + said.length;
    for (const child of children) size += (seen.get(child)?.size ?? 0) + (child.attrs.transform?.length ?? 0);
    const bare = numberOf(`${said}>${inner.join(' ')}`);
    const placed = numberOf(`${bare} ${attrs.transform ?? ''}`);
    seen.set(node, { bare, placed, size });
    return placed;
  };
  return { seen, look };
}

/**
 * The tree with a group around each row of siblings that stands elsewhere as the whole of a group: a part that is used
 * again comes as its first copy, bare among its neighbours, and as groups that were moved.
 */
function withRowsAsGroups(root: TreeNode): TreeNode {
  const { seen, look } = numbering();
  look(root);
  const rowOf = (nodes: readonly TreeNode[]) => nodes.map((node) => (seen.get(node) as Seen).placed);
  const groups = new Map<number, number[][]>();
  const gather = (node: TreeNode): void => {
    if (node.tag === 'g' && node.children.length > 1 && Object.keys(node.attrs).join() === 'transform') {
      const row = rowOf(node.children);
      const known = groups.get(row[0]) ?? [];
      const same = known.some((each) => each.length === row.length && each.every((number, i) => number === row[i]));
      if (!same && known.length < MOST_ROWS) groups.set(row[0], [...known, row]);
    }
    node.children.forEach(gather);
  };
  gather(root);
  if (groups.size === 0) return root;
  for (const known of groups.values()) known.sort((a, b) => b.length - a.length);
  const group = (node: TreeNode): TreeNode => {
    if (KEPT.has(node.tag)) return node;
    const row = rowOf(node.children);
    const children: TreeNode[] = [];
    let changed = false;
    for (let i = 0; i < row.length; ) {
      const found = groups
        .get(row[i])
        ?.find((each) => each.length < row.length && each.every((number, k) => number === row[i + k]));
      const length = found?.length ?? 1;
      const made = group(
        found ? { tag: 'g', attrs: {}, children: node.children.slice(i, i + length) } : node.children[i],
      );
      children.push(made);
      changed ||= made !== node.children[i];
      i += length;
    }
    return changed ? { ...node, children } : node;
  };
  return group(root);
}

/**
 * Whether something in a part has a transform: the optimiser works it into the coordinates, and cannot scale a stroke
 * whose width comes from where the part is used.
 */
const isMoved = (node: TreeNode): boolean => 'transform' in node.attrs || node.children.some(isMoved);

/** The first round counts every copy; each further one heeds what the one before it found. */
const ROUNDS = 3;
/** Different rows that begin alike and are looked for. */
const MOST_ROWS = 8;

/**
 * A composed SVG with parts that stand in it more than once written once (SVG 2 §5.6): copies that differ in nothing
 * but their transform. Null where that would save nothing. A part says of what comes down into its copies that it
 * inherits it: where it is written nothing does, and the optimiser goes by what is around.
 */
export function withSharedParts(composed: TreeNode): TreeNode | null {
  const root = withRowsAsGroups(composed);
  const { seen, look } = numbering();
  look(root);
  let counts = new Map<number, number>();
  const worth = (node: TreeNode): boolean => {
    if (KEPT.has(node.tag) || 'id' in node.attrs || node === root) return false;
    const { bare, size } = seen.get(node) as Seen;
    const count = counts.get(bare) ?? 0;
    return count > 1 && size >= LEAST && (count - 1) * (size - REFERENCE) > DEFINITION;
  };
  /** How often each part is written when copies of what was worth it until now are references. */
  const countAgain = (): Map<number, number> => {
    const next = new Map<number, number>();
    const written = new Set<number>();
    const visit = (node: TreeNode): void => {
      const { bare } = seen.get(node) as Seen;
      next.set(bare, (next.get(bare) ?? 0) + 1);
      if (KEPT.has(node.tag) || (worth(node) && written.has(bare))) return;
      written.add(bare);
      node.children.forEach(visit);
    };
    visit(root);
    return next;
  };
  for (let i = 0; i < ROUNDS; i++) counts = countAgain();

  /** Of each part, what is said around its copies and comes down into them. */
  const around = new Map<number, Set<string>>();
  const lookAround = (node: TreeNode, said: readonly string[]): void => {
    if (KEPT.has(node.tag)) return;
    if (worth(node)) {
      const { bare } = seen.get(node) as Seen;
      around.set(bare, new Set([...(around.get(bare) ?? []), ...said]));
    }
    const own = Object.keys(node.attrs).filter((name) => INHERITED.has(name));
    for (const child of node.children) lookAround(child, own.length > 0 ? [...said, ...own] : said);
  };
  lookAround(root, []);

  const shared = new Map<number, { id: string; node: TreeNode }>();
  const taken = new Set([...printTree(root).matchAll(/ id="([^"]*)"/g)].map((match) => match[1]));
  let next = 0;
  const nextId = (): string => {
    let id: string;
    do id = `${String.fromCharCode(97 + (next % 26))}${next < 26 ? '' : Math.floor(next / 26)}`;
    while (next++ >= 0 && taken.has(id));
    return id;
  };
  const replace = (node: TreeNode): TreeNode => {
    if (KEPT.has(node.tag)) return node;
    const { bare } = seen.get(node) as Seen;
    if (
      worth(node) &&
      !(node.children.some(isMoved) && ['stroke', 'stroke-width'].some((name) => around.get(bare)?.has(name)))
    ) {
      const { transform, ...attrs } = node.attrs;
      let part = shared.get(bare);
      if (!part) {
        part = { id: nextId(), node };
        shared.set(bare, part);
        const inherits = Object.fromEntries([...(around.get(bare) ?? [])].map((name) => [name, 'inherit']));
        part.node = { ...node, attrs: { id: part.id, ...inherits, ...attrs }, children: node.children.map(replace) };
      }
      return { tag: 'use', attrs: { 'xlink:href': `#${part.id}`, ...(transform ? { transform } : {}) }, children: [] };
    }
    const children = node.children.map(replace);
    return children.some((child, i) => child !== node.children[i]) ? { ...node, children } : node;
  };
  const made = replace(root);
  if (shared.size === 0) return null;
  const defs: TreeNode = { tag: 'defs', attrs: {}, children: [...shared.values()].map(({ node }) => node) };
  return {
    ...made,
    attrs: { 'xmlns:xlink': 'http://www.w3.org/1999/xlink', ...made.attrs },
    children: [defs, ...made.children],
  };
}
