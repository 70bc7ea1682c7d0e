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
  }
}

/** One size as it is typed; a plain number is one of `kind`. Null when it is none. */
function readSize(word: string, kind: SizeRule['kind']): SizeRule | null {
  const number = (text: string) => Number(text.replace(',', '.'));
  const [, box, by] = /^(\d+)\s*[x×]\s*(\d+)$/i.exec(word) ?? [];
  if (box) return checked({ kind: 'box', widthPx: number(box), heightPx: number(by) });
  const [, value, unit = ''] = /^@?(\d+(?:\.\d+)?)\s*(x|×|dpi|px|w|wide|h|high)?$/i.exec(word) ?? [];
  if (!value) return null;
  const n = number(value);
  const of: SizeRule['kind'] =
    ({ x: 'factor', '×': 'factor', dpi: 'dpi', w: 'width', wide: 'width', h: 'height', high: 'height' }[
      unit.toLowerCase()
    ] as SizeRule['kind']) ?? (unit && kind !== 'height' && kind !== 'box' ? 'width' : kind);
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
  }
}

const checked = (size: SizeRule): SizeRule | null => sizeRule.safeParse(size).data ?? null;

const RANGES: Record<SizeRule['kind'], string> = {
  factor: 'factors from 0.25 to 64',
  width: `widths from 1 to ${MAX_SIDE_PX} px`,
  height: `heights from 1 to ${MAX_SIDE_PX} px`,
  box: `sides from 1 to ${MAX_SIDE_PX} px`,
  dpi: '24 to 2400 dpi',
};

/**
 * Sizes as they are typed: "16, 32, 64" of a kind, "2x 3x", "300 dpi", "64x48", each once. In words what they have to be
 * where any of them is none.
 */
export function readSizes(text: string, kind: SizeRule['kind']): SizeRule[] | string {
  const words = text
    .replace(/(\d)\s+[x×]\s+(\d)/gi, '$1x$2')
    .replace(/(\d)\s+(dpi|px|wide|high)\b/gi, '$1$2')
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
};

/** A suffix without what it says of a size. */
const withoutSize = (suffix: string, size: SizeRule): string => {
  const said = sizeSuffix(size);
  return said && suffix.includes(said) ? suffix.replace(said, '') : suffix;
};

/** An output of another size; a suffix that told the old one tells the new one. */
export function withSize(output: Output, size: SizeRule): Output {
  const said = sizeSuffix(output.size);
  const suffix = said && output.suffix.includes(said) ? output.suffix.replace(said, sizeSuffix(size)) : output.suffix;
  return { ...output, size, suffix };
}

/** One output as several, a size each, with suffixes that tell them apart. */
export function atSizes(output: Output, sizes: readonly SizeRule[]): Output[] {
  if (sizes.length === 1) return [withSize(output, sizes[0])];
  const base = withoutSize(output.suffix, output.size);
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
  const suffix = size === output.size ? output.suffix : withoutSize(output.suffix, output.size);
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
