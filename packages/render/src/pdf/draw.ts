import {
  type Bounds,
  IDENTITY,
  intersect,
  invert,
  largestScale,
  type Matrix,
  multiply,
  type PathStep,
  parseColour,
  parseTransform,
  parseViewBox,
  pathBox,
  stepsOf,
  transformBounds,
  viewBoxTransform,
} from '@tolvik/core';
import { boxIn, pictureBox, SHAPES } from '../svg/boxes';
import { blending, INITIAL, inherit, number, paintOrder, type Style, share } from '../svg/style';
import { type Node, referred } from '../svg/tree';
import { Content, type Doc, Exact, matrixText, num, nums, type Ref } from './content';
import { drawnByPixels } from './filters';
import { boxMatrix, commonAlpha, type Gradient, greyOf, readGradient, shadingPattern } from './gradients';
import { pathOperators } from './paths';
import { type Picture, pictureObject } from './pictures';

/** Draws one composed SVG into content streams (ISO 32000-1 §8, §11). */

/** Definitions within definitions, one in the other. */
const DEEPEST = 60;
const CAPS: Record<string, number> = { butt: 0, round: 1, square: 2 };
const JOINS: Record<string, number> = { miter: 0, round: 1, bevel: 2 };
const BLEND_MODES: Record<string, string> = Object.fromEntries(
  'multiply screen overlay darken lighten color-dodge color-burn hard-light soft-light difference exclusion hue saturation color luminosity'
    .split(' ')
    .map((name) => [name, name.replace(/(^|-)([a-z])/g, (_, __, letter: string) => letter.toUpperCase())]),
);

/** Where something is drawn. */
export type Place = {
  style: Style;
  /** User space to the initial space of the stream it is drawn in. */
  toStream: Matrix;
  /** User space to px of the page. */
  toPage: Matrix;
  /** What can be seen, in user space. */
  seen: Bounds;
  /** Colours become what a mask makes of them. */
  grey: boolean;
  depth: number;
};

type Paint = { kind: 'colour'; rgb: readonly number[]; alpha: number } | { kind: 'gradient'; gradient: Gradient } | { kind: 'pattern'; node: Node; box: Bounds | null } | null;

/** One page's drawing: what it needs of its surroundings. */
export type Page = {
  doc: Doc;
  byId: ReadonlyMap<string, Node>;
  root: Node;
  pictures: ReadonlyMap<string, Picture>;
  widthPx: number;
  heightPx: number;
  /** Whether anything had to become a picture. */
  flattened: boolean;
};

const within = (place: Place, matrix: Matrix, style = place.style): Place => ({
  ...place,
  style,
  toStream: multiply(place.toStream, matrix),
  toPage: multiply(place.toPage, matrix),
  seen: transformBounds(invert(matrix), place.seen),
});

/** The place inside a stream of its own, whose initial space is the user space here. */
const inStream = (place: Place): Place => ({ ...place, toStream: IDENTITY });

const decimalsFor = ({ toPage }: Place): number => Math.min(10, Math.max(1, 3 + Math.ceil(Math.log10(Math.max(1e-9, largestScale(toPage))))));

export function drawChildren(page: Page, node: Node, place: Place, content: Content): void {
  for (const child of node.children) drawNode(page, child, place, content);
}

export function drawNode(page: Page, node: Node, parent: Place, content: Content): void {
  const { tag, attrs } = node;
  if (tag !== 'g' && tag !== 'image' && tag !== 'use' && !SHAPES.has(tag)) return;
  if (attrs.display === 'none' || parent.depth > DEEPEST) return;
  const transform = parseTransform(attrs.transform ?? '') ?? IDENTITY;
  if (Math.abs(transform[0] * transform[3] - transform[1] * transform[2]) < 1e-18) return;
  const place = { ...within(parent, transform, inherit(parent.style, attrs)), depth: parent.depth + 1 };
  const opacity = share(attrs.opacity);
  if (opacity === 0) return;
  content.op('q');
  if (attrs.transform) content.op(`${matrixText(transform)} cm`);
  drawWithEffects(page, node, place, opacity, content);
  content.op('Q');
}

