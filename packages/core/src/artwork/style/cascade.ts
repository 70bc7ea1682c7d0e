import { compile, type Options } from 'css-select';
import { parse, type Selector, SelectorType } from 'css-what';
import { PRESENTATION } from '../../profile/allow-list';
import { LIMITS } from '../markup/limits';
import type { Tell } from '../markup/told';
import { isElement, type XmlElement } from '../markup/xml';
import { type Declaration, mediaMatches, type Rule, readDeclarations, readRules, type Surroundings } from './css-rules';

/** Geometry that is a property too (SVG 2 §7.1 and others), and how transforms are said in CSS. */
export const PROPERTIES = new Set([
  ...PRESENTATION,
  ...['x', 'y', 'width', 'height', 'cx', 'cy', 'r', 'rx', 'ry', 'd'],
  ...[
    'transform',
    'transform-origin',
    'transform-box',
    'translate',
    'rotate',
    'scale',
    'white-space',
    'text-decoration-line',
    'font',
    'marker',
    'font-kerning',
    'font-variant-caps',
    'font-feature-settings',
    'background',
    'background-color',
    'text-transform',
  ],
]);

type Scored = { declaration: Declaration; rank: readonly number[] };

/**
 * What style sheets and `style` attributes declare for each element (CSS Cascade 5), strongest last, without
 * presentation attributes, which are weaker than all. `<style>` elements are taken out of the tree.
 */
export function cascade(
  root: XmlElement,
  size: { width: number; height: number },
  tell: Tell,
): (element: XmlElement) => Declaration[] {
  const surroundings: Surroundings = {
    ...size,
    isKnown: (property) => PROPERTIES.has(property) || property === 'display' || property.startsWith('--'),
  };
  const parents = new Map<XmlElement, XmlElement>();
  const sheets: string[] = [];
  const visit = (node: XmlElement) => {
    node.children = node.children.filter((child) => {
      if (!isElement(child)) return true;
      if (child.tag === 'style' && !child.foreign) {
        const { type = '', media = '' } = child.attrs;
        const css = child.children.filter((part) => !isElement(part)).join('');
        if (css.length > LIMITS.styleSheetLength) tell('a style sheet of over a million characters');
        else if ((type.trim() === '' || /^text\/css$/i.test(type.trim())) && mediaMatches(media, surroundings))
          sheets.push(css);
        return false;
      }
      parents.set(child, node);
      visit(child);
      return true;
    });
  };
  visit(root);
  const rules = matchers(sheets.length > 0 ? readRules(sheets.join('\n'), surroundings, tell) : [], parents);
  return (element) => {
    const found: Scored[] = [];
    rules.forEach(({ rule, alternatives }, order) => {
      let best: number | null = null;
      for (const { query, weight } of alternatives)
        if ((best === null || weight > best) && query(element)) best = weight;
      if (best === null) return;
      // Among important declarations, layers count the other way round.
      for (const declaration of rule.declarations)
        found.push({
          declaration,
          rank: [declaration.important ? 1 : 0, 0, declaration.important ? -rule.layer : rule.layer, best, order],
        });
    });
    if (element.attrs.style)
      for (const declaration of readDeclarations(element.attrs.style))
        found.push({
          declaration,
          rank: [declaration.important ? 1 : 0, declaration.important ? 0.5 : 1, 0, 0, rules.length],
        });
    if (rules.length > 0) found.sort((a, b) => compare(a.rank, b.rank));
    else found.sort((a, b) => a.rank[0] - b.rank[0]);
    return found.map(({ declaration }) => declaration);
  };
}

function compare(a: readonly number[], b: readonly number[]): number {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return a[i] - b[i];
  return 0;
}

type Query = (element: XmlElement) => boolean;
type Matcher = { rule: Rule; alternatives: { query: Query; weight: number }[] };

function matchers(rules: readonly Rule[], parents: ReadonlyMap<XmlElement, XmlElement>): Matcher[] {
  const options: Options<XmlElement | string, XmlElement> = {
    xmlMode: true,
    adapter: adapter(parents),
    cacheResults: false,
  };
  return rules.flatMap((rule): Matcher[] => {
    let parsed: Selector[][];
    try {
      parsed = parse(rule.selector);
    } catch {
      // One selector that cannot be read makes the whole rule void (Selectors 4 §4.1).
      return [];
    }
    const alternatives = parsed.flatMap((selector) => {
      try {
        return [
          {
            query: compile<XmlElement | string, XmlElement>([selector], options) as Query,
            weight: specificity(selector),
          },
        ];
      } catch {
        // States of a pointer or a page: nothing is in them at rest.
        return [];
      }
    });
    return alternatives.length > 0 ? [{ rule, alternatives }] : [];
  });
}

/** Specificity (Selectors 4 §17) as one number: ids, then classes and attributes, then elements. */
function specificity(selector: readonly Selector[]): number {
  let weight = 0;
  for (const part of selector) {
    if (part.type === SelectorType.Attribute)
      weight += part.name === 'id' && part.action === 'equals' ? 1_000_000 : 1000;
    else if (part.type === SelectorType.Tag) weight += 1;
    else if (part.type === SelectorType.Pseudo) {
      if (part.name === 'where') continue;
      const inner = Array.isArray(part.data) ? Math.max(0, ...part.data.map(specificity)) : 0;
      weight +=
        part.name === 'is' || part.name === 'not' || part.name === 'has' || part.name === 'matches'
          ? inner
          : 1000 + inner;
    }
  }
  return weight;
}

function adapter(
  parents: ReadonlyMap<XmlElement, XmlElement>,
): NonNullable<Options<XmlElement | string, XmlElement>['adapter']> {
  const elements = (node: XmlElement) => node.children.filter(isElement);
  const siblings = (node: XmlElement | string): XmlElement[] => {
    const parent = isElement(node) ? parents.get(node) : undefined;
    return parent ? elements(parent) : isElement(node) ? [node] : [];
  };
  const textOf = (node: XmlElement | string): string => (isElement(node) ? node.children.map(textOf).join('') : node);
  return {
    isTag: isElement as (node: XmlElement | string) => node is XmlElement,
    getAttributeValue: (node, name) => node.attrs[name],
    getChildren: (node) => (isElement(node) ? node.children : []),
    getName: (node) => node.tag,
    getParent: (node) => (isElement(node) ? (parents.get(node) ?? null) : null),
    getSiblings: siblings,
    getText: textOf,
    hasAttrib: (node, name) => name in node.attrs,
    removeSubsets: (nodes) => nodes,
    equals: (a, b) => a === b,
    prevElementSibling: (node) => {
      const all = siblings(node);
      return isElement(node) ? (all[all.indexOf(node) - 1] ?? null) : null;
    },
  };
}
