import { ACTS, MAX_VERSION, outputSettings, recordId, recordName } from '@tolvik/core';
import * as z from 'zod';
import { LARGE_SIDE } from '../projects/open-project';

export const newProject = z
  .object({
    name: recordName,
    copyOf: recordId.optional(),
    /** A delivery: the project becomes what it was when that was made. */
    asInDelivery: recordId.optional(),
  })
  .refine(({ copyOf, asInDelivery }) => !copyOf || !asInDelivery, 'a copy of a project or of what a delivery held');
/** Which files of a delivery a zip holds: all, or those that the deliveries before did not hold like that. */
/** The delivery that another is held against; what was delivered before it where none is said. */
export const compareQuery = z.object({ with: recordId.optional() });
export const archiveQuery = z.object({
  only: z.enum(['all', 'different', 'same', 'changed', 'renamed', 'new', 'gone']).default('all'),
  /** Text that their paths hold. */
  find: z.string().max(300).default(''),
  /** Whether a page that shows it all lies beside the files. */
  page: z.enum(['0', '1']).default('0'),
});
export const projectPatch = z.object({ name: recordName.optional(), deleted: z.boolean().optional() });
export const newDelivery = z.object({
  pieceIds: z.array(recordId).max(20_000).optional(),
  outputIds: z.array(recordId).max(1000).optional(),
  /** Nobody asked for it but receivers that follow: the next such one takes its place in the list. */
  byEdit: z.boolean().default(false),
});
/** One file with other settings than its output has, to look at. */
export const trial = z.object({ pieceId: recordId, outputId: recordId, settings: outputSettings });
export const sinceVersion = z.object({ since: z.coerce.number().int().min(0).max(MAX_VERSION).default(0) });
/** How files are brought in; see `BringInOptions`. */
export const bringInQuery = z.object({
  as: z.enum(['artboards', 'artwork', 'replace']).default('artboards'),
  x: z.coerce.number().min(-1_000_000).max(1_000_000).default(0),
  y: z.coerce.number().min(-1_000_000).max(1_000_000).default(0),
  /** When something hangs on layers that would be gone, say so and do nothing yet. */
  ask: z.enum(['0', '1']).default('0'),
  /** A replaced artboard takes the size of its file, or keeps its own. */
  size: z.enum(['new', 'kept']).default('new'),
  /** Layers that would be gone, each with the place of the new layer that takes over: `id:3,id:7`. */
  attach: z
    .string()
    .max(20_000)
    .default('')
    .transform((text) => text.split(',').filter(Boolean))
    .pipe(z.array(z.string().regex(/^[A-Za-z_][\w-]{0,63}:\d{1,6}$/, 'layers such as id:3')).max(1000))
    .transform((pairs) =>
      Object.fromEntries(pairs.map((pair) => [pair.split(':')[0], Number(pair.split(':')[1])] as const)),
    ),
});
/** Projects that one stream tells of. */
const MOST_FOLLOWED = 50;
export const eventsQuery = z.object({
  /** Ids of projects, with commas between. */
  of: z
    .string()
    .max(5000)
    .transform((text) => [...new Set(text.split(',').filter(Boolean))])
    .pipe(z.array(recordId).min(1).max(MOST_FOLLOWED)),
});
/** The place of a file in its delivery. */
export const position = z.coerce.number().int().min(0).max(MAX_VERSION);
/** Places of files, with commas between. */
export const positions = z
  .string()
  .max(20_000)
  .transform((text): unknown[] => text.split(','))
  .pipe(z.array(position).min(1).max(2000));
export const blobHash = z.string().regex(/^[0-9a-f]{64}$/);

/** Every act with what it needs selected and its settings as JSON Schema. */
export const listOfActs = () =>
  ACTS.map(({ name, title, group, needs, settings }) => ({
    name,
    title,
    group,
    needs,
    settings: z.toJSONSchema(settings, { io: 'input', unrepresentable: 'any' }),
  }));

/** Whether a picture is to be looked at by itself, as large as a window: then its longest side, in px. */
export const sideWhenLarge = z
  .literal('1')
  .transform(() => LARGE_SIDE)
  .optional();

/** A page of a file that has several, from 1. */
export const pageNumber = z.coerce.number().int().min(1).max(100_000).optional();
