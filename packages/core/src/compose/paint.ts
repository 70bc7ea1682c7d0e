import { opaque, opaqueKey, parseColour, printColour, recolourBy } from '../artwork/colour/colours';
import type { InkRule, RecolourRule } from '../document/records';
import { INITIAL } from '../profile/initial-values';

export const PAINTS = new Set(['fill', 'stroke', 'stop-color', 'flood-color', 'lighting-color', 'color']);

/** Rules applied one after the other, the first to touch the artwork first. */
export type Recolouring = {
  rules: readonly RecolourRule[];
  key: string;
  /** Set while artwork is drawn as the mask of one ink, after the rules: white where the ink is, black where it is cut out. */
  ink?: Cutting;
};

/** An ink's rule with its colours at hand. */
export type Cutting = { out: ReadonlySet<string>; apart: ReadonlySet<string>; gapPx: number };

/** Artwork as the mask of one ink (CSS Masking 1 §7.10.1, luminance). */
export const asMask = ({ colour: _, ...rule }: InkRule): Recolouring => ({
  rules: [],
  key: JSON.stringify(rule),
  ink: { out: opaque(rule.out), apart: opaque(rule.apart), gapPx: rule.gap },
});

export const AS_DRAWN: Recolouring = { rules: [], key: '' };

export function withRule(recolouring: Recolouring, rule: RecolourRule | undefined, first = false): Recolouring {
  if (!rule || rule.kind === 'asDrawn') return recolouring;
  const rules = first ? [rule, ...recolouring.rules] : [...recolouring.rules, rule];
  const { ink } = recolouring;
  return { rules, key: JSON.stringify(ink ? [rules, [...ink.out], [...ink.apart], ink.gapPx] : rules), ink };
}

/** Whether it leaves any colour other than it is. */
export const recolours = ({ rules, ink }: Recolouring): boolean => rules.length > 0 || ink !== undefined;

/** A colour after the rules; other values (none, url, keywords) as they are. */
export function recolourValue(value: string, { rules, ink }: Recolouring): string {
  if (rules.length === 0 && !ink) return value;
  let colour = parseColour(value);
  if (!colour) return value;
  for (const rule of rules) {
    const change = recolourBy(rule);
    if (!change) continue;
    const next = change(colour);
    if (next === 'none') return 'none';
    colour = next;
  }
  if (ink) {
    const light = ink.out.has(opaqueKey(colour)) ? 0 : 255;
    colour = { r: light, g: light, b: light, a: colour.a };
  }
  return printColour(colour);
}

/** Attributes that say a fill, the initial one where they say none. */
export const withInitialFill = (attrs: Record<string, string>): Record<string, string> =>
  'fill' in attrs ? attrs : { fill: '#000', ...attrs };

/** Weights of the channels in perceived lightness (CSS Filter Effects 1 §8.3, as in `grayscale`). */
const [R, G, B] = [0.2126, 0.7152, 0.0722];

/**
 * What the rules make of a picture, as the values of an `feColorMatrix` in sRGB; '' when they leave it. One ink
 * covers where the picture is dark and leaves what is white or see-through open; a map knows no colours of a picture.
 */
export function pictureMatrix({ rules, ink: cutting }: Recolouring): string {
  let matrix = '';
  for (const rule of rules) {
    if (rule.kind === 'grey') matrix ||= `${R} ${G} ${B} 0 0 ${R} ${G} ${B} 0 0 ${R} ${G} ${B} 0 0 0 0 0 1 0`;
    const ink =
      rule.kind === 'white'
        ? '#ffffff'
        : rule.kind === 'black'
          ? '#000000'
          : rule.kind === 'tint' || rule.kind === 'ink'
            ? rule.colour
            : undefined;
    const colour = ink && parseColour(ink);
    if (!colour) continue;
    const [r, g, b] = [colour.r, colour.g, colour.b].map((value) => +(value / 255).toFixed(5));
    matrix = oneInk(r, g, b);
  }
  return cutting ? oneInk(1, 1, 1) : matrix;
}

const oneInk = (r: number, g: number, b: number) => `0 0 0 0 ${r} 0 0 0 0 ${g} 0 0 0 0 ${b} ${-R} ${-G} ${-B} 1 0`;

/** Attributes as they are recoloured; `currentColor` becomes the colour it stands for, since a rule fixes colours. */
export function recolourAttributes(
  attrs: Record<string, string>,
  recolouring: Recolouring,
  currentColour = '#000',
  initialFill = false,
): Record<string, string> {
  if (!recolours(recolouring)) return attrs;
  const all = Object.entries(initialFill ? withInitialFill(attrs) : attrs);
  return Object.fromEntries(
    all.map(([name, value]) => [
      name,
      PAINTS.has(name) ? recolourValue(/^currentcolor$/i.test(value) ? currentColour : value, recolouring) : value,
    ]),
  );
}

const PAINT =
  'fill stroke fill-opacity stroke-opacity fill-rule clip-rule stroke-width stroke-linecap stroke-linejoin stroke-miterlimit stroke-dasharray stroke-dashoffset paint-order visibility'.split(
    ' ',
  );

/** What paint is where nothing says it (SVG 2 appendix F). */
export const INITIAL_PAINT: Readonly<Record<string, string>> = Object.fromEntries(
  PAINT.map((name) => [name, INITIAL[name]]),
);
