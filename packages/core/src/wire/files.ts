import * as z from 'zod';
import { recordId } from '../document/records';
import { FORMAT_LIST } from '../formats';

const count = z.number().int().min(0);
const format = z.enum(FORMAT_LIST);
/** A render key; '' for a file that cannot be made. */
const key = z.string().regex(/^([0-9a-f]{64})?$/);

/**
 * Facts about a file that only rendering tells: the highest contrast with its ground, as a ratio from 1; the box of the
 * visible pixels, in shares of width and height; the number of one-ink areas that are still drawn through a mask, and of
 * strokes that could not become outlines; whether shapes to be united stay apart; what a cutter makes of the file.
 */
const seen = z.strictObject({
  contrast: z.number().optional(),
  box: z.tuple([z.number(), z.number(), z.number(), z.number()]).nullable().optional(),
  masked: count.optional(),
  strokes: count.optional(),
  apart: z.boolean().optional(),
  asPicture: z.boolean().optional(),
  cut: z
    .strictObject({ inks: count, nodes: count, thinParts: count, thinGaps: count, searched: z.boolean() })
    .optional(),
});

const plannedFile = z.strictObject({
  pieceId: recordId,
  outputId: recordId,
  path: z.string(),
  format,
  widthPx: z.number(),
  heightPx: z.number(),
  widthPt: z.number(),
  heightPt: z.number(),
  dpi: z.number(),
  key,
  /** Null while it has not been made. */
  bytes: count.nullable(),
  seen: seen.optional(),
  problem: z.string().optional(),
  clashes: z.array(z.unknown()),
  clashCount: count,
  /** How many pages it holds, when several. */
  pages: count.optional(),
});
const plannedPage = z.strictObject({ pieceId: recordId, outputId: recordId, page: count, key, bytes: z.null() });

export const planAnswer = z.strictObject({
  version: count,
  offCount: count,
  files: z.array(plannedFile),
  pages: z.array(plannedPage),
});

/** Piece, output, render key, bytes, what is seen, pages when it holds several, and why it cannot be made. */
const madeRow = z.union([
  z.tuple([recordId, recordId, key, count.nullable(), seen.nullable(), count]),
  z.tuple([recordId, recordId, key, count.nullable(), seen.nullable(), count, z.string()]),
]);
export type MadeRow = z.infer<typeof madeRow>;

/** About as many files as the first screen of the Proof shows. */
export const FIRST_FILES = 60;
/** With `first`, only so many of the first files are told: what a screen shows before the rest is worked out. */
export const madeQuery = z.object({ first: z.coerce.number().int().min(1).max(1000).optional() });

/** What was made of each planned file, in short; with the format of each output, for who has not read the records yet. */
export const madeAnswer = z.strictObject({
  version: count,
  formats: z.record(recordId, format),
  /** How many files there are in all. */
  total: count,
  files: z.array(madeRow),
  pages: z.array(madeRow),
  /** With `first`: what those that are small look like, as data URLs by the render key, or by it and `-picture` where a browser cannot show the file. */
  pictures: z.record(z.string(), z.string().startsWith('data:image/')).optional(),
});
export type ServerMade = z.infer<typeof madeAnswer>;

const finding = z.strictObject({
  check: z.string(),
  severity: z.enum(['error', 'warning', 'hint']),
  pieceId: z.string(),
  outputId: recordId.optional(),
  message: z.string(),
  mend: z.string().optional(),
  about: z.string().optional(),
  accepted: z.string().optional(),
});
export const findingsAnswer = z.strictObject({ version: count, findings: z.array(finding) });
