import { refuse } from '../../basics/problem';
import { parseLength, parseViewBox, type ViewBox } from '../../geometry/viewport';
import { LIMITS } from '../markup/limits';
import { parseXml } from '../markup/parse-xml';
import type { Tell } from '../markup/told';
import type { XmlElement } from '../markup/xml';
import { resolveStyles } from '../style/computed-style';

/** Bytes as text by byte order mark or declaration, else UTF-8 (XML 1.0 §4.3.3, appendix F). */
function decode(bytes: Uint8Array, file: string): string {
  if (bytes.length === 0) refuse('svg.empty', `${file} is empty`, { where: file, accepted: 'an SVG file' });
  if (bytes.length > LIMITS.fileBytes) {
    refuse('svg.bytes', `${file} is ${(bytes.length / 1048576).toFixed(0)} MB`, {
      where: file,
      accepted: `SVG files up to ${LIMITS.fileBytes / 1048576} MB`,
    });
  }
  const encoding = encodingOf(bytes);
  const text = new TextDecoder(encoding).decode(bytes);
  // Some platforms take Windows-1252 for ISO-8859-1, which leaves control characters (Encoding Standard §9).
  return LATIN.test(encoding)
    ? text.replace(/[\x80-\x9f]/g, (letter) => WINDOWS_1252[letter.charCodeAt(0) - 0x80] ?? letter)
    : text;
}

const LATIN = /^(windows-1252|iso-8859-1|us-ascii|latin1)$/;
/** What Windows-1252 has where ISO-8859-1 has control characters, 0x80 to 0x9f. */
const WINDOWS_1252 = [...'€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ'];

/** Encodings that a declaration may name, as the platform knows them (Encoding Standard §4.2). */
const DECLARED =
  /^<\?xml[^>]*?\bencoding\s*=\s*["'](utf-8|us-ascii|iso-8859-\d{1,2}|latin1|windows-125\d|koi8-[ru]|macintosh|shift_jis|euc-jp|euc-kr|gb2312|gbk|gb18030|big5)["']/i;

function encodingOf(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  if (bytes[0] === 0xef && bytes[1] === 0xbb) return 'utf-8';
  if (bytes[0] === 0x3c && bytes[1] === 0) return 'utf-16le';
  if (bytes[0] === 0 && bytes[1] === 0x3c) return 'utf-16be';
  let head = '';
  for (const byte of bytes.subarray(0, 200)) head += String.fromCharCode(byte);
  return DECLARED.exec(head)?.[1].toLowerCase() ?? 'utf-8';
}

/** The root `<svg>` of a file, style sheets resolved; refuses what is not SVG. */
export function parseSvg(input: Uint8Array | string, file: string, tell: Tell): XmlElement {
  const text = (typeof input === 'string' ? input : decode(input, file)).replace(/^\ufeff/, '').trimStart();
  if (!text) refuse('svg.empty', `${file} is empty`, { where: file, accepted: 'an SVG file' });
  if (!text.startsWith('<'))
    refuse('svg.not', `${file} is not SVG: it does not start with "<"`, { where: file, accepted: 'an SVG file' });
  const root = parseXml(text, file);
  if (root.tag !== 'svg' || root.foreign)
    refuse('svg.not', `${file} is not SVG: its first element is <${root.tag}>`, {
      where: file,
      accepted: 'a file whose first element is <svg>',
    });
  resolveStyles(root, tell);
  return root;
}

export type OwnSize = { box: ViewBox | null; width: number | undefined; height: number | undefined };

/** What a root says of its size, in px: the sides it names, the others by its viewBox (SVG 2 §8.2, CSS Images 3 §4). */
export function ownSize(root: XmlElement, file: string): OwnSize {
  const box = parseViewBox(root.attrs.viewBox);
  const width = sideOf(root.attrs.width, 'width', file);
  const height = sideOf(root.attrs.height, 'height', file);
  if (!box || (width && height)) return { box, width, height };
  return {
    box,
    width: width ?? (height ? (height * box.width) / box.height : box.width),
    height: height ?? (width ? (width * box.height) / box.width : box.height),
  };
}

/** Width or height of the root in px; undefined when absent or a percentage. */
function sideOf(text: string | undefined, side: string, file: string): number | undefined {
  if (text === undefined || /%\s*$/.test(text) || text.trim() === 'auto') return undefined;
  const value = parseLength(text);
  if (value === undefined || value <= 0) {
    return refuse('svg.size', `${file} has a ${side} of "${text.slice(0, 40)}"`, {
      where: file,
      accepted: `a ${side} above 0, with a unit or without`,
    });
  }
  return value;
}
