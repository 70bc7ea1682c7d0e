import { printTree, readTree, referred, SHAPES, type TreeNode } from '@tolvik/core';

/** What masks are called as clips. */
const CLIP = 'clip.';

/** A mask by one white shape as the clip that shows the same (CSS Masking 1 §5, §7); null for others. */
export function asClip({ tag, attrs, children }: TreeNode): TreeNode | null {
  const [shape, ...others] = children;
  if (tag !== 'mask' || !attrs.id || !shape || others.length > 0 || attrs.maskContentUnits === 'objectBoundingBox')
    return null;
  const { fill = attrs.fill, 'fill-rule': rule = attrs['fill-rule'], ...own } = shape.attrs;
  const isPlain = Object.keys(own).every((name) => GEOMETRY.test(name));
  if (!SHAPES.has(shape.tag) || !isPlain || !/^(?:white|#f{3}(?:f{3})?)$/i.test(fill ?? '')) return null;
  const clip = { ...shape, attrs: { ...own, ...(rule ? { 'clip-rule': rule } : {}) } };
  return { tag: 'clipPath', attrs: { id: CLIP + attrs.id }, children: [clip] };
}

const GEOMETRY = /^(?:d|x|y|width|height|rx|ry|r|cx|cy|points|transform|id)$/;

/** A drawing in which masks that are clips are said as such; `clips` are their ids. */
export function withClips(node: TreeNode, clips: ReadonlySet<string>): TreeNode {
  const children = node.children.map((child) => withClips(child, clips));
  const id = CLIP + (referred(node.attrs.mask) ?? '');
  if (!clips.has(id) || node.attrs['clip-path']) return { ...node, children };
  const { mask: _, ...attrs } = node.attrs;
  return { ...node, attrs: { ...attrs, 'clip-path': `url(#${id})` }, children };
}

/** A composed SVG with masks that are clips as clips, as far as they go. */
export function masksAsClips(svg: string): string {
  if (!svg.includes('<mask')) return svg;
  const { root, byId } = readTree(svg);
  const clips = [...byId.values()].flatMap((node) => asClip(node) ?? []);
  if (clips.length === 0) return svg;
  const made = withClips(root, new Set(clips.map(({ attrs }) => attrs.id)));
  return printTree({ ...made, children: [{ tag: 'defs', attrs: {}, children: clips }, ...made.children] });
}
