import type { ProjectDocument } from '../../document/document';
import { eachPiece, pathSegments } from '../../geometry/path-geometry';
import { pathDataOf } from '../../geometry/shape-path';
import { type Leaf, layerToPlane } from './bounds';

/** Straight pieces a curve is taken for. */
const STEPS = 6;

type Moment = { x: number; y: number; mass: number };

/** Area moment of a filled path, and length moment of its outline, in its own coordinates (shoelace formula). */
function momentsOf(d: string): { area: Moment; length: Moment } {
  const area = { x: 0, y: 0, mass: 0 };
  const length = { x: 0, y: 0, mass: 0 };
  for (const { segments } of pathSegments(d)) {
    const [startX, startY] = segments.length > 0 ? segments[0] : [0, 0];
    let [px, py] = [startX, startY];
    const to = (x: number, y: number, drawn: boolean) => {
      const cross = px * y - x * py;
      area.mass += cross / 2;
      area.x += ((px + x) * cross) / 6;
      area.y += ((py + y) * cross) / 6;
      if (drawn) {
        const run = Math.hypot(x - px, y - py);
        length.mass += run;
        length.x += (run * (px + x)) / 2;
        length.y += (run * (py + y)) / 2;
      }
      [px, py] = [x, y];
    };
    eachPiece(segments, STEPS, (x, y) => to(x, y, true));
    to(startX, startY, false);
  }
  return { area, length };
}

/**
 * Where the middle of what is painted lies, by area, in px of the plane; overlaps count twice. Text and pictures
 * count as their boxes. Null when nothing has an area.
 */
export function centreOfMass(doc: ProjectDocument, leaves: readonly Leaf[]): { x: number; y: number } | null {
  const sum = { x: 0, y: 0, mass: 0 };
  const add = (x: number, y: number, mass: number) => {
    if (!(mass > 0) || !Number.isFinite(x + y)) return;
    sum.x += x * mass;
    sum.y += y * mass;
    sum.mass += mass;
  };
  for (const leaf of leaves) {
    const { layer, fill, stroke, strokePx } = leaf;
    const d = pathDataOf(layer.tag, layer.attrs);
    const [w, h] = [leaf.maxX - leaf.minX, leaf.maxY - leaf.minY];
    const middle = [(leaf.minX + leaf.maxX) / 2, (leaf.minY + leaf.maxY) / 2] as const;
    if (!d) {
      const hollow = fill === 'none' && strokePx > 0;
      add(...middle, hollow ? 2 * (w + h) * strokePx : w * h);
      continue;
    }
    const [a, b, c, e, tx, ty] = layerToPlane(doc, layer);
    const at = (x: number, y: number): [number, number] => [a * x + c * y + tx, b * x + e * y + ty];
    const { area, length } = momentsOf(d);
    const scale = Math.abs(a * e - b * c);
    if (fill !== 'none' && area.mass !== 0)
      add(...at(area.x / area.mass, area.y / area.mass), Math.abs(area.mass) * scale);
    if (stroke !== 'none' && strokePx > 0 && length.mass > 0)
      add(...at(length.x / length.mass, length.y / length.mass), length.mass * Math.sqrt(scale) * strokePx);
  }
  return sum.mass > 0 ? { x: sum.x / sum.mass, y: sum.y / sum.mass } : null;
}
