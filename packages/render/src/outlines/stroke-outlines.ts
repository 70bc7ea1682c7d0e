import {
  type Bounds,
  boxIn,
  DEFINITIONS,
  isBeyondOutline,
  LINE_ATTRIBUTES,
  largestScale,
  type Matrix,
  multiply,
  parseTransform,
  parseViewBox,
  printTree,
  readTree,
  referred,
  SHAPES,
  shapePath,
  strokeAlone,
  strokeParts,
  strokeReach,
  type TreeNode,
  viewBoxTransform,
} from '@tolvik/core';
import svgpath from 'svgpath';
import { INITIAL, inherit, number, type Style } from '../svg/style';
import { rightOutline } from './held';
import type { Outliner } from './outliner';

/** Beyond so many strokes a file would take longer than it may. */
const MOST_STROKES = 500;
/** Digits of an outline behind the point, in px of the file. */
const DECIMALS = 4;

type Around = { style: Style; matrix: Matrix; isMeasured: boolean };

/**
 * A composed SVG with strokes as the outlines of what they cover (SVG 2 §13.5), each in its place, named as before.
 * `strokes` says how many stay strokes: dashes by the thousand, gradients that measure in the box of their shape, strokes in
 * patterns, masks and filters, and what the kernel gives up on.
 */
