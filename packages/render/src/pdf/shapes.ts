import {
  type Bounds,
  IDENTITY,
  intersect,
  type PathStep,
  parseColour,
  pathBox,
  referred,
  stepsOf,
  type TreeNode,
} from '@tolvik/core';
import { patternSpace } from '../svg/definition-spaces';
import { number, paintOrder, type Style, share } from '../svg/style';
import { Content, num, nums, type Ref } from './content';
import { commonAlpha, type Gradient, greyOf, readGradient } from './gradients';
import { alphaState, formObject, plainForm } from './groups';
import { pathOperators } from './paths';
import { tilingPattern } from './patterns';
import { decimalsFor, type Page, type Place } from './place';
import { paintedInBands, shadingPattern } from './shadings';

const CAPS: Record<string, number> = { butt: 0, round: 1, square: 2 };
const JOINS: Record<string, number> = { miter: 0, round: 1, bevel: 2 };

type Paint =
  | { kind: 'colour'; rgb: readonly number[]; alpha: number }
  | { kind: 'gradient'; gradient: Gradient }
  | { kind: 'pattern'; node: TreeNode; box: Bounds | null }
  | null;

function paintOf(page: Page, value: string, place: Place, box: () => Bounds | null): Paint {
  const id = referred(value);
  if (id !== undefined) {
    const otherwise = (): Paint => {
      const said = value.replace(/^url\([^)]*\)/, '').trim();
      return said ? paintOf(page, said, place, box) : null;
    };
    const server = page.byId.get(id);
    if (server?.tag === 'pattern')
      return patternSpace(server, box()) ? { kind: 'pattern', node: server, box: box() } : otherwise();
    if (server?.tag === 'linearGradient' || server?.tag === 'radialGradient') {
      const read = readGradient(server, box(), place.style.color, place.grey);
      if (!read) return otherwise();
      return 'line' in read
        ? { kind: 'gradient', gradient: read }
        : { kind: 'colour', rgb: read.rgb, alpha: read.alpha };
    }
    return otherwise();
  }
  const colour = parseColour(/^currentcolor$/i.test(value) ? place.style.color : value);
  if (!colour) return null;
  const rgb = [colour.r / 255, colour.g / 255, colour.b / 255];
  return { kind: 'colour', rgb: place.grey ? greyOf(rgb) : rgb, alpha: colour.a };
}

/** A shape's fill and stroke, in the order that `paint-order` says. */
export function drawShape(page: Page, node: TreeNode, place: Place, alpha: number, content: Content): void {
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
  if (
    fill?.kind === 'colour' &&
    strokes &&
    stroke.kind === 'colour' &&
    fill.alpha * fillAlpha === 1 &&
    stroke.alpha * strokeAlpha === 1 &&
    order.indexOf('fill') < order.indexOf('stroke')
  ) {
    content.op(
      `q\n${nums(fill.rgb, 5)} rg\n${nums(stroke.rgb, 5)} RG\n${strokeState(style, width, place)}${operators}B${evenOdd}\nQ`,
    );
  } else {
    for (const what of order) {
      if (what === 'fill' && fill)
        paintPath(page, fill, fillAlpha, place, content, box, 'fill', `${operators}f${evenOdd}`, '');
      if (what === 'stroke' && strokes)
        paintPath(
          page,
          stroke,
          strokeAlpha,
          place,
          content,
          () => grown(box(), width, style),
          'stroke',
          `${operators}S`,
          strokeState(style, width, place),
        );
    }
  }
}

/** A point with square caps is a square in SVG and nothing in PDF (ISO 32000-1 §8.5.3.2), so it becomes the shortest of lines. */
const withoutPoints = (steps: readonly PathStep[], width: number): PathStep[] =>
  steps.flatMap((step, i): PathStep[] => {
    const before = steps[i - 1];
    const alone = step.op === 'L' && before?.op === 'M' && step.n[0] === before.n[0] && step.n[1] === before.n[1];
    if (alone && (steps[i + 1]?.op ?? 'M') === 'M') return [{ op: 'L', n: [step.n[0] + width * 1e-3, step.n[1]] }];
    if (alone && steps[i + 1].op === 'Z' && (steps[i + 2]?.op ?? 'M') === 'M')
      return [{ op: 'L', n: [step.n[0] + width * 1e-3, step.n[1]] }];
    const closes =
      step.op === 'Z' &&
      before?.op === 'L' &&
      steps[i - 2]?.op === 'M' &&
      before.n[0] === steps[i - 2].n[0] &&
      before.n[1] === steps[i - 2].n[1];
    return closes ? [] : [step];
  });