/** Filter, clip, mask, opacity and blending, in this order from inside out (Compositing and Blending 1 §3, Filter Effects 1 §3). */
function drawWithEffects(page: Page, node: Node, place: Place, opacity: number, content: Content): void {
  const { attrs } = node;
  const { mode, isolated } = blending(attrs);
  const blend = BLEND_MODES[mode];
  const clip = referred(attrs['clip-path']);
  const mask = referred(attrs.mask);
  const filtered = attrs.filter !== undefined && attrs.filter !== 'none';
  const box = (clip || mask) && usesBox(page, [clip, mask]) ? boxIn(node) : null;
  let softClip: Node | null = null;
  if (clip) {
    const definition = page.byId.get(clip);
    if (!definition) return;
    const hard = hardClip(page, definition, box, place);
    if (hard === 'nothing') return;
    if (hard === 'soft') softClip = definition;
    else content.op(hard);
  }
  const inner = (to: Content, at: Place, alpha: number) => {
    if (filtered) {
      content.op('');
      return drawnByPixels(page, node, at, alpha, to);
    }
    drawPlain(page, node, at, alpha, to);
  };
  const isGroup = mask !== undefined || softClip !== null || blend !== undefined || isolated || (opacity < 1 && !isSimple(node, place));
  if (!isGroup) return inner(content, place, opacity);

  let make = (to: Content, at: Place) => inner(to, at, 1);
  if (softClip) {
    const definition = softClip;
    const draw = make;
    make = (to, at) => drawGroup(page, at, to, { mask: clipMask(page, definition, box, at) }, draw);
  }
  if (mask) {
    const soft = softMask(page, mask, box, place);
    if (soft === 'nothing') return;
    if (soft) {
      const draw = make;
      make = (to, at) => drawGroup(page, at, to, { mask: softMask(page, mask, box, at) as Ref }, draw);
    }
  }
  drawGroup(page, place, content, { alpha: opacity, blend }, make);
}

/** Painted once, so that its opacity is that of its paint. */
function isSimple(node: Node, { style }: Place): boolean {
  if (node.tag === 'image') return true;
  if (node.tag === 'g') return false;
  return style.fill === 'none' || style.stroke === 'none';
}

/** A transparency group (ISO 32000-1 §11.6.6), drawn with an alpha, a blend mode and a soft mask. */
function drawGroup(page: Page, place: Place, content: Content, { alpha = 1, blend, mask }: { alpha?: number; blend?: string; mask?: Ref }, draw: (to: Content, at: Place) => void): void {
  const form = new Content();
  draw(form, inStream(place));
  if (form.isEmpty) return;
  const object = formObject(page.doc, form, place.seen);
  content.op('q');
  if (alpha < 1 || blend || mask) {
    const state = page.doc.ref({ Type: 'ExtGState', ca: alpha, CA: alpha, ...(blend ? { BM: blend } : {}), ...(mask ? { SMask: mask } : {}) });
    state.end();
    content.op(`/${content.name('ExtGState', state)} gs`);
  }
  content.op(`/${content.name('XObject', object)} Do`);
  content.op('Q');
}

const formObject = (doc: Doc, form: Content, { minX, minY, maxX, maxY }: Bounds, colourSpace = 'DeviceRGB'): Ref =>
  form.toObject(doc, {
    Type: 'XObject',
    Subtype: 'Form',
    BBox: new Exact([minX, minY, maxX, maxY]),
    Group: { Type: 'Group', S: 'Transparency', CS: colourSpace, I: true },
  });

