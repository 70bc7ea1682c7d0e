import { tokenize, tokenTypes } from 'css-tree/tokenizer';
import { ident, string, url } from 'css-tree/utils';
import { ATTRIBUTES, PRESENTATION } from './allow-list';

/**
 * Which values attributes may have. A value is taken apart into tokens (CSS Syntax 3 §4), escapes decoded, and held
 * against what is allowed; nothing is searched for. What is not known here does not get in, and does not get out.
 */

/** Functions a value may call (CSS Color 4 and 5, Filter Effects 1 §4, CSS Shapes 1, CSS Values 4 §10, SVG 2 §8.5). None of them loads anything. */
const FUNCTIONS = new Set(
  `rgb rgba hsl hsla hwb lab lch oklab oklch color color-mix light-dark device-cmyk calc min max clamp var
  blur brightness contrast drop-shadow grayscale hue-rotate invert opacity saturate sepia
  circle ellipse inset polygon path rect xywh
  matrix translate translatex translatey scale scalex scaley rotate skewx skewy`.split(/\s+/),
);
const WITH_FUNCTIONS = new Set([...PRESENTATION, 'transform', 'gradientTransform', 'patternTransform']);
/** Attributes that may hold quoted text. */
const WITH_STRINGS = new Set(['font-family', 'clip-path']);
/** Names that filter primitives give their results: any words. */
const FILTER_NAMES = new Set(['in', 'in2', 'result']);

/** Numbers, lengths, colours in hexadecimal and keywords: no character in it can begin a function, an escape or markup. */
const PLAIN = /^[-+\w.,#%\s]*$/;
/** Attributes that hold path data: of a shape, and of what text stands on. */
const PATHS = new Set(['d', 'path']);
const PATH_DATA = /^[MmZzLlHhVvCcSsQqTtAaEe\d+.,\s-]*/;
/** An identifier that needs no escape. */
const WORD = /^(?:--|-?[\p{L}_])[\p{L}\p{N}_-]*$/u;
const NAME_OF_RESULT = /^[^<>&"'\\(){};@!\p{Cc}\p{Cs}]*$/u;
/** How a reference to a definition is written in records. */
const REFERENCE = /^[A-Za-z_][\w-]{0,63}$/;
const BLOB = /^blob:[0-9a-f]{64}$/;

const {
  Url,
  Function: Call,
  String: Quoted,
  Ident,
  Hash,
  Number: Num,
  Percentage,
  Dimension,
  Delim,
  Comma,
  WhiteSpace,
  LeftParenthesis,
  RightParenthesis,
  Comment,
} = tokenTypes;
const HARMLESS = new Set([
  Ident,
  Hash,
  Num,
  Percentage,
  Dimension,
  Comma,
  WhiteSpace,
  LeftParenthesis,
  RightParenthesis,
]);
const DELIMITERS = new Set(['+', '-', '*', '/', '.', '%']);

type Token = { type: number; text: string };

function tokensOf(value: string): Token[] {
  const tokens: Token[] = [];
  tokenize(
    value,
    (type: number, start: number, end: number) => void tokens.push({ type, text: value.slice(start, end) }),
  );
  return tokens;
}

/** The target of a `url()` token at `at`, and where what follows it begins; null when it is none, or not closed. */
function urlAt(tokens: readonly Token[], at: number): { target: string; next: number } | null {
  const { type, text } = tokens[at];
  if (type === Url) return { target: url.decode(text), next: at + 1 };
  if (type !== Call || ident.decode(text.slice(0, -1)).toLowerCase() !== 'url') return null;
  const skip = (i: number) => (tokens[i]?.type === WhiteSpace ? i + 1 : i);
  const inner = skip(at + 1);
  const close = skip(inner + 1);
  if (tokens[inner]?.type !== Quoted || tokens[close]?.type !== RightParenthesis) return null;
  return { target: string.decode(tokens[inner].text), next: close + 1 };
}

/**
 * An attribute's value as records hold it: references as `url(#id)`, comments gone; null when it holds
 * anything that is not allowed there, such as a reference to something outside the file.
 */
export function allowedValue(name: string, value: string): string | null {
  if (PATHS.has(name)) return (PATH_DATA.exec(value) as RegExpExecArray)[0];
  if (PLAIN.test(value)) return value;
  if (FILTER_NAMES.has(name)) return NAME_OF_RESULT.test(value) ? value : null;
  if (!WITH_FUNCTIONS.has(name)) return null;
  const tokens = tokensOf(value);
  let kept = '';
  let open = 0;
  for (let i = 0; i < tokens.length; ) {
    const { type, text } = tokens[i];
    const reference = urlAt(tokens, i);
    if (reference) {
      if (!/^#[^\s'"()\\<>]+$/.test(reference.target)) return null;
      kept += `url(${reference.target})`;
      i = reference.next;
      continue;
    }
    i++;
    if (type === Comment) continue;
    if (type === Call) {
      const called = ident.decode(text.slice(0, -1));
      if (!FUNCTIONS.has(called.toLowerCase())) return null;
      kept += `${called}(`;
    } else if (type === Quoted) {
      if (!WITH_STRINGS.has(name)) return null;
      kept += string.encode(string.decode(text));
    } else if (type === Ident) {
      const word = ident.decode(text);
      if (!WORD.test(word)) return null;
      kept += word;
    } else if (HARMLESS.has(type) || (type === Delim && DELIMITERS.has(text))) {
      if (text.includes('\\')) return null;
      kept += text;
    } else return null;
    if (type === Call || type === LeftParenthesis) open++;
    if (type === RightParenthesis && --open < 0) return null;
  }
  return open === 0 ? kept : null;
}

/**
 * Why a record may not have this attribute; null when it may. Records hold values in the one form that
 * `allowedValue` gives, refer to definitions by the ids records have, and to pictures by their hash.
 */
export function attributeTrouble(name: string, value: string): string | null {
  if (name === 'href')
    return BLOB.test(value) || (value.startsWith('#') && REFERENCE.test(value.slice(1)))
      ? null
      : 'a reference to anything but a definition or a picture of the project';
  if (!ATTRIBUTES.has(name)) return `an attribute that artwork does not have ("${name.slice(0, 40)}")`;
  if (PLAIN.test(value))
    return PATHS.has(name) && allowedValue(name, value) !== value
      ? 'path data with other letters than those of commands'
      : null;
  if (allowedValue(name, value) !== value) return `a value of ${name} that is not allowed`;
  for (const [, id] of value.matchAll(/url\(#([^)]*)\)/g))
    if (!REFERENCE.test(id)) return `a reference in ${name} that no definition can have`;
  return null;
}

/** Characters that XML 1.0 §2.2 allows, without the control characters that no text needs. */
const NOT_TEXT = /(?![\t\n\r])\p{Cc}|\p{Cs}|[\ufffe\uffff]/u;

/** Whether text can be written into every file and stored: no control characters and no halves of characters. */
export const isPlainText = (text: string): boolean => !NOT_TEXT.test(text);

/** The text without what `isPlainText` refuses, and at most so long; no character is cut in half. */
export const plainText = (text: string, most = Number.POSITIVE_INFINITY): string => {
  const clean = NOT_TEXT.test(text) ? text.replace(new RegExp(NOT_TEXT.source, 'gu'), ' ') : text;
  if (clean.length <= most) return clean;
  const cut = clean.slice(0, most);
  return /[\ud800-\udbff]$/.test(cut) ? cut.slice(0, -1) : cut;
};
