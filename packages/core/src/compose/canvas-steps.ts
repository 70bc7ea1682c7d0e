import { opaqueKey, parseColour, printColour } from '../artwork/colour/colours';
import { LIMITS } from '../artwork/markup/limits';
import type { InkRule, RecolourRule } from '../document/records';
import type { Matrix } from '../geometry/matrix';
import { IDENTITY, largestScale, multiply, parseTransform } from '../geometry/matrix';
import { pathBounds, pathSegments } from '../geometry/path-geometry';
import { shapePath } from '../geometry/shape-path';
import { EFFECTS, INHERITED, SHAPES } from '../profile/allow-list';
import { referred } from '../profile/references';
import { AS_DRAWN, asMask, type Cutting, recolourValue, withRule } from './paint';
import { readTree, type TreeNode } from './tree';

/** A gradient by its colours along a line or between two circles, in the shape's own coordinates. */
export type Shading = { stops: readonly { offset: number; colour: string; alpha: number }[] } & (
  | { kind: 'linear'; x1: number; y1: number; x2: number; y2: number }
  | { kind: 'radial'; fx: number; fy: number; fr: number; cx: number; cy: number; r: number }
);

/** Path data, filled by a rule, in coordinates that the matrix takes to the drawing's. */
export type CanvasClip = { d: string; matrix: Matrix; rule: 'nonzero' | 'evenodd' };

/** A colour or a gradient, with the opacity 0–1 it is painted with beside its own. */
export type CanvasPaint = { paint: string | Shading; alpha: number };

/** One shape as a 2D canvas draws it (HTML §4.12.5): within its clips, filled, then stroked unless the stroke comes first. */
export type CanvasShape = CanvasClip & {
  kind: 'shape';
  clips: readonly CanvasClip[];
  fill: CanvasPaint | null;
  stroke:
    | (CanvasPaint & {
        width: number;
        cap: CanvasLineCap;
        join: CanvasLineJoin;
        miterLimit: number;
        dash: readonly number[];
        dashOffset: number;
      })
    | null;
  strokeFirst: boolean;
  /** Takes away what was drawn before it in its group, instead of painting (`destination-out`). */
  cut?: boolean;
};
/** Steps that are drawn apart and put down as one, with an opacity below 1. */
export type CanvasGroup = { kind: 'group'; steps: readonly CanvasStep[]; alpha: number };
export type CanvasStep = CanvasShape | CanvasGroup;
type CanvasLineCap = 'butt' | 'round' | 'square';
type CanvasLineJoin = 'miter' | 'round' | 'bevel';

/** What only the rasteriser draws as it will come out. */
class OnlyRasterised extends Error {}
const giveUp = (): never => {
  throw new OnlyRasterised();
};

/** Attributes that a canvas has no answer to; with any of them the whole drawing is left to the rasteriser. */
const BEYOND = [
  'mask',
  'filter',
  'mix-blend-mode',
  'vector-effect',
  'shape-rendering',
  'marker-start',
  'marker-mid',
  'marker-end',
  'pathLength',
];

type Style = Readonly<Record<string, string>>;
type Around = { style: Style; matrix: Matrix; clips: readonly CanvasClip[] };

/**
 * A composed SVG as the steps in which a 2D canvas draws it: shapes, groups, solid colours, gradients that end in
 * their last colour, clips by one shape, opacity. Null when there is anything else in it, since a canvas would then
 * show what the file does not. Coordinates are those of the SVG's viewBox.
 */
export function canvasSteps(svg: string): CanvasStep[] | null {
  return unlessRasterised(() => new Steps(readTree(svg)).all);
}

function unlessRasterised<T>(work: () => T): T | null {
  try {
    return work();
  } catch (error) {
    if (error instanceof OnlyRasterised) return null;
    throw error;
  }
}

/**
 * Steps as a rule recolours them, one for one: what an artboard that follows shows, from what its source does. Null
 * when a colour of a gradient is knocked out.
 */
export function recolouredSteps(steps: readonly CanvasStep[], rule: RecolourRule): CanvasStep[] | null {
  if (rule.kind === 'ink')
    return unlessRasterised(() => {
      const inked = inkedSteps(steps, rule);
      // A cut removes ink of this group only, so a drawing with cuts needs a group of its own.
      return inked.some((step) => step.kind === 'shape' && step.cut)
        ? [{ kind: 'group', alpha: 1, steps: inked }]
        : inked;
    });
  const recolouring = withRule(AS_DRAWN, rule);
  const recolour = <T extends CanvasPaint>(painted: T | null): T | null => {
    if (!painted) return null;
    if (typeof painted.paint === 'string') {
      const paint = recolourValue(painted.paint, recolouring);
      return paint === 'none' ? null : { ...painted, paint };
    }
    const stops = painted.paint.stops.map((stop) => ({ ...stop, colour: recolourValue(stop.colour, recolouring) }));
    if (stops.some(({ colour }) => colour === 'none')) giveUp();
    return { ...painted, paint: { ...painted.paint, stops } };
  };
  const all = (within: readonly CanvasStep[]): CanvasStep[] =>
    within.map((step) =>
      step.kind === 'group'
        ? { ...step, steps: all(step.steps) }
        : { ...step, fill: recolour(step.fill), stroke: recolour(step.stroke) },
    );
  return unlessRasterised(() => all(steps));
}

