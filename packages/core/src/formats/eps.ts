import * as z from 'zod';
import { formatFacts } from './format-facts';
import { shapes } from './shapes';

/** Encapsulated PostScript (EPSF 3.0): vectors without transparency, sizes in points. */
export const eps = z.object({
  format: z.literal('eps'),
  ...shapes,
});
export const epsFormat = formatFacts({
  format: 'eps',
  title: 'EPS',
  extension: 'eps',
  mediaType: 'application/postscript',
  raster: false,
  transparent: true,
  markup: false,
  shown: false,
  paged: false,
  schema: eps,
});
