import { type Bounds, boundsOf, isIdentity, printNumber, printTransform } from '../../geometry/matrix';
import { parseViewBox, type ViewBox } from '../../geometry/viewport';
import { INHERITED, LENGTHS_DIAGONAL, LENGTHS_X, LENGTHS_Y, PRESENTATION } from '../../profile/allow-list';
import { INITIAL } from '../../profile/initial-values';
import { plainText } from '../../profile/values';
import { parseColour, printColour } from '../colour/colours';
import { lengthPx, type Measures, withVariables } from '../markup/css-values';
import { namesIn } from '../markup/names';
import type { Tell } from '../markup/told';
import { isElement, type XmlElement } from '../markup/xml';
import { cascade, PROPERTIES } from './cascade';
import type { Declaration } from './css-rules';
import { cssTransform } from './css-transform';
import { elementBox, lengthOf } from './element-box';
import { type FontSaid, fontMeasures, fontOf, NO_FONT } from './font-measures';

/** Properties of which no attribute may speak (Compositing and Blending 1 §3, CSS Transforms 2). */
const ONLY_IN_CSS = new Set(['mix-blend-mode', 'isolation']);
const COLOURS = new Set(['color', 'stop-color', 'flood-color', 'lighting-color']);
const PAINTS = new Set(['fill', 'stroke']);
const SHARES = new Set(['opacity', 'fill-opacity', 'stroke-opacity', 'stop-opacity', 'flood-opacity']);
const GEOMETRY = new Set(['x', 'y', 'width', 'height', 'cx', 'cy', 'r', 'rx', 'ry', 'd']);
const TRANSFORMS = new Set(['transform', 'transform-origin', 'transform-box', 'translate', 'rotate', 'scale']);
/** Lists of lengths on text, in its own font size. */
const TEXT_LISTS = new Set(['x', 'y', 'dx', 'dy']);
const TEXT_TAGS = new Set(['text', 'tspan', 'textPath']);
const WITH_PATH_LENGTH = new Set(['path', 'rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon']);

