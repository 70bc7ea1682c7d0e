import * as z from 'zod';
import { makeGuide as made } from '../../variants/lockups';
import { defineAct } from '../act';
import { chosenArtboards } from '../doing/chosen';

export const makeGuide = defineAct({
  name: 'make-guide',
  title: 'A guide sheet of a lockup',
  group: 'Pieces',
  needs: 'piece',
  /** It shows the lockup with its clear space and measures, and follows the same emblem and wordmark. */
  settings: z.object({}),
  nothing: 'No lockup is selected',
  run: (doc, { selection }) => {
    const puts = chosenArtboards(doc, selection).map((lockup) => made(doc, lockup));
    const [guide] = puts;
    return { label: `guide sheet: ${guide?.name ?? ''}`, puts, removes: [], selected: puts.map(({ id }) => id) };
  },
});
