/** An element of a composed SVG. Attribute values are as written, so that they can be written again; none holds markup. */
export type TreeNode = { tag: string; attrs: Record<string, string>; children: TreeNode[] };

const TAG = /<(\/?)([A-Za-z]+)([^<>]*?)(\/?)>/g;
const ATTRIBUTE = /([A-Za-z][\w:-]*)="([^"<]*)"/g;

/** A composed SVG, which `guard` has let pass, as a tree, with its elements by id. */
export function readTree(svg: string): { root: TreeNode; byId: Map<string, TreeNode> } {
  const byId = new Map<string, TreeNode>();
  const top: TreeNode = { tag: '', attrs: {}, children: [] };
  const open: TreeNode[] = [top];
  for (const [, close, tag, written, ends] of svg.matchAll(TAG)) {
    if (close) {
      open.pop();
      continue;
    }
    const node: TreeNode = { tag, attrs: {}, children: [] };
    for (const [, name, value] of written.matchAll(ATTRIBUTE)) node.attrs[name] = value;
    if (node.attrs.id) byId.set(node.attrs.id, node);
    open[open.length - 1].children.push(node);
    if (!ends) open.push(node);
  }
  return { root: top.children[0], byId };
}

/** The element and all in it as SVG text. */
export function printTree({ tag, attrs, children }: TreeNode): string {
  let text = `<${tag}`;
  for (const name in attrs) text += ` ${name}="${attrs[name]}"`;
  return children.length > 0 ? `${text}>${children.map(printTree).join('')}</${tag}>` : `${text}/>`;
}
