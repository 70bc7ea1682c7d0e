import type { ProjectDocument } from '../../document/document';
import type { Layer } from '../../document/records';
import {
  type Bounds,
  grow,
  IDENTITY,
  intersect,
  largestScale,
  multiply,
  transformBounds,
  unite,
} from '../../geometry/matrix';
import { pathBounds, pathSegments, type StrokeShape } from '../../geometry/path-geometry';
import { pathDataOf } from '../../geometry/shape-path';
import { SHAPES } from '../../profile/allow-list';
import { TEXT_PROPERTIES } from '../../profile/initial-values';
import { referred } from '../../profile/references';
import type { Fonts } from '../text/fonts';
import { outlineText } from '../text/outline-text';

const number = (attrs: Record<string, string>, name: string, otherwise = 0) => {
  const value = Number.parseFloat(attrs[name]);
  return Number.isFinite(value) ? value : otherwise;
};

/** What a shape takes from its ancestors and that its bounds depend on. */
type Inherited = {
  fill: string;
  stroke: string;
  strokeWidth: number;
  join: string;
  miterLimit: number;
  cap: string;
  fontSize: number;
  anchor: string;
  marker: boolean;
  font: Record<string, string>;
};
const INITIAL: Inherited = {
  fill: '#000000',
  stroke: 'none',
  strokeWidth: 1,
  join: 'miter',
  miterLimit: 4,
  cap: 'butt',
  fontSize: 16,
  anchor: 'start',
  marker: false,
  font: {},
};

function inherit(from: Inherited, { attrs }: Layer): Inherited {
  if (Object.keys(attrs).length === 0) return from;
  return {
    fill: attrs.fill ?? from.fill,
    stroke: attrs.stroke ?? from.stroke,
    strokeWidth: number(attrs, 'stroke-width', from.strokeWidth),
    join: attrs['stroke-linejoin'] ?? from.join,
    miterLimit: number(attrs, 'stroke-miterlimit', from.miterLimit),
    cap: attrs['stroke-linecap'] ?? from.cap,
    fontSize: number(attrs, 'font-size', from.fontSize),
    anchor: attrs['text-anchor'] ?? from.anchor,
    marker: from.marker || 'marker-start' in attrs || 'marker-mid' in attrs || 'marker-end' in attrs,
    font: TEXT_PROPERTIES.some((name) => name in attrs)
      ? {
          ...from.font,
          ...Object.fromEntries(TEXT_PROPERTIES.filter((name) => name in attrs).map((name) => [name, attrs[name]])),
        }
      : from.font,
  };
}

const textFonts = new WeakMap<ProjectDocument, Fonts>();

/** From now on text of this document is measured by its glyphs; without fonts its box is a generous guess. */
export function measureTextWith(doc: ProjectDocument, fonts: Fonts): void {
  if (textFonts.get(doc) === fonts) return;
  textFonts.set(doc, fonts);
  doc.artworkMeasuredAnew();
}

const measured = new WeakMap<Layer, { key: string; box: Bounds | null }>();

/** The box around one drawn element in its own coordinates, stroke included; null when it draws nothing. */
function ownBounds(doc: ProjectDocument, layer: Layer, style: Inherited): Bounds | null {
  const fonts = layer.tag === 'text' ? textFonts.get(doc) : undefined;
  const stroked = style.stroke !== 'none' && style.strokeWidth > 0;
  const paint = stroked ? `${style.strokeWidth} ${style.join} ${style.miterLimit} ${style.cap} ${style.marker}` : '';
  const key = layer.tag === 'text' ? `${paint} ${JSON.stringify(style.font)} ${fonts ? 'glyphs' : 'guess'}` : paint;
  const known = measured.get(layer);
  if (known?.key === key) return known.box;
  const box = fonts ? glyphBounds(layer, style, stroked, fonts) : measureOwn(layer, style, stroked);
  measured.set(layer, { key, box });
  return box;
}

