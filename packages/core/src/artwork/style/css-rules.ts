import { tokenize, tokenTypes } from 'css-tree/tokenizer';
import type { Tell } from '../markup/told';
import { Places, readSelectors } from './selectors';

/** `name: value` as written, without `!important`. */
export type Declaration = { name: string; value: string; important: boolean };
/**
 * A rule of a style sheet, nesting and conditions resolved. `layer` is its place among layers; what is in none comes
 * last. `prefixes` are those that its sheet declares, with their namespaces.
 */
export type Rule = {
  selector: string;
  declarations: Declaration[];
  layer: number;
  prefixes: ReadonlyMap<string, string>;
};

type Token = { type: number; text: string };
const { Semicolon, Colon, LeftCurlyBracket, RightCurlyBracket, AtKeyword, WhiteSpace, Comment, Ident, CDO, CDC } =
  tokenTypes;
const OPEN = new Set([tokenTypes.Function, tokenTypes.Url, tokenTypes.LeftParenthesis, tokenTypes.LeftSquareBracket]);
const CLOSE = new Set([tokenTypes.RightParenthesis, tokenTypes.RightSquareBracket]);

/** What a condition is asked about: the width of the file in px, and whether a property is known. */
export type Surroundings = { width: number; height: number; isKnown(property: string): boolean };

const UNLAYERED = Number.MAX_SAFE_INTEGER;
const DEEPEST = 20;
const LONGEST_SELECTOR = 10_000;

/** The declarations of a `style` attribute or a block, in their order (CSS Syntax 3 §5.4.5). */
export function readDeclarations(css: string): Declaration[] {
  const found: Declaration[] = [];
  new Reader(css).block(0, (declaration) => found.push(declaration), null);
  return found;
}

/**
 * Style sheets as the rules that apply on a screen, in their order (CSS Syntax 3, CSS Conditional 3, CSS Cascade 5,
 * CSS Nesting 1, CSS Namespaces 3). What would load something is told and left out.
 */
export function readRules(sheets: readonly string[], surroundings: Surroundings, tell: Tell): Rule[] {
  const layers = new Map<string, number>();
  const rules: Rule[] = [];
  const layerOf = (name: string): number => {
    const known = layers.get(name);
    if (known !== undefined) return known;
    layers.set(name, layers.size);
    return layers.size - 1;
  };
  for (const css of sheets) {
    const prefixes = new Map<string, string>();
    const visit = (list: readonly Item[], parent: string | null, layer: number, depth: number): void => {
      if (depth > DEEPEST) return;
      for (const { prelude, at, items, declarations, statement } of list) {
        if (at === null) {
          const selector = nested(prelude, parent);
          // Selectors in selectors may grow without end.
          if (selector.length > LONGEST_SELECTOR) continue;
          if (declarations.length > 0) rules.push({ selector, declarations, layer, prefixes });
          visit(items, selector, layer, depth + 1);
        } else if (
          at === 'media'
            ? mediaMatches(prelude, surroundings)
            : at === 'supports'
              ? isSupported(prelude, surroundings)
              : false
        ) {
          if (parent !== null && declarations.length > 0)
            rules.push({ selector: parent, declarations, layer, prefixes });
          visit(items, parent, layer, depth + 1);
        } else if (at === 'layer') {
          if (statement) for (const name of prelude.split(',')) layerOf(name.trim());
          else visit(items, parent, layerOf(prelude.trim() || `anonymous ${layers.size}`), depth + 1);
        } else if (at === 'namespace') {
          const declared = NAMESPACE.exec(prelude);
          if (declared) prefixes.set(declared[1], declared[2]);
        } else if (at === 'import') tell('a style sheet from outside the file');
        else if (at === 'font-face') tell('a font the file brings along or loads');
        else if (at.endsWith('keyframes')) tell('an animation');
        else if (!WITHOUT_EFFECT.has(at)) tell(`rules of a style sheet that are not applied (@${at.slice(0, 30)})`);
      }
    };
    visit(new Reader(css).rules(), null, UNLAYERED, 0);
  }
  return rules;
}

/** At-rules that change nothing that is drawn here: other conditions hold or not, and these are of pages and of text elsewhere. */
const WITHOUT_EFFECT = new Set([
  ...['media', 'supports', 'charset', 'page', 'counter-style', 'view-transition', 'font-feature-values'],
  ...['font-palette-values', 'position-try'],
]);

/** `svg url(http://www.w3.org/2000/svg)`: a prefix and its namespace. */
const NAMESPACE = /^([\w-]+)\s+(?:url\(\s*)?["']?\s*([^"')\s]*)\s*["']?\s*\)?$/;