const usesBox = (page: Page, ids: readonly (string | undefined)[]): boolean =>
  ids.some((id) => {
    const attrs = id && page.byId.get(id)?.attrs;
    return attrs && (attrs.clipPathUnits === 'objectBoundingBox' || attrs.maskUnits !== 'userSpaceOnUse' || attrs.maskContentUnits === 'objectBoundingBox');
  });

/**
 * A clip path as operators (ISO 32000-1 §8.5.4), where one path with one rule can say it; `soft` where only a mask
 * can, `nothing` where it cuts all away.
 */
function hardClip(page: Page, definition: Node, box: Bounds | null, place: Place): string | 'soft' | 'nothing' {
  const { attrs } = definition;
  let outer = '';
  const own = referred(attrs['clip-path']);
  if (own) {
    const further = page.byId.get(own);
    const hard = further ? hardClip(page, further, box, place) : 'nothing';
    if (hard === 'soft' || hard === 'nothing') return hard;
    outer = hard;
  }
  const base = clipBase(definition, box);
  if (!base) return 'nothing';
  const parts: { steps: PathStep[]; rule: string; box: Bounds }[] = [];
  for (const child of definition.children) {
    if (!SHAPES.has(child.tag)) continue;
    if (child.attrs['clip-path'] && child.attrs['clip-path'] !== 'none') return 'soft';
    const style = inherit(inherit(INITIAL, attrs), child.attrs);
    if (child.attrs.display === 'none' || style.visibility !== 'visible') continue;
    const matrix = multiply(base, parseTransform(child.attrs.transform ?? '') ?? IDENTITY);
    const steps = transformed(stepsOf(child), matrix);
    const around = pathBox(steps);
    if (around) parts.push({ steps, rule: style['clip-rule'], box: around });
  }
  if (parts.length === 0) return 'nothing';
  const rule = parts[0].rule;
  const apart = parts.every((one, i) => one.rule === rule && parts.every((other, j) => j <= i || !intersect(one.box, other.box)));
  if (parts.length > 1 && !apart) return 'soft';
  const operators = parts.map(({ steps }) => pathOperators(steps, decimalsFor(place))).join('');
  return `${outer}${operators}W${rule === 'evenodd' ? '*' : ''} n\n`;
}

function clipBase(definition: Node, box: Bounds | null): Matrix | null {
  const units = definition.attrs.clipPathUnits === 'objectBoundingBox' ? boxMatrix(box) : IDENTITY;
  return units && multiply(units, parseTransform(definition.attrs.transform ?? '') ?? IDENTITY);
}

const transformed = (steps: readonly PathStep[], [a, b, c, d, e, f]: Matrix): PathStep[] =>
  steps.map(({ op, n }) => {
    const moved: number[] = [];
    for (let i = 0; i < n.length; i += 2) moved.push(a * n[i] + c * n[i + 1] + e, b * n[i] + d * n[i + 1] + f);
    return { op, n: moved };
  });

/** A clip path as a soft mask: white where it lets through. */
function clipMask(page: Page, definition: Node, box: Bounds | null, place: Place): Ref {
  const form = new Content();
  const at: Place = { ...inStream(place), style: inherit({ ...INITIAL, fill: '#fff' }, definition.attrs), grey: false };
  const drawClip = (clip: Node, to: Content) => {
    const base = clipBase(clip, box);
    if (!base) return;
    const own = referred(clip.attrs['clip-path']);
    to.op('q');
    to.op(`${matrixText(base)} cm`);
    const inner = within(at, base, inherit({ ...INITIAL, fill: '#fff' }, clip.attrs));
    for (const child of clip.children) {
      if (!SHAPES.has(child.tag)) continue;
      const { 'clip-path': further, transform, 'clip-rule': rule, ...geometry } = child.attrs;
      for (const name of ['opacity', 'fill-opacity', 'stroke', 'mask', 'filter', 'style', 'fill']) delete geometry[name];
      const attrs: Record<string, string> = { ...geometry, fill: '#fff', stroke: 'none', 'fill-opacity': '1', 'fill-rule': rule ?? inner.style['clip-rule'] };
      if (further) attrs['clip-path'] = further;
      if (transform) attrs.transform = transform;
      drawNode(page, { ...child, attrs }, inner, to);
    }
    to.op('Q');
    const outer = own ? page.byId.get(own) : undefined;
    if (own && !outer) return;
  };
  const own = referred(definition.attrs['clip-path']);
  const further = own ? page.byId.get(own) : undefined;
  if (own && further) {
    // A clip that is clipped: what both let through.
    drawGroup(page, at, form, { mask: clipMask(page, further, box, at) }, (to) => drawClip(definition, to));
  } else if (!own) drawClip(definition, form);
  return maskObject(page, form, place.seen, 'Alpha');
}

