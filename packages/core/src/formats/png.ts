import * as z from 'zod';
import { formatFacts } from './format-facts';

/** PNG (ISO/IEC 15948): exact pixels with alpha. */
export const png = z.object({
  format: z.literal('png'),
  /** `smaller` searches longer for a lighter file of the very same pixels. */
  effort: z.enum(['smaller', 'faster']).default('faster'),
});
export const pngFormat = formatFacts({
  format: 'png',
  title: 'PNG',
  extension: 'png',
  mediaType: 'image/png',
  raster: true,
  transparent: true,
  markup: false,
  shown: true,
  paged: false,
  schema: png,
});
