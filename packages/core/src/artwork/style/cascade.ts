import { PRESENTATION } from '../../profile/allow-list';
import { LIMITS } from '../markup/limits';
import type { Tell } from '../markup/told';
import { isElement, type XmlElement } from '../markup/xml';
import { type Declaration, mediaMatches, readDeclarations, readRules, type Surroundings } from './css-rules';
import { Places, readSelectors } from './selectors';

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
 * What style sheets and `style` attributes declare for each element of the SVG namespace (CSS Cascade 5), strongest
 * last, without presentation attributes, which are weaker than all. Selectors are held against the tree as it came;
 * `<style>` elements are taken out of it afterwards.
 */
export function cascade(
  root: XmlElement,
  size: { width: number; height: number },
  tell: Tell,
): ReadonlyMap<XmlElement, readonly Declaration[]> {
  const surroundings: Surroundings = {
    ...size,
    isKnown: (property) => PROPERTIES.has(property) || property === 'display' || property.startsWith('--'),
  };
  const places = new Places(root);
  const elements = [...places.elements];
  const sheets = elements.filter(isStyle).flatMap((element) => sheetOf(element, surroundings, tell));
  const matchers = readRules(sheets, surroundings, tell).flatMap((rule) => {
    const alternatives = readSelectors(rule.selector, places, rule.prefixes);
    return alternatives ? [{ rule, alternatives }] : [];
  });
  const declared = new Map<XmlElement, readonly Declaration[]>();
  for (const element of elements) {
    if (element.foreign || isStyle(element)) continue;
    const found: Scored[] = [];
    matchers.forEach(({ rule, alternatives }, order) => {
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
          rank: [declaration.important ? 1 : 0, declaration.important ? 0.5 : 1, 0, 0, matchers.length],
        });
    found.sort((a, b) => compare(a.rank, b.rank));
    if (found.length > 0)
      declared.set(
        element,
        found.map(({ declaration }) => declaration),
      );
  }
  for (const element of elements)
    element.children = element.children.filter((child) => !isElement(child) || !isStyle(child));
  return declared;
}

const isStyle = ({ tag, foreign }: XmlElement) => tag === 'style' && !foreign;

/** The text of a `<style>` that holds on a screen, or nothing. */
function sheetOf({ attrs, children }: XmlElement, surroundings: Surroundings, tell: Tell): string[] {
  const { type = '', media = '' } = attrs;
  const css = children.filter((part) => !isElement(part)).join('');
  if (css.length > LIMITS.styleSheetLength) tell('a style sheet of over a million characters');
  else if ((type.trim() === '' || /^text\/css$/i.test(type.trim())) && mediaMatches(media, surroundings)) return [css];
  return [];
}

function compare(a: readonly number[], b: readonly number[]): number {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return a[i] - b[i];
  return 0;
}
