import { eachLeaf, layerBounds, layerToPlane } from '../artwork/bounds/bounds';
import { inheritedValue } from '../artwork/style/inherited';
import { refuse } from '../basics/problem';
import type { ProjectDocument } from '../document/document';
import type { Layer } from '../document/records';
import type { Matrix } from '../geometry/matrix';
import {
  type Bounds,
  IDENTITY,
  invert,
  isIdentity,
  multiply,
  printNumber,
  scaling,
  translate,
  unite,
  unlessIdentity,
} from '../geometry/matrix';
import { outermost } from './outermost';

/** The nine places of a box that numbers can be told from, as compass points; `c` is the centre. */
export const REFERENCES = ['nw', 'n', 'ne', 'w', 'c', 'e', 'sw', 's', 'se'] as const;
export type Reference = (typeof REFERENCES)[number];

/** A reference point of a box, in px of the plane. */
export function referencePoint({ minX, minY, maxX, maxY }: Bounds, reference: Reference): { x: number; y: number } {
  const x = reference.includes('w') ? minX : reference.includes('e') ? maxX : (minX + maxX) / 2;
  const y = reference.startsWith('n') ? minY : reference.startsWith('s') ? maxY : (minY + maxY) / 2;
  return { x, y };
}

const around = (x: number, y: number, inner: Matrix): Matrix =>
  multiply(multiply(translate(x, y), inner), translate(-x, -y));

/** Scaling by sx, sy (negative mirrors) about a point of the plane. */
export const scaleAbout = (x: number, y: number, sx: number, sy: number): Matrix => around(x, y, scaling(sx, sy));

/** A turn by degrees, clockwise on screen, about a point of the plane. */
export function rotateAbout(x: number, y: number, degrees: number): Matrix {
  const turn = (degrees * Math.PI) / 180;
  // Quarter turns are exact, so that they can be taken back to the last digit.
  const quarter = Math.round(degrees / 90);
  const exact = quarter * 90 === degrees;
  const cos = exact ? [1, 0, -1, 0][((quarter % 4) + 4) % 4] : Math.cos(turn);
  const sin = exact ? [0, 1, 0, -1][((quarter % 4) + 4) % 4] : Math.sin(turn);
  return around(x, y, [cos, sin, -sin, cos, 0, 0]);
}

export const mirrorAbout = (x: number, y: number, across: 'horizontally' | 'vertically'): Matrix =>
  scaleAbout(x, y, across === 'horizontally' ? -1 : 1, across === 'vertically' ? -1 : 1);

/** The box around what several layers draw; null when they draw nothing. */
export const boundsOfLayers = (doc: ProjectDocument, ids: Iterable<string>): Bounds | null =>
  outermost(doc, ids).reduce<Bounds | null>((box, { id }) => unite(box, layerBounds(doc, id, true)), null);

const SCALED_X = ['x', 'cx', 'width', 'rx'];
const SCALED_Y = ['y', 'cy', 'height', 'ry'];

/**
 * A plain shape scaled in its own numbers, so that strokes and corner radii stay as they are: only for
 * upright scaling of shapes that nothing turns or scales. Null when it cannot be done so.
 */
function inOwnNumbers({ tag, attrs, transform }: Layer, step: Matrix): Layer['attrs'] | null {
  const [sx, b, c, sy, e, f] = step;
  const still = !transform || (transform[0] === 1 && transform[1] === 0 && transform[2] === 0 && transform[3] === 1);
  if (b !== 0 || c !== 0 || sx <= 0 || sy <= 0 || !still || !['rect', 'ellipse', 'image', 'line'].includes(tag))
    return null;
  const [tx, ty] = [transform?.[4] ?? 0, transform?.[5] ?? 0];
  const next = { ...attrs };
  const at = (name: string) => Number.parseFloat(attrs[name] ?? '0') || 0;
  const placeX = (value: number) => printNumber(sx * (value + tx) + e - tx);
  const placeY = (value: number) => printNumber(sy * (value + ty) + f - ty);
  if (tag === 'line') {
    for (const name of ['x1', 'x2']) next[name] = placeX(at(name));
    for (const name of ['y1', 'y2']) next[name] = placeY(at(name));
    return next;
  }
  const corner = tag === 'rect';
  for (const name of SCALED_X) {
    if (name === 'x' || name === 'cx') next[name] = placeX(at(name));
    else if (!(corner && name === 'rx') && name in attrs) next[name] = printNumber(at(name) * sx);
  }
  for (const name of SCALED_Y) {
    if (name === 'y' || name === 'cy') next[name] = placeY(at(name));
    else if (!(corner && name === 'ry') && name in attrs) next[name] = printNumber(at(name) * sy);
  }
  for (const name of tag === 'ellipse' ? ['x', 'y'] : ['cx', 'cy']) delete next[name];
  return next;
}

