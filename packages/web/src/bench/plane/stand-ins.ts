import {
  type Artboard,
  type BenchItem,
  type CanvasGroup,
  type CanvasPaint,
  type CanvasShape,
  type CanvasStep,
  type ComposeSources,
  canvasSteps,
  composeBenchItem,
  composeBenchPiece,
  type Fonts,
  followedLayout,
  IDENTITY,
  type Matrix,
  type Piece,
  type ProjectDocument,
  parseColour,
  pieceAlone,
  printColour,
  type Region,
  recolouredSteps,
  regionOf,
} from '@tolvik/core';
import { fontsAtHand } from '../../painter/fonts-at-hand';

/** What is drawn over a region of the plane: parts, each at its place from the region's upper left corner. */
export type Drawing = { region: Region; parts: readonly { steps: readonly CanvasStep[]; place: Matrix }[] };

/** How long steps may be made after one edit, in ms; what is left over waits for its painted picture. */
const MOST_MS = 10;
/** What is longer than this takes more time to read than the painter takes to paint it. */
const MOST_CHARACTERS = 60_000;

/**
 * Artwork drawn by the page itself in the very frame of an edit, in place of pictures that the edit made untrue,
 * until the painter has painted them anew. What a canvas does not draw as it will come out has no stand-in.
 */
export class StandIns {
  private readonly known = new Map<string, readonly CanvasStep[] | null>();
  private spentMs = 0;

  constructor(private readonly doc: ProjectDocument) {}

  /** After an edit: what was made before it is forgotten, and there is time for what is made after. */
  begin(): void {
    this.spentMs = 0;
    this.known.clear();
  }

  /** What a piece shows on its ground. */
  piece({ id, record, region }: Pick<Piece, 'id' | 'record' | 'region'>): Drawing | null {
    if (record.kind === 'artboard' && record.follows) return this.follower(record, record.follows);
    const steps = this.steps(id, (sources) => {
      const piece = pieceAlone(record.kind === 'artboard' ? { ...record, background: null } : record, region);
      return composeBenchPiece(this.doc, piece, { widthPx: region.width, heightPx: region.height }, sources);
    });
    return steps && { region, parts: [{ steps, place: IDENTITY }] };
  }

  /** A layer with all in it. */
  item({ layerId, bounds: { minX, minY, maxX, maxY } }: BenchItem): Drawing | null {
    const region = { x: minX, y: minY, width: maxX - minX, height: maxY - minY };
    if (!(region.width > 0) || !(region.height > 0)) return null;
    const steps = this.steps(layerId, (sources) =>
      composeBenchItem(this.doc, layerId, region, region.width, region.height, sources),
    );
    return steps && { region, parts: [{ steps, place: IDENTITY }] };
  }

  /** Draws a stand-in where it lies; the context's matrix takes px of the plane to those of the canvas. */
  readonly draw = drawStandIn;

  /** What follows shows its sources' steps at their places and in other colours: dozens of followers cost little more than one. */
  private follower(artboard: Artboard, { rule, lockup }: NonNullable<Artboard['follows']>): Drawing | null {
    const layout = followedLayout(this.doc, artboard);
    if (!layout || typeof layout === 'string' || lockup?.guide) return null;
    const parts: { steps: readonly CanvasStep[]; place: Matrix }[] = [];
    for (const { source, x, y, scale } of layout.placements) {
      const [own] = this.piece({ id: source.id, record: source, region: regionOf(source) })?.parts ?? [];
      const steps = own && (rule.kind === 'asDrawn' ? own.steps : recolouredSteps(own.steps, rule));
      if (!steps) return null;
      parts.push({ steps, place: [scale, 0, 0, scale, x, y] });
    }
    return { region: regionOf(artboard), parts };
  }

  private steps(id: string, compose: (sources: ComposeSources) => string): readonly CanvasStep[] | null {
    const known = this.known.get(id);
    if (known !== undefined) return known;
    if (this.spentMs > MOST_MS) return null;
    const from = performance.now();
    const fonts = fontsFor(this.doc);
    const svg = compose({ fonts, pictures: byName });
    const steps = fonts.unknown || svg.length > MOST_CHARACTERS ? null : canvasSteps(svg);
    this.known.set(id, steps);
    this.spentMs += performance.now() - from;
    return steps;
  }
}

/** A picture is there by name, so that the drawing has it in it and is left to the painter. */
const byName = (hash: string) => ({ hash, mediaType: 'image/png' as const, bytes: new Uint8Array() });

