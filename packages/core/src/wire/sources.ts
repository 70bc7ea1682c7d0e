import * as z from 'zod';
import { pathWithin } from '../handover/receipt';

const count = z.number().int().min(0);

/** A folder of the server that feeds a project: one of its roots, and where below it. */
export const newSource = z.strictObject({
  root: z.string().max(1000),
  folder: z.union([z.literal(''), pathWithin]).default(''),
});
export const sourceFields = z.strictObject({ on: z.boolean() });

const linkedSource = z.strictObject({
  id: z.string(),
  root: z.string(),
  folder: z.string(),
  on: z.boolean(),
  /** How the last reading ended; null before the first. */
  standing: z
    .strictObject({
      at: z.iso.datetime(),
      /** Drawings there, and how many of them the last change brought in. */
      files: count,
      brought: count,
      /** Names of files that were there once and are gone; what came of them stays. The first of them. */
      gone: z.array(z.string()),
      /** Files that are no drawings that can be read, the first of them with the reason. */
      refused: z.array(z.strictObject({ file: z.string(), why: z.string() })),
    })
    .nullable(),
  /** In words, when it could not be read. */
  trouble: z.string().nullable(),
});
export type LinkedSource = z.infer<typeof linkedSource>;
export const sourcesAnswer = z.strictObject({
  /** Folders of the server that may be read from. */
  roots: z.array(z.string()),
  /** The one that was linked first first: of two drawings of one name, its own is taken. */
  sources: z.array(linkedSource),
});
export type SourcesAnswer = z.infer<typeof sourcesAnswer>;
