export type XmlElement = {
  /** Local name; the prefix is resolved into `foreign`. */
  tag: string;
  /** Qualified names as written, without `xmlns` ones. */
  attrs: Record<string, string>;
  children: (XmlElement | string)[];
  /** True for elements outside the SVG namespace. */
  foreign: boolean;
};

export const SVG_NS = 'http://www.w3.org/2000/svg';
export const XLINK_NS = 'http://www.w3.org/1999/xlink';
export const TOLVIK_NS = 'https://tolvik.invalid/ns/project';

export const isElement = (node: XmlElement | string): node is XmlElement => typeof node !== 'string';

export const escapeText = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');

export const escapeAttribute = (text: string) =>
  text
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/"/g, '&quot;')
    .replace(/[\n\t\r]/g, (c) => `&#${c.charCodeAt(0)};`);

/** The tree as SVG text, without anything foreign. */
export function printXml(node: XmlElement | string, isRoot = true): string {
  if (!isElement(node)) return escapeText(node);
  if (node.foreign) return '';
  const attrs = Object.entries(node.attrs)
    .filter(
      ([name]) =>
        !name.includes(':') || name.startsWith('xlink:') || name.startsWith('xml:') || name.startsWith('tolvik:'),
    )
    .map(([name, value]) => ` ${name}="${escapeAttribute(value)}"`)
    .join('');
  const ns = isRoot ? ` xmlns="${SVG_NS}" xmlns:xlink="${XLINK_NS}" xmlns:tolvik="${TOLVIK_NS}"` : '';
  const inner = node.children.map((child) => printXml(child, false)).join('');
  return inner ? `<${node.tag}${ns}${attrs}>${inner}</${node.tag}>` : `<${node.tag}${ns}${attrs}/>`;
}
