import { sha256Hex } from '../basics/sha256';
import type { Settings } from '../document/records';

/** The words a name template may hold, each with what it stands for. */
export const TEMPLATE_WORDS = {
  piece: 'name of the piece',
  suffix: 'suffix of the output',
  width: 'width in px',
  height: 'height in px',
  scale: 'scale, such as 2',
  format: 'svg, pdf, png or jpg',
  spec: 'name of the spec',
  project: 'name of the project',
  number: 'number of the piece',
} as const;
export type TemplateWord = keyof typeof TEMPLATE_WORDS;
/** What a word stands for in one file; asked only for the words a template has. */
export type TemplateValues = (word: TemplateWord) => string;

/** Words in braces that mean nothing; empty when the template is in order. */
export const unknownWords = (template: string): string[] =>
  [...template.matchAll(/\{([^}]*)\}/g)].map((match) => match[1]).filter((word) => !(word in TEMPLATE_WORDS));

/** A template taken apart: texts as they are, and words that stand for something. */
type Part = { text: string; word?: TemplateWord };
const parts = new Map<string, readonly Part[]>();

function partsOf(template: string): readonly Part[] {
  let known = parts.get(template);
  if (!known) {
    known = template.split(/(\{\w+\})/).flatMap((text): Part[] => {
      const word = text.slice(1, -1);
      return text === ''
        ? []
        : text.startsWith('{') && Object.hasOwn(TEMPLATE_WORDS, word)
          ? [{ text, word: word as TemplateWord }]
          : [{ text }];
    });
    if (parts.size >= MOST_TEMPLATES) parts.clear();
    parts.set(template, known);
  }
  return known;
}

const MOST_TEMPLATES = 200;

/** A template with its words replaced. A slash in a value is part of a name, not a folder, so it becomes `-`. */
export function fillTemplate(template: string, values: TemplateValues): string {
  let filled = '';
  for (const { text, word } of partsOf(template)) filled += word ? withoutSlashes(values(word)) : text;
  return filled;
}

export const withoutSlashes = (text: string): string =>
  text.includes('/') || text.includes('\\') ? text.replace(/[/\\]+/g, '-') : text;

/** Names that Windows keeps for devices, whatever their extension. */
const RESERVED = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])(\.|$)/i;
/** Names that begin as one of those does. */
const MAY_BE_RESERVED = /^(con|prn|aux|nul|com|lpt)/i;
/** Names that are safe at a glance, which nearly all are. */
const PLAIN = /^[A-Za-z0-9@_+-](?:[A-Za-z0-9@_+ .-]{0,150}[A-Za-z0-9@_+-])?$/;
/** Bytes that every file system takes for one name, less room for an extension and a mark. */
const MAX_SEGMENT_BYTES = 200;

/**
 * One file or folder name that Windows, macOS and Linux all take: NFC, no control characters, none of
 * `< > : " / \ | ? *`, no dots or spaces at its ends, no device name, at most 200 bytes of UTF-8.
 * What cannot stay becomes `-`; an empty result becomes `unnamed`.
 */
export function safeSegment(name: string): string {
  if (PLAIN.test(name) && !RESERVED.test(name)) return name;
  let safe = name
    .normalize('NFC')
    .replace(/[\p{Cc}\p{Cf}\p{Cs}\p{Zl}\p{Zp}\p{Cn}]/gu, '')
    .replace(/[<>:"/\\|?*]+/g, '-')
    .replace(/^[\s.]+|[\s.]+$/g, '')
    .trim();
  if (RESERVED.test(safe)) safe = `_${safe}`;
  return shortened(safe) || 'unnamed';
}

/**
 * A file name of a piece, and what it would be without a suffix: where that is a device's, all files of the piece begin
 * with `_`, not the one alone that has no suffix.
 */
export function safeFileName(name: string, bare: () => string): string {
  if (!MAY_BE_RESERVED.test(name) || RESERVED.test(name) || !RESERVED.test(bare())) return safeSegment(name);
  return safeSegment(`_${name}`);
}

/** Letters at the end of a long name that are kept, such as `@2x-dark`. */
const KEPT_AT_END = 24;
const MARK_LETTERS = 6;

/**
 * A name that is too long keeps its beginning and its end, by which files of one piece differ; a mark of the whole name
 * between them keeps apart what differs in the middle.
 */
function shortened(name: string): string {
  if (utf8Length(name) <= MAX_SEGMENT_BYTES) return name;
  const letters = [...name];
  const end = letters.slice(-KEPT_AT_END).join('');
  const after = `~${sha256Hex(name).slice(0, MARK_LETTERS)}~${end.replace(/^[\s.]+/, '')}`;
  const room = MAX_SEGMENT_BYTES - utf8Length(after);
  let begin = '';
  let bytes = 0;
  for (const letter of letters) {
    bytes += utf8Length(letter);
    if (bytes > room) break;
    begin += letter;
  }
  return begin + after;
}

function utf8Length(text: string): number {
  let bytes = 0;
  for (const char of text) {
    const code = char.codePointAt(0) as number;
    bytes += code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4;
  }
  return bytes;
}

/** Folders as typed, `/` between them: each one safe, `.` and `..` and empty ones left out. */
export const safeFolders = (path: string): string =>
  path
    .split(/[/\\]+/)
    .map((part) => part.trim())
    .filter((part) => part !== '' && !/^\.+$/.test(part))
    .map(safeSegment)
    .slice(0, 12)
    .join('/');

export function inCase(name: string, letterCase: Settings['letterCase']): string {
  switch (letterCase) {
    case 'asTyped':
      return name;
    case 'lower':
      return name.toLowerCase();
    case 'kebab':
      return words(name).join('-');
    case 'snake':
      return words(name).join('_');
  }
}

const words = (name: string): string[] =>
  name
    .replace(/(\p{Ll}|\d)(\p{Lu})/gu, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\p{N}@.]+/u)
    .filter(Boolean);

/** What a case-insensitive, normalising file system takes a path for. */
export const foldPath = (path: string): string =>
  /^[\x20-\x7e]*$/.test(path) ? path.toLowerCase() : path.normalize('NFD').toLowerCase().normalize('NFC');
