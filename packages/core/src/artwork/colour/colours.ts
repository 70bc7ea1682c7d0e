import type { RecolourRule } from '../../document/records';
import { colourByFunction, oklchColour, type Rgba } from './colour-functions';

export { oklchColour, type Rgba };

/** The named colours of CSS Color 4 §6.1 that artwork really uses are all of them; kept as one string to stay small. */
const NAMED = Object.fromEntries(
  'aliceblue f0f8ff antiquewhite faebd7 aqua 00ffff aquamarine 7fffd4 azure f0ffff beige f5f5dc bisque ffe4c4 black 000000 blanchedalmond ffebcd blue 0000ff blueviolet 8a2be2 brown a52a2a burlywood deb887 cadetblue 5f9ea0 chartreuse 7fff00 chocolate d2691e coral ff7f50 cornflowerblue 6495ed cornsilk fff8dc crimson dc143c cyan 00ffff darkblue 00008b darkcyan 008b8b darkgoldenrod b8860b darkgray a9a9a9 darkgreen 006400 darkgrey a9a9a9 darkkhaki bdb76b darkmagenta 8b008b darkolivegreen 556b2f darkorange ff8c00 darkorchid 9932cc darkred 8b0000 darksalmon e9967a darkseagreen 8fbc8f darkslateblue 483d8b darkslategray 2f4f4f darkslategrey 2f4f4f darkturquoise 00ced1 darkviolet 9400d3 deeppink ff1493 deepskyblue 00bfff dimgray 696969 dimgrey 696969 dodgerblue 1e90ff firebrick b22222 floralwhite fffaf0 forestgreen 228b22 fuchsia ff00ff gainsboro dcdcdc ghostwhite f8f8ff gold ffd700 goldenrod daa520 gray 808080 green 008000 greenyellow adff2f grey 808080 honeydew f0fff0 hotpink ff69b4 indianred cd5c5c indigo 4b0082 ivory fffff0 khaki f0e68c lavender e6e6fa lavenderblush fff0f5 lawngreen 7cfc00 lemonchiffon fffacd lightblue add8e6 lightcoral f08080 lightcyan e0ffff lightgoldenrodyellow fafad2 lightgray d3d3d3 lightgreen 90ee90 lightgrey d3d3d3 lightpink ffb6c1 lightsalmon ffa07a lightseagreen 20b2aa lightskyblue 87cefa lightslategray 778899 lightslategrey 778899 lightsteelblue b0c4de lightyellow ffffe0 lime 00ff00 limegreen 32cd32 linen faf0e6 magenta ff00ff maroon 800000 mediumaquamarine 66cdaa mediumblue 0000cd mediumorchid ba55d3 mediumpurple 9370db mediumseagreen 3cb371 mediumslateblue 7b68ee mediumspringgreen 00fa9a mediumturquoise 48d1cc mediumvioletred c71585 midnightblue 191970 mintcream f5fffa mistyrose ffe4e1 moccasin ffe4b5 navajowhite ffdead navy 000080 oldlace fdf5e6 olive 808000 olivedrab 6b8e23 orange ffa500 orangered ff4500 orchid da70d6 palegoldenrod eee8aa palegreen 98fb98 paleturquoise afeeee palevioletred db7093 papayawhip ffefd5 peachpuff ffdab9 peru cd853f pink ffc0cb plum dda0dd powderblue b0e0e6 purple 800080 rebeccapurple 663399 red ff0000 rosybrown bc8f8f royalblue 4169e1 saddlebrown 8b4513 salmon fa8072 sandybrown f4a460 seagreen 2e8b57 seashell fff5ee sienna a0522d silver c0c0c0 skyblue 87ceeb slateblue 6a5acd slategray 708090 slategrey 708090 snow fffafa springgreen 00ff7f steelblue 4682b4 tan d2b48c teal 008080 thistle d8bfd8 tomato ff6347 turquoise 40e0d0 violet ee82ee wheat f5deb3 white ffffff whitesmoke f5f5f5 yellow ffff00 yellowgreen 9acd32'
    .split(' ')
    .map((word, i, all) => [word, all[i + 1]])
    .filter((_, i) => i % 2 === 0),
);

/** A CSS colour (CSS Color 4 §4 to §16) as sRGB 0–255 with alpha 0–1, cut to what sRGB holds; null for anything else. */
export function parseColour(text: string): Rgba | null {
  const value = text.trim().toLowerCase();
  const hex = /^#([0-9a-f]{3,8})$/.exec(value)?.[1] ?? NAMED[value];
  if (hex) {
    const full = hex.length <= 4 ? [...hex].map((c) => c + c).join('') : hex;
    if (full.length !== 6 && full.length !== 8) return null;
    const n = (at: number) => Number.parseInt(full.slice(at, at + 2), 16);
    return { r: n(0), g: n(2), b: n(4), a: full.length === 8 ? n(6) / 255 : 1 };
  }
  return value.endsWith(')') ? colourByFunction(value) : null;
}

