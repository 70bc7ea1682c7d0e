import * as z from 'zod';
import { formatFacts } from './format-facts';

/** JPEG (ISO/IEC 10918-1): no transparency, so a file always has a background. */
export const jpeg = z.object({
  format: z.literal('jpeg'),
  quality: z.number().int().min(1).max(100).default(85),
  /** Whether colours have as many px as lightness (4:4:4) or a quarter of them (4:2:0); `auto` by quality. */
  chroma: z.enum(['auto', 'full', 'quarter']).default('auto'),
});
export const jpegFormat = formatFacts({
  format: 'jpeg',
  title: 'JPEG',
  extension: 'jpg',
  mediaType: 'image/jpeg',
  raster: true,
  transparent: false,
  markup: false,
  shown: true,
  paged: false,
  schema: jpeg,
});

/** Flat colours of logos bleed at their edges when colours have fewer px, so from this quality on they have all. */
export const FULL_CHROMA_FROM = 80;

export const isFullChroma = (quality: number, chroma: 'auto' | 'full' | 'quarter' = 'auto'): boolean =>
  chroma === 'auto' ? quality >= FULL_CHROMA_FROM : chroma === 'full';
