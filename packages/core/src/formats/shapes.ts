import * as z from 'zod';

/** The default bound, in mm, below which a part or gap counts as too thin to cut. */
const LEAST_MM = 0.5;

/** What files of vectors have in common: what becomes of shapes. */
export const shapes = {
  /**
   * `drawn`: as they are; `outlined`: strokes become the outlines of what they cover; `united`: and what has one colour is
   * one path, cut away where something else lies over it, as cutters and engravers need it.
   */
  shapes: z.enum(['drawn', 'outlined', 'united']).default('drawn'),
  /** Of united shapes: parts and gaps that are thinner are told, in mm at the size of the file. */
  leastMm: z.number().min(0.05).max(20).default(LEAST_MM),
};

export type Shapes = z.infer<z.ZodObject<typeof shapes>>;

/**
 * What becomes of shapes by some settings, those from before there was a choice among them; null for files of pixels. Sheets
 * for people to look at show them as they are drawn.
 */
export const shapesOf = (settings: { format: string; pages?: string } & Partial<Shapes>): Shapes | null =>
  settings.format === 'png' || settings.format === 'jpeg'
    ? null
    : {
        shapes: settings.pages === 'sheet' ? 'drawn' : (settings.shapes ?? 'drawn'),
        leastMm: settings.leastMm ?? LEAST_MM,
      };
