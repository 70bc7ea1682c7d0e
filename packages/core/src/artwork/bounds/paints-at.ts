import type { ProjectDocument } from '../../document/document';
import { invert, largestScale } from '../../geometry/matrix';
import { eachPiece, pathSegments } from '../../geometry/path-geometry';
import { shapePath } from '../../geometry/shape-path';
import { inheritedValue } from '../style/inherited';
import { type Leaf, layerToPlane } from './bounds';

/** Straight pieces a curve is taken for. */
const STEPS = 12;
type Point = readonly [x: number, y: number];

/** Subpaths as lines from point to point; each is closed for filling (SVG 2 §13.4), and for stroking if it says so. */
function linesOf(d: string): { points: Point[]; closed: boolean }[] {
  return pathSegments(d).map(({ segments, closed }) => {
    const points: Point[] = segments.length > 0 ? [[segments[0][0], segments[0][1]]] : [];
    eachPiece(segments, STEPS, (x, y) => points.push([x, y]));
    return { points, closed };
  });
}

/** How often the lines go round a point, counter-clockwise less clockwise. */
function windingAround([x, y]: Point, points: readonly Point[]): number {
  let winding = 0;
  for (let i = 0; i < points.length; i++) {
    const [x0, y0] = points[i];
    const [x1, y1] = points[(i + 1) % points.length];
    const side = (x1 - x0) * (y - y0) - (x - x0) * (y1 - y0);
    if (y0 <= y && y1 > y && side > 0) winding++;
    else if (y0 > y && y1 <= y && side < 0) winding--;
  }
  return winding;
}

function distanceTo([x, y]: Point, [x0, y0]: Point, [x1, y1]: Point): number {
  const [dx, dy] = [x1 - x0, y1 - y0];
  const square = dx * dx + dy * dy;
  const along = square > 0 ? Math.min(1, Math.max(0, ((x - x0) * dx + (y - y0) * dy) / square)) : 0;
  return Math.hypot(x - x0 - along * dx, y - y0 - along * dy);
}

/**
 * Whether a drawn element lays paint at a point of the plane, or within `near` px of it: inside of its fill or on its
 * stroke. Text and pictures lay paint all over their box; clips and masks are not looked at.
 */
export function paintsAt(doc: ProjectDocument, leaf: Leaf, x: number, y: number, near: number): boolean {
  const { layer, fill, stroke, strokePx } = leaf;
  if (x < leaf.minX - near || x > leaf.maxX + near || y < leaf.minY - near || y > leaf.maxY + near) return false;
  const d = shapePath(layer.tag, layer.attrs);
  if (!d) return layer.tag === 'text' || layer.tag === 'image';
  const matrix = layerToPlane(doc, layer);
  const [a, b, c, e, f, g] = invert(matrix);
  const point: Point = [a * x + c * y + f, b * x + e * y + g];
  const scale = largestScale(matrix) || 1;
  const lines = linesOf(d);
  if (fill !== 'none') {
    const winding = lines.reduce((sum, { points }) => sum + windingAround(point, points), 0);
    if (inheritedValue(doc, layer, 'fill-rule') === 'evenodd' ? winding % 2 !== 0 : winding !== 0) return true;
  }
  // A shape without a stroke is met at its very edge, so that thin ones can be.
  const reach = ((stroke === 'none' ? 0 : strokePx / 2) + near) / scale;
  return lines.some(({ points, closed }) =>
    points.some(
      (from, i) =>
        (i + 1 < points.length || closed || fill !== 'none') &&
        distanceTo(point, from, points[(i + 1) % points.length]) <= reach,
    ),
  );
}
