import { parseColour, printColour } from '../artwork/colour/colours';
import type { Output } from '../document/records';
import {
  BRAND_SHEET,
  defaultSettings,
  FORMAT_LIST,
  FORMATS,
  type Format,
  type OutputSettings,
  type SettingsOf,
} from '../formats';
import { type SizeRule, sizeWords } from '../geometry/sizes';
import { readSizes, sizeSuffix } from './vary-output';

/** An output before it is one: what the words say of it. */
export type SaidOutput = Pick<Output, 'size' | 'suffix' | 'folder' | 'background' | 'room' | 'square' | 'settings'>;

export const MOST_WORDS = 2000;
const MOST_OUTPUTS = 100;

/** A format, or a PDF of all pieces on paper: a contact sheet, or a brand sheet. */
type SaidFormat = Format | 'sheet' | 'brand';
const isSheet = (format: SaidFormat): format is 'sheet' | 'brand' => format === 'sheet' || format === 'brand';

type Shapes = SettingsOf<'svg'>['shapes'];
const SHAPES_SAID: readonly string[] = ['united', 'outlined'] satisfies Shapes[];

/** What holds for the formats and sizes of one part of the words. */
type Part = {
  formats: SaidFormat[];
  sizes: SizeRule[];
  background: Output['background'];
  folder: string | null;
  quality: number | null;
  shapes: Shapes | null;
  square: boolean;
  room: Output['room'];
  /** It names neither a format nor a size: what it says is of all before it. */
  isOfAll?: boolean;
};

/** What a part says of those before it, where they say nothing else themselves. */
function takeOn(part: Part, { background, folder, quality, shapes, square, room }: Part): void {
  if (part.background === 'piece') part.background = background;
  part.folder ??= folder;
  part.quality ??= quality;
  part.shapes ??= shapes;
  part.square ||= square;
  if (part.room === 'piece') part.room = room;
}

const NAMES: readonly SaidFormat[] = [...FORMAT_LIST, 'sheet', 'brand'];
const formatNamed = (word: string): SaidFormat | undefined => {
  const name = word.toLowerCase().replace(/^jpg$/, 'jpeg');
  return NAMES.find((format) => format === name);
};

/**
 * Outputs as they are said: "png 16 32 64, jpeg 512 on #0c6a53, svg, pdf in folders". Commas part what belongs together;
 * a part without a format goes on with the one before, and one with neither format nor size is of all before it. A number is a width in px, `2x` a factor, `300dpi` a density,
 * `64x48` a box. `on COLOUR` is the ground, `on ground` that of each piece, also one that it is only looked at on, `in NAME` the folder, `in folders` one for each format, `q80` the quality of
 * JPEG; `85mm` a true width, `united` and `outlined` what becomes of shapes, `square` a file as wide as high, `tight` one without clear space; `sheet` is a contact sheet, `brand` a brand sheet. Several sizes of a format are told apart by suffixes. A sentence where any word is
 * none of these.
 */
export function outputsInWords(text: string): SaidOutput[] | string {
  if (text.length > MOST_WORDS) return `needs up to ${MOST_WORDS} letters`;
  const folders = /\bin folders\b/i.test(text);
  const parts: Part[] = [];
  for (const words of text
    .replace(/\bin folders\b/gi, '')
    .replace(/(\d)\s+[x×]\s+(\d)/gi, '$1x$2')
    .split(/[,;\n]+/)
    .map((part) => part.trim().split(/\s+/).filter(Boolean))) {
    if (words.length === 0) continue;
    const part = partOf(words, parts.at(-1));
    if (typeof part === 'string') return part;
    if (part.isOfAll) for (const before of parts) takeOn(before, part);
    else parts.push(part);
  }
  if (parts.length === 0) return 'needs formats and sizes, such as “png 16 32 64, svg”';
  const said = parts.flatMap((part) =>
    // What stands on paper is as large as there is room.
    part.formats.flatMap((format) =>
      (isSheet(format) ? [OWN_SIZE] : part.sizes).map((size) => ({ part, format, size })),
    ),
  );
  if (said.length > MOST_OUTPUTS) return `makes ${said.length} outputs; needs up to ${MOST_OUTPUTS}`;
  const made = new Map<string, SaidOutput>();
  for (const { part, format, size } of said) {
    const several =
      new Set(said.filter((each) => each.format === format).map((each) => JSON.stringify(each.size))).size > 1;
    const rooms = new Set(said.flatMap((each) => (each.format === format ? [roomWords(each.part)] : []))).size > 1;
    const output: SaidOutput = {
      size,
      suffix: isSheet(format) ? `-${format}` : (several ? sizeSuffix(size) : '') + (rooms ? roomWords(part) : ''),
      folder: part.folder ?? (folders ? format : ''),
      background: part.background,
      room: part.room,
      square: part.square,
      settings: settingsOf(format, size, part),
    };
    made.set(`${output.folder}/${output.suffix}.${format}`, output);
  }
  return [...made.values()];
}

