import { plainText } from '../../profile/values';
import { isElement, type XmlElement } from './xml';

/** `_x31_23` and `_x0020_` as some tools write them in ids: back to the characters they stand for. */
const unescapeId = (id: string) =>
  id
    .replace(/_x([0-9A-Fa-f]{2,4})_/g, (_, hex) => String.fromCharCode(Number.parseInt(hex, 16)))
    .replace(/_/g, ' ')
    .trim();

/** What a person called this element: a label, its title, data-name or id, in that order; '' when nothing. */
export function nameOf(node: XmlElement): string {
  for (const [name, value] of Object.entries(node.attrs)) {
    if (name.endsWith(':label') && value.trim()) return clean(value);
  }
  const title = node.children.find((child): child is XmlElement => isElement(child) && child.tag === 'title');
  const words = title?.children
    .filter((part) => !isElement(part))
    .join('')
    .trim();
  if (words) return clean(words);
  const { 'data-name': dataName, 'aria-label': ariaLabel, id } = node.attrs;
  if (dataName?.trim()) return clean(dataName);
  if (ariaLabel?.trim()) return clean(ariaLabel);
  return id ? clean(unescapeId(id)) : '';
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
