import {
  type Bounds,
  IDENTITY,
  intersect,
  type Matrix,
  multiply,
  type PathStep,
  parseTransform,
  pathBox,
  referred,
  SHAPES,
  stepsOf,
  type TreeNode,
} from '@tolvik/core';
import { boxMatrix } from '../svg/definition-spaces';
import { INITIAL, inherit } from '../svg/style';
import { Content, matrixText, type Ref } from './content';
import { drawGroup, maskObject } from './groups';
import { pathOperators } from './paths';
import { DEEPEST, decimalsFor, inStream, type Page, type Place, within } from './place';

/**
 * A clip path as operators (ISO 32000-1 §8.5.4), where one path with one rule can say it; `soft` where only a mask
 * can, `nothing` where it cuts all away.
 */
export function hardClip(
  page: Page,
  definition: TreeNode,
  box: Bounds | null,
  place: Place,
): string | 'soft' | 'nothing' {
  const { attrs } = definition;
  let outer = '';
  const own = referred(attrs['clip-path']);
  if (own) {
    const further = place.depth < DEEPEST ? page.byId.get(own) : undefined;
    const hard = further ? hardClip(page, further, box, { ...place, depth: place.depth + 1 }) : 'nothing';
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
  const apart = parts.every(
    (one, i) => one.rule === rule && parts.every((other, j) => j <= i || !intersect(one.box, other.box)),
  );
  if (parts.length > 1 && !apart) return 'soft';
  const operators = parts.map(({ steps }) => pathOperators(steps, decimalsFor(place))).join('');
  return `${outer}${operators}W${rule === 'evenodd' ? '*' : ''} n\n`;
}

function clipBase(definition: TreeNode, box: Bounds | null): Matrix | null {
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
export function clipMask(page: Page, definition: TreeNode, box: Bounds | null, place: Place): Ref {
  const form = new Content();
  const at: Place = { ...inStream(place), style: inherit({ ...INITIAL, fill: '#fff' }, definition.attrs), grey: false };
  const drawClip = (clip: TreeNode, to: Content) => {
    const base = clipBase(clip, box);
    if (!base) return;
    to.op('q');
    to.op(`${matrixText(base)} cm`);
    const inner = within(at, base, inherit({ ...INITIAL, fill: '#fff' }, clip.attrs));
    for (const child of clip.children) {
      if (!SHAPES.has(child.tag)) continue;
      const { 'clip-path': further, transform, 'clip-rule': rule, ...geometry } = child.attrs;
      for (const name of ['opacity', 'fill-opacity', 'stroke', 'mask', 'filter', 'style', 'fill'])
        delete geometry[name];
      const attrs: Record<string, string> = {
        ...geometry,
        fill: '#fff',
        stroke: 'none',
        'fill-opacity': '1',
        'fill-rule': rule ?? inner.style['clip-rule'],
      };
      if (further) attrs['clip-path'] = further;
      if (transform) attrs.transform = transform;
      page.drawNode(page, { ...child, attrs }, inner, to);
    }
    to.op('Q');
  };
  const own = referred(definition.attrs['clip-path']);
  const further = own && place.depth < DEEPEST ? page.byId.get(own) : undefined;
  if (own && further) {
    // A clip that is clipped: what both let through.
    drawGroup(page, at, form, { mask: clipMask(page, further, box, { ...at, depth: at.depth + 1 }) }, (to) =>
      drawClip(definition, to),
    );
  } else if (!own) drawClip(definition, form);
  return maskObject(page, form, place.seen, 'Alpha');
}
