import type { Matrix } from './matrix';
import { IDENTITY } from './matrix';

export type ViewBox = { x: number; y: number; width: number; height: number };

/** `viewBox` as four numbers; null when absent, broken, or of no extent (SVG 2 §8.6). */
export function parseViewBox(text: string | undefined): ViewBox | null {
  if (!text) return null;
  const n = text
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  if (n.length !== 4 || n.some((value) => !Number.isFinite(value)) || n[2] <= 0 || n[3] <= 0) return null;
  return { x: n[0], y: n[1], width: n[2], height: n[3] };
}

/** How a viewBox maps onto a viewport of that size, by `preserveAspectRatio` (SVG 2 §8.7, §8.2). */
export function viewBoxTransform(box: ViewBox, width: number, height: number, preserve = 'xMidYMid meet'): Matrix {
  if (!(width > 0) || !(height > 0)) return IDENTITY;
  let sx = width / box.width;
  let sy = height / box.height;
  const [align = 'xMidYMid', fit = 'meet'] = preserve.trim().split(/\s+/);
  if (align !== 'none') sx = sy = fit === 'slice' ? Math.max(sx, sy) : Math.min(sx, sy);
  const share = (part: string) => (part === 'Min' ? 0 : part === 'Max' ? 1 : 0.5);
  const match = /^x(Min|Mid|Max)Y(Min|Mid|Max)$/.exec(align);
  const ax = align === 'none' ? 0 : share(match?.[1] ?? 'Mid');
  const ay = align === 'none' ? 0 : share(match?.[2] ?? 'Mid');
  return [sx, 0, 0, sy, (width - box.width * sx) * ax - box.x * sx, (height - box.height * sy) * ay - box.y * sy];
}

/** px for each absolute unit (CSS Values 4 §6.2). */
export const ABSOLUTE_UNITS: Readonly<Record<string, number>> = {
  '': 1,
  px: 1,
  pt: 4 / 3,
  pc: 16,
  in: 96,
  cm: 96 / 2.54,
  mm: 96 / 25.4,
  q: 96 / 101.6,
};
/** Relative units as they are where nothing says a font size. */
const UNIT_PX: Readonly<Record<string, number>> = { ...ABSOLUTE_UNITS, em: 16, rem: 16, ex: 8 };

/**
 * An SVG length in px (CSS Values 4 §6). `percentOf` is what 100 % stands for; without it a
 * percentage is undefined, as is everything that is not a finite number.
 */
export function parseLength(text: string | undefined, percentOf?: number): number | undefined {
  if (text === undefined) return undefined;
  const match = /^\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)\s*([a-z]*|%)\s*$/i.exec(text);
  if (!match) return undefined;
  const value = Number(match[1]);
  if (!Number.isFinite(value)) return undefined;
  if (match[2] === '%') return percentOf === undefined ? undefined : (value / 100) * percentOf;
  const unit = UNIT_PX[match[2].toLowerCase()];
  return unit === undefined ? undefined : value * unit;
}
