import { compile, type Options } from 'css-select';
import { parse, type Selector, SelectorType } from 'css-what';
import { isElement, SVG_NS, type XmlElement } from '../markup/xml';

/** Whether an element is selected. */
export type Query = (element: XmlElement) => boolean;
/** One selector of a list: what it selects, and its specificity as one number. */
export type Alternative = { query: Query; weight: number };
/** Where each element of a tree stands; for as long as the tree stays as it is. */
export class Places {
  private readonly parents = new Map<XmlElement, XmlElement>();
  private readonly rows = new Map<XmlElement | null, readonly XmlElement[]>();
  private readonly positions = new Map<XmlElement, number>();

  constructor(root: XmlElement) {
    this.rows.set(null, [root]);
    this.positions.set(root, 0);
    const visit = (parent: XmlElement) => {
      const row = parent.children.filter(isElement);
      this.rows.set(parent, row);
      row.forEach((child, at) => {
        this.parents.set(child, parent);
        this.positions.set(child, at);
        visit(child);
      });
    };
    visit(root);
  }

  /** All elements in document order, the root first. */
  get elements(): Iterable<XmlElement> {
    return this.positions.keys();
  }

  parentOf(element: XmlElement): XmlElement | null {
    return this.parents.get(element) ?? null;
  }

  /** The children of its parent, itself among them. */
  rowOf(element: XmlElement): readonly XmlElement[] {
    return this.rows.get(this.parentOf(element)) ?? [];
  }

  previousOf(element: XmlElement): XmlElement | null {
    return this.rowOf(element)[(this.positions.get(element) ?? 0) - 1] ?? null;
  }
}
/** Prefixes that `@namespace` rules declare, with their namespaces. */
export type Prefixes = ReadonlyMap<string, string>;

/** Pseudo-classes worked out from the tree (Selectors 4 §§4, 8, 14). */
const STRUCTURAL = new Set([
  ...['root', 'empty', 'first-child', 'last-child', 'only-child', 'first-of-type', 'last-of-type', 'only-of-type'],
  ...['nth-child', 'nth-last-child', 'nth-of-type', 'nth-last-of-type', 'is', 'where', 'not', 'has', 'lang'],
  ...['any-link', 'link', 'scope', 'defined'],
]);
/** Pseudo-classes of a pointer, a form, a player or a page that nobody visits: known, and true of nothing in a file. */
const STATES = new Set([
  ...['hover', 'active', 'focus', 'focus-visible', 'focus-within', 'visited', 'target', 'checked', 'disabled'],
  ...['enabled', 'default', 'indeterminate', 'placeholder-shown', 'read-only', 'read-write', 'required', 'optional'],
  ...['valid', 'invalid', 'in-range', 'out-of-range', 'user-valid', 'user-invalid', 'autofill', 'fullscreen', 'modal'],
  ...['popover-open', 'open', 'playing', 'paused', 'host', 'picture-in-picture'],
]);
const PSEUDO_ELEMENTS = new Set([
  ...['before', 'after', 'first-line', 'first-letter', 'selection', 'marker', 'backdrop', 'placeholder'],
  ...['file-selector-button', 'target-text', 'spelling-error', 'grammar-error', 'cue', 'highlight', 'part', 'slotted'],
]);
/** Lists in which a selector that cannot be read is left out, while the others hold (Selectors 4 §18.1). */
const FORGIVING = new Set(['is', 'where']);
/** An argument in brackets is needed by these, and allowed at no other. */
const WITH_ARGUMENT = /^(nth-.*|is|where|not|has|lang)$/;
const NTH = /^\s*(even|odd|[-+]?\d*n(?:\s*[-+]\s*\d+)?|[-+]?\d+)\s*(?:\s+of\s+(.+))?$/is;

/** Pseudo-classes that may follow a pseudo-element, besides `STATES`. */
const AFTER_PSEUDO_ELEMENT = new Set(['is', 'where', 'not']);