/** Steps as one ink: painted, or cut out; what is set apart after the gap that is cut around its run. */
function inkedSteps(steps: readonly CanvasStep[], rule: InkRule): CanvasStep[] {
  const { out, apart, gapPx } = asMask(rule).ink as Cutting;
  const made: CanvasStep[] = [];
  let run: CanvasShape[] = [];
  let runColour: string | null = null;
  const ink = <T extends CanvasPaint>(painted: T): T => {
    // What fades along a gradient is no flat ink.
    if (typeof painted.paint !== 'string' && painted.paint.stops.some(({ alpha }) => alpha < 1)) giveUp();
    return { ...painted, paint: rule.colour };
  };
  const draw = (shape: CanvasShape) => {
    const { fill, stroke, strokeFirst } = shape;
    const parts: CanvasShape[] = [];
    if (fill) parts.push({ ...shape, fill: ink(fill), stroke: null, cut: isOut(fill, out) });
    if (stroke) parts.push({ ...shape, fill: null, stroke: ink(stroke), cut: isOut(stroke, out) });
    made.push(...(strokeFirst ? parts.reverse() : parts));
  };
  const flush = () => {
    for (const shape of run) made.push(ringStep(shape, gapPx));
    for (const shape of run) draw(shape);
    run = [];
  };
  for (const step of steps) {
    const colour = step.kind === 'shape' ? loneColour(step) : null;
    const ring = colour !== null && apart.has(colour);
    if (!ring || colour !== runColour) flush();
    runColour = ring ? colour : null;
    if (step.kind === 'group') {
      const inner = inkedSteps(step.steps, rule);
      // Cut within a group that fades, it would cut nothing below the group.
      if (inner.some((each) => each.kind === 'shape' && each.cut)) giveUp();
      made.push({ ...step, steps: inner });
    } else if (ring) run.push(step);
    else draw(step);
  }
  flush();
  return made;
}

/** The colours of a paint, without alpha. */
const coloursOf = ({ paint }: CanvasPaint): string[] =>
  (typeof paint === 'string' ? [paint] : paint.stops.map(({ colour }) => colour)).map((colour) =>
    opaqueKey(parseColour(colour) ?? giveUp()),
  );

function isOut(painted: CanvasPaint, out: ReadonlySet<string>): boolean {
  const [first, ...others] = coloursOf(painted).map((colour) => out.has(colour));
  // A gradient from ink to a hole.
  if (others.some((other) => other !== first)) giveUp();
  return first;
}

function loneColour({ fill, stroke }: CanvasShape): string | null {
  const colours = new Set([...(fill ? coloursOf(fill) : []), ...(stroke ? coloursOf(stroke) : [])]);
  return colours.size === 1 ? [...colours][0] : null;
}

/** The shape itself and a gap around it, cut out of what was drawn before. */
function ringStep(shape: CanvasShape, gap: number): CanvasShape {
  const black = { paint: '#000000', alpha: 1 };
  const plain = { cap: 'butt', join: 'round', miterLimit: 4, dash: [], dashOffset: 0 } as const;
  const width = (shape.stroke?.width ?? 0) + (2 * gap) / (largestScale(shape.matrix) || 1);
  return {
    ...shape,
    fill: shape.fill && black,
    stroke: { ...plain, ...shape.stroke, ...black, join: 'round', width },
    cut: true,
  };
}

class Steps {
  readonly all: CanvasStep[] = [];
  private readonly definitions: ReadonlyMap<string, TreeNode>;
  private depth = 0;

  constructor({ root, byId }: ReturnType<typeof readTree>) {
    this.definitions = byId;
    this.drawIn(root, { style: {}, matrix: IDENTITY, clips: [] });
  }

  private drawIn(parent: TreeNode, around: Around): void {
    if (++this.depth > LIMITS.depth) giveUp();
    for (const child of parent.children) if (child.tag !== 'defs') this.draw(child, around);
    this.depth--;
  }

