import { DEFINITIONS, isInkMask, printTree, readTree, referencesIn, referred, type TreeNode } from '@tolvik/core';
import { guard } from '../guard';
import { rightOutline } from './held';
import { asClip, withClips } from './mask-clips';
import type { Outliner } from './outliner';

/**
 * A composed SVG with every area of one ink as one path with a fill, in place of a rectangle behind a mask. Each is held
 * against the picture of its mask; `masked` says how many stay what they were, since none of the ways gave what it shows.
 */
export async function withInkOutlines(svg: string, outliner: Outliner): Promise<{ svg: string; masked: number }> {
  if (!svg.includes('<mask id="ink.')) return { svg, masked: 0 };
  guard(svg, () => true);
  const { root, byId } = readTree(svg);
  const definitions = [...byId].flatMap(([id, node]) => (DEFINITIONS.has(node.tag) && !isInkMask(id) ? [node] : []));
  const paths = new Map<string, string>();
  let masked = 0;
  for (const [id, mask] of byId) {
    if (!isInkMask(id)) continue;
    const d = await outlined(mask, definitions, outliner);
    if (d === null) masked++;
    else paths.set(id, d);
  }
  if (paths.size === 0) return { svg, masked };
  const made = withPaths(root, paths);
  return { svg: printTree(withoutUnused(made, new Set(paths.keys()))), masked };
}

function outlined(mask: TreeNode, definitions: readonly TreeNode[], outliner: Outliner): Promise<string | null> {
  const [x, y, width, height] = ['x', 'y', 'width', 'height'].map((name) => Number(mask.attrs[name]));
  const defs = printTree({ tag: 'defs', attrs: {}, children: [...definitions] });
  const clips = definitions.flatMap((node) => asClip(node) ?? []);
  const clipped = withClips({ ...mask, tag: 'g', attrs: {} }, new Set(clips.map(({ attrs }) => attrs.id)));
  return rightOutline(
    {
      drawn: defs + mask.children.map(printTree).join(''),
      asked: printTree({ tag: 'defs', attrs: {}, children: [...definitions, ...clips] }) + printTree(clipped),
      page: { minX: x, minY: y, maxX: x + width, maxY: y + height },
    },
    outliner,
  );
}

/** Rectangles behind masks as the paths that show the same. */
function withPaths(node: TreeNode, paths: ReadonlyMap<string, string>): TreeNode {
  return {
    ...node,
    children: node.children.flatMap((child) => {
      const d = child.tag === 'rect' ? paths.get(referred(child.attrs.mask) ?? '') : undefined;
      if (d === undefined) return [withPaths(child, paths)];
      const { fill } = child.attrs;
      return d === '' ? [] : [{ tag: 'path', attrs: { fill, d }, children: [] }];
    }),
  };
}

/** Without masks that were replaced, and without definitions that only they referred to. */
function withoutUnused(root: TreeNode, gone: ReadonlySet<string>): TreeNode {
  const used = new Set<string>();
  const look = (node: TreeNode): void => {
    for (const [, id] of referencesIn({ ...node.attrs, href: node.attrs['xlink:href'] ?? '' })) {
      if (used.has(id)) continue;
      used.add(id);
      const definition = definitions.get(id);
      if (definition) look(definition);
    }
    for (const child of node.children) if (child.tag !== 'defs') look(child);
  };
  const definitions = new Map<string, TreeNode>();
  const collect = (node: TreeNode, isIn: boolean): void => {
    if (isIn && node.attrs.id && !gone.has(node.attrs.id)) definitions.set(node.attrs.id, node);
    for (const child of node.children) collect(child, isIn || node.tag === 'defs');
  };
  collect(root, false);
  look(root);
  const prune = (node: TreeNode): TreeNode => ({
    ...node,
    children: node.children
      .filter((child) => node.tag !== 'defs' || !child.attrs.id || used.has(child.attrs.id))
      .map(prune)
      .filter((child) => child.tag !== 'defs' || child.children.length > 0),
  });
  return prune(root);
}
