import { transformedLayer } from '../../arrange/transform';
import { artworkIndex } from '../../artwork/bounds/artwork-index';
import { type Leaf, layerToPlane } from '../../artwork/bounds/bounds';
import { ProjectDocument } from '../../document/document';
import type { Artboard, Layer } from '../../document/records';
import { type Bounds, largestScale, printNumber, translate } from '../../geometry/matrix';
import { referred } from '../../profile/references';
import { drawingOn } from '../crispest-place';
import { crispness, edgesIn, type Grid, scaleOf } from '../crispness';
import { AXES, linesOf, type ToPlace, wholeStroke } from './lines';
import { placeLines } from './place-lines';
import { followsPoints, piecewise, pointsMoved, type Warp } from './warp';

/** Whether widths become whole px, too, or only places. */
export type FitWidths = 'whole' | 'kept';

/** A drawing after its edges have gone to pixels of a size. */
export type Fitted = {
  /** The layers that change. */
  layers: Layer[];
  /** How crisp it is then, from 0 to 1. */
  share: number;
};

/** Without equal gaps kept equal, so much more of the edges has to get crisp for that. */
const WORTH_OF_GAPS = 0.1;
/** What makes less of a difference is left alone. */
const LEAST_GAIN = 0.005;
/** A move that is none, in px of the plane. */
const UNSEEN = 1e-9;

/** A drawn element with another width of its stroke, in px of the file. A dot, whose stroke leaves no hole, grows with it. */
function strokeOf(doc: ProjectDocument, { layer, strokePx }: Leaf, widthPx: number, grid: Grid): Layer {
  const scale = largestScale(layerToPlane(doc, layer));
  const [before, after] = [strokePx / scale, widthPx / scale / scaleOf(grid, 'x')];
  const r = Number.parseFloat(layer.attrs.r ?? '');
  const dot = layer.tag === 'circle' && r <= before / 2 && { r: printNumber((r * after) / before, 5) };
  return { ...layer, attrs: { ...layer.attrs, 'stroke-width': printNumber(after, 5), ...dot } };
}

function warpOf(grid: Grid, { axes }: ToPlace, to: readonly number[][]): Warp {
  const onPlane = (axis: 0 | 1, places: readonly number[]) => {
    const start = axis === 0 ? grid.view.x : grid.view.y;
    return places.map((at) => start + at / scaleOf(grid, AXES[axis]));
  };
  const from = ([0, 1] as const).map((axis) =>
    onPlane(
      axis,
      axes[axis].lines.map(({ at }) => at),
    ),
  );
  return {
    x: piecewise(from[0], onPlane(0, to[0])),
    y: piecewise(from[1], onPlane(1, to[1])),
    knots: { x: from[0], y: from[1] },
  };
}

/** What a warp and new widths of strokes make of drawn elements; of those that stay, the same objects. */
function changed(
  doc: ProjectDocument,
  leaves: readonly Leaf[],
  grid: Grid,
  warp: Warp | null,
  strokes: ToPlace['strokes'],
) {
  return leaves.map((leaf): Layer => {
    const { layer } = leaf;
    const widthPx = strokes.get(leaf);
    const stroked = widthPx === undefined ? layer : strokeOf(doc, leaf, widthPx, grid);
    if (!warp) return stroked;
    if (followsPoints(doc, layer)) return isMoved(leaf, warp) ? pointsMoved(doc, stroked, warp) : stroked;
    const [x, y] = [(leaf.minX + leaf.maxX) / 2, (leaf.minY + leaf.maxY) / 2];
    const [dx, dy] = [warp.x(x) - x, warp.y(y) - y];
    return Math.hypot(dx, dy) < UNSEEN ? stroked : transformedLayer(doc, stroked, translate(dx, dy));
  });
}

/** Whether a warp moves anything within a box. */
function isMoved({ minX, minY, maxX, maxY }: Bounds, { x, y, knots }: Warp): boolean {
  const moves = (go: (at: number) => number, low: number, high: number, inside: readonly number[]) =>
    [low, high, ...inside.filter((at) => at > low && at < high)].some((at) => Math.abs(go(at) - at) > UNSEEN);
  return moves(x, minX, maxX, knots.x) || moves(y, minY, maxY, knots.y);
}

/** How crisp a drawing is once some of its layers have become others: on a document of that drawing alone. */
function shareAfter(doc: ProjectDocument, leaves: readonly Leaf[], layers: readonly Layer[], grid: Grid): number {
  const records = new Map<string, Layer>();
  for (const { layer } of leaves)
    for (const at of doc.lineage(layer)) {
      records.set(at.id, at);
      const clip = referred(at.attrs['clip-path']);
      for (const id of clip ? doc.descendants(clip) : []) {
        const inner = doc.find('layer', id);
        if (inner) records.set(id, inner);
      }
    }
  for (const layer of layers) records.set(layer.id, layer);
  const alone = new ProjectDocument(records.values());
  return crispness(edgesIn(alone, artworkIndex(alone).leaves), grid).share ?? 0;
}

/**
 * A drawing with its upright and level edges, and with `whole` the widths of its strokes and stems, at pixels of a size.
 * What lies between is carried along in proportion; equal widths stay equal, mirrored drawings mirrored, smooth curves
 * smooth. No line, no middle of a stem and no width changes by more than half a px of that size (a width of 4 px or more
 * by up to one, half a px on each side). Text, pictures and turned rectangles and circles move as a whole. Null for an artboard that follows another one, and where nothing can be
 * fitted.
 */
export function fittedEdges(doc: ProjectDocument, artboard: Artboard, grid: Grid, widths: FitWidths): Fitted | null {
  if (artboard.follows) return null;
  const { leaves } = drawingOn(doc, artboard);
  const before = crispness(edgesIn(doc, leaves), grid).share;
  if (before === null) return null;
  const tries = [true, false].flatMap((gaps) => {
    const found = linesOf(doc, leaves, grid, { whole: widths === 'whole', gaps });
    if (!found) return [];
    const to = placeLines(found.axes, found.choices);
    if (!to && found.strokes.size === 0) return [];
    const layers = changed(doc, leaves, grid, to && warpOf(grid, found, to), found.strokes);
    return [{ layers, share: shareAfter(doc, leaves, layers, grid) }];
  });
  const [kept, free] = tries;
  const best = free && (!kept || free.share > kept.share + WORTH_OF_GAPS) ? free : kept;
  if (!best || best.share < before + LEAST_GAIN) return null;
  return { layers: best.layers.filter((layer, i) => layer !== leaves[i].layer), share: best.share };
}

/** The layers of a drawing whose strokes get a whole width at a size; none where all have one, or are thinner than half a px. */
export function wholeStrokes(doc: ProjectDocument, artboard: Artboard, grid: Grid): Layer[] {
  return drawingOn(doc, artboard).leaves.flatMap((leaf) => {
    const widthPx = leaf.strokePx * scaleOf(grid, 'x');
    const whole = widthPx > 0 ? wholeStroke(widthPx) : null;
    return whole === null || Math.abs(whole - widthPx) < 1e-4 ? [] : [strokeOf(doc, leaf, whole, grid)];
  });
}
