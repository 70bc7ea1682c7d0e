import * as z from 'zod';
import { recordId } from '../../document/records';

/**
 * Where colours meet in the artwork of artboards, by their ids: measured by whoever can draw them. Without it, what
 * melts into one is not known, and nothing is set apart for it.
 */
export const measuredMeetings = z
  .record(
    recordId,
    z
      .array(
        z.object({
          colours: z.tuple([z.string().max(100), z.string().max(100).nullable()]).readonly(),
          length: z.number(),
        }),
      )
      .max(10_000)
      .readonly(),
  )
  .default({});