const isOfPseudoElement = (part: Selector): boolean =>
  part.type === SelectorType.Pseudo &&
  (STATES.has(part.name) ||
    (AFTER_PSEUDO_ELEMENT.has(part.name) &&
      Array.isArray(part.data) &&
      !part.data.some((selector) => selector.some((each) => isCombinator(each) || looksBelow(each)))));

/** Whether a part holds `:has()`, however deep. */
const looksBelow = (part: Selector): boolean =>
  part.type === SelectorType.Pseudo &&
  (part.name === 'has' || (Array.isArray(part.data) && part.data.some((selector) => selector.some(looksBelow))));

/** A part of a selector rewritten for the library; `weight` is the specificity of what was written. */
type Rewritten = Selector & { weight?: number };
const pseudo = (name: string, weight?: number, data: string | Selector[][] | null = null): Rewritten => ({
  type: SelectorType.Pseudo,
  name,
  data,
  weight,
});

class Unreadable extends Error {}

/**
 * A selector list as queries over a tree (Selectors 4); null when it cannot be read, which makes its whole rule void
 * (§4.1). Prefixes stand for the namespaces they were declared with; an unknown one cannot be read.
 */
export function readSelectors(text: string, places: Places, prefixes: Prefixes): Alternative[] | null {
  try {
    const reader = new SelectorReader(places, prefixes);
    return reader.list(parse(text)).map((selector) => reader.alternative(selector));
  } catch {
    return null;
  }
}

class SelectorReader {
  private readonly options: Options<XmlElement | string, XmlElement>;
  /** Pseudo-classes that the library does not know, by the names that the rewritten selectors use. */
  private readonly own: Record<string, (element: XmlElement | string, argument?: string | null) => boolean> = {};

  constructor(
    private readonly places: Places,
    private readonly prefixes: Prefixes,
  ) {
    this.options = { xmlMode: true, adapter: adapter(places), cacheResults: false, pseudos: this.own };
    this.own['own-nothing'] = () => false;
    this.own['own-anything'] = () => true;
    this.own['own-lang'] = (element, argument) => isElement(element) && this.speaks(element, argument ?? '');
    this.own['own-link'] = (element) =>
      isElement(element) && element.tag === 'a' && ('href' in element.attrs || 'xlink:href' in element.attrs);
    // Spaces count, as in browsers; comments are in no tree.
    this.own['own-empty'] = (element) => isElement(element) && element.children.length === 0;
  }

  alternative(selector: Selector[]): Alternative {
    return {
      query: compile<XmlElement | string, XmlElement>([selector], this.options) as Query,
      weight: specificity(selector),
    };
  }

  /** Selectors whose every part is known; throws what cannot be read. */
  list(selectors: readonly Selector[][], { relative = false, inner = false } = {}): Selector[][] {
    return selectors.map((selector) => this.complex(selector, relative, inner));
  }

  private complex(selector: readonly Selector[], relative: boolean, inner: boolean): Selector[] {
    const last = selector.at(-1);
    if (!last || isCombinator(last) || (!relative && isCombinator(selector[0]))) throw new Unreadable();
    // A pseudo-element belongs to no element that another selector could ask about (§3.6.3).
    if (inner && selector.some(({ type }) => type === SelectorType.PseudoElement)) throw new Unreadable();
    const parts = selector.flatMap((part, i) => this.simple(part, selector.slice(i + 1)));
    // `:has(a > b)` looks for an `a` below; the library would take the element itself for it.
    return relative && !isCombinator(selector[0]) ? [{ type: SelectorType.Descendant }, ...parts] : parts;
  }