  private draw(element: TreeNode, around: Around): void {
    const { tag, attrs } = element;
    if (BEYOND.some((name) => name in attrs && attrs[name] !== 'none')) giveUp();
    const matrix = attrs.transform
      ? multiply(around.matrix, parseTransform(attrs.transform) ?? giveUp())
      : around.matrix;
    const style = { ...around.style };
    for (const [name, value] of Object.entries(attrs)) if (INHERITED.has(name)) style[name] = value;
    const clips =
      attrs['clip-path'] && attrs['clip-path'] !== 'none'
        ? [...around.clips, this.clip(attrs['clip-path'], matrix)]
        : around.clips;
    const from = this.all.length;
    if (tag === 'g') this.drawIn(element, { style, matrix, clips });
    else if (SHAPES.has(tag)) this.shape(tag, attrs, style, matrix, clips);
    else giveUp();
    const opacity = numberOf(attrs.opacity, 1);
    if (opacity < 1) this.fade(from, opacity);
  }

  /** Opacity of a group is that of what it holds only where nothing in it can lie over anything else. */
  private fade(from: number, opacity: number): void {
    const [one, ...others] = this.all.slice(from);
    if (!one) return;
    const lone =
      others.length > 0 || one.kind === 'group' || (one.fill && one.stroke) ? null : (one.fill ?? one.stroke);
    if (lone) lone.alpha *= opacity;
    else this.all.splice(from, Infinity, { kind: 'group', steps: [one, ...others], alpha: opacity });
  }

  private shape(tag: string, attrs: Style, style: Style, matrix: Matrix, clips: readonly CanvasClip[]): void {
    const d = shapePath(tag, attrs);
    if (!d || (style.visibility && style.visibility !== 'visible')) return;
    const fill = this.paint(style.fill ?? '#000000', numberOf(style['fill-opacity'], 1), d);
    const width = numberOf(style['stroke-width'], 1);
    const stroke = width > 0 ? this.paint(style.stroke ?? 'none', numberOf(style['stroke-opacity'], 1), d) : null;
    if (!fill && !stroke) return;
    this.all.push({
      kind: 'shape',
      d,
      matrix,
      clips,
      rule: style['fill-rule'] === 'evenodd' ? 'evenodd' : 'nonzero',
      fill,
      stroke: stroke && {
        ...stroke,
        width,
        cap: (style['stroke-linecap'] ?? 'butt') as CanvasLineCap,
        join: joinOf(style['stroke-linejoin']),
        miterLimit: numberOf(style['stroke-miterlimit'], 4),
        dash: dashOf(style['stroke-dasharray']),
        dashOffset: numberOf(style['stroke-dashoffset'], 0),
      },
      strokeFirst: /^stroke/.test(style['paint-order'] ?? ''),
    });
  }

  private paint(value: string, alpha: number, d: string): CanvasPaint | null {
    if (/^(none|transparent)$/i.test(value)) return null;
    const id = referred(value);
    if (id !== undefined) {
      const paint = this.shading(id, d);
      return paint && { paint, alpha };
    }
    const colour = parseColour(value) ?? giveUp();
    return { paint: printColour(colour), alpha };
  }

  /** The attributes of a gradient with those it takes from the one it refers to (SVG 2 §14.2.2), nearest first. */
  private chain(id: string): TreeNode[] {
    const chain: TreeNode[] = [];
    for (
      let at = this.definitions.get(id);
      at;
      at = this.definitions.get((at.attrs['xlink:href'] ?? at.attrs.href)?.slice(1) ?? '')
    ) {
      if (!/Gradient$/.test(at.tag) || chain.includes(at)) giveUp();
      chain.push(at);
    }
    return chain;
  }

  private shading(id: string, d: string): Shading | null {
    const chain = this.chain(id);
    if (chain.length === 0) return null;
    const get = (name: string) => chain.find((element) => name in element.attrs)?.attrs[name];
    if ((get('spreadMethod') ?? 'pad') !== 'pad') giveUp();
    const stops = stopsOf(chain);
    if (stops.length === 0) return null;
    if (stops.length === 1) giveUp();
    const inBox = get('gradientUnits') !== 'userSpaceOnUse';
    let matrix = parseTransform(get('gradientTransform') ?? '') ?? giveUp();
    if (inBox) {
      const box = pathBounds(pathSegments(d), null);
      // Units of a box without a width or a height are none (SVG 2 §14.2.2.2).
      if (!box || box.maxX <= box.minX || box.maxY <= box.minY) return null;
      matrix = multiply([box.maxX - box.minX, 0, 0, box.maxY - box.minY, box.minX, box.minY], matrix);
    }
    const length = (name: string, otherwise: string) => {
      const text = get(name) ?? otherwise;
      if (!text.endsWith('%')) return numberOf(text, 0);
      const share = numberOf(text, 0) / 100;
      // Nothing of anything is nothing.
      return inBox || share === 0 ? share : giveUp();
    };
    if (chain[0].tag === 'linearGradient') {
      return {
        kind: 'linear',
        stops,
        ...lineUnder(matrix, length('x1', '0%'), length('y1', '0%'), length('x2', '100%'), length('y2', '0%')),
      };
    }
    const [cx, cy, r, fr] = [length('cx', '50%'), length('cy', '50%'), length('r', '50%'), length('fr', '0%')];
    const [fx, fy] = [get('fx') === undefined ? cx : length('fx', ''), get('fy') === undefined ? cy : length('fy', '')];
    // Outside of the circle a canvas draws a cone, and SVG moves the point inside.
    if (!(r > 0) || Math.hypot(fx - cx, fy - cy) + fr >= r) giveUp();
    const scale = evenScale(matrix) ?? giveUp();
    const [focus, centre] = [pointUnder(matrix, fx, fy), pointUnder(matrix, cx, cy)];
    return {
      kind: 'radial',
      stops,
      fx: focus[0],
      fy: focus[1],
      fr: fr * scale,
      cx: centre[0],
      cy: centre[1],
      r: r * scale,
    };
  }