function grown(box: Bounds | null, width: number, style: Style): Bounds | null {
  const by =
    (width / 2) *
    Math.max(Math.SQRT2, style['stroke-linejoin'] === 'miter' ? number(style['stroke-miterlimit'], 4) : 1);
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
function paintPath(
  page: Page,
  paint: NonNullable<Paint>,
  alpha: number,
  place: Place,
  content: Content,
  area: () => Bounds | null,
  what: 'fill' | 'stroke',
  operators: string,
  state: string,
): void {
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
      if (opacity <= 0) return;
      const bands = strokes ? null : paintedInBands(page.doc, paint.gradient, reach, 'colour');
      if (bands) {
        if (opacity === 1) return fillWith(plainForm(page.doc, bands, reach), null, operators, content);
        return fillWith(formObject(page.doc, bands, reach), alphaState(page.doc, opacity, opacity), operators, content);
      }
      pattern = shadingPattern(page.doc, paint.gradient, reach, place.toStream, 'colour');
    } else {
      if (opacity <= 0) return;
      // In a form of its own: some programs that show PDF make each thing in a tile see-through by itself.
      if (opacity < 1) return throughForm(page, paint, opacity, place, content, box, strokes, operators, state);
      pattern = tilingPattern(page, paint.node, paint.box, place);
    }
    if (!pattern) return;
    select = `/Pattern ${strokes ? 'CS' : 'cs'} /${content.name('Pattern', pattern)} ${strokes ? 'SCN' : 'scn'}`;
  }
  if (opacity <= 0) return;
  const gs = opacity < 1 ? `/${content.name('ExtGState', alphaState(page.doc, opacity, opacity))} gs\n` : '';
  content.op(`q\n${gs}${select}\n${state}${operators}\nQ`);
}

/** A path painted with a pattern, see-through as a whole. */
function throughForm(
  page: Page,
  paint: Extract<NonNullable<Paint>, { kind: 'pattern' }>,
  opacity: number,
  place: Place,
  content: Content,
  area: Bounds,
  strokes: boolean,
  operators: string,
  state: string,
): void {
  const pattern = tilingPattern(page, paint.node, paint.box, { ...place, toStream: IDENTITY });
  if (!pattern) return;
  const form = new Content();
  form.op(
    `/Pattern ${strokes ? 'CS' : 'cs'} /${form.name('Pattern', pattern)} ${strokes ? 'SCN' : 'scn'}\n${state}${operators}`,
  );
  content.op(
    `q\n/${content.name('ExtGState', alphaState(page.doc, opacity, opacity))} gs\n/${content.name('XObject', formObject(page.doc, form, area))} Do\nQ`,
  );
}

/** Fills a path, that `operators` build and fill, with what a form draws. */
function fillWith(form: Ref, state: Ref | null, operators: string, content: Content): void {
  const gs = state ? `/${content.name('ExtGState', state)} gs\n` : '';
  content.op(`q\n${gs}${operators.replace(/f(\*?)$/, 'W$1 n')}\n/${content.name('XObject', form)} Do\nQ`);
}

/** A gradient whose stops differ in alpha: its alpha is a soft mask of the same gradient in grey. */
function paintThroughAlpha(
  page: Page,
  gradient: Gradient,
  alpha: number,
  place: Place,
  content: Content,
  area: Bounds,
  strokes: boolean,
  operators: string,
  state: string,
): void {
  const { doc } = page;
  const mask = new Content();
  const bands = paintedInBands(doc, gradient, area, 'alpha');
  const inGrey = shadingPattern(doc, gradient, area, IDENTITY, 'alpha');
  mask.op(
    `/Pattern cs /${mask.name('Pattern', inGrey)} scn\n${nums([area.minX, area.minY, area.maxX - area.minX, area.maxY - area.minY], decimalsFor(place))} re f`,
  );
  const soft = doc.ref({ Type: 'Mask', S: 'Luminosity', G: formObject(doc, bands ?? mask, area, 'DeviceGray') });
  soft.end();
  const gs = doc.ref({ Type: 'ExtGState', SMask: soft, ca: alpha, CA: alpha });
  gs.end();
  const coloured = strokes ? null : paintedInBands(doc, gradient, area, 'colour');
  if (coloured) return fillWith(formObject(doc, coloured, area), gs, operators, content);
  const pattern = shadingPattern(doc, gradient, area, strokes ? IDENTITY : place.toStream, 'colour');
  const select = (to: Content) =>
    `/Pattern ${strokes ? 'CS' : 'cs'} /${to.name('Pattern', pattern)} ${strokes ? 'SCN' : 'scn'}\n${state}${operators}`;
  if (!strokes) return content.op(`q\n/${content.name('ExtGState', gs)} gs\n${select(content)}\nQ`);
  // In a form of its own: a program that shows PDF cuts off the tips of a stroke painted through a mask.
  const form = new Content();
  form.op(select(form));
  content.op(`q\n/${content.name('ExtGState', gs)} gs\n/${content.name('XObject', formObject(doc, form, area))} Do\nQ`);
}
