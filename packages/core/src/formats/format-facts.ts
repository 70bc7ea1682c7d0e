import type { z } from 'zod';

/** What the rest needs to know of a format of files. */
export type FormatFacts<Name extends string = string> = {
  format: Name;
  /** As people say it. */
  title: string;
  extension: string;
  mediaType: string;
  /** Made of pixels, so that its size is whole px and has a density. */
  raster: boolean;
  /** Whether what is behind may show through; where it may not, a file always has a ground. */
  transparent: boolean;
  /** SVG text itself: colours and names may be left to the page it will live in, and it packs well. */
  markup: boolean;
  /** Whether browsers show it where a picture is asked for. */
  shown: boolean;
  /** Whether one file may hold several pages. */
  paged: boolean;
  schema: z.ZodObject;
};

/** The facts of a format, its name kept as a word. */
export const formatFacts = <const Name extends string>(facts: FormatFacts<Name>): FormatFacts<Name> => facts;
