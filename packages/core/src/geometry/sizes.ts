import * as z from 'zod';
import type { Region } from './region';

/** How large a side may be asked for, in px. */
export const MAX_SIDE_PX = 32_768;
/** How many pixels one raster file may have: 4 bytes each, so 400 MB at the most. */
export const MAX_PIXELS = 100_000_000;
/** CSS px in an inch and points in an inch (CSS Values 4 §6.2). */
export const PX_PER_INCH = 96;
export const MM_PER_INCH = 25.4;
export const PX_PER_MM = PX_PER_INCH / MM_PER_INCH;
export const PT_PER_PX = 72 / PX_PER_INCH;

/** Files of pixels that are asked for in mm have so many dots to the inch. */
export const MM_DPI = 300;

const sidePx = z.number().int().min(1).max(MAX_SIDE_PX);
/** In mm; at most what a drawing of `MAX_SIDE_PX` measures. */
const sideMm = z.number().min(0.1).max(8600);

/** How large a file becomes, asked in one of seven ways. */
export const sizeRule = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('factor'), factor: z.number().min(0.25).max(64) }),
  z.object({ kind: z.literal('width'), widthPx: sidePx }),
  z.object({ kind: z.literal('height'), heightPx: sidePx }),
  /** The file has exactly this size; the artwork fits within it, centred. */
  z.object({ kind: z.literal('box'), widthPx: sidePx, heightPx: sidePx }),
  z.object({ kind: z.literal('dpi'), dpi: z.number().min(24).max(2400) }),
  /** True size: vectors have 96 px to the inch, files of pixels `MM_DPI`. */
  z.object({ kind: z.literal('widthMm'), mm: sideMm }),
  z.object({ kind: z.literal('heightMm'), mm: sideMm }),
]);
export type SizeRule = z.infer<typeof sizeRule>;

export type PlannedSize = {
  /** What the file measures: whole px for files of pixels, for vectors exact to a thousandth. */
  widthPx: number;
  heightPx: number;
  /** Output px for one px of the Bench. */
  scale: number;
  /** What is written into PNG and JPEG. */
  dpi: number;
  /** The part of the plane that fills the file: the region, or more of it around when fitted in a box. */
  view: Region;
  /** In words, when it cannot be made. */
  problem?: string;
};

/** round(region × scale), at least 1; an offset between pixels never adds one. */
const whole = (length: number) => Math.max(1, Math.round(length + 1e-9));
const exact = (length: number) => Math.max(0.001, +length.toFixed(3));

/**
 * The size of a file of pixels or of vectors from its region and rule. `drawnAtScale` divides factors and dpi.
 * The scale is exact, so that lines on the grid stay on the grid: where the size had to be rounded,
 * the view gives or takes the part of a pixel at its right and lower edge.
 */
export function sizeOf(
  region: Region,
  rule: SizeRule,
  drawnAtScale = 1,
  kind: 'pixels' | 'vectors' = 'pixels',
): PlannedSize {
  const { width, height } = region;
  let scale: number;
  let dpi: number = PX_PER_INCH;
  let fixed: { widthPx?: number; heightPx?: number } = {};
  switch (rule.kind) {
    case 'factor':
      scale = rule.factor / drawnAtScale;
      dpi = PX_PER_INCH * rule.factor;
      break;
    case 'dpi':
      scale = rule.dpi / PX_PER_INCH / drawnAtScale;
      dpi = rule.dpi;
      break;
    case 'width':
      scale = rule.widthPx / width;
      fixed = { widthPx: rule.widthPx };
      break;
    case 'height':
      scale = rule.heightPx / height;
      fixed = { heightPx: rule.heightPx };
      break;
    case 'widthMm':
    case 'heightMm':
      dpi = kind === 'vectors' ? PX_PER_INCH : MM_DPI;
      scale = ((rule.mm / MM_PER_INCH) * dpi) / (rule.kind === 'widthMm' ? width : height);
      break;
    case 'box':
      scale = Math.min(rule.widthPx / width, rule.heightPx / height);
      fixed = rule;
      break;
  }
  const side = kind === 'vectors' ? exact : whole;
  const widthPx = fixed.widthPx ?? side(width * scale);
  const heightPx = fixed.heightPx ?? side(height * scale);
  const view: Region = { x: region.x, y: region.y, width: widthPx / scale, height: heightPx / scale };
  // What differs by less than a thousandth of a px is the region itself.
  if (kind === 'vectors' && Math.abs(view.width - width) * scale <= 0.0006) view.width = width;
  if (kind === 'vectors' && Math.abs(view.height - height) * scale <= 0.0006) view.height = height;
  if (rule.kind === 'box') {
    view.x -= (view.width - width) / 2;
    view.y -= (view.height - height) / 2;
  }
  const problem =
    widthPx > MAX_SIDE_PX || heightPx > MAX_SIDE_PX || widthPx * heightPx > MAX_PIXELS
      ? `${widthPx} × ${heightPx} px is more than one file may have (${MAX_SIDE_PX} a side, ${MAX_PIXELS / 1e6} million in all)`
      : undefined;
  return { widthPx, heightPx, scale, dpi, view, problem };
}

/** "2×", "64 wide": how a rule is said. */
export function sizeWords(rule: SizeRule): string {
  switch (rule.kind) {
    case 'factor':
      return `${+rule.factor.toFixed(3)}×`;
    case 'width':
      return `${rule.widthPx} wide`;
    case 'height':
      return `${rule.heightPx} high`;
    case 'box':
      return `in ${rule.widthPx} × ${rule.heightPx}`;
    case 'dpi':
      return `${rule.dpi} dpi`;
    case 'widthMm':
      return `${rule.mm} mm`;
    case 'heightMm':
      return `${rule.mm} mm high`;
  }
}