  private simple(part: Selector, after: readonly Selector[]): Selector[] {
    switch (part.type) {
      case SelectorType.Tag:
      case SelectorType.Universal:
        return [this.named(part)];
      case SelectorType.Attribute: {
        // Not in Selectors 4: `[a != b]`.
        if (part.action === 'not') throw new Unreadable();
        if (part.action === 'element' && part.value === '') return [pseudo('own-nothing', CLASS)];
        if (part.namespace === null || part.namespace === '') return [{ ...part, namespace: null }];
        if (part.namespace !== '*') this.namespace(part.namespace);
        const linked = { ...part, namespace: null, name: `xlink:${part.name}` };
        if (part.namespace !== '*') return [linked];
        return [pseudo('is', CLASS, [[{ ...part, namespace: null }], [linked]])];
      }
      case SelectorType.PseudoElement:
        if (!PSEUDO_ELEMENTS.has(part.name) && !part.name.startsWith('-webkit-')) throw new Unreadable();
        // It ends its selector; only what is said of itself may follow.
        for (const next of after) if (!isOfPseudoElement(next)) throw new Unreadable();
        return [pseudo('own-nothing', 1)];
      case SelectorType.Pseudo:
        return this.pseudo(part.name, part.data);
      case SelectorType.ColumnCombinator:
      case SelectorType.Parent:
        throw new Unreadable();
      default:
        return [part];
    }
  }

  private named(part: Extract<Selector, { type: SelectorType.Tag | SelectorType.Universal }>): Selector {
    const { namespace } = part;
    const isOther = namespace === '' || (namespace && namespace !== '*' && this.namespace(namespace) !== SVG_NS);
    if (isOther) return pseudo('own-nothing', part.type === SelectorType.Tag ? 1 : 0);
    // The library takes what selects everything for nothing to look for.
    return part.type === SelectorType.Tag ? { ...part, namespace: null } : pseudo('own-anything', 0);
  }

  private namespace(prefix: string): string {
    const namespace = this.prefixes.get(prefix);
    if (namespace === undefined) throw new Unreadable();
    return namespace;
  }

  private pseudo(name: string, data: string | Selector[][] | null): Selector[] {
    if (STATES.has(name) || (name.startsWith('-webkit-') && data === null)) return [pseudo('own-nothing', CLASS)];
    if (!STRUCTURAL.has(name) || WITH_ARGUMENT.test(name) !== (data !== null)) throw new Unreadable();
    if (Array.isArray(data)) return [this.withSelectors(name, data)];
    if (name.startsWith('nth-')) return [this.nth(name, data ?? '')];
    switch (name) {
      case 'scope':
        return [pseudo('root', CLASS)];
      case 'defined':
        return [pseudo('own-anything', CLASS)];
      case 'link':
      case 'any-link':
        return [pseudo('own-link', CLASS)];
      case 'empty':
      case 'lang':
        return [pseudo(`own-${name}`, CLASS, data)];
      case 'first-of-type':
        return [this.nth('nth-of-type', '1')];
      case 'last-of-type':
        return [this.nth('nth-last-of-type', '1')];
      case 'only-of-type':
        return [this.nth('nth-of-type', '1'), { ...this.nth('nth-last-of-type', '1'), weight: 0 } as Rewritten];
      default:
        return [pseudo(name, CLASS)];
    }
  }

  private withSelectors(name: string, data: readonly Selector[][]): Selector {
    // Nothing is looked for below what is looked for below something (§4.5).
    if (name === 'has' && data.some((selector) => selector.some(looksBelow))) throw new Unreadable();
    if (!FORGIVING.has(name))
      return pseudo(name, undefined, this.list(data, { relative: name === 'has', inner: true }));
    const readable = data.flatMap((selector) => {
      try {
        return [this.complex(selector, false, true)];
      } catch {
        return [];
      }
    });
    return readable.length > 0 ? pseudo(name, undefined, readable) : pseudo('own-nothing', 0);
  }

  /** `:nth-child(An+B)` and its kind; `of S` counts only what S selects (Selectors 4 §14.3). */
  private nth(name: string, argument: string): Selector {
    const match = NTH.exec(argument);
    const ofType = name.endsWith('type');
    if (!match || (match[2] && ofType)) throw new Unreadable();
    const [a, b] = steps(match[1].toLowerCase().replace(/\s+/g, ''));
    const of = match[2] ? this.list(parse(match[2]), { inner: true }) : null;
    const isCounted = of ? compile<XmlElement | string, XmlElement>(of, this.options) : () => true;
    const own = `own-${name}-${Object.keys(this.own).length}`;
    const counts = new Map<XmlElement, number>();
    const count = (row: readonly XmlElement[]) => {
      const seen = new Map<string, number>();
      for (const each of name.startsWith('nth-last') ? [...row].reverse() : row) {
        const type = ofType ? `${each.foreign} ${each.tag}` : '';
        if (isCounted(each)) seen.set(type, (seen.get(type) ?? 0) + 1);
        counts.set(each, isCounted(each) ? (seen.get(type) as number) : 0);
      }
    };
    this.own[own] = (element) => {
      if (!isElement(element)) return false;
      if (!counts.has(element)) count(this.places.rowOf(element));
      const at = counts.get(element) as number;
      return at > 0 && (a === 0 ? at === b : (at - b) / a >= 0 && (at - b) % a === 0);
    };
    return pseudo(own, CLASS + Math.max(0, ...(of ?? []).map(specificity)));
  }

