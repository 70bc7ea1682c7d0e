import type { Output } from '../document/records';
import { defaultSettings, FORMATS, type Format, type OutputSettings } from '../formats';
import { MAX_SIDE_PX, type SizeRule, sizeRule } from '../geometry/sizes';

/** Sizes that may be asked for at once. */
export const MOST_SIZES = 40;

/** How the end of a file's name tells a size: "@2x", "-64", "-64x48", "-300dpi"; '' for its own size. */
export function sizeSuffix(size: SizeRule): string {
  switch (size.kind) {
    case 'factor':
      return size.factor === 1 ? '' : `@${+size.factor.toFixed(3)}x`;
    case 'width':
      return `-${size.widthPx}`;
    case 'height':
      return `-${size.heightPx}`;
    case 'box':
      return size.widthPx === size.heightPx ? `-${size.widthPx}` : `-${size.widthPx}x${size.heightPx}`;
    case 'dpi':
      return `-${size.dpi}dpi`;
    case 'widthMm':
      return `-${size.mm}mm`;
    case 'heightMm':
      return `-${size.mm}mm-high`;
  }
}

/** One size as it is typed; a plain number is one of `kind`. Null when it is none. */
function readSize(word: string, kind: SizeRule['kind']): SizeRule | null {
  const [, box, by] = /^(\d+)[x×](\d+)$/i.exec(word) ?? [];
  if (box) return checked({ kind: 'box', widthPx: Number(box), heightPx: Number(by) });
  const [, value, unit = ''] = /^@?(\d+(?:\.\d+)?)(x|×|dpi|px|w|wide|h|high|mm|mmwide|mmhigh)?$/i.exec(word) ?? [];
  if (!value) return null;
  const n = Number(value);
  const of: SizeRule['kind'] =
    (unit.toLowerCase() === 'mm' ? inMm(kind) : UNITS[unit.toLowerCase()]) ??
    (unit && kind !== 'height' && kind !== 'box' ? 'width' : kind);
  switch (of) {
    case 'factor':
      return checked({ kind: of, factor: n });
    case 'dpi':
      return checked({ kind: of, dpi: n });
    case 'width':
      return checked({ kind: of, widthPx: n });
    case 'height':
      return checked({ kind: of, heightPx: n });
    case 'box':
      return checked({ kind: of, widthPx: n, heightPx: n });
    case 'widthMm':
    case 'heightMm':
      return checked({ kind: of, mm: n });
  }
}

const UNITS: Partial<Record<string, SizeRule['kind']>> = {
  x: 'factor',
  '×': 'factor',
  dpi: 'dpi',
  w: 'width',
  wide: 'width',
  h: 'height',
  high: 'height',
  mmwide: 'widthMm',
  mmhigh: 'heightMm',
};

/** The side that mm are of where a kind is asked for. */
const inMm = (kind: SizeRule['kind']) => (kind === 'height' || kind === 'heightMm' ? 'heightMm' : 'widthMm');

const checked = (size: SizeRule): SizeRule | null => sizeRule.safeParse(size).data ?? null;

const RANGES: Record<SizeRule['kind'], string> = {
  factor: 'factors from 0.25 to 64',
  width: `widths from 1 to ${MAX_SIDE_PX} px`,
  height: `heights from 1 to ${MAX_SIDE_PX} px`,
  box: `sides from 1 to ${MAX_SIDE_PX} px`,
  dpi: '24 to 2400 dpi',
  widthMm: 'widths from 0.1 to 8600 mm',
  heightMm: 'heights from 0.1 to 8600 mm',
};

/**
 * Sizes as they are typed: "16, 32, 64" of a kind, "2x 3x", "300 dpi", "64x48", each once. In words what they have to be
 * where any of them is none.
 */
export function readSizes(text: string, kind: SizeRule['kind']): SizeRule[] | string {
  const words = text
    .replace(/(\d)\s+[x×]\s+(\d)/gi, '$1x$2')
    .replace(/(\d)\s+(dpi|px|mm|wide|high)\b/gi, '$1$2')
    .replace(/(\dmm)\s+(wide|high)\b/gi, '$1$2')
    .split(/[\s,;]+/)
    .filter(Boolean);
  if (words.length === 0) return `needs ${RANGES[kind]}`;
  if (words.length > MOST_SIZES) return `needs up to ${MOST_SIZES} sizes at once`;
  const sizes = new Map<string, SizeRule>();
  for (const word of words) {
    const size = readSize(word, kind);
    if (!size) return `needs ${RANGES[kind]}, such as “${EXAMPLES[kind]}”`;
    sizes.set(JSON.stringify(size), size);
  }
  return [...sizes.values()];
}

const EXAMPLES: Record<SizeRule['kind'], string> = {
  factor: '1, 2, 3',
  width: '16, 32, 64',
  height: '16, 32, 64',
  box: '64, 128x96',
  dpi: '72, 150, 300',
  widthMm: '20, 85.5',
  heightMm: '20, 85.5',
};

/** A suffix with other words for what it says of a size; as it is where it says nothing of it. */
const saidAnew = ({ suffix, size }: Output, words: string): string => {
  const said = sizeSuffix(size);
  return said ? suffix.replace(said, words) : suffix;
};

/** An output of another size; a suffix that told the old one tells the new one. */
export const withSize = (output: Output, size: SizeRule): Output => ({
  ...output,
  size,
  suffix: saidAnew(output, sizeSuffix(size)),
});

/** One output as several, a size each, with suffixes that tell them apart. */
export function atSizes(output: Output, sizes: readonly SizeRule[]): Output[] {
  if (sizes.length === 1) return [withSize(output, sizes[0])];
  const base = saidAnew(output, '');
  return sizes.map((size) => ({ ...output, size, suffix: `${base}${sizeSuffix(size)}` }));
}

/**
 * An output in another format: what fits is kept, what does not goes. Vectors have no factor and no name for one; what
 * shows no ground through has one; settings that both have are kept.
 */
export function inFormat(output: Output, format: Format): Output {
  const facts = FORMATS[format];
  const size: SizeRule =
    !facts.raster && (output.size.kind === 'factor' || output.size.kind === 'dpi')
      ? { kind: 'factor', factor: 1 }
      : output.size;
  const suffix = size === output.size ? output.suffix : saidAnew(output, '');
  const background = output.background === 'none' && !facts.transparent ? 'piece' : output.background;
  return { ...output, size, suffix, background, settings: settingsLike(output.settings, format) };
}

function settingsLike(settings: OutputSettings, format: Format): OutputSettings {
  const fresh: Record<string, unknown> = { ...defaultSettings(format) };
  for (const [name, value] of Object.entries(settings)) if (name in fresh && name !== 'format') fresh[name] = value;
  return FORMATS[format].schema.safeParse(fresh).success ? (fresh as OutputSettings) : defaultSettings(format);
}

/** An output that makes files of other names than those beside it do, by a number at the end of its suffix. */
export function unlikeOthers(output: Output, others: readonly Output[]): Output {
  const key = ({ suffix, folder, settings }: Output) => `${folder}\n${suffix}\n${settings.format}`.toLowerCase();
  const taken = new Set(others.map(key));
  let made = output;
  for (let n = 2; taken.has(key(made)); n++) made = { ...output, suffix: `${output.suffix}-${n}` };
  return made;
}