/** The fonts that are at hand; notes whether one was asked for that is not. */
function fontsFor(doc: ProjectDocument): Fonts & { unknown: boolean } {
  const shipped = doc.list('font').length > 0 ? null : fontsAtHand();
  const fonts = {
    unknown: false,
    find(...asked: Parameters<Fonts['find']>) {
      fonts.unknown ||= !shipped;
      return shipped?.find(...asked) ?? null;
    },
  };
  return fonts;
}

/** The context's matrix takes px of the plane to those of the canvas. */
function drawStandIn(context: CanvasRenderingContext2D, { region, parts }: Drawing): void {
  context.save();
  const { a, d, e, f } = context.getTransform();
  const box = {
    x: Math.floor(a * region.x + e) - 1,
    y: Math.floor(d * region.y + f) - 1,
    width: Math.ceil(a * region.width) + 3,
    height: Math.ceil(d * region.height) + 3,
  };
  context.translate(region.x, region.y);
  for (const { steps, place } of parts) {
    context.save();
    context.transform(...place);
    for (const step of steps) drawStep(context, step, box, 0);
    context.restore();
  }
  context.restore();
}

function drawStep(context: Context2D, step: CanvasStep, box: Region, depth: number): void {
  if (step.kind === 'shape') drawShape(context, step);
  else drawGroup(context, step, box, depth);
}

type Context2D = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** Canvases on which groups are drawn apart, by how deep they lie in one another. */
const apart: OffscreenCanvas[] = [];

/** Draws a group apart, as far as it lies within a box of the canvas, and puts it down as one. */
function drawGroup(context: Context2D, { steps, alpha }: CanvasGroup, box: Region, depth: number): void {
  const [x, y] = [Math.max(0, box.x), Math.max(0, box.y)];
  const [width, height] = [
    Math.min(context.canvas.width, box.x + box.width) - x,
    Math.min(context.canvas.height, box.y + box.height) - y,
  ];
  if (width <= 0 || height <= 0) return;
  apart[depth] ??= new OffscreenCanvas(1, 1);
  const canvas = apart[depth];
  // Setting a size clears it, too.
  canvas.width = width;
  canvas.height = height;
  const group = canvas.getContext('2d');
  if (!group) return;
  const { a, b, c, d, e, f } = context.getTransform();
  group.setTransform(a, b, c, d, e - x, f - y);
  for (const step of steps) drawStep(group, step, { x: 0, y: 0, width, height }, depth + 1);
  context.save();
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.globalAlpha = alpha;
  context.drawImage(canvas, x, y);
  context.restore();
}

function drawShape(context: Context2D, step: CanvasShape): void {
  context.save();
  if (step.cut) context.globalCompositeOperation = 'destination-out';
  const ground = context.getTransform();
  for (const clip of step.clips) {
    context.transform(...clip.matrix);
    context.clip(new Path2D(clip.d), clip.rule);
    context.setTransform(ground);
  }
  context.transform(...step.matrix);
  const path = new Path2D(step.d);
  if (step.strokeFirst) drawStroke(context, step, path);
  if (step.fill) {
    context.fillStyle = styleOf(context, step.fill);
    context.globalAlpha = step.fill.alpha;
    context.fill(path, step.rule);
  }
  if (!step.strokeFirst) drawStroke(context, step, path);
  context.restore();
}

function drawStroke(context: Context2D, { stroke }: CanvasShape, path: Path2D): void {
  if (!stroke) return;
  context.strokeStyle = styleOf(context, stroke);
  context.globalAlpha = stroke.alpha;
  context.lineWidth = stroke.width;
  context.lineCap = stroke.cap;
  context.lineJoin = stroke.join;
  context.miterLimit = stroke.miterLimit;
  context.setLineDash([...stroke.dash]);
  context.lineDashOffset = stroke.dashOffset;
  context.stroke(path);
}

function styleOf(context: Context2D, { paint }: CanvasPaint): string | CanvasGradient {
  if (typeof paint === 'string') return paint;
  const gradient =
    paint.kind === 'linear'
      ? context.createLinearGradient(paint.x1, paint.y1, paint.x2, paint.y2)
      : context.createRadialGradient(paint.fx, paint.fy, paint.fr, paint.cx, paint.cy, paint.r);
  for (const { offset, colour, alpha } of paint.stops) gradient.addColorStop(offset, withAlpha(colour, alpha));
  return gradient;
}

function withAlpha(colour: string, alpha: number): string {
  const parsed = parseColour(colour);
  return parsed ? printColour({ ...parsed, a: parsed.a * alpha }) : colour;
}