function maskObject({ doc }: Page, form: Content, seen: Bounds, kind: 'Alpha' | 'Luminosity'): Ref {
  const mask = doc.ref({ Type: 'Mask', S: kind, G: formObject(doc, form, seen) });
  mask.end();
  return mask;
}

/** A mask as a soft mask (CSS Masking 1 §5, ISO 32000-1 §11.5); null when there is none. */
function softMask(page: Page, id: string, box: Bounds | null, place: Place): Ref | 'nothing' | null {
  const definition = page.byId.get(id);
  if (definition?.tag !== 'mask') return null;
  const { attrs } = definition;
  const inBox = boxMatrix(box);
  const length = (name: string, otherwise: number) => (attrs[name]?.trim().endsWith('%') ? number(attrs[name], 0) / 100 : number(attrs[name], otherwise));
  const [x, y, width, height] = [length('x', -0.1), length('y', -0.1), length('width', 1.2), length('height', 1.2)];
  let region: Bounds = { minX: x, minY: y, maxX: x + width, maxY: y + height };
  if (attrs.maskUnits !== 'userSpaceOnUse') {
    if (!inBox) return 'nothing';
    region = transformBounds(inBox, region);
  }
  const base = attrs.maskContentUnits === 'objectBoundingBox' ? inBox : IDENTITY;
  const seen = intersect(region, place.seen);
  if (!base || !seen) return 'nothing';
  const luminance = attrs['mask-type'] !== 'alpha';
  const form = new Content();
  const at: Place = { ...inStream(place), seen, style: inherit(INITIAL, attrs), grey: luminance, depth: place.depth + 1 };
  const draw = (to: Content, inner: Place) => {
    to.op(`q\n${nums([region.minX, region.minY, region.maxX - region.minX, region.maxY - region.minY], decimalsFor(place))} re W n`);
    to.op(`${matrixText(base)} cm`);
    drawChildren(page, definition, within(inner, base), to);
    to.op('Q');
  };
  const own = referred(attrs.mask);
  const further = own && own !== id && at.depth < DEEPEST ? softMask(page, own, box, at) : null;
  if (further === 'nothing') return 'nothing';
  if (further) drawGroup(page, at, form, { mask: further }, draw);
  else draw(form, at);
  return maskObject(page, form, seen, luminance ? 'Luminosity' : 'Alpha');
}

/** A node without its effects. */
function drawPlain(page: Page, node: Node, place: Place, alpha: number, content: Content): void {
  if (node.tag === 'g') return drawChildren(page, node, place, content);
  if (place.style.visibility !== 'visible') return;
  if (node.tag === 'image') return drawPicture(page, node, place, alpha, content);
  drawShape(page, node, place, alpha, content);
}

