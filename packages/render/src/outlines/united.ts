import { createHash } from 'node:crypto';
import {
  type Bounds,
  type CanvasClip,
  type CanvasPaint,
  type CanvasShape,
  type CanvasStep,
  canvasSteps,
  type Matrix,
  NoOutline,
  parseColour,
  parseViewBox,
  printColour,
  printTransform,
  printTree,
  readTree,
  type Shading,
  type TreeNode,
  WAYS,
} from '@tolvik/core';
import { LRUCache } from 'lru-cache';
import { Drawing, rightOutline } from './held';
import { masksAsClips } from './mask-clips';
import type { Outliner } from './outliner';

/** A drawing of more colours is a picture; it would take longer than it may. */
const MOST_COLOURS = 40;
/** Each colour is cut by all parts that lie over it: so many at the most, all told. */
const MOST_CUTS = 20_000;
/** What covers less is half transparent. */
const SOLID = 0.996;

/** One paint of one shape, from back to front. */
type Part = Pick<CanvasShape, 'd' | 'matrix' | 'rule' | 'clips'> & {
  line: Omit<NonNullable<CanvasShape['stroke']>, keyof CanvasPaint> | null;
  paint: string | Shading;
  /** What tells its colour from others; a gradient is one of its own in each place. */
  colour: string;
};

/** What was united, by what it was made of; null where it could not be. One piece is in many files. */
const known = new LRUCache<string, { svg: string | null }>({
  max: 200,
  maxSize: 20_000_000,
  sizeCalculation: ({ svg }) => (svg?.length ?? 0) + 1,
});

/**
 * A composed SVG in which what has one colour is one path, cut away where another colour lies over it; null where it cannot
 * be, since parts of it are half transparent, it holds a picture, a mask or an effect, or the kernel gives up.
 */
export async function withUnitedColours(svg: string, outliner: Outliner): Promise<string | null> {
  const key = createHash('sha256').update(svg).digest('hex');
  const before = known.get(key);
  if (before) return before.svg;
  const made = await united(svg, outliner);
  known.set(key, { svg: made });
  return made;
}

async function united(svg: string, outliner: Outliner): Promise<string | null> {
  const parts = partsOf(canvasSteps(masksAsClips(svg)));
  if (!parts) return null;
  const { root } = readTree(svg);
  const box = parseViewBox(root.attrs.viewBox);
  if (!box) return null;
  const colours = [...new Set(parts.map(({ colour }) => colour))];
  if (colours.length > MOST_COLOURS || colours.length * parts.length > MOST_CUTS) return null;
  const page = { minX: box.x, minY: box.y, maxX: box.x + box.width, maxY: box.y + box.height };
  const drawing = new Drawing(page);
  const shapes =
    (await atOnce(parts, colours, drawing, page, outliner)) ?? (await oneByOne(parts, colours, page, outliner));
  if (!shapes) return null;
  const gradients: TreeNode[] = [];
  const paths = colours.flatMap((colour, i): TreeNode[] => {
    const d = shapes[i];
    if (d === '') return [];
    const { paint, matrix } = parts.find((part) => part.colour === colour) as Part;
    if (typeof paint === 'string') return [{ tag: 'path', attrs: { fill: paint, d }, children: [] }];
    const id = `gradient.${gradients.length + 1}`;
    gradients.push(gradientOf(paint, matrix, id));
    return [{ tag: 'path', attrs: { fill: `url(#${id})`, d }, children: [] }];
  });
  const defs = gradients.length > 0 ? [{ tag: 'defs', attrs: {}, children: gradients }] : [];
  const made = { ...root, children: [...defs, ...paths] };
  return isAsDrawn(root, made, drawing) ? printTree(made) : null;
}

/** Path data for each colour, all by the first way; null where any of them shows something else than was drawn. */
async function atOnce(
  parts: readonly Part[],
  colours: readonly string[],
  drawing: Drawing,
  page: Bounds,
  outliner: Outliner,
): Promise<string[] | null> {
  const shapes: string[] = [];
  for (const colour of colours) {
    const asked = drawing.svg(painted(parts, (own) => (own === colour ? '#ffffff' : '#000000'), colour));
    try {
      shapes.push(await outliner({ svg: asked, page, way: WAYS[0] }));
    } catch (error) {
      if (error instanceof NoOutline) return null;
      throw error;
    }
  }
  // Each colour is told from every other, and from the ground, in at least one channel of one of the pictures.
  for (let bit = 0; 2 ** bit <= colours.length; bit += 3) {
    const code = (i: number) =>
      `#${[0, 1, 2].map((channel) => (((i + 1) >> (bit + channel)) & 1 ? 'ff' : '00')).join('')}`;
    const wanted = painted(parts, (own) => code(colours.indexOf(own)));
    const got = shapes.map((d, i) => `<path fill="${code(i)}" d="${d}"/>`).join('');
    if (!drawing.isSame(drawing.pixels(drawing.ground + wanted), drawing.pixels(drawing.ground + got))) return null;
  }
  return shapes;
}

/** The same by whichever way is right for each colour; null where there is none for one. */
async function oneByOne(
  parts: readonly Part[],
  colours: readonly string[],
  page: Bounds,
  outliner: Outliner,
): Promise<string[] | null> {
  const shapes: string[] = [];
  for (const colour of colours) {
    const drawn = painted(parts, (own) => (own === colour ? '#ffffff' : '#000000'), colour);
    const d = await rightOutline({ drawn, asked: drawn, page }, outliner);
    if (d === null) return null;
    shapes.push(d);
  }
  return shapes;
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

/** The drawing with other paints; what lies below the first part `from` has the colour of is left out. */
function painted(parts: readonly Part[], paintOf: (colour: string) => string, from?: string): string {
  const clips: TreeNode[] = [];
  const first = from === undefined ? 0 : parts.findIndex((part) => part.colour === from);
  const shapes = parts.slice(first).map(({ d, matrix, rule, clips: within, line, colour }) => {
    const paint = paintOf(colour);
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

/** Whether the whole is what was drawn. */
function isAsDrawn(root: TreeNode, made: TreeNode, drawing: Drawing): boolean {
  const onGround = ({ children }: TreeNode) =>
    drawing.pixels(drawing.ground.replace('#000000', '#808080') + children.map(printTree).join(''));
  return drawing.isSame(onGround(root), onGround(made));
}