const hex2 = (n: number) => Math.round(n).toString(16).padStart(2, '0');

/** `#rrggbb`, with alpha as two more digits when it is below 1. */
export const printColour = ({ r, g, b, a }: Rgba): string =>
  `#${hex2(r)}${hex2(g)}${hex2(b)}${a < 1 ? hex2(a * 255) : ''}`;

const linearised = (channel: number) => {
  const c = channel / 255;
  return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
};
/** Pixels have whole channels, and there are many pixels. */
const LINEAR = Float64Array.from({ length: 256 }, (_, channel) => linearised(channel));
const linear = (channel: number): number => LINEAR[channel] ?? linearised(channel);

/** Relative luminance 0–1 (WCAG 2.2). */
export const luminance = ({ r, g, b }: Rgba): number => 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b);

/** Contrast ratio 1–21 of two relative luminances (WCAG 2.2). */
export const contrastOf = (one: number, other: number): number =>
  (Math.max(one, other) + 0.05) / (Math.min(one, other) + 0.05);

/** Contrast ratio 1–21 (WCAG 2.2). */
export const contrast = (one: Rgba, other: Rgba): number => contrastOf(luminance(one), luminance(other));

/** A colour in OKLab (CSS Color 4 §9.2): lightness 0–1, a and b about ±0.4; alpha is left out. */
export function oklab({ r, g, b }: Rgba): [number, number, number] {
  const [R, G, B] = [linear(r), linear(g), linear(b)];
  const l = Math.cbrt(0.4122214708 * R + 0.5363325363 * G + 0.0514459929 * B);
  const m = Math.cbrt(0.2119034982 * R + 0.6806995451 * G + 0.1073969566 * B);
  const s = Math.cbrt(0.0883024619 * R + 0.2817188376 * G + 0.6299787005 * B);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** How far two colours are apart to the eye, as their distance in OKLab: 0 is the same, black to white 1. */
export function colourDistance(one: Rgba, other: Rgba): number {
  const [a, b] = [oklab(one), oklab(other)];
  return Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
}

const encode = (value: number) => 255 * (value <= 0.0031308 ? value * 12.92 : 1.055 * value ** (1 / 2.4) - 0.055);

/** A colour without its alpha, as it is told from others. */
export const opaqueKey = (colour: Rgba): string => printColour({ ...colour, a: 1 });

/** Colours as `opaqueKey` has them; what is no colour is left out. */
export const opaque = (colours: readonly string[]): ReadonlySet<string> =>
  new Set(
    colours.flatMap((each) => {
      const colour = parseColour(each);
      return colour ? [opaqueKey(colour)] : [];
    }),
  );

/**
 * A recolour rule as a function on one colour: alpha is kept, results are exact sRGB. Applying it
 * twice is the same as once. `none` stays what it is and never reaches here.
 */
export function recolourBy(rule: RecolourRule): ((colour: Rgba) => Rgba | 'none') | null {
  const flat = (hex: string) => {
    const to = parseColour(hex) as Rgba;
    return (colour: Rgba) => ({ ...to, a: colour.a });
  };
  switch (rule.kind) {
    case 'asDrawn':
      return null;
    case 'white':
      return flat('#ffffff');
    case 'black':
      return flat('#000000');
    case 'tint':
      return flat(rule.colour);
    case 'ink': {
      const ink = flat(rule.colour);
      const out = opaque(rule.out);
      return (colour) => (out.has(opaqueKey(colour)) ? 'none' : ink(colour));
    }
    case 'grey':
      return (colour) => {
        if (colour.r === colour.g && colour.g === colour.b) return colour;
        const value = Math.round(encode(luminance(colour)));
        return { r: value, g: value, b: value, a: colour.a };
      };
    case 'map': {
      const targets = new Map<string, string>();
      for (const { from, to } of rule.colours) {
        const source = parseColour(from);
        if (source) targets.set(printColour({ ...source, a: 1 }), to);
      }
      return (colour) => {
        const to = targets.get(printColour({ ...colour, a: 1 }));
        if (to === undefined) return colour;
        return to === 'none' ? 'none' : { ...(parseColour(to) as Rgba), a: colour.a };
      };
    }
  }
}
