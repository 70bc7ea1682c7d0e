import {
  type CanvasClip,
  type CanvasPaint,
  type CanvasShape,
  type CanvasStep,
  canvasSteps,
  type Matrix,
  parseColour,
  parseViewBox,
  printColour,
  printTransform,
  printTree,
  readTree,
  type Shading,
  type TreeNode,
} from '@tolvik/core';
import { Drawing, rightOutline } from './held';
import type { Outliner } from './outliner';

/** A drawing of more colours is a picture; it would take longer than it may. */
const MOST_COLOURS = 40;
/** What covers less is half transparent. */
const SOLID = 0.996;

/** One paint of one shape, from back to front. */
type Part = Pick<CanvasShape, 'd' | 'matrix' | 'rule' | 'clips'> & {
  line: Omit<NonNullable<CanvasShape['stroke']>, keyof CanvasPaint> | null;
  paint: string | Shading;
  /** What tells its colour from others; a gradient is one of its own in each place. */
  colour: string;
};

/**
 * A composed SVG in which what has one colour is one path, cut away where another colour lies over it; null where it cannot
 * be, since parts of it are half transparent, it holds a picture, a mask or an effect, or the kernel gives up.
 */
export async function withUnitedColours(svg: string, outliner: Outliner): Promise<string | null> {
  const parts = partsOf(canvasSteps(svg));
  if (!parts) return null;
  const { root } = readTree(svg);
  const box = parseViewBox(root.attrs.viewBox);
  if (!box) return null;
  const colours = [...new Set(parts.map(({ colour }) => colour))];
  if (colours.length > MOST_COLOURS) return null;
  const page = { minX: box.x, minY: box.y, maxX: box.x + box.width, maxY: box.y + box.height };
  const gradients: TreeNode[] = [];
  const paths: TreeNode[] = [];
  for (const colour of colours) {
    const drawn = inBlackAndWhite(parts, colour);
    const d = await rightOutline({ drawn, asked: drawn, page }, outliner);
    if (d === null) return null;
    if (d === '') continue;
    const { paint, matrix } = parts.find((part) => part.colour === colour) as Part;
    const id = `gradient.${gradients.length + 1}`;
    if (typeof paint !== 'string') gradients.push(gradientOf(paint, matrix, id));
    paths.push({ tag: 'path', attrs: { fill: typeof paint === 'string' ? paint : `url(#${id})`, d }, children: [] });
  }
  const defs = gradients.length > 0 ? [{ tag: 'defs', attrs: {}, children: gradients }] : [];
  const made = { ...root, children: [...defs, ...paths] };
  return isAsDrawn(root, made, new Drawing(page)) ? printTree(made) : null;
}

/** The paints of all shapes in their order; null where anything is half transparent. */
function partsOf(steps: readonly CanvasStep[] | null): Part[] | null {
  if (!steps) return null;
  const parts: Part[] = [];
  for (const step of steps) {
    if (step.kind === 'group') return null;
    const { d, matrix, rule, clips, fill, stroke, strokeFirst } = step;
    const own: Part[] = [];
    for (const painted of [fill, stroke]) {
      if (!painted) continue;
      const { paint, alpha, ...line } = painted;
      if (!isSolid({ paint, alpha })) return null;
      const colour = typeof paint === 'string' ? paint : JSON.stringify([paint, matrix]);
      own.push({ d, matrix, rule, clips, paint, colour, line: 'width' in line ? (line as Part['line']) : null });
    }
    parts.push(...(strokeFirst ? own.reverse() : own));
  }
  return parts;
}

const isSolid = ({ paint, alpha }: CanvasPaint): boolean =>
  (typeof paint === 'string' ? [{ colour: paint, alpha: 1 }] : paint.stops).every(
    (stop) => (parseColour(stop.colour)?.a ?? 0) * stop.alpha * alpha >= SOLID,
  );

/** The drawing in white where a colour is seen, and black where another is. */
function inBlackAndWhite(parts: readonly Part[], colour: string): string {
  const clips: TreeNode[] = [];
  // What no other lies under cuts nothing.
  const first = parts.findIndex((part) => part.colour === colour);
  const shapes = parts.slice(first).map(({ d, matrix, rule, clips: within, line, colour: own }) => {
    const paint = own === colour ? '#ffffff' : '#000000';
    const attrs: Record<string, string> = { d, fill: 'none', ...transformOf(matrix) };
    if (line)
      Object.assign(attrs, {
        stroke: paint,
        'stroke-width': `${line.width}`,
        'stroke-linecap': line.cap,
        'stroke-linejoin': line.join,
        'stroke-miterlimit': `${line.miterLimit}`,
        'stroke-dasharray': line.dash.length > 0 ? line.dash.join(' ') : 'none',
        'stroke-dashoffset': `${line.dashOffset}`,
      });
    else Object.assign(attrs, { fill: paint, 'fill-rule': rule });
    return within.reduceRight<TreeNode>(
      (inner, clip) => {
        clips.push(clipOf(clip, `clip.${clips.length + 1}`));
        return { tag: 'g', attrs: { 'clip-path': `url(#clip.${clips.length})` }, children: [inner] };
      },
      { tag: 'path', attrs, children: [] },
    );
  });
  return printTree({ tag: 'defs', attrs: {}, children: clips }) + shapes.map(printTree).join('');
}

function clipOf({ d, matrix, rule }: CanvasClip, id: string): TreeNode {
  const shape = { tag: 'path', attrs: { d, 'clip-rule': rule, ...transformOf(matrix) }, children: [] };
  return { tag: 'clipPath', attrs: { id }, children: [shape] };
}

function transformOf(matrix: Matrix): Record<string, string> {
  const transform = printTransform(matrix);
  return transform ? { transform } : {};
}

/** A gradient in the coordinates of the drawing. */
function gradientOf(shading: Shading, matrix: Matrix, id: string): TreeNode {
  const { kind, stops, ...place } = shading;
  const numbers = Object.fromEntries(Object.entries(place).map(([name, value]) => [name, `${value}`]));
  const transform = printTransform(matrix);
  return {
    tag: `${kind}Gradient`,
    attrs: { id, gradientUnits: 'userSpaceOnUse', ...numbers, ...(transform ? { gradientTransform: transform } : {}) },
    children: stops.map(({ offset, colour, alpha }) => {
      const { a, ...opaque } = parseColour(colour) ?? { r: 0, g: 0, b: 0, a: 1 };
      return {
        tag: 'stop',
        attrs: {
          offset: `${offset}`,
          'stop-color': printColour({ ...opaque, a: 1 }),
          ...(a * alpha < 1 ? { 'stop-opacity': `${a * alpha}` } : {}),
        },
        children: [],
      };
    }),
  };
}

/** Whether the whole is what was drawn: on a ground that is neither light nor dark, so that nothing is like it by chance. */
function isAsDrawn(root: TreeNode, made: TreeNode, drawing: Drawing): boolean {
  const inside = ({ children }: TreeNode) => children.map(printTree).join('');
  const groundOf = (colour: string) => drawing.ground.replace('#000000', colour);
  return ['#000000', '#ffffff'].every((colour) =>
    drawing.isSame(drawing.pixels(groundOf(colour) + inside(root)), drawing.pixels(groundOf(colour) + inside(made))),
  );
}