  private clip(reference: string, matrix: Matrix): CanvasClip {
    const clip = this.definitions.get(referred(reference) ?? '');
    const [shape, ...others] = clip?.children ?? [];
    if (
      !clip ||
      !shape ||
      others.length > 0 ||
      !SHAPES.has(shape.tag) ||
      clip.attrs.clipPathUnits === 'objectBoundingBox'
    )
      return giveUp();
    if ([clip, shape].some(({ attrs }) => EFFECTS.some((name) => name in attrs) || 'visibility' in attrs)) giveUp();
    const within = [clip, shape].reduce(
      (at, { attrs }) => multiply(at, parseTransform(attrs.transform ?? '') ?? giveUp()),
      matrix,
    );
    const rule = shape.attrs['clip-rule'] ?? clip.attrs['clip-rule'];
    return { d: shapePath(shape.tag, shape.attrs), matrix: within, rule: rule === 'evenodd' ? 'evenodd' : 'nonzero' };
  }
}

const pointUnder = ([a, b, c, d, e, f]: Matrix, x: number, y: number): [number, number] => [
  a * x + c * y + e,
  b * x + d * y + f,
];

/** The gradient line that has the same colours everywhere: lines of one colour stay what they are, and no longer need be at a right angle. */
function lineUnder(
  matrix: Matrix,
  x1: number,
  y1: number,
  x2: number,
  y2: number,
): { x1: number; y1: number; x2: number; y2: number } {
  const [fromX, fromY] = pointUnder(matrix, x1, y1);
  const [toX, toY] = pointUnder(matrix, x2, y2);
  const [sideX, sideY] = pointUnder(matrix, x1 - (y2 - y1), y1 + (x2 - x1));
  const [alongX, alongY] = [sideY - fromY, fromX - sideX];
  const square = alongX * alongX + alongY * alongY;
  const share = ((toX - fromX) * alongX + (toY - fromY) * alongY) / square;
  if (!(square > 0) || share === 0) return giveUp();
  return { x1: fromX, y1: fromY, x2: fromX + share * alongX, y2: fromY + share * alongY };
}

/** How much a matrix grows all lengths; null when it grows some more than others. */
function evenScale([a, b, c, d]: Matrix): number | null {
  const [one, other] = [Math.hypot(a, b), Math.hypot(c, d)];
  return Math.abs(one - other) < 1e-6 * one && Math.abs(a * c + b * d) < 1e-6 * one * other ? one : null;
}

function stopsOf(chain: readonly TreeNode[]): Shading['stops'] {
  const holder = chain.find(({ children }) => children.some((child) => child.tag === 'stop'));
  let least = 0;
  return (holder?.children ?? []).map(({ attrs }) => {
    const offset = numberOf(attrs.offset, 0) / (attrs.offset?.endsWith('%') ? 100 : 1);
    // Each stop is at or after the one before it (SVG 2 §14.2.4).
    least = Math.min(1, Math.max(least, offset));
    const colour = parseColour(attrs['stop-color'] ?? '#000000') ?? giveUp();
    return { offset: least, colour: printColour(colour), alpha: numberOf(attrs['stop-opacity'], 1) };
  });
}

function numberOf(text: string | undefined, otherwise: number): number {
  const value = Number.parseFloat(text ?? '');
  return Number.isFinite(value) ? value : otherwise;
}

const joinOf = (join: string | undefined): CanvasLineJoin => (join === 'round' || join === 'bevel' ? join : 'miter');

/** Lengths of dashes and gaps; none for `none`, and for a pattern of no length (SVG 2 §13.5.6). */
function dashOf(text: string | undefined): number[] {
  if (!text || text === 'none') return [];
  const dash = text
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  if (dash.some((length) => !Number.isFinite(length) || length < 0)) giveUp();
  return dash.some((length) => length > 0) ? dash : [];
}
