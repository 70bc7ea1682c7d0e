import * as z from 'zod';
import { artboardsForGroups as forGroups } from '../../arrange/for-groups';
import { PIECE_ORDERS } from '../../arrange/piece-order';
import type { ProjectDocument } from '../../document/document';
import type { Artboard } from '../../document/records';
import { followersOf } from '../../variants/following';
import { defineAct } from '../act';
import { chosenArtboards, nameOfPieces } from '../doing/chosen';

/** The artboards that others follow. */
const followedAmong = (doc: ProjectDocument, artboards: readonly Artboard[]): ReadonlySet<string> =>
  new Set(artboards.flatMap(({ id }) => (followersOf(doc, new Set([id])).length > 0 ? [id] : [])));

const side = z.number().min(1).max(100_000);

export const artboardsForGroups = defineAct({
  name: 'artboards-for-groups',
  title: 'An artboard for each group in it',
  group: 'Pieces',
  needs: 'artboards',
  settings: z.object({
    marginPx: z.number().min(0).max(10_000).default(0),
    square: z.boolean().default(false),
    equal: z.boolean().default(false),
    /** So large at the least, the group in the middle. */
    leastPx: z.object({ width: side, height: side }).nullable().default(null),
    rows: z.boolean().default(true),
    order: z.enum(PIECE_ORDERS).default('reading'),
    gapPx: z.number().int().min(0).max(10_000).default(16),
    sheet: z.enum(['stays', 'off', 'goes']).default('goes'),
  }),
  nothing: 'There are not several groups in it, so there is nothing to make artboards for',
  run: (doc, { selection }, settings) => {
    const chosen = chosenArtboards(doc, selection);
    const { puts, removes, made } = forGroups(doc, chosen, settings, followedAmong(doc, chosen));
    const label = `an artboard for each group in ${nameOfPieces(chosen)}`;
    return { label, puts, removes, selected: made };
  },
});