function measureOwn({ tag, attrs, text }: Layer, style: Inherited, stroked: boolean): Bounds | null {
  const half = stroked ? style.strokeWidth / 2 : 0;
  const at = (minX: number, minY: number, width: number, height: number): Bounds | null =>
    width > 0 || height > 0 ? grow({ minX, minY, maxX: minX + width, maxY: minY + height }, half) : null;
  switch (tag) {
    case 'rect':
    case 'image': {
      const [width, height] = [number(attrs, 'width'), number(attrs, 'height')];
      return width > 0 && height > 0 ? at(number(attrs, 'x'), number(attrs, 'y'), width, height) : null;
    }
    case 'circle':
    case 'ellipse': {
      const rx = tag === 'circle' ? number(attrs, 'r') : number(attrs, 'rx', number(attrs, 'ry'));
      const ry = tag === 'circle' ? rx : number(attrs, 'ry', rx);
      return rx > 0 && ry > 0 ? at(number(attrs, 'cx') - rx, number(attrs, 'cy') - ry, 2 * rx, 2 * ry) : null;
    }
    case 'text':
      return textBox(text ?? [], attrs, style);
    default: {
      if (!SHAPES.has(tag)) return null;
      const stroke: StrokeShape | null = stroked
        ? {
            width: style.strokeWidth,
            miterLimit: style.miterLimit,
            miter: style.join === 'miter',
            square: style.cap === 'square',
          }
        : null;
      const box = pathBounds(pathSegments(pathDataOf(tag, attrs)), stroke);
      return box && style.marker ? grow(box, style.strokeWidth * 12) : box;
    }
  }
}

/** The box around the very glyphs of a text. */
function glyphBounds(layer: Layer, style: Inherited, stroked: boolean, fonts: Fonts): Bounds | null {
  const stroke: StrokeShape | null = stroked
    ? { width: style.strokeWidth, miterLimit: style.miterLimit, miter: style.join === 'miter', square: false }
    : null;
  let box: Bounds | null = null;
  for (const run of outlineText(layer, style.font, fonts).runs)
    box = unite(box, stroke ? pathBounds(pathSegments(run.d), stroke) : run.box);
  return box;
}

/** A generous box for text whose glyphs are not measured here: no character is wider than its em. */
function textBox(runs: NonNullable<Layer['text']>, attrs: Record<string, string>, style: Inherited): Bounds | null {
  let box: Bounds | null = null;
  let x = number(attrs, 'x');
  let y = number(attrs, 'y');
  // Letters that are stretched to a length may reach as far as that, whatever they are.
  const whole = number(attrs, 'textLength');
  for (const run of runs) {
    const size = number(run.attrs, 'font-size', style.fontSize);
    if (run.attrs.x !== undefined) x = number(run.attrs, 'x');
    if (run.attrs.y !== undefined) y = number(run.attrs, 'y');
    x += number(run.attrs, 'dx');
    y += number(run.attrs, 'dy');
    const own = run.text.length * (size * 0.75 + number(run.attrs, 'letter-spacing', number(attrs, 'letter-spacing')));
    const width = Math.max(own, number(run.attrs, 'textLength'), whole);
    const anchor = run.attrs['text-anchor'] ?? style.anchor;
    const shift = anchor === 'middle' ? width / 2 : anchor === 'end' ? width : 0;
    box = unite(box, {
      minX: x - shift - size * 0.1,
      minY: y - size * 1.1,
      maxX: x - shift + width,
      maxY: y + size * 0.4,
    });
    x += width;
  }
  return box;
}

/** One drawn element with its box on the plane. */
export type Leaf = Bounds & {
  layer: Layer;
  visible: boolean;
  /** Paint as it applies here, inherited or own. */
  fill: string;
  stroke: string;
  /** Width of the stroke in px of the plane; 0 without one. */
  strokePx: number;
  /** Family that text asks for; '' for what is no text. */
  fontFamily: string;
};

/**
 * Walks the artwork and reports every drawn element with its box in the coordinates outside `start`.
 * Clips make boxes smaller, filters larger. `visible` is false for what is hidden or bench-only.
 */
export function eachLeaf(
  doc: ProjectDocument,
  start: readonly Layer[],
  report: (leaf: Leaf) => void,
  outer = IDENTITY,
  style: Inherited = INITIAL,
  visibleAbove = true,
): void {
  const walk = (
    layer: Layer,
    matrix: typeof IDENTITY,
    above: Inherited,
    visible: boolean,
    clip: Bounds | null,
    reach: number,
  ) => {
    const here = layer.transform ? multiply(matrix, layer.transform) : matrix;
    const own = inherit(above, layer);
    const seen = visible && layer.shown && !layer.benchOnly;
    const clipId = referred(layer.attrs['clip-path']);
    let limit = clip;
    if (clipId) {
      const box = clipBounds(doc, clipId);
      if (box) limit = limit ? (intersect(limit, transformBounds(here, box)) ?? EMPTY) : transformBounds(here, box);
    }
    const spread = referred(layer.attrs.filter)
      ? reach + filterReach(doc, referred(layer.attrs.filter) as string, here)
      : reach;
    if (layer.tag === 'g') {
      for (const child of doc.children(layer.id)) walk(child, here, own, seen, limit, spread);
      return;
    }
    const box = ownBounds(doc, layer, own);
    if (!box) return;
    let placed: Bounds | null = transformBounds(here, box);
    if (spread) placed = grow(placed, spread + (placed.maxX - placed.minX + placed.maxY - placed.minY) * 0.1);
    if (limit) placed = intersect(placed, limit);
    if (!placed) return;
    const stroked = own.stroke !== 'none' && own.strokeWidth > 0;
    report({
      ...placed,
      layer,
      visible: seen,
      fill: own.fill,
      stroke: own.stroke,
      strokePx: stroked ? own.strokeWidth * largestScale(here) : 0,
      fontFamily: layer.tag === 'text' ? (own.font['font-family'] ?? 'sans-serif') : '',
    });
  };
  for (const layer of start) walk(layer, outer, style, visibleAbove, null, 0);
}

