import { contrast, oklab, oklchColour, type Rgba } from '../artwork/colour/colours';

/** What text and thin lines need against their ground (WCAG 2.2 §1.4.3), and what shapes need (§1.4.11). */
export const READABLE = 4.5;
export const VISIBLE = 3;

/** The highest OKLCH chroma of a neutral colour. */
const NEUTRAL_CHROMA = 0.04;
/** Colours up to this lightness and chroma count as neutral, too: a navy, a deep brown. */
const DARK = { lightness: 0.42, chroma: 0.1 };
/** Neutrals of at least this lightness are paper. */
const PAPER_LIGHTNESS = 0.93;
const STEP = 0.005;

const WHITE: Rgba = { r: 255, g: 255, b: 255, a: 1 };

const lch = (colour: Rgba) => {
  const [lightness, a, b] = oklab(colour);
  return { lightness, chroma: Math.hypot(a, b), hue: Math.atan2(b, a) };
};

/** Whether a colour is no brand colour, but ink, grey or paper. */
export function isNeutral(colour: Rgba): boolean {
  const { lightness, chroma } = lch(colour);
  return chroma <= NEUTRAL_CHROMA || (lightness <= DARK.lightness && chroma <= DARK.chroma);
}

/** A colour made lighter in OKLCH, its hue kept, by as little as it needs for a contrast; white where it has to be. */
export function lightenedFor(ground: Rgba, colour: Rgba, needed: number): Rgba {
  if (contrast(colour, ground) >= needed) return colour;
  const { lightness, chroma, hue } = lch(colour);
  for (let l = lightness + STEP; l < 1; l += STEP) {
    const next = oklchColour(l, chroma, hue);
    if (contrast(next, ground) >= needed) return next;
  }
  return WHITE;
}

/**
 * What a colour becomes on a dark ground. Neutrals turn round their lightness: ink becomes white, paper the ground, and greys
 * what lies between. Others stay when their contrast is what they need, and else are made lighter.
 */
export function reversedOn(ground: Rgba, colour: Rgba, needed: number): Rgba {
  if (!isNeutral(colour)) return lightenedFor(ground, colour, needed);
  const { lightness, chroma, hue } = lch(colour);
  if (lightness <= DARK.lightness) return WHITE;
  if (lightness >= PAPER_LIGHTNESS) return { ...ground, a: 1 };
  const dark = lch(ground).lightness;
  const turned = dark + ((1 - dark) * (PAPER_LIGHTNESS - lightness)) / (PAPER_LIGHTNESS - DARK.lightness);
  return oklchColour(turned, chroma, hue);
}