function drawPicture(page: Page, node: Node, place: Place, alpha: number, content: Content): void {
  const picture = page.pictures.get(node.attrs['xlink:href'] ?? '');
  const box = pictureBox(node);
  if (!picture || !box) return;
  const [width, height] = [box.maxX - box.minX, box.maxY - box.minY];
  const object = pictureObject(page.doc, picture, { grey: place.grey, smooth: !/pixelated|crisp-edges|optimizeSpeed/i.test(place.style['image-rendering']) });
  const fit = viewBoxTransform({ x: 0, y: 0, width: picture.width, height: picture.height }, width, height, node.attrs.preserveAspectRatio);
  content.op(`q\n${nums([box.minX, box.minY, width, height], decimalsFor(place))} re W n`);
  if (alpha < 1) content.op(`/${content.name('ExtGState', alphaState(page.doc, alpha, alpha))} gs`);
  // An image fills the unit square, its first row on top.
  const matrix = multiply(multiply([1, 0, 0, 1, box.minX, box.minY], fit), [picture.width, 0, 0, -picture.height, 0, picture.height]);
  content.op(`${matrixText(matrix)} cm\n/${content.name('XObject', object)} Do\nQ`);
}

function alphaState(doc: Doc, fill: number, stroke: number): Ref {
  const state = doc.ref({ Type: 'ExtGState', ca: fill, CA: stroke });
  state.end();
  return state;
}

function paintOf(page: Page, value: string, place: Place, box: () => Bounds | null): Paint {
  const id = referred(value);
  if (id !== undefined) {
    const otherwise = (): Paint => {
      const said = value.replace(/^url\([^)]*\)/, '').trim();
      return said ? paintOf(page, said, place, box) : null;
    };
    const server = page.byId.get(id);
    if (server?.tag === 'pattern') return { kind: 'pattern', node: server, box: box() };
    if (server?.tag === 'linearGradient' || server?.tag === 'radialGradient') {
      const read = readGradient(server, box(), place.style.color, place.grey);
      if (!read) return otherwise();
      return 'line' in read ? { kind: 'gradient', gradient: read } : { kind: 'colour', rgb: read.rgb, alpha: read.alpha };
    }
    return otherwise();
  }
  const colour = parseColour(/^currentcolor$/i.test(value) ? place.style.color : value);
  if (!colour) return null;
  const rgb = [colour.r / 255, colour.g / 255, colour.b / 255];
  return { kind: 'colour', rgb: place.grey ? greyOf(rgb) : rgb, alpha: colour.a };
}

function drawShape(page: Page, node: Node, place: Place, alpha: number, content: Content): void {
  const { style } = place;
  const drawn = stepsOf(node);
  const steps = style['stroke-linecap'] === 'square' ? withoutPoints(drawn, number(style['stroke-width'], 1)) : drawn;
  if (steps.length === 0) return;
  let known: Bounds | null | undefined;
  const box = () => (known === undefined ? (known = pathBox(steps)) : known);
  const fill = node.tag === 'line' ? null : paintOf(page, style.fill, place, box);
  const stroke = paintOf(page, style.stroke, place, box);
  const width = number(style['stroke-width'], 1);
  const fillAlpha = alpha * share(style['fill-opacity']);
  const strokeAlpha = alpha * share(style['stroke-opacity']);
  const operators = pathOperators(steps, decimalsFor(place));
  const evenOdd = style['fill-rule'] === 'evenodd' ? '*' : '';
  const strokes = stroke !== null && width > 0;
  const order = paintOrder(style['paint-order']);

  // The usual case in one go: opaque colours, the stroke over the fill.
  if (fill?.kind === 'colour' && strokes && stroke.kind === 'colour' && fill.alpha * fillAlpha === 1 && stroke.alpha * strokeAlpha === 1 && order.indexOf('fill') < order.indexOf('stroke')) {
    content.op(`q\n${nums(fill.rgb, 5)} rg\n${nums(stroke.rgb, 5)} RG\n${strokeState(style, width, place)}${operators}B${evenOdd}\nQ`);
  } else {
    for (const what of order) {
      if (what === 'fill' && fill) paintPath(page, fill, fillAlpha, place, content, box, 'fill', `${operators}f${evenOdd}`, '');
      if (what === 'stroke' && strokes) paintPath(page, stroke, strokeAlpha, place, content, () => grown(box(), width, style), 'stroke', `${operators}S`, strokeState(style, width, place));
    }
  }
}

