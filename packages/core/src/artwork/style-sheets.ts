import { optimize } from 'svgo/browser';
import { LIMITS } from './limits';
import { isElement, parseXml, printXml, type XmlElement } from './xml';

const hasStyleSheet = (node: XmlElement): boolean => node.children.some((child) => isElement(child) && ((child.tag === 'style' && !child.foreign) || hasStyleSheet(child)));

/** `url(…)` of anything but an id in the same file. */
const OUTSIDE_URL = /url\(\s*['"]?(?!['"]?#)[^)]*\)/gi;

/**
 * Resolves `<style>` elements into `style` attributes of what they match (CSS Cascade 4), so that
 * artwork no longer depends on them. Rules that load something (`@import`, `@font-face`) are cut
 * first; what never matches at rest (`:hover`, other media) is left out.
 */
export function resolveStyleSheets(root: XmlElement, file: string, tell: (what: string) => void): XmlElement {
  if (!hasStyleSheet(root)) return root;
  const visit = (node: XmlElement) => {
    node.children = node.children.filter((child) => {
      if (!isElement(child)) return true;
      if (child.tag === 'style' && !child.foreign) {
        let css = child.children.filter((part) => !isElement(part)).join('');
        if (css.length > LIMITS.styleSheetLength) {
          tell('a style sheet of over a million characters');
          return false;
        }
        css = css.replace(/@import[^;]*;?/gi, () => (tell('a style sheet from outside the file'), ''));
        css = css.replace(/@font-face\s*\{[^}]*\}/gi, () => (tell('a font the file brings along or loads'), ''));
        css = css.replace(OUTSIDE_URL, () => (tell('a reference to something outside the file'), 'none'));
        child.children = [css];
        child.attrs = {};
      } else visit(child);
      return true;
    });
  };
  visit(root);
  const { data } = optimize(printXml(root), {
    multipass: false,
    plugins: [{ name: 'inlineStyles', params: { onlyMatchedOnce: false, removeMatchedSelectors: false, useMqs: ['', 'screen'], usePseudos: [''] } }],
  });
  return parseXml(data, file);
}

/** `a: b; c: d !important` as pairs; later ones win, important ones last (CSS Style Attributes §3). */
export function styleDeclarations(style: string): [string, string][] {
  const plain: [string, string][] = [];
  const important: [string, string][] = [];
  for (const [, name, value] of style.replace(/\/\*[\s\S]*?\*\//g, '').matchAll(/([-\w]+)\s*:\s*((?:"[^"]*"|'[^']*'|\([^)]*\)|[^;"'(])*)/g)) {
    const flagged = /!\s*important\s*$/i.test(value);
    (flagged ? important : plain).push([name.toLowerCase(), value.replace(/!\s*important\s*$/i, '').trim()]);
  }
  return [...plain, ...important];
}