/** A selector inside another one (CSS Nesting 1 §3). */
function nested(selector: string, parent: string | null): string {
  if (parent === null) return selector.replace(/&/g, ':root');
  return selector
    .split(/,(?![^(]*\))/)
    .map((part) => (part.includes('&') ? part.replace(/&/g, `:is(${parent})`) : `:is(${parent}) ${part}`))
    .join(',');
}

type Item = { at: string | null; prelude: string; items: Item[]; declarations: Declaration[]; statement: boolean };

class Reader {
  private readonly tokens: Token[] = [];
  private at = 0;

  constructor(css: string) {
    tokenize(css, (type: number, start: number, end: number) => {
      if (type !== Comment && type !== CDO && type !== CDC) this.tokens.push({ type, text: css.slice(start, end) });
    });
  }

  rules(): Item[] {
    const items: Item[] = [];
    while (this.at < this.tokens.length) {
      const item = this.rule(0);
      if (item) items.push(item);
    }
    return items;
  }

  /** One rule or at-rule from here on; null when it is broken or nothing. */
  private rule(depth: number): Item | null {
    while (this.type === WhiteSpace || this.type === RightCurlyBracket || this.type === Semicolon) this.at++;
    if (this.at >= this.tokens.length) return null;
    const at = this.type === AtKeyword ? this.tokens[this.at++].text.slice(1).toLowerCase() : null;
    let prelude = '';
    for (; this.at < this.tokens.length && this.type !== LeftCurlyBracket; this.at++) {
      if (at !== null && this.type === Semicolon) {
        this.at++;
        return { at, prelude: prelude.trim(), items: [], declarations: [], statement: true };
      }
      prelude += this.tokens[this.at].text;
    }
    if (this.at >= this.tokens.length) return null;
    this.at++;
    const item: Item = { at, prelude: prelude.trim(), items: [], declarations: [], statement: false };
    this.block(
      depth + 1,
      (declaration) => item.declarations.push(declaration),
      (inner) => item.items.push(inner),
    );
    return item;
  }

  /** Declarations, and rules among them, up to the end of the block. */
  block(depth: number, declared: (declaration: Declaration) => void, ruled: ((item: Item) => void) | null): void {
    while (this.at < this.tokens.length) {
      const { type } = this.tokens[this.at];
      if (type === RightCurlyBracket) {
        this.at++;
        return;
      }
      if (type === WhiteSpace || type === Semicolon) {
        this.at++;
        continue;
      }
      if (ruled && depth < DEEPEST && (type === AtKeyword || this.isRule())) {
        const item = this.rule(depth);
        if (item) ruled(item);
        continue;
      }
      this.declaration(declared);
    }
  }

  /** Whether a block opens before this statement ends. */
  private isRule(): boolean {
    let open = 0;
    for (let i = this.at; i < this.tokens.length; i++) {
      const { type } = this.tokens[i];
      if (OPEN.has(type)) open += type === tokenTypes.Url ? 0 : 1;
      else if (CLOSE.has(type)) open--;
      else if (open <= 0 && type === LeftCurlyBracket) return true;
      else if (open <= 0 && (type === Semicolon || type === RightCurlyBracket)) return false;
    }
    return false;
  }

  private declaration(declared: (declaration: Declaration) => void): void {
    const from = this.at;
    let open = 0;
    for (; this.at < this.tokens.length; this.at++) {
      const { type } = this.tokens[this.at];
      if (OPEN.has(type)) open += type === tokenTypes.Url ? 0 : 1;
      else if (CLOSE.has(type)) open--;
      else if (open <= 0 && (type === Semicolon || type === RightCurlyBracket)) break;
    }
    const parts = this.tokens.slice(from, this.at);
    const colon = parts.findIndex(({ type }) => type === Colon);
    const head = parts.slice(0, colon).filter(({ type }) => type !== WhiteSpace);
    if (colon < 1 || head.length !== 1 || head[0].type !== Ident) return;
    const text = parts
      .slice(colon + 1)
      .map((part) => part.text)
      .join('')
      .trim();
    const important = /!\s*important$/i.test(text);
    const name = head[0].text;
    declared({
      name: name.startsWith('--') ? name : name.toLowerCase(),
      value: important ? text.replace(/!\s*important$/i, '').trim() : text,
      important,
    });
  }

  private get type(): number | undefined {
    return this.tokens[this.at]?.type;
  }
}

