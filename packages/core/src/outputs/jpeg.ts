import { z } from 'zod';

/** JPEG (ISO/IEC 10918-1): no transparency, so a file always has a background. */
export const jpeg = z.object({
  format: z.literal('jpeg'),
  quality: z.number().int().min(1).max(100).default(85),
});
export const jpegFormat = { format: 'jpeg', title: 'JPEG', extension: 'jpg', mediaType: 'image/jpeg', raster: true, transparent: false, schema: jpeg } as const;