/** A layer after a matrix of the plane, whatever its parents do to it. */
export function transformedLayer(doc: ProjectDocument, layer: Layer, onPlane: Matrix): Layer {
  const parent = doc.find('layer', layer.parentId);
  const outer = parent ? layerToPlane(doc, parent) : null;
  const step = outer && !isIdentity(outer) ? multiply(multiply(invert(outer), onPlane), outer) : onPlane;
  const moved = step[0] === 1 && step[1] === 0 && step[2] === 0 && step[3] === 1;
  const attrs = moved ? null : inOwnNumbers(layer, step);
  if (attrs) return { ...layer, attrs };
  const transform = multiply(step, layer.transform ?? IDENTITY).map((value) => +value.toFixed(12)) as Matrix;
  return { ...layer, transform: unlessIdentity(transform) };
}

/** Layers after a matrix of the plane; locked ones stay, and what lies inside another chosen one goes along with it. */
export const transformLayers = (doc: ProjectDocument, ids: Iterable<string>, onPlane: Matrix): Layer[] =>
  outermost(doc, ids)
    .filter((layer) => !layer.locked)
    .map((layer) => transformedLayer(doc, layer, onPlane));

/** How many times a selection may be stretched at once: what is thinner than this has no size to scale. */
const THINNEST_PX = 1e-6;

/**
 * The matrix that gives a box a new width and height (px, above 0) while a reference point stays. Throws a
 * `Refusal` for a size that is none, or for a side that has no length to start from.
 */
export function resizeTo(box: Bounds, width: number, height: number, reference: Reference): Matrix {
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  const [flatX, flatY] = [w < THINNEST_PX, h < THINNEST_PX];
  if (!(width > 0 || flatX) || !(height > 0 || flatY))
    refuse('size.none', `${printNumber(width)} × ${printNumber(height)} is no size`, {
      accepted: 'a width and a height above 0',
    });
  if ((flatX && width !== w) || (flatY && height !== h))
    refuse('size.flat', 'what has no width or height cannot be scaled to one', { accepted: 'another side' });
  const { x, y } = referencePoint(box, reference);
  return scaleAbout(x, y, flatX ? 1 : width / w, flatY ? 1 : height / h);
}

/** Stroke widths set so that after scaling by `factor` they look as wide as before; for every stroked element inside. */
export function strokesKept(doc: ProjectDocument, layers: readonly Layer[], factor: number): Layer[] {
  const changed = new Map<string, Layer>(layers.map((layer) => [layer.id, layer]));
  for (const top of layers) {
    const before = doc.find('layer', top.id);
    if (!before) continue;
    eachLeaf(doc, [before], ({ layer }) => {
      const width = inheritedStrokeWidth(doc, layer);
      const now = changed.get(layer.id) ?? layer;
      // What was scaled in its own numbers has kept its stroke already.
      const inNumbers = now !== layer && now.transform === layer.transform;
      if (width > 0 && !inNumbers)
        changed.set(layer.id, { ...now, attrs: { ...now.attrs, 'stroke-width': printNumber(width / factor) } });
    });
  }
  return [...changed.values()];
}

/** Width of the stroke that applies to a layer, in its own units; 0 without a stroke. */
function inheritedStrokeWidth(doc: ProjectDocument, layer: Layer): number {
  const stroke = inheritedValue(doc, layer, 'stroke');
  return !stroke || stroke === 'none' ? 0 : Number.parseFloat(inheritedValue(doc, layer, 'stroke-width') ?? '1') || 0;
}
