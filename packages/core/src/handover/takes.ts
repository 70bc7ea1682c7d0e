import * as z from 'zod';
import { recordId } from '../document/records';
import type { IntakeRules } from './intake-rules';

const MOST_SPECS = 50;
const MOST_PIECES = 5000;

/** Which files of a delivery are meant for a receiver at all; null for all. */
export const takes = z.strictObject({
  specIds: z.array(recordId).max(MOST_SPECS).nullable().default(null),
  pieceIds: z.array(recordId).max(MOST_PIECES).nullable().default(null),
});
export type Takes = z.infer<typeof takes>;
export const ALL_FILES: Takes = { specIds: null, pieceIds: null };

/** What a receiver is asked by: which files are for it, and what they have to be like. */
export type Taker = { takes: Takes; rules: IntakeRules };

/** Tells of a file of a piece, made by an output of a spec, whether it is for a receiver. Of an output that is gone nobody knows the spec. */
export function meantFor({ specIds, pieceIds }: Takes): (pieceId: string, specId: string | undefined) => boolean {
  const pieces = pieceIds && new Set(pieceIds);
  const specs = specIds && new Set(specIds);
  return (pieceId, specId) =>
    (!pieces || pieces.has(pieceId)) && (!specs || (specId !== undefined && specs.has(specId)));
}