/** A point with square caps is a square in SVG and nothing in PDF (ISO 32000-1 §8.5.3.2), so it becomes the shortest of lines. */
const withoutPoints = (steps: readonly PathStep[], width: number): PathStep[] =>
  steps.flatMap((step, i): PathStep[] => {
    const before = steps[i - 1];
    const alone = step.op === 'L' && before?.op === 'M' && step.n[0] === before.n[0] && step.n[1] === before.n[1];
    if (alone && (steps[i + 1]?.op ?? 'M') === 'M') return [{ op: 'L', n: [step.n[0] + width * 1e-3, step.n[1]] }];
    if (alone && steps[i + 1].op === 'Z' && (steps[i + 2]?.op ?? 'M') === 'M') return [{ op: 'L', n: [step.n[0] + width * 1e-3, step.n[1]] }];
    const closes = step.op === 'Z' && before?.op === 'L' && steps[i - 2]?.op === 'M' && before.n[0] === steps[i - 2].n[0] && before.n[1] === steps[i - 2].n[1];
    return closes ? [] : [step];
  });

function grown(box: Bounds | null, width: number, style: Style): Bounds | null {
  const by = (width / 2) * Math.max(Math.SQRT2, style['stroke-linejoin'] === 'miter' ? number(style['stroke-miterlimit'], 4) : 1);
  return box && { minX: box.minX - by, minY: box.minY - by, maxX: box.maxX + by, maxY: box.maxY + by };
}

/** Line width, caps, joins, dashes (ISO 32000-1 §8.4.3). */
function strokeState(style: Style, width: number, place: Place): string {
  const decimals = decimalsFor(place);
  let text = `${num(width, decimals)} w\n`;
  const cap = CAPS[style['stroke-linecap']] ?? 0;
  const join = JOINS[style['stroke-linejoin']] ?? 0;
  if (cap) text += `${cap} J\n`;
  if (join) text += `${join} j\n`;
  else text += `${num(Math.max(1, number(style['stroke-miterlimit'], 4)), 3)} M\n`;
  let dashes =
    style['stroke-dasharray'] === 'none'
      ? []
      : style['stroke-dasharray']
          .split(/[\s,]+/)
          .filter(Boolean)
          .map(Number.parseFloat);
  if (dashes.some((each) => !Number.isFinite(each) || each < 0) || dashes.every((each) => each === 0)) dashes = [];
  if (dashes.length % 2) dashes = [...dashes, ...dashes];
  if (dashes.length > 0) {
    const total = dashes.reduce((sum, each) => sum + each, 0);
    const offset = number(style['stroke-dashoffset'], 0);
    text += `[${nums(dashes, decimals)}] ${num(((offset % total) + total) % total, decimals)} d\n`;
  }
  return text;
}

/** Paints a path that `operators` build and paint, with a colour, a gradient or a pattern. */
function paintPath(page: Page, paint: NonNullable<Paint>, alpha: number, place: Place, content: Content, area: () => Bounds | null, what: 'fill' | 'stroke', operators: string, state: string): void {
  const strokes = what === 'stroke';
  let opacity = alpha;
  let select: string;
  if (paint.kind === 'colour') {
    opacity *= paint.alpha;
    select = `${nums(paint.rgb, 5)} ${strokes ? 'RG' : 'rg'}`;
  } else {
    const box = area();
    if (!box) return;
    const reach = intersect(box, place.seen);
    if (!reach) return;
    let pattern: Ref | null;
    if (paint.kind === 'gradient') {
      const common = commonAlpha(paint.gradient);
      if (common !== null) opacity *= common;
      else return paintThroughAlpha(page, paint.gradient, alpha, place, content, reach, strokes, operators, state);
      pattern = shadingPattern(page.doc, paint.gradient, reach, place.toStream, 'colour');
    } else {
      pattern = tilingPattern(page, paint.node, paint.box, place);
    }
    if (!pattern) return;
    select = `/Pattern ${strokes ? 'CS' : 'cs'} /${content.name('Pattern', pattern)} ${strokes ? 'SCN' : 'scn'}`;
  }
  if (opacity <= 0) return;
  const gs = opacity < 1 ? `/${content.name('ExtGState', alphaState(page.doc, opacity, opacity))} gs\n` : '';
  content.op(`q\n${gs}${select}\n${state}${operators}\nQ`);
}