const EMPTY: Bounds = { minX: 0, minY: 0, maxX: 0, maxY: 0 };

/** Boxes of clips and reaches of filters at one revision of the artwork; many layers share one. */
type Definitions = { revision: number; clips: Map<string, Bounds | null>; filters: Map<string, number> };
const definitions = new WeakMap<ProjectDocument, Definitions>();

function definitionsOf(doc: ProjectDocument): Definitions {
  let known = definitions.get(doc);
  if (known?.revision !== doc.layerRevision)
    definitions.set(doc, (known = { revision: doc.layerRevision, clips: new Map(), filters: new Map() }));
  return known;
}

/** The box of a clip in user space; null (no limit known) when it measures in its object's box, or clips itself. */
function clipBounds(doc: ProjectDocument, clipId: string): Bounds | null {
  const { clips } = definitionsOf(doc);
  const known = clips.get(clipId);
  if (known !== undefined) return known;
  const clip = doc.find('layer', clipId);
  if (!clip || clip.attrs.clipPathUnits === 'objectBoundingBox') return null;
  clips.set(clipId, null);
  let box: Bounds | null = null;
  eachLeaf(doc, doc.children(clip.id), (leaf) => void (box = unite(box, leaf)), clip.transform ?? IDENTITY);
  clips.set(clipId, box);
  return box;
}

/** How far a filter may paint beyond its object, in px of the plane: three deviations of its blurs and its offsets. */
function filterReach(doc: ProjectDocument, filterId: string, matrix: typeof IDENTITY): number {
  const { filters } = definitionsOf(doc);
  let reach = filters.get(filterId);
  if (reach === undefined) {
    reach = 0;
    for (const { attrs } of doc.children(filterId)) {
      let deviation = 0;
      for (const part of (attrs.stdDeviation ?? '').split(/[\s,]+/)) deviation = Math.max(deviation, Number(part) || 0);
      reach += deviation * 3 + Math.abs(number(attrs, 'dx')) + Math.abs(number(attrs, 'dy')) + number(attrs, 'radius');
    }
    filters.set(filterId, reach);
  }
  return reach * Math.max(Math.hypot(matrix[0], matrix[1]), Math.hypot(matrix[2], matrix[3]));
}

/** The style and matrix a layer's parents give it, and whether they show it. */
function surroundings(doc: ProjectDocument, layer: Layer) {
  const chain: Layer[] = [];
  for (const at of doc.ancestors(layer)) chain.push(at);
  let matrix = IDENTITY;
  let style = INITIAL;
  let visible = true;
  for (const parent of chain.reverse()) {
    if (parent.transform) matrix = multiply(matrix, parent.transform);
    style = inherit(style, parent);
    visible &&= parent.shown && !parent.benchOnly;
  }
  return { matrix, style, visible };
}

/**
 * The box on the plane around what a layer and everything in it draws; null when it draws nothing. For working `onBench`,
 * a layer that is there for the Bench only has a box, too.
 */
export function layerBounds(doc: ProjectDocument, layerId: string, onBench = false): Bounds | null {
  const found = doc.find('layer', layerId);
  if (!found) return null;
  const layer = onBench && found.benchOnly ? { ...found, benchOnly: false } : found;
  const { matrix, style } = surroundings(doc, layer);
  let box: Bounds | null = null;
  const add = ({ minX, minY, maxX, maxY, visible }: Leaf) => {
    if (visible) box = unite(box, { minX, minY, maxX, maxY });
  };
  eachLeaf(doc, [layer], add, matrix, style, true);
  return box;
}

/** The matrix from a layer's own coordinates to the plane. */
export function layerToPlane(doc: ProjectDocument, layer: Layer) {
  const { matrix } = surroundings(doc, layer);
  return layer.transform ? multiply(matrix, layer.transform) : matrix;
}
