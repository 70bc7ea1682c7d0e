import { ATTRIBUTES, allowedValue, DEFINITIONS, DRAWN, INSIDE_DEFINITIONS } from '@tolvik/core';

/**
 * The last door before anything draws: a composed SVG is read in the one form that the composer writes, and
 * everything that is not known is refused. The rasteriser and the PDF writer would follow a path to a file.
 */

const ROOT_ATTRIBUTES: Record<string, RegExp> = {
  xmlns: /^http:\/\/www\.w3\.org\/2000\/svg$/,
  'xmlns:xlink': /^http:\/\/www\.w3\.org\/1999\/xlink$/,
  width: /^[\d.]+$/,
  height: /^[\d.]+$/,
  viewBox: /^[-\d.e+ ]+$/,
  preserveAspectRatio: /^none$/,
};
const TAGS = new Set(['defs', ...DRAWN, ...DEFINITIONS, ...INSIDE_DEFINITIONS]);
const FRAGMENT = /^#[^\s<>"]+$/;
const PICTURE = /^data:image\/(?:png|jpeg|webp|gif);base64,[A-Za-z0-9+/=]*$/;
/** All that `style` may say: how something blends (Compositing and Blending 1 §3). */
const BLENDING = /^(?:mix-blend-mode:[a-z-]+|isolation:[a-z]+|;)*$/;
const NAMED = /^blob:[0-9a-f]{64}$/;
const ENTITY = /&(?:amp|lt|gt|quot|#\d+);/g;
const CHARACTERS: Record<string, string> = { '&amp;': '&', '&lt;': '<', '&gt;': '>', '&quot;': '"' };

const OPEN = /<([A-Za-z]+)/y;
const CLOSE = /<\/[A-Za-z]+>/y;
const ATTRIBUTE = /\s+([A-Za-z][\w:-]*)="([^"<]*)"/y;
const END = /\/?>/y;
const BLANK = /\s*/y;

/**
 * Refuses a composed SVG that holds any element, attribute, value or reference the composer would not write, or a
 * picture by the name of one that is not here. Throws an `Error`.
 */
export function guard(svg: string, isHere: (hash: string) => boolean = () => false): void {
  let at = 0;
  const take = (what: RegExp): RegExpExecArray | null => {
    what.lastIndex = at;
    const match = what.exec(svg);
    if (match) at = what.lastIndex;
    return match;
  };
  let first = true;
  for (take(BLANK); at < svg.length; take(BLANK)) {
    if (take(CLOSE)) continue;
    const tag = take(OPEN)?.[1];
    if (tag === undefined || (first ? tag !== 'svg' : !TAGS.has(tag))) throw refused(svg, at);
    for (let attribute = take(ATTRIBUTE); attribute; attribute = take(ATTRIBUTE)) {
      if (
        !(first
          ? ROOT_ATTRIBUTES[attribute[1]]?.test(attribute[2])
          : isAllowed(tag, attribute[1], attribute[2], isHere))
      )
        throw refused(svg, at - attribute[0].length);
    }
    if (!take(END)) throw refused(svg, at);
    first = false;
  }
  if (first) throw refused(svg, 0);
}

function isAllowed(tag: string, name: string, written: string, isHere: (hash: string) => boolean): boolean {
  if (name === 'id') return true;
  if (name === 'style') return BLENDING.test(written);
  if (name === 'xlink:href')
    return (
      FRAGMENT.test(written) ||
      (tag === 'image' && (PICTURE.test(written) || (NAMED.test(written) && isHere(written.slice('blob:'.length)))))
    );
  const value = written.includes('&')
    ? written.replace(ENTITY, (entity) => CHARACTERS[entity] ?? String.fromCharCode(Number(entity.slice(2, -1))))
    : written;
  return (
    ATTRIBUTES.has(name) && (name === 'd' ? allowedValue(name, value) === value : allowedValue(name, value) !== null)
  );
}

const refused = (svg: string, at: number) =>
  new Error(`the drawing holds something that no file may hold, at "${svg.slice(at, at + 60)}"`);
