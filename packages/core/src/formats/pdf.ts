import * as z from 'zod';
import { contactSheetSettings } from './contact-sheet';
import { formatFacts } from './format-facts';
import { shapes } from './shapes';

/** PDF 1.7 (ISO 32000-1): vectors stay vectors, page size in points. */
export const pdf = z.object({
  format: z.literal('pdf'),
  /**
   * A file for each piece; one file with a page for each, in their order, with their names as bookmarks; or one file of
   * paper on which all stand in rows, with words: a contact sheet.
   */
  pages: z.enum(['each', 'together', 'sheet']).default('each'),
  /** Of a contact sheet, where something other than its defaults is wanted. */
  sheet: contactSheetSettings.optional(),
  ...shapes,
});
/** Pages that one file may have. */
export const MAX_PDF_PAGES = 1000;
export const pdfFormat = formatFacts({
  format: 'pdf',
  title: 'PDF',
  extension: 'pdf',
  mediaType: 'application/pdf',
  raster: false,
  transparent: true,
  markup: false,
  shown: false,
  paged: true,
  schema: pdf,
});
