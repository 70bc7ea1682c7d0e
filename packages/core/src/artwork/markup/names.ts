import { plainText } from '../../profile/values';
import { isElement, type XmlElement } from './xml';

/** A character that an id may not hold, as some programs write it: `_x31_` for a digit in front, `_x0020_`, `_x5F_`. */
const ESCAPED = /_x[0-9A-Fa-f]{2,4}_/;

/** The name that an element has beside its id: its label, `<title>`, `data-name` or `aria-label`, the first that is there; '' for none. */
function saidOf(node: XmlElement): string {
  for (const [name, value] of Object.entries(node.attrs)) {
    if (name.endsWith(':label') && value.trim()) return clean(value);
  }
  const title = node.children.find((child): child is XmlElement => isElement(child) && child.tag === 'title');
  const words = title?.children
    .filter((part) => !isElement(part))
    .join('')
    .trim();
  if (words) return clean(words);
  const { 'data-name': dataName, 'aria-label': ariaLabel } = node.attrs;
  return clean(dataName?.trim() || ariaLabel?.trim() || '');
}

/**
 * Whether the program that wrote a file writes a space in an id as `_`: it does where it writes other characters as
 * `_xNN_`, and where a label says with spaces what an id beside it says with `_`.
 */
function writesSpaces(root: XmlElement): boolean {
  const waiting = [root];
  for (let node = waiting.pop(); node; node = waiting.pop()) {
    const { id } = node.attrs;
    if (id?.includes('_')) {
      if (ESCAPED.test(id)) return true;
      // A count that tells two ids apart may stand behind.
      const said = saidOf(node);
      if (said.includes(' ') && id.replace(/_\d+_?$/, '') === said.replaceAll(' ', '_')) return true;
    }
    for (const child of node.children) if (isElement(child)) waiting.push(child);
  }
  return false;
}

/** An id as a name: escapes as the characters that they stand for, and `_` between them as `between`. */
const unescaped = (id: string, between: string): string =>
  id
    .split(/(_x[0-9A-Fa-f]{2,4}_)/)
    .map((part, i) =>
      i % 2 ? String.fromCharCode(Number.parseInt(part.slice(2, -1), 16)) : part.replaceAll('_', between),
    )
    .join('')
    .trim();

/**
 * What a person called each element of a file: what is said of it, else its id, which stays as it was given unless the
 * file shows that it was written otherwise; '' when nothing.
 */
export function namesIn(root: XmlElement): (node: XmlElement) => string {
  let between: ' ' | '_' | undefined;
  return (node) => {
    const said = saidOf(node);
    if (said || !node.attrs.id) return said;
    between ??= writesSpaces(root) ? ' ' : '_';
    return clean(unescaped(node.attrs.id, between));
  };
}

const clean = (text: string) => plainText(text.replace(/\p{Cc}+/gu, ' ').trim(), 300).trim();

/** A file name without folders and extension; spaces trimmed; never empty. */
export const nameFromFile = (path: string): string =>
  plainText(
    (path.split(/[/\\]/).at(-1) ?? '')
      .replace(/\.[A-Za-z0-9]{1,5}$/, '')
      .replace(/\p{Cc}/gu, '')
      .trim(),
    300,
  ).trim() || 'unnamed';
