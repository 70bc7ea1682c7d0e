import {
  type Artboard,
  type BenchItem,
  type CanvasClip,
  type CanvasPaint,
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
  printColour,
  recolouredSteps,
  regionOf,
} from '@tolvik/core';
import { fontsAtHand } from '../../painter/fonts-at-hand';

/** Steps with their paths. */
type Prepared = { step: CanvasStep; path: Path2D; clips: readonly (CanvasClip & { path: Path2D })[] };

/** What is drawn from a corner on the plane: parts, each at its place from there. */
export type Drawing = { x: number; y: number; parts: readonly { steps: readonly Prepared[]; place: Matrix }[] };

/** How long steps may be made after one edit, in ms; what is left over waits for its painted picture. */
const MOST_MS = 10;
/** What is longer than this takes more time to read than the painter takes to paint it. */
const MOST_CHARACTERS = 60_000;

/**
 * Artwork drawn by the page itself in the very frame of an edit, in place of pictures that the edit made untrue,
 * until the painter has painted them anew. What a canvas does not draw as it will come out has no stand-in.
 */
export class StandIns {
  private readonly known = new Map<string, readonly Prepared[] | null>();
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
      const piece = { id, kind: record.kind, number: 1, name: '', on: true, specIds: [], offOutputIds: [], region, record: record.kind === 'artboard' ? { ...record, background: null } : record };
      return composeBenchPiece(this.doc, piece, { widthPx: region.width, heightPx: region.height }, sources);
    });
    return steps && { x: region.x, y: region.y, parts: [{ steps, place: IDENTITY }] };
  }

  /** A layer with all in it. */
  item({ layerId, bounds: { minX, minY, maxX, maxY } }: BenchItem): Drawing | null {
    const region = { x: minX, y: minY, width: maxX - minX, height: maxY - minY };
    if (!(region.width > 0) || !(region.height > 0)) return null;
    const steps = this.steps(layerId, (sources) => composeBenchItem(this.doc, layerId, region, region.width, region.height, sources));
    return steps && { x: minX, y: minY, parts: [{ steps, place: IDENTITY }] };
  }

  /** What follows shows its sources' steps at their places and in other colours: dozens of followers cost little more than one. */
  private follower(artboard: Artboard, { rule, lockup }: NonNullable<Artboard['follows']>): Drawing | null {
    const layout = followedLayout(this.doc, artboard);
    if (!layout || typeof layout === 'string' || lockup?.guide) return null;
    const parts: { steps: readonly Prepared[]; place: Matrix }[] = [];
    for (const { source, x, y, scale } of layout.placements) {
      const [own] = this.piece({ id: source.id, record: source, region: regionOf(source) })?.parts ?? [];
      const steps = own && recoloured(own.steps, rule);
      if (!steps) return null;
      parts.push({ steps, place: [scale, 0, 0, scale, x, y] });
    }
    return { x: artboard.x, y: artboard.y, parts };
  }

  private steps(id: string, compose: (sources: ComposeSources) => string): readonly Prepared[] | null {
    const known = this.known.get(id);
    if (known !== undefined) return known;
    if (this.spentMs > MOST_MS) return null;
    const from = performance.now();
    const fonts = fontsFor(this.doc);
    const svg = compose({ fonts, pictures: byName });
    const steps = fonts.unknown || svg.length > MOST_CHARACTERS ? null : canvasSteps(svg);
    const prepared = steps?.map((step) => ({ step, path: new Path2D(step.d), clips: step.clips.map((clip) => ({ ...clip, path: new Path2D(clip.d) })) }));
    this.known.set(id, prepared ?? null);
    this.spentMs += performance.now() - from;
    return prepared ?? null;
  }
}

function recoloured(prepared: readonly Prepared[], rule: Parameters<typeof recolouredSteps>[1]): readonly Prepared[] | null {
  if (rule.kind === 'asDrawn') return prepared;
  const steps = recolouredSteps(
    prepared.map(({ step }) => step),
    rule,
  );
  return steps && prepared.map((each, i) => ({ ...each, step: steps[i] }));
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

/** Draws a stand-in; the context's matrix takes px of the plane to those of the canvas. */
export function drawStandIn(context: CanvasRenderingContext2D, { x, y, parts }: Drawing): void {
  context.save();
  context.translate(x, y);
  for (const { steps, place } of parts) {
    context.save();
    context.transform(...place);
    for (const each of steps) drawStep(context, each);
    context.restore();
  }
  context.restore();
}

function drawStep(context: CanvasRenderingContext2D, { step, path, clips }: Prepared): void {
  context.save();
  const ground = context.getTransform();
  for (const clip of clips) {
    context.transform(...clip.matrix);
    context.clip(clip.path, clip.rule);
    context.setTransform(ground);
  }
  context.transform(...step.matrix);
  if (step.strokeFirst) stroke(context, step, path);
  if (step.fill) {
    context.fillStyle = styleOf(context, step.fill);
    context.globalAlpha = step.fill.alpha;
    context.fill(path, step.rule);
  }
  if (!step.strokeFirst) stroke(context, step, path);
  context.restore();
}

function stroke(context: CanvasRenderingContext2D, { stroke: painted }: CanvasStep, path: Path2D): void {
  if (!painted) return;
  context.strokeStyle = styleOf(context, painted);
  context.globalAlpha = painted.alpha;
  context.lineWidth = painted.width;
  context.lineCap = painted.cap;
  context.lineJoin = painted.join;
  context.miterLimit = painted.miterLimit;
  context.setLineDash([...painted.dash]);
  context.lineDashOffset = painted.dashOffset;
  context.stroke(path);
}

function styleOf(context: CanvasRenderingContext2D, { paint }: CanvasPaint): string | CanvasGradient {
  if (typeof paint === 'string') return paint;
  const gradient =
    paint.kind === 'linear' ? context.createLinearGradient(paint.x1, paint.y1, paint.x2, paint.y2) : context.createRadialGradient(paint.fx, paint.fy, paint.fr, paint.cx, paint.cy, paint.r);
  for (const { offset, colour, alpha } of paint.stops) gradient.addColorStop(offset, withAlpha(colour, alpha));
  return gradient;
}

function withAlpha(colour: string, alpha: number): string {
  const parsed = parseColour(colour);
  return parsed ? printColour({ ...parsed, a: parsed.a * alpha }) : colour;
}