function partOf(words: readonly string[], before: Part | undefined): Part | string {
  const part: Part = {
    formats: [],
    sizes: [],
    background: 'piece',
    folder: null,
    quality: null,
    shapes: null,
    square: false,
    room: 'piece',
  };
  const sizes: string[] = [];
  for (let i = 0; i < words.length; i++) {
    const word = words[i];
    const format = formatNamed(word);
    if (format) part.formats.push(format);
    else if (/^on$/i.test(word)) {
      const said = words[++i] ?? '';
      const colour = parseColour(said);
      if (/^ground$/i.test(said)) part.background = 'ground';
      else if (colour) part.background = printColour({ ...colour, a: 1 }) as Output['background'];
      else return `“${said}” is no colour to be on; needs one such as #0c6a53 or white, or “ground”`;
    } else if (/^in$/i.test(word)) {
      const folder = (words[++i] ?? '').replace(/^\/+|\/+$/g, '');
      if (!folder || /[<>:"|?*\\]|(^|\/)\.\.?(\/|$)/.test(folder)) return `“${words[i] ?? ''}” cannot be a folder`;
      part.folder = folder;
    } else if (/^q\d+$/i.test(word)) {
      part.quality = Number(word.slice(1));
      if (part.quality < 1 || part.quality > 100) return 'a quality is q1 to q100';
    } else if (SHAPES_SAID.includes(word.toLowerCase())) part.shapes = word.toLowerCase() as Shapes;
    else if (/^square$/i.test(word)) part.square = true;
    else if (/^tight$/i.test(word)) part.room = 'none';
    else if (/^(dpi|px|mm|wide|high)$/i.test(word) && sizes.length > 0) sizes[sizes.length - 1] += word;
    else if (/^@?[\d.]/.test(word)) sizes.push(word);
    else return `“${word}” is no format, size, “united”, “outlined”, “square”, “tight”, “on” a colour or “in” a folder`;
  }
  if (part.formats.length === 0) {
    if (!before) return `needs a format before “${words[0]}”: ${NAMES.join(', ')}`;
    if (sizes.length === 0) return { ...part, isOfAll: true };
    part.formats = before.formats;
    // What is added with a comma alone is another size of the same.
    takeOn(part, before);
  }
  const read = sizes.length > 0 ? readSizes(sizes.join(' '), 'width') : [OWN_SIZE];
  if (typeof read === 'string') return read;
  part.sizes = read;
  return part;
}

/** How the end of a file's name tells the room around it. */
const roomWords = ({ square, room }: Part): string => `${square ? '-square' : ''}${room === 'none' ? '-tight' : ''}`;

const OWN_SIZE: SizeRule = { kind: 'factor', factor: 1 };

function settingsOf(format: SaidFormat, size: SizeRule, { quality, shapes }: Part): OutputSettings {
  if (isSheet(format)) {
    const sheet = format === 'brand' ? { sheet: BRAND_SHEET } : {};
    return { ...(defaultSettings('pdf') as SettingsOf<'pdf'>), pages: 'sheet', ...sheet };
  }
  let settings = defaultSettings(format);
  if (quality !== null && 'quality' in settings) settings = { ...settings, quality };
  if (shapes !== null && 'shapes' in settings) settings = { ...settings, shapes };
  // A size in mm is also written into the file in mm.
  return settings.format === 'svg' && 'mm' in size ? { ...settings, dimensions: 'mm' } : settings;
}

/** A said output as it is told before it is made: "PNG 64 wide" has a suffix, a folder, a ground. */
export const saidTitle = ({ settings, size, folder, suffix }: SaidOutput): string =>
  `${folder ? `${folder}/` : ''}…${suffix}.${FORMATS[settings.format].extension}${(size.kind === 'dpi' || 'mm' in size) && !suffix ? `, ${sizeWords(size)}` : ''}`;
