import type { Font } from 'fontkit';
import { type Fonts, weightOf } from './fonts';

/** What a run's letters look like, worked out of its attributes; lengths in px. */
export type RunStyle = {
  font: Font;
  size: number;
  letterSpacing: number;
  wordSpacing: number;
  smallCaps: boolean;
  /** Which end of a stretch of text stands at its position. */
  anchor: 'start' | 'middle' | 'end';
  /** How far below the line the letters stand. */
  rise: number;
  /** `text-decoration`, empty for none. */
  decoration: string;
};

/**
 * The style of a run; `own` are its attributes, `base` those of the text and around it, `down` whether it is set from
 * top to bottom. Also the family that was asked for and is not here; the style is null when there is no font at all.
 */
export function runStyle(
  own: Readonly<Record<string, string>>,
  base: Readonly<Record<string, string>>,
  fonts: Fonts,
  down: boolean,
): { style: RunStyle | null; missing: string | null } {
  const style: Record<string, string> = { ...base, ...own };
  const size = Number.parseFloat(style['font-size'] ?? '16');
  const families = style['font-family'] ?? 'sans-serif';
  const found = fonts.find(families, weightOf(style['font-weight']), /italic|oblique/.test(style['font-style'] ?? ''));
  if (!found) return { style: null, missing: families };
  const { font } = found.face;
  const around = Number.parseFloat(base['font-size'] ?? '16');
  return {
    missing: found.exact ? null : firstFamily(families),
    style: {
      font,
      size,
      letterSpacing: Number.parseFloat(style['letter-spacing']) || 0,
      wordSpacing: Number.parseFloat(style['word-spacing']) || 0,
      smallCaps: /small-caps/i.test(style['font-variant'] ?? ''),
      anchor: anchorOf(style),
      rise: baselineOf(down ? { ...style, 'dominant-baseline': 'central' } : style, own, font, size, around),
      decoration: /none/.test(style['text-decoration'] ?? 'none') ? '' : style['text-decoration'],
    },
  };
}

const firstFamily = (families: string): string =>
  families
    .split(',')[0]
    .trim()
    .replace(/^["']|["']$/g, '');

/** Text that reads from the right starts there (SVG 2 §11.4.4). */
function anchorOf(style: Readonly<Record<string, string>>): RunStyle['anchor'] {
  const said = style['text-anchor'];
  const anchor = said === 'middle' || said === 'end' ? said : 'start';
  if (style.direction !== 'rtl' || anchor === 'middle') return anchor;
  return anchor === 'start' ? 'end' : 'start';
}

/** How far below the line of the text its letters stand, in px (SVG 2 §11.10.1, CSS Inline 3 §5). */
function baselineOf(
  style: Readonly<Record<string, string>>,
  own: Readonly<Record<string, string>>,
  font: Font,
  size: number,
  around: number,
): number {
  const scale = size / font.unitsPerEm;
  const [ascent, descent] = [font.ascent * scale, -font.descent * scale];
  const aligned: Record<string, number> = {
    middle: (font.xHeight * scale) / 2,
    central: (ascent - descent) / 2,
    hanging: ascent * 0.8,
    mathematical: ascent * 0.5,
    'text-before-edge': ascent,
    'text-top': ascent,
    'before-edge': ascent,
    'text-after-edge': -descent,
    'text-bottom': -descent,
    'after-edge': -descent,
    ideographic: -descent,
  };
  const shift = own['baseline-shift'] ?? '';
  const raised = shift === 'super' ? around / 3 : shift === 'sub' ? -around / 5 : Number.parseFloat(shift) || 0;
  return (aligned[own['alignment-baseline'] ?? ''] ?? aligned[style['dominant-baseline'] ?? ''] ?? 0) - raised;
}
