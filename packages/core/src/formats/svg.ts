import * as z from 'zod';
import { formatFacts } from './format-facts';
import { shapes } from './shapes';

/** SVG 2: stand-alone, every reference inside the file. */
export const svg = z.object({
  format: z.literal('svg'),
  /** Digits behind the point in coordinates. */
  decimals: z.number().int().min(0).max(6).default(3),
  /** `kept`: layer names become ids; `minimal`: only ids that something refers to. */
  ids: z.enum(['kept', 'minimal']).default('minimal'),
  layout: z.enum(['oneLine', 'readable']).default('oneLine'),
  /** Whether the root element carries width and height beside its viewBox: in px, or in mm at 96 px to the inch. */
  dimensions: z.union([z.boolean(), z.literal('mm')]).default(true),
  ...shapes,
});
export const svgFormat = formatFacts({
  format: 'svg',
  title: 'SVG',
  extension: 'svg',
  mediaType: 'image/svg+xml',
  raster: false,
  transparent: true,
  markup: true,
  shown: true,
  paged: false,
  schema: svg,
});
