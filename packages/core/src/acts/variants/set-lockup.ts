import * as z from 'zod';
import { refuse } from '../../basics/problem';
import { lockupRule } from '../../document/records';
import { withLockup } from '../../variants/lockups';
import { defineAct } from '../act';
import { chosenArtboards, nameOfPieces } from '../doing/chosen';
import { differing } from '../editions/differing';

const { arrangement, gap, clearSpace, emblemHeight, align, guide } = lockupRule.shape;

export const setLockup = defineAct({
  name: 'set-lockup',
  title: 'Measures of lockups',
  group: 'Pieces',
  needs: 'artboards',
  /** Every length is a share of the wordmark's height; what is not said stays. */
  settings: z.object({
    arrangement: arrangement.optional(),
    gap: gap.unwrap().optional(),
    clearSpace: clearSpace.unwrap().optional(),
    emblemHeight: emblemHeight.unwrap().optional(),
    align: align.unwrap().optional(),
    guide: guide.unwrap().optional(),
  }),
  nothing: 'They stand so already',
  run: (doc, { selection }, said) => {
    const lockups = chosenArtboards(doc, selection).filter(({ follows }) => follows?.lockup);
    if (lockups.length === 0) refuse('act.lockup', 'no lockup is selected', { where: 'ids', accepted: 'a lockup' });
    const name = nameOfPieces(lockups);
    const puts = lockups.map((lockup) => withLockup(doc, lockup, said));
    return { label: `change the lockup ${name}`, puts: differing(doc, puts), removes: [] };
  },
});
