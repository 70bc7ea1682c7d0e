import { Refusal } from '../../basics/problem';
import type { ViewBox } from '../../geometry/viewport';
import { INITIAL } from '../../profile/initial-values';
import { withRenamedReferences } from '../../profile/references';
import type { Tell } from '../markup/told';
import type { XmlElement } from '../markup/xml';
import { fromBase64 } from '../pictures/pictures';
import type { CleanElement } from './clean-element';
import { ownSize, parseSvg } from './parse-svg';

/** A picture that is SVG itself, read: its root, and how large it is by itself in px; not `sized` when it says no size. */
export type SvgPicture = { root: XmlElement; box: ViewBox; width: number; height: number; sized: boolean };

const SVG_DATA = /^data:image\/svg\+xml((?:;[\w-]+=[\w-]+)*)(;base64)?,/i;

export const isSvgPicture = (href: string): boolean => SVG_DATA.test(href);

/** Reads a picture in a `data:` address (RFC 2397) as a file of its own, into which nothing comes down; null, and told, when it cannot be read. */
export function readSvgPicture(href: string, file: string, tell: Tell): SvgPicture | null {
  const [head, , base64] = SVG_DATA.exec(href) as RegExpExecArray;
  try {
    const data = href.slice(head.length);
    const root = parseSvg(
      base64 ? fromBase64(decodeURIComponent(data)) : decodeURIComponent(data),
      `a picture in ${file}`,
      tell,
    );
    const size = ownSize(root, file);
    const [width, height] = [size.width ?? 300, size.height ?? 150];
    const sized = 'width' in root.attrs || 'height' in root.attrs || !size.box;
    return { root, width, height, sized, box: size.box ?? { x: 0, y: 0, width, height } };
  } catch (error) {
    if (!(error instanceof Refusal) && !(error instanceof URIError)) throw error;
    tell('a picture of SVG that cannot be read');
    return null;
  }
}

/** Elements of a picture under ids of their own, so that they are not taken for those of the file around it. */
export function withOwnIds(element: CleanElement, prefix: string): CleanElement {
  const attrs = withRenamedReferences(element.attrs, (id) => prefix + id);
  return {
    ...element,
    ...(element.id && { id: prefix + element.id }),
    attrs,
    children: element.children.map((child) => (typeof child === 'string' ? child : withOwnIds(child, prefix))),
  };
}

/** The root of a picture that takes nothing from where it stands (SVG 2 §12.3: an embedded document is its own). */
export const standingAlone = (artwork: CleanElement, comesDown: (name: string) => boolean): CleanElement => ({
  ...artwork,
  attrs: { ...Object.fromEntries(Object.entries(INITIAL).filter(([name]) => comesDown(name))), ...artwork.attrs },
});