export async function withStrokeOutlines(svg: string, outliner: Outliner): Promise<{ svg: string; strokes: number }> {
  if (!/stroke="(?!none)/.test(svg)) return { svg, strokes: 0 };
  const { root, byId } = readTree(svg);
  const work = new StrokeOutlines(byId, outliner);
  const [width, height] = [number(root.attrs.width, 0), number(root.attrs.height, 0)];
  const box = parseViewBox(root.attrs.viewBox) ?? { x: 0, y: 0, width, height };
  const matrix = viewBoxTransform(box, width || box.width, height || box.height, root.attrs.preserveAspectRatio);
  const made = await work.inside(root, { style: inherit(INITIAL, root.attrs), matrix, isMeasured: false });
  if (work.made === 0) return { svg, strokes: work.left };
  return { svg: printTree(work.left > 0 ? made : withoutLines(made)), strokes: work.left };
}

class StrokeOutlines {
  made = 0;
  left = 0;

  constructor(
    private readonly byId: ReadonlyMap<string, TreeNode>,
    private readonly outliner: Outliner,
  ) {}

  async inside(node: TreeNode, around: Around): Promise<TreeNode> {
    const children: TreeNode[] = [];
    for (const child of node.children) children.push(...(await this.settle(child, around)));
    return { ...node, children };
  }

  private async settle(node: TreeNode, around: Around): Promise<TreeNode[]> {
    if (node.tag === 'defs' || DEFINITIONS.has(node.tag)) {
      this.left += strokesIn(node);
      return [node];
    }
    const own = node.attrs.transform ? parseTransform(node.attrs.transform) : undefined;
    const here: Around = {
      style: inherit(around.style, node.attrs),
      matrix: own ? multiply(around.matrix, own) : around.matrix,
      isMeasured: around.isMeasured || this.measuresInBox(node.attrs),
    };
    if (!SHAPES.has(node.tag)) return [await this.inside(node, here)];
    if (!shapePath(node.tag, node.attrs) || !hasStroke(here.style)) return [node];
    const outline = await this.outline(node, here);
    if (outline === null) {
      this.left++;
      return [node];
    }
    this.made++;
    return outlinedShape(node, outline, here.style);
  }

  /** Path data of what a stroke covers, in the shape's own units; null where it has to stay a stroke. */
  private async outline(node: TreeNode, { style, matrix, isMeasured }: Around): Promise<string | null> {
    const { attrs } = node;
    if (this.made >= MOST_STROKES || isMeasured || this.isBoxed(style.stroke)) return null;
    if (isBeyondOutline({ ...style, ...attrs })) return null;
    if (node.tag === 'circle' && style['stroke-dasharray'] === 'none')
      return ring(node, number(style['stroke-width'], 1));
    const scale = largestScale(matrix);
    const box = boxIn(node);
    if (!box || !(scale > 0)) return null;
    const shape = { tag: node.tag, attrs: strokeAlone(attrs, style, '#ffffff'), children: [] };
    const drawn = printTree({ tag: 'g', attrs: { transform: `scale(${scale})` }, children: [shape] });
    const reach = strokeReach(style);
    const outline = await rightOutline({ drawn, asked: drawn, page: grown(box, reach, scale) }, this.outliner);
    if (outline === null) return null;
    const digits = Math.max(0, Math.min(12, DECIMALS + Math.ceil(Math.log10(scale))));
    return svgpath(outline)
      .scale(1 / scale)
      .round(digits)
      .toString();
  }

  /** Whether something around would be another with an outline in it, since it measures in the box of what it is put on. */
  private measuresInBox(attrs: Readonly<Record<string, string>>): boolean {
    return (
      ['clip-path', 'mask', 'filter'].some((name) => this.isBoxed(attrs[name], name !== 'clip-path')) ||
      /mask-border|clip-path/.test(attrs.style ?? '')
    );
  }

  private isBoxed(reference: string | undefined, byDefault = true): boolean {
    const definition = this.byId.get(referred(reference) ?? '');
    if (!definition) return false;
    const said = Object.entries(definition.attrs).filter(([name]) => /Units$/.test(name));
    const isOwn = /Gradient$|^pattern$|^mask$|^filter$/.test(definition.tag);
    // What it takes from another definition is not looked for: it then counts as boxed.
    const region = said.find(([name]) => /^(?:gradient|pattern|mask|filter|clipPath)Units$/.test(name))?.[1];
    return said.some(([, value]) => value === 'objectBoundingBox') || (region === undefined && byDefault && isOwn);
  }
}

/** What an undashed stroke of a circle covers, exactly: as a circle, and where there is a hole another way round. */
function ring({ attrs }: TreeNode, width: number): string {
  const [cx, cy, r] = ['cx', 'cy', 'r'].map((name) => number(attrs[name], 0));
  const circle = (radius: number, sweep: 0 | 1) =>
    `M${cx - radius} ${cy}a${radius} ${radius} 0 1 ${sweep} ${2 * radius} 0a${radius} ${radius} 0 1 ${sweep} ${-2 * radius} 0Z`;
  return circle(r + width / 2, 1) + (r > width / 2 ? circle(r - width / 2, 0) : '');
}

/** A tree without strokes, and so without what is said of them. */
function withoutLines(node: TreeNode): TreeNode {
  const attrs = Object.fromEntries(Object.entries(node.attrs).filter(([name]) => !LINE_ATTRIBUTES.includes(name)));
  return { ...node, attrs, children: node.children.map(withoutLines) };
}

const hasStroke = (style: Style): boolean =>
  style.stroke !== 'none' &&
  style.stroke !== 'transparent' &&
  number(style['stroke-width'], 1) > 0 &&
  style.visibility === 'visible';

const strokesIn = (node: TreeNode): number =>
  node.children.reduce(
    (sum, child) => sum + strokesIn(child),
    SHAPES.has(node.tag) && (node.attrs.stroke ?? 'none') !== 'none' ? 1 : 0,
  );

const grown = ({ minX, minY, maxX, maxY }: Bounds, by: number, scale: number): Bounds => ({
  minX: (minX - by) * scale,
  minY: (minY - by) * scale,
  maxX: (maxX + by) * scale,
  maxY: (maxY + by) * scale,
});

/** A shape as its fill and the outline of its stroke; one of them alone keeps the shape's place and name, both share a group. */
function outlinedShape({ tag, attrs }: TreeNode, d: string, style: Style): TreeNode[] {
  const { place, parts } = strokeParts(tag, attrs, style, d);
  const all = parts.map((part): TreeNode => ({ ...part, children: [] }));
  if (all.length < 2) return all.map((one) => ({ ...one, attrs: { ...place, ...one.attrs } }));
  return Object.keys(place).length === 0 ? all : [{ tag: 'g', attrs: place, children: all }];
}
