import {
  boxIn,
  IDENTITY,
  multiply,
  parseTransform,
  pictureBox,
  referred,
  SHAPES,
  type TreeNode,
  viewBoxTransform,
} from '@tolvik/core';
import { blending, inherit, share } from '../svg/style';
import { clipMask, hardClip } from './clips';
import { type Content, matrixText, nums } from './content';
import { drawnByPixels } from './filters';
import { alphaState, drawGroup } from './groups';
import { softMask } from './masks';
import { pictureObject } from './pictures';
import { DEEPEST, decimalsFor, type Page, type Place, within } from './place';
import { drawShape } from './shapes';

/** Draws one composed SVG into content streams (ISO 32000-1 §8, §11). */

const BLEND_MODES: Record<string, string> = Object.fromEntries(
  'multiply screen overlay darken lighten color-dodge color-burn hard-light soft-light difference exclusion hue saturation color luminosity'
    .split(' ')
    .map((name) => [name, name.replace(/(^|-)([a-z])/g, (_, __, letter: string) => letter.toUpperCase())]),
);

export function drawChildren(page: Page, node: TreeNode, place: Place, content: Content): void {
  for (const child of node.children) drawNode(page, child, place, content);
}

export function drawNode(page: Page, node: TreeNode, parent: Place, content: Content): void {
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
function drawWithEffects(page: Page, node: TreeNode, place: Place, opacity: number, content: Content): void {
  const { attrs } = node;
  const { mode, isolated } = blending(attrs);
  const blend = BLEND_MODES[mode];
  const clip = referred(attrs['clip-path']);
  const mask = referred(attrs.mask);
  const filtered = attrs.filter !== undefined && attrs.filter !== 'none';
  const box = (clip || mask) && usesBox(page, [clip, mask]) ? boxIn(node) : null;
  let softClip: TreeNode | null = null;
  if (clip) {
    const definition = page.byId.get(clip);
    if (!definition) return;
    const hard = hardClip(page, definition, box, place);
    if (hard === 'nothing') return;
    if (hard === 'soft') softClip = definition;
    else content.op(hard);
  }
  const inner = (to: Content, at: Place, alpha: number) => {
    if (filtered) drawnByPixels(page, node, at, alpha, to);
    else drawPlain(page, node, at, alpha, to);
  };
  const isGroup =
    mask !== undefined ||
    softClip !== null ||
    blend !== undefined ||
    isolated ||
    (opacity < 1 && !isSimple(node, place));
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
      make = (to, at) => drawGroup(page, at, to, { mask: soft }, draw);
    }
  }
  drawGroup(page, place, content, { alpha: opacity, blend }, make);
}

/** Painted once, so that its opacity is that of its paint. */
function isSimple(node: TreeNode, { style }: Place): boolean {
  if (node.tag === 'image') return true;
  if (node.tag === 'g') return false;
  return style.fill === 'none' || style.stroke === 'none';
}

const usesBox = (page: Page, ids: readonly (string | undefined)[]): boolean =>
  ids.some((id) => {
    const attrs = id && page.byId.get(id)?.attrs;
    return (
      attrs &&
      (attrs.clipPathUnits === 'objectBoundingBox' ||
        attrs.maskUnits !== 'userSpaceOnUse' ||
        attrs.maskContentUnits === 'objectBoundingBox')
    );
  });

/** A node without its effects. */
function drawPlain(page: Page, node: TreeNode, place: Place, alpha: number, content: Content): void {
  if (node.tag === 'g') return drawChildren(page, node, place, content);
  if (place.style.visibility !== 'visible') return;
  if (node.tag === 'image') return drawPicture(page, node, place, alpha, content);
  drawShape(page, node, place, alpha, content);
}

function drawPicture(page: Page, node: TreeNode, place: Place, alpha: number, content: Content): void {
  const picture = page.pictures.get(node.attrs['xlink:href'] ?? '');
  const box = pictureBox(node);
  if (!picture || !box) return;
  const [width, height] = [box.maxX - box.minX, box.maxY - box.minY];
  const object = pictureObject(page.doc, picture, {
    grey: place.grey,
    smooth: !/pixelated|crisp-edges|optimizeSpeed/i.test(place.style['image-rendering']),
  });
  const fit = viewBoxTransform(
    { x: 0, y: 0, width: picture.width, height: picture.height },
    width,
    height,
    node.attrs.preserveAspectRatio,
  );
  content.op(`q\n${nums([box.minX, box.minY, width, height], decimalsFor(place))} re W n`);
  if (alpha < 1) content.op(`/${content.name('ExtGState', alphaState(page.doc, alpha, alpha))} gs`);
  // An image fills the unit square, its first row on top.
  const matrix = multiply(multiply([1, 0, 0, 1, box.minX, box.minY], fit), [
    picture.width,
    0,
    0,
    -picture.height,
    0,
    picture.height,
  ]);
  content.op(`${matrixText(matrix)} cm\n/${content.name('XObject', object)} Do\nQ`);
}