/** Whether a media query list holds for a screen (Media Queries 4). */
export function mediaMatches(list: string, surroundings: Surroundings): boolean {
  if (!list.trim()) return true;
  return list
    .toLowerCase()
    .split(',')
    .some((query) => {
      const words = /^\s*(not\s+|only\s+)?([a-z-]+)?\s*(?:and\s+)?(.*)$/s.exec(query);
      if (!words) return false;
      const [, modifier = '', type, rest] = words;
      let holds =
        (!type || type === 'all' || type === 'screen') &&
        conditions(rest, (feature) => featureHolds(feature, surroundings));
      if (modifier.trim() === 'not') holds = !holds;
      return holds;
    });
}

const LENGTH = /^([\d.]+)(px|em|rem)?$/;
/** `width >= 100px`, `100px < width <= 200px` (Media Queries 4 §2.4.3). */
const RANGE = /^(?:([\d.]+\w*)\s*(<=?|=))?\s*(width|height)\s*(?:(<=?|>=?|=)\s*([\d.]+\w*))?$/;
const REVERSED = /^([\d.]+\w*)\s*(>=?)\s*(width|height)$/;

const pxOf = (text: string): number => {
  const match = LENGTH.exec(text);
  return match ? Number(match[1]) * (match[2] && match[2] !== 'px' ? 16 : 1) : Number.NaN;
};
const COMPARE: Record<string, (a: number, b: number) => boolean> = {
  '<': (a, b) => a < b,
  '<=': (a, b) => a <= b,
  '>': (a, b) => a > b,
  '>=': (a, b) => a >= b,
  '=': (a, b) => a === b,
};

function featureHolds(feature: string, { width, height }: Surroundings): boolean {
  const reversed = REVERSED.exec(feature);
  if (reversed) return COMPARE[reversed[2]](pxOf(reversed[1]), reversed[3] === 'width' ? width : height);
  const range = /[<>=]/.test(feature) ? RANGE.exec(feature) : null;
  if (range) {
    const [, low, below, name, how, high] = range;
    const side = name === 'width' ? width : height;
    return (!below || COMPARE[below](pxOf(low), side)) && (!how || COMPARE[how](side, pxOf(high)));
  }
  const [name, value = ''] = feature.split(':').map((part) => part.trim());
  const px = pxOf(value);
  switch (name) {
    case 'width':
    case 'height':
      return value === '' || (name === 'width' ? width : height) === px;
    case 'min-width':
      return width >= px;
    case 'max-width':
      return width <= px;
    case 'min-height':
      return height >= px;
    case 'max-height':
      return height <= px;
    case 'orientation':
      return value === (width > height ? 'landscape' : 'portrait');
    case 'prefers-color-scheme':
      return value === 'light';
    case 'prefers-reduced-motion':
    case 'prefers-contrast':
      return value === 'no-preference';
    case 'color':
    case 'hover':
    case 'pointer':
      return value === '' || value === 'hover' || value === 'fine';
    default:
      return false;
  }
}

/** `(a) and (b)`, `(a) or (b)`, `not (a)`, with brackets in brackets. */
function conditions(text: string, holds: (inner: string) => boolean): boolean {
  const rest = text.trim();
  if (!rest) return true;
  if (/^not\b/.test(rest)) return !conditions(rest.slice(3), holds);
  const parts: string[] = [];
  const joins: string[] = [];
  let depth = 0;
  let from = 0;
  for (let i = 0; i < rest.length; i++) {
    if (rest[i] === '(' && depth++ === 0) {
      if (parts.length > 0) joins.push(rest.slice(from, i).trim());
      from = i + 1;
    }
    if (rest[i] === ')' && --depth === 0) {
      parts.push(rest.slice(from, i));
      from = i + 1;
    }
  }
  const each = (part: string) => (/^\s*(\(|not\b)/.test(part) ? conditions(part, holds) : holds(part.trim()));
  return joins.includes('or') ? parts.some(each) : parts.length > 0 && parts.every(each);
}

/** Whether a `@supports` condition holds (CSS Conditional 3 §2). */
function isSupported(condition: string, { isKnown }: Surroundings): boolean {
  const asked = condition.replace(/\bselector\(((?:[^()]|\([^()]*\))*)\)/gi, (_, selector: string) =>
    readSelectors(selector, NOWHERE, NO_PREFIXES) ? '(selector)' : '(no selector)',
  );
  return conditions(
    asked,
    (declaration) => declaration === 'selector' || isKnown(declaration.split(':')[0].trim().toLowerCase()),
  );
}

const NOWHERE = new Places({ tag: 'svg', attrs: {}, children: [], foreign: false });
const NO_PREFIXES: ReadonlyMap<string, string> = new Map();