  /** Whether the language of an element is in a list of ranges (Selectors 4 §7.2, RFC 4647 §3.3.2). */
  private speaks(element: XmlElement, ranges: string): boolean {
    let said: string | undefined;
    for (let at: XmlElement | null = element; at && said === undefined; at = this.places.parentOf(at))
      said = at.attrs['xml:lang'] ?? (at.foreign ? undefined : at.attrs.lang);
    if (!said) return false;
    const tags = said.toLowerCase().split('-');
    return ranges.split(',').some((range) => {
      const wanted = range
        .trim()
        .replace(/^(['"])(.*)\1$/, '$2')
        .toLowerCase()
        .split('-');
      if (wanted[0] === '' || (wanted[0] !== '*' && wanted[0] !== tags[0])) return false;
      let at = 1;
      for (const part of wanted.slice(1)) {
        if (part === '*') continue;
        while (at < tags.length && tags[at] !== part && tags[at].length > 1) at++;
        if (tags[at] !== part) return false;
        at++;
      }
      return true;
    });
  }
}

const isCombinator = ({ type }: Selector) =>
  type === SelectorType.Child ||
  type === SelectorType.Descendant ||
  type === SelectorType.Sibling ||
  type === SelectorType.Adjacent;

/** `An+B` without spaces as its two numbers. */
function steps(formula: string): [number, number] {
  if (formula === 'even') return [2, 0];
  if (formula === 'odd') return [2, 1];
  const [, a, b] = /^(?:([-+]?\d*)n)?([-+]?\d+)?$/.exec(formula) ?? [];
  return [a === undefined ? 0 : a === '' || a === '+' ? 1 : a === '-' ? -1 : Number(a), Number(b ?? 0)];
}

const CLASS = 1000;
const ID = 1_000_000;

/** Specificity (Selectors 4 §17) as one number: ids (`#a`, not `[id=a]`), then classes and attributes, then elements. */
function specificity(selector: readonly Rewritten[]): number {
  let weight = 0;
  for (const part of selector) {
    if (part.weight !== undefined) weight += part.weight;
    else if (part.type === SelectorType.Attribute)
      weight += part.name === 'id' && part.ignoreCase === 'quirks' ? ID : CLASS;
    else if (part.type === SelectorType.Tag) weight += 1;
    else if (part.type === SelectorType.Pseudo && part.name !== 'where' && Array.isArray(part.data))
      weight += Math.max(0, ...part.data.map(specificity));
  }
  return weight;
}

function adapter(places: Places): NonNullable<Options<XmlElement | string, XmlElement>['adapter']> {
  const textOf = (node: XmlElement | string): string => (isElement(node) ? node.children.map(textOf).join('') : node);
  return {
    isTag: isElement as (node: XmlElement | string) => node is XmlElement,
    getAttributeValue: (node, name) => node.attrs[name],
    getChildren: (node) => (isElement(node) ? node.children : []),
    getName: (node) => node.tag,
    getParent: (node) => (isElement(node) ? places.parentOf(node) : null),
    getSiblings: (node) => (isElement(node) ? [...places.rowOf(node)] : []),
    getText: textOf,
    hasAttrib: (node, name) => name in node.attrs,
    removeSubsets: (nodes) => nodes,
    equals: (a, b) => a === b,
    prevElementSibling: (node) => (isElement(node) ? places.previousOf(node) : null),
  };
}