/** A gradient whose stops differ in alpha: its alpha is a soft mask of the same gradient in grey. */
function paintThroughAlpha(page: Page, gradient: Gradient, alpha: number, place: Place, content: Content, area: Bounds, strokes: boolean, operators: string, state: string): void {
  const { doc } = page;
  const mask = new Content();
  const inGrey = shadingPattern(doc, gradient, area, IDENTITY, 'alpha');
  mask.op(`/Pattern cs /${mask.name('Pattern', inGrey)} scn\n${nums([area.minX, area.minY, area.maxX - area.minX, area.maxY - area.minY], decimalsFor(place))} re f`);
  const soft = doc.ref({ Type: 'Mask', S: 'Luminosity', G: formObject(doc, mask, area, 'DeviceGray') });
  soft.end();
  const gs = doc.ref({ Type: 'ExtGState', SMask: soft, ca: alpha, CA: alpha });
  gs.end();
  const pattern = shadingPattern(doc, gradient, area, place.toStream, 'colour');
  content.op(`q\n/${content.name('ExtGState', gs)} gs\n/Pattern ${strokes ? 'CS' : 'cs'} /${content.name('Pattern', pattern)} ${strokes ? 'SCN' : 'scn'}\n${state}${operators}\nQ`);
}

/** A tiling pattern (ISO 32000-1 §8.7.3); null where it draws nothing (SVG 2 §14.3). */
function tilingPattern(page: Page, node: Node, box: Bounds | null, place: Place): Ref | null {
  if (place.depth > DEEPEST) return null;
  const { attrs } = node;
  const inBox = boxMatrix(box);
  const units = attrs.patternUnits === 'userSpaceOnUse' ? IDENTITY : inBox;
  if (!units) return null;
  const length = (name: string) => (attrs[name]?.trim().endsWith('%') ? number(attrs[name], 0) / 100 : number(attrs[name], 0));
  const [x, y] = [units[0] * length('x') + units[4], units[3] * length('y') + units[5]];
  const [width, height] = [units[0] * length('width'), units[3] * length('height')];
  if (!(width > 0) || !(height > 0)) return null;
  const view = parseViewBox(attrs.viewBox);
  const content = view
    ? viewBoxTransform(view, width, height, attrs.preserveAspectRatio)
    : attrs.patternContentUnits === 'objectBoundingBox'
      ? inBox && ([inBox[0], 0, 0, inBox[3], 0, 0] as Matrix)
      : IDENTITY;
  if (!content) return null;
  const tile = multiply(multiply(parseTransform(attrs.patternTransform ?? '') ?? IDENTITY, [1, 0, 0, 1, x, y]), IDENTITY);
  const stream = new Content();
  const at: Place = {
    ...place,
    style: inherit(INITIAL, attrs),
    toStream: IDENTITY,
    toPage: multiply(place.toPage, tile),
    seen: { minX: 0, minY: 0, maxX: width, maxY: height },
    depth: place.depth + 1,
  };
  // The origin of the content is the tile's corner.
  stream.op(`${matrixText(content)} cm`);
  drawChildren(page, node, within(at, content), stream);
  return stream.toObject(page.doc, {
    Type: 'Pattern',
    PatternType: 1,
    PaintType: 1,
    TilingType: 1,
    BBox: new Exact([0, 0, width, height]),
    XStep: width,
    YStep: height,
    Matrix: new Exact(multiply(place.toStream, tile)),
  });
}
