import * as z from 'zod';

/** Sizes of paper in mm, upright (ISO 216, ANSI/ASME Y14.1). */
export const PAPERS = {
  a4: { title: 'A4', widthMm: 210, heightMm: 297 },
  a3: { title: 'A3', widthMm: 297, heightMm: 420 },
  letter: { title: 'Letter', widthMm: 215.9, heightMm: 279.4 },
} as const;
export const PAPER_LIST = ['a4', 'a3', 'letter'] as const;

/** How the pieces stand on the pages of a contact sheet. */
export const contactSheetSettings = z.object({
  paper: z.enum(PAPER_LIST).default('a4'),
  /** Whether the long side lies below. */
  landscape: z.boolean().default(false),
  columns: z.number().int().min(1).max(12).default(5),
  /** What stands under each: nothing, its name, or its name, number and size. */
  captions: z.enum(['none', 'names', 'full']).default('full'),
  /** Whether a piece's ground fills its cell, which is then three to two: for marks that are seen on their grounds. */
  grounds: z.boolean().default(false),
  /** Whether pages follow that show each lockup, and what has a smallest width, with clear space and smallest size. */
  lockups: z.boolean().default(false),
  /** Whether a page follows with the colours of the project, and one with what files there are of the pieces. */
  colours: z.boolean().default(false),
  files: z.boolean().default(false),
  /** What stands above; the name of the project where nothing is said. */
  heading: z.string().max(200).default(''),
});
export type ContactSheetSettings = z.infer<typeof contactSheetSettings>;
export const DEFAULT_CONTACT_SHEET: ContactSheetSettings = contactSheetSettings.parse({});
/** What a client needs to see of an identity: marks on their grounds, its colours, its files. */
export const BRAND_SHEET: ContactSheetSettings = contactSheetSettings.parse({
  landscape: true,
  columns: 3,
  grounds: true,
  lockups: true,
  colours: true,
  files: true,
});
