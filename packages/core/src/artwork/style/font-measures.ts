/** What the units `ex` and `ch` stand for in a font, as shares of its size (CSS Values 4 §6.1.1). */
export type FontMeasures = { ex: number; ch: number };

/** A font as far as style tells it. */
export type FontSaid = { family: string; weight: number; italic: boolean };

export const NO_FONT: FontSaid = { family: '', weight: 400, italic: false };

/** Height of the small letters and width of the nought, for each weight; held against the font files by a test. */
const SHIPPED: Record<string, { ex: number; ch: Record<number, readonly [upright: number, italic: number]> }> = {
  'schibsted grotesk': {
    ex: 1080 / 2048,
    ch: {
      400: [1252 / 2048, 1246 / 2048],
      500: [1263 / 2048, 1256 / 2048],
      600: [1278 / 2048, 1268 / 2048],
      700: [1294 / 2048, 1282 / 2048],
      800: [1311 / 2048, 1296 / 2048],
      900: [1327 / 2048, 1310 / 2048],
    },
  },
  'spline sans mono': {
    ex: 1091 / 2000,
    ch: Object.fromEntries([400, 500, 600, 700].map((weight) => [weight, [0.6, 0.6] as const])),
  },
};

/** What a font that ships measures; null for any other, which nobody here can ask. */
export function fontMeasures({ family, weight, italic }: FontSaid): FontMeasures | null {
  const first = family.split(',')[0].replace(/["']/g, '').trim().toLowerCase();
  const known = SHIPPED[first];
  if (!known) return null;
  const weights = Object.keys(known.ch).map(Number);
  const nearest = weights.reduce((best, each) => (Math.abs(each - weight) < Math.abs(best - weight) ? each : best));
  return { ex: known.ex, ch: known.ch[nearest][italic ? 1 : 0] };
}

/** A font with what an element says of it; of each property the last thing said counts. */
export function fontOf(said: readonly { name: string; value: string }[], around: FontSaid): FontSaid {
  let { family, weight, italic } = around;
  for (const { name, value } of said) {
    const word = value.trim().toLowerCase();
    if (word === 'inherit' || word === 'unset') continue;
    if (name === 'font-family') family = word === 'initial' ? '' : value;
    if (name === 'font-style') italic = /^(italic|oblique)/.test(word);
    if (name !== 'font-weight') continue;
    if (word === 'bold' || word === 'bolder') weight = 700;
    else if (word === 'lighter') weight = 400;
    else weight = Number(word) || 400;
  }
  return { family, weight, italic };
}