const FONT_SIZES: Record<string, number> = {
  'xx-small': 9,
  'x-small': 10,
  small: 13,
  medium: 16,
  large: 18,
  'x-large': 24,
  'xx-large': 32,
  'xxx-large': 48,
};
const LARGER = 1.2;
/** A value that says how it is worked out: what cannot be read of it is no slip of the pen. */
const FUNCTION = /(?:^|[\s,])(?!url\(|path\()-?[a-z][\w-]*\(/i;

/** What an element takes from those around it. */
type Around = {
  variables: ReadonlyMap<string, string>;
  fontSize: number;
  rootFontSize: number;
  font: FontSaid;
  view: { width: number; height: number; box: ViewBox | null };
  dashes: string | undefined;
  dashOffset: string | undefined;
  white: boolean;
  letters: string;
};

/** Turns anything around a parsed value into what an attribute may say; null when the value is void (CSS Syntax 3 §5.4.4). */
type Read = (name: string, value: string) => string | null;

/**
 * Style sheets, `style` attributes and presentation attributes as the attributes that each element ends up with
 * (CSS Cascade 5): variables replaced, shorthands taken apart, lengths in px, percentages of opacity as numbers,
 * colours in one form, transforms as one matrix. Afterwards the tree depends on no style sheet.
 */
export function resolveStyles(root: XmlElement, tell: Tell): void {
  const box = parseViewBox(root.attrs.viewBox);
  const absolute: Measures = { fontSize: 16, rootFontSize: 16, viewWidth: 100, viewHeight: 100, percentOf: 100 };
  const side = (text: string | undefined, otherwise: number) =>
    text === undefined || text.includes('%') ? otherwise : (lengthPx(text, absolute) ?? otherwise);
  const size = {
    width: side(root.attrs.width, box?.width ?? 300),
    height: side(root.attrs.height, box?.height ?? 150),
  };
  const declared = cascade(root, size, tell);
  const nameOf = namesIn(root);

  const visit = (node: XmlElement, around: Around, parentAttrs: Readonly<Record<string, string>> | null): void => {
    if (node.foreign) return;
    const inner = compute(node, declared.get(node) ?? [], around, parentAttrs, size, (what) =>
      tell(what, nameOf(node)),
    );
    for (const child of node.children) if (isElement(child)) visit(child, inner, node.attrs);
    if (inner.white || inner.letters)
      node.children = node.children.map((child) =>
        isElement(child) || !TEXT_TAGS.has(node.tag) ? child : lettered(child, inner),
      );
  };
  visit(
    root,
    {
      variables: new Map(),
      fontSize: 16,
      rootFontSize: 16,
      font: NO_FONT,
      view: { ...(box ?? size), box: box ?? { x: 0, y: 0, ...size } },
      dashes: undefined,
      dashOffset: undefined,
      white: false,
      letters: '',
    },
    null,
  );
}

const NO_BREAK_SPACE = '\u00a0';

function lettered(text: string, { white, letters }: Around): string {
  const cased =
    letters === 'uppercase'
      ? text.toUpperCase()
      : letters === 'lowercase'
        ? text.toLowerCase()
        : letters === 'capitalize'
          ? text.replace(/(^|\s)(\p{L})/gu, (_, before, letter) => before + letter.toUpperCase())
          : text;
  return white ? cased.replace(/[\t\n\r ]/g, NO_BREAK_SPACE) : cased;
}

function compute(
  node: XmlElement,
  declarations: readonly Declaration[],
  around: Around,
  /** Null for the root. */
  parentAttrs: Readonly<Record<string, string>> | null,
  size: { width: number; height: number },
  tell: Tell,
): Around {
  const attrs = node.attrs;
  let { variables } = around;
  const own = declarations.filter(({ name }) => name.startsWith('--'));
  if (own.length > 0) {
    const merged = new Map(variables);
    for (const { name, value } of own) merged.set(name, value);
    variables = merged;
  }
  const lookup = (name: string, seen: readonly string[] = []): string | null => {
    const value = variables.get(name);
    return value === undefined || seen.includes(name)
      ? null
      : withVariables(value, (inner) => lookup(inner, [...seen, name]));
  };

  // From the weakest to the strongest: attributes, then what is declared.
  const said = new Map<string, string>();
  for (const name of Object.keys(attrs)) {
    if (PRESENTATION.has(name) && !ONLY_IN_CSS.has(name)) said.set(name, attrs[name]);
    if (ONLY_IN_CSS.has(name)) delete attrs[name];
  }
  const measures: Measures = {
    fontSize: around.fontSize,
    rootFontSize: around.rootFontSize,
    viewWidth: size.width,
    viewHeight: size.height,
    percentOf: 0,
  };
  const fromSheet = new Set<string>();
  const sizes = [attrs['font-size']];
  // Attributes are read as style sheets are (SVG 2 §6.6): their variables, too. One without a value makes its attribute void.
  const settle: { name: string; value: string; css: boolean }[] = [...said].flatMap(([name, value]) => {
    const replaced = value.includes('var(') ? withVariables(value, lookup) : value;
    return replaced === null ? [] : [{ name, value: replaced, css: false }];
  });
  for (const { name, value } of declarations) {
    if (name.startsWith('--') || !PROPERTIES.has(name)) continue;
    const replaced = withVariables(value, lookup);
    for (const [part, text] of longhands(name, replaced ?? 'unset')) {
      settle.push({ name: part, value: text, css: true });
      if (part === 'font-size') sizes.push(text);
    }
  }
  said.clear();
  const fontSize = fontSizeOf(sizes, around);
  const font = fontOf(settle, around.font);
  const inFont = fontMeasures(font);
  measures.fontSize = fontSize;
  if (inFont) measures.font = inFont;
  if (!parentAttrs) measures.rootFontSize = fontSize;

  const read: Read = (name, value) => readValue(name, value, measures, around.view);
  for (const { name, value, css } of settle) {
    const word = value.trim().toLowerCase();
    if (word === 'inherit' || word === 'unset' || word === 'revert' || word === 'revert-layer' || word === 'initial') {
      said.delete(name);
      fromSheet.delete(name);
      if (word === 'inherit' && !INHERITED.has(name) && parentAttrs && name in parentAttrs)
        said.set(name, parentAttrs[name]);
      if (word === 'initial' && INHERITED.has(name) && INITIAL[name]) said.set(name, INITIAL[name]);
      continue;
    }
    if (css && GEOMETRY.has(name) && TEXT_TAGS.has(node.tag)) continue;
    const settled = read(name, value);
    if (settled === null) {
      if (FUNCTION.test(value)) tell(`a ${name} that is worked out by a function (${plainText(value, 30)})`);
      else if (LENGTHS_DIAGONAL.has(name) && !/^(auto|medium)$/.test(word))
        tell(`a ${name} that is not a number ("${plainText(value, 20)}")`);
      continue;
    }
    said.set(name, settled);
    if (css) fromSheet.add(name);
  }
  for (const name of Object.keys(attrs)) if (PRESENTATION.has(name)) delete attrs[name];
  delete attrs.style;
  delete attrs.class;
  const transform: Record<string, string> = {};
  for (const [name, value] of said) {
    if (TRANSFORMS.has(name)) transform[name] = value;
    else if (
      name === 'white-space' ||
      name === 'text-transform' ||
      name.startsWith('background') ||
      name.startsWith('font-feature') ||
      name === 'font-kerning'
    )
      continue;
    else attrs[name === 'text-decoration-line' ? 'text-decoration' : name] = value;
  }
  if (sizes.some((each) => each !== undefined)) attrs['font-size'] = printNumber(fontSize);
  if (!inFont && Object.values(attrs).some((value) => value.length < 100 && /^[-+\d.\s,]+(ex|ch)$/i.test(value)))
    tell('a length in ex or ch, taken for half the size of the letters');
  geometryInPx(node, measures, around.view);
  if (node.tag === 'svg' && (said.has('background') || said.has('background-color')) && !parentAttrs)
    tell('a background that a style sheet gives the page');
  transformed(node, transform, measures, around.view, tell);

  const dashes = attrs['stroke-dasharray'] ?? around.dashes;
  const dashOffset = attrs['stroke-dashoffset'] ?? around.dashOffset;
  if (attrs.pathLength !== undefined && WITH_PATH_LENGTH.has(node.tag)) withoutPathLength(node, dashes, dashOffset);

  const space =
    said.get('white-space') ??
    (attrs['xml:space'] === 'preserve' ? 'pre' : attrs['xml:space'] === 'default' ? 'normal' : undefined);
  const viewBox = node.tag === 'svg' || node.tag === 'symbol' ? parseViewBox(attrs.viewBox) : null;
  return {
    variables,
    fontSize,
    rootFontSize: measures.rootFontSize,
    font,
    view: viewBox ? { width: viewBox.width, height: viewBox.height, box: viewBox } : around.view,
    dashes,
    dashOffset,
    white: space === undefined ? around.white : /^(pre|break-spaces|pre-wrap)$/i.test(space),
    letters: said.get('text-transform')?.toLowerCase() ?? around.letters,
  };
}

/** A declaration as the properties it sets; shorthands are taken apart. */
function longhands(name: string, value: string): [string, string][] {
  if (name === 'marker') return ['marker-start', 'marker-mid', 'marker-end'].map((part) => [part, value]);
  if (name === 'font') return fontParts(value);
  if (name === 'font-variant-caps') return [['font-variant', value]];
  if (name === 'transform-origin' || name !== 'text-decoration') return [[name, value]];
  const line = /\b(underline|overline|line-through)\b/gi;
  return [[name, (value.match(line) ?? ['none']).join(' ')]];
}

/** The `font` shorthand (CSS Fonts 4 §4.1). */
function fontParts(value: string): [string, string][] {
  const match =
    /^(.*?)\s*((?:[\d.]+(?:px|pt|pc|mm|cm|in|q|em|rem|ex|ch|vw|vh|%))|xx-small|x-small|small|medium|large|x-large|xx-large|xxx-large|smaller|larger)\s*(?:\/\s*[^\s]+\s*)?\s+(\S.*)$/is.exec(
      ` ${value.trim()}`,
    );
  if (!match) return [];
  const [, before, size, family] = match;
  const words = before.trim().toLowerCase().split(/\s+/);
  return [
    ['font-style', words.find((word) => /^(italic|oblique)$/.test(word)) ?? 'normal'],
    ['font-weight', words.find((word) => /^(bold|bolder|lighter|\d{1,4})$/.test(word)) ?? '400'],
    ['font-variant', words.includes('small-caps') ? 'small-caps' : 'normal'],
    ['font-size', size],
    ['font-family', family],
  ];
}

/** The last size that can be read, in px (CSS Fonts 4 §2.5). */
function fontSizeOf(sizes: readonly (string | undefined)[], { fontSize, rootFontSize, font, view }: Around): number {
  const measures: Measures = {
    fontSize,
    font: fontMeasures(font) ?? undefined,
    rootFontSize,
    viewWidth: view.width,
    viewHeight: view.height,
    percentOf: fontSize,
  };
  for (const said of [...sizes].reverse()) {
    const text = said?.trim().toLowerCase();
    if (!text) continue;
    if (text === 'inherit' || text === 'unset') return fontSize;
    if (text === 'initial') return FONT_SIZES.medium;
    if (text === 'larger') return fontSize * LARGER;
    if (text === 'smaller') return fontSize / LARGER;
    const px = FONT_SIZES[text] ?? lengthPx(text, measures);
    if (px !== undefined && px >= 0) return px;
  }
  return fontSize;
}

function readValue(
  name: string,
  value: string,
  measures: Measures,
  view: { width: number; height: number },
): string | null {
  const text = value.trim();
  const word = text.toLowerCase();
  if (PAINTS.has(name)) return paint(text, word);
  if (COLOURS.has(name)) return word === 'currentcolor' ? 'currentColor' : colour(text);
  if (SHARES.has(name)) {
    // A plain number stays as it was written.
    if (/^(?:0|1|0?\.\d+)$/.test(text)) return text;
    const number = lengthPx(text, { ...measures, percentOf: 1 });
    return number === undefined ? null : printNumber(Math.min(1, Math.max(0, number)));
  }
  if (name === 'font-size') return text;
  if (name === 'd')
    return word === 'none'
      ? ''
      : (/^path\(\s*(['"])(.*)\1\s*\)$/s.exec(text)?.[2] ?? (/^\s*m/i.test(text) ? text : null));
  if (name === 'stroke-dasharray') return dashArray(text, word, measures, view);
  if (name === 'stroke-miterlimit') return Number.isFinite(Number(text)) ? text : null;
  if (name === 'baseline-shift')
    return /^(sub|super|baseline)$/.test(word) ? word : inPx(text, measures, measures.fontSize);
  if (name === 'letter-spacing' || name === 'word-spacing')
    return word === 'normal' ? '0' : inPx(text, measures, measures.fontSize);
  if (LENGTHS_DIAGONAL.has(name)) return /^auto$/.test(word) ? null : inPx(text, measures, diagonal(view));
  if (LENGTHS_X.has(name)) return word === 'auto' ? '' : inPx(text, measures, view.width);
  if (LENGTHS_Y.has(name)) return word === 'auto' ? '' : inPx(text, measures, view.height);
  return text;
}

const diagonal = ({ width, height }: { width: number; height: number }) => Math.hypot(width, height) / Math.SQRT2;

function inPx(text: string, measures: Measures, percentOf: number): string | null {
  // A plain number stays as it was written.
  if (/^[-+]?[\d.]+$/.test(text)) return text;
  const px = lengthPx(text, { ...measures, percentOf });
  return px === undefined ? null : printNumber(px, 9);
}

function dashArray(
  text: string,
  word: string,
  measures: Measures,
  view: { width: number; height: number },
): string | null {
  if (word === 'none') return 'none';
  const dashes = text
    .split(/[\s,]+/)
    .filter(Boolean)
    .map((part) => lengthPx(part, { ...measures, percentOf: diagonal(view) }));
  if (dashes.length === 0 || dashes.some((dash) => dash === undefined || dash < 0)) return 'none';
  return dashes.map((dash) => printNumber(dash as number, 9)).join(' ');
}

const PLAIN_COLOUR = /^(#[0-9a-f]{3}|#[0-9a-f]{6}|[a-z]+|rgb\(\s*\d+%?\s*,\s*\d+%?\s*,\s*\d+%?\s*\))$/i;

/** A colour in a form that every writer knows: as written where that is plain, else hexadecimal, or `rgba()` where it is see-through. */
function colour(text: string): string | null {
  const read = parseColour(text);
  if (!read) return text.toLowerCase() === 'transparent' ? 'rgba(0,0,0,0)' : null;
  if (
    PLAIN_COLOUR.test(text) &&
    text.toLowerCase() !== 'rebeccapurple' &&
    read.a === 1 &&
    Math.max(...(text.match(/\d+/g) ?? []).map(Number)) <= 255
  )
    return text;
  return read.a < 1 ? `rgba(${read.r},${read.g},${read.b},${printNumber(read.a, 4)})` : printColour(read);
}

function paint(text: string, word: string): string | null {
  if (word === 'none' || word === 'context-fill' || word === 'context-stroke') return word;
  if (word === 'currentcolor') return 'currentColor';
  const reference = /^(url\((?:[^)"']|"[^"]*"|'[^']*')*\))\s*(.*)$/is.exec(text);
  if (!reference) return colour(text);
  const otherwise = reference[2] ? paint(reference[2], reference[2].toLowerCase()) : null;
  return otherwise ? `${reference[1]} ${otherwise}` : reference[1];
}

/** Geometry attributes with units or `calc()` in px; percentages stay, since they may be of a box. */
function geometryInPx(node: XmlElement, measures: Measures, view: { width: number; height: number }): void {
  const { attrs, tag } = node;
  for (const name of Object.keys(attrs)) {
    const isX = LENGTHS_X.has(name);
    if (!isX && !LENGTHS_Y.has(name) && !(LENGTHS_DIAGONAL.has(name) && !PRESENTATION.has(name))) continue;
    const text = attrs[name].trim();
    if (text === '' || text.toLowerCase() === 'auto') {
      delete attrs[name];
      continue;
    }
    if (!/[a-z(]/i.test(text.replace(/(\d)e([-+]?\d)/gi, '$1$2'))) continue;
    const full = isX ? view.width : view.height;
    if (TEXT_TAGS.has(tag) && TEXT_LISTS.has(name))
      attrs[name] = text
        .split(/[\s,]+/)
        .map((part) => inPx(part, measures, full) ?? '0')
        .join(' ');
    else attrs[name] = inPx(text, measures, full) ?? text;
  }
}

/** Every way to say a transform as one matrix in the attribute `transform`. */
function transformed(
  node: XmlElement,
  said: Record<string, string>,
  measures: Measures,
  view: Around['view'],
  tell: Tell,
): void {
  const { attrs } = node;
  const origin = said['transform-origin'] ?? attrs['transform-origin'];
  delete attrs['transform-origin'];
  const css =
    said.transform !== undefined ||
    said.translate !== undefined ||
    said.rotate !== undefined ||
    said.scale !== undefined;
  // Gradients and patterns turn by attributes of their own; letters by a list.
  if (!css && (origin === undefined || attrs.transform === undefined)) return;
  const ownBox = /^(fill-box|content-box|stroke-box|border-box)$/i.test(said['transform-box'] ?? '');
  const own = ownBox ? elementBox(node) : null;
  if (ownBox && !own) tell('a transform around the middle of something whose size is not known');
  const box: Bounds = own ?? boundsOf(view.box ?? { x: 0, y: 0, width: view.width, height: view.height });
  const matrix = cssTransform(
    {
      transform: said.transform ?? attrs.transform,
      origin,
      translate: said.translate,
      rotate: said.rotate,
      scale: said.scale,
    },
    box,
    measures,
  );
  if (!matrix) return tell('a transform that cannot be read');
  if (isIdentity(matrix)) delete attrs.transform;
  else attrs.transform = printTransform(matrix) || 'translate(0)';
}

/** Dashes told in shares of a path's own length in px (SVG 2 §9.6.1). */
function withoutPathLength(node: XmlElement, dashes: string | undefined, offset: string | undefined): void {
  const { attrs } = node;
  const said = Number(attrs.pathLength);
  if (!(said > 0) || !dashes || dashes === 'none') return;
  const factor = lengthOf(node) / said;
  if (!(factor > 0) || factor === 1) return;
  attrs['stroke-dasharray'] = dashes
    .split(' ')
    .map((dash) => printNumber(Number(dash) * factor, 6))
    .join(' ');
  if (offset) attrs['stroke-dashoffset'] = printNumber((Number.parseFloat(offset) || 0) * factor, 6);
}
