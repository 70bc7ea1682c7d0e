import {
  type Color,
  clampChroma,
  converter,
  interpolate,
  modeA98,
  modeHsl,
  modeHwb,
  modeLab,
  modeLch,
  modeLrgb,
  modeOklab,
  modeOklch,
  modeP3,
  modeProphoto,
  modeRec2020,
  modeRgb,
  modeXyz50,
  modeXyz65,
  parse,
  useMode,
} from 'culori/fn';
import { calculated, degrees, splitOutside } from '../markup/css-values';

export type Rgba = { r: number; g: number; b: number; a: number };

for (const mode of [
  modeA98,
  modeHsl,
  modeHwb,
  modeLab,
  modeLch,
  modeLrgb,
  modeOklab,
  modeOklch,
  modeP3,
  modeProphoto,
  modeRec2020,
  modeXyz50,
  modeXyz65,
])
  useMode(mode);
useMode(modeRgb);
const toRgb = converter('rgb');

/** Spaces in which `color-mix()` may mix (CSS Color 5 §3), as the library names them. */
const MIXED_IN: Record<string, string> = {
  srgb: 'rgb',
  'srgb-linear': 'lrgb',
  lab: 'lab',
  oklab: 'oklab',
  xyz: 'xyz65',
  'xyz-d65': 'xyz65',
  'xyz-d50': 'xyz50',
  hsl: 'hsl',
  hwb: 'hwb',
  lch: 'lch',
  oklch: 'oklch',
};

/** A colour in OKLCH (CSS Color 4 §9.3) as the nearest that sRGB holds, of less chroma where it must be. The hue is in radians. */
export function oklchColour(lightness: number, chroma: number, hue: number): Rgba {
  const held = clampChroma({ mode: 'oklch', l: lightness, c: chroma, h: (hue * 180) / Math.PI }, 'oklch');
  const { r, g, b } = toRgb(held);
  return { r: channel(r), g: channel(g), b: channel(b), a: 1 };
}

const channel = (value: number | undefined) => Math.round(255 * Math.min(1, Math.max(0, value ?? 0)));

/** A colour that is said by a function; null when it cannot be read. Values outside sRGB are cut, as browsers do. */
export function colourByFunction(text: string): Rgba | null {
  const colour = read(text, 0);
  const rgb = colour && toRgb(colour);
  if (!rgb) return null;
  return { r: channel(rgb.r), g: channel(rgb.g), b: channel(rgb.b), a: Math.min(1, Math.max(0, rgb.alpha ?? 1)) };
}

function read(text: string, depth: number): Color | undefined {
  if (depth > 8) return undefined;
  const call = /^([a-z-]+)\((.*)\)$/s.exec(text.trim());
  if (call?.[1] === 'color-mix') return mixed(call[2], depth);
  if (call?.[1] === 'light-dark') return read(splitOutside(call[2], /,/)[0] ?? '', depth + 1);
  try {
    return parse(call ? plain(call[1], call[2]) : text.trim());
  } catch {
    // The library throws on some of what is no colour.
    return undefined;
  }
}

/** A colour function with its math done, its angles in degrees and its numbers in range, as the library reads it. */
function plain(name: string, args: string): string {
  const done = args.replace(/(?:calc|min|max|clamp)\((?:[^()]|\([^()]*\))*\)/g, (math) => {
    let percent = false;
    const value = calculated(math, (number, unit) => {
      percent ||= unit === '%';
      return unit === '' || unit === '%' ? number : degrees(`${number}${unit}`);
    });
    return value === undefined ? math : `${value}${percent ? '%' : ''}`;
  });
  const turned = done.replace(/([-+]?[\d.]+(?:e[-+]?\d+)?)(deg|rad|grad|turn)\b/g, (angle) => String(degrees(angle)));
  return `${name}(${turned})`;
}

/** `color-mix()` (CSS Color 5 §3). */
function mixed(args: string, depth: number): Color | undefined {
  const [method, one, other] = splitOutside(args, /,/);
  const mode = MIXED_IN[/^in\s+([a-z0-9-]+)/.exec(method ?? '')?.[1] ?? ''];
  if (!mode || !one || !other) return undefined;
  const part = (text: string): { colour: Color | undefined; share: number | undefined } => {
    const share = /(?:^|\s)([\d.]+)%(?:$|\s)/.exec(text);
    const colour = share ? text.replace(`${share[1]}%`, '').trim() : text;
    return { colour: read(colour, depth + 1), share: share ? Number(share[1]) / 100 : undefined };
  };
  const [a, b] = [part(one), part(other)];
  if (!a.colour || !b.colour) return undefined;
  let [p, q] = [a.share ?? 1 - (b.share ?? 0.5), b.share ?? 1 - (a.share ?? 0.5)];
  const sum = p + q;
  if (!(sum > 0)) return undefined;
  [p, q] = [p / sum, q / sum];
  const result = interpolate([a.colour, b.colour], mode as 'rgb')(q) as Color | undefined;
  return result && sum < 1 ? { ...result, alpha: (result.alpha ?? 1) * sum } : result;
}
