import * as z from 'zod';
import { refuse } from '../../basics/problem';
import { count } from '../../basics/words';
import { ProjectDocument } from '../../document/document';
import { type Artboard, lockupRule } from '../../document/records';
import { ARRANGEMENTS, emblemFirst, makeLockups as made } from '../../variants/lockups';
import { VARIANT_KEYS } from '../../variants/proposals';
import { defineAct } from '../act';
import { chosenArtboards } from '../doing/chosen';
import { measuredMeetings } from './measured-meetings';
import { variantsOf } from './variants-of';

const { gap, clearSpace, emblemHeight, align } = lockupRule.shape;

export const makeLockups = defineAct({
  name: 'make-lockups',
  title: 'Lockups of an emblem and a wordmark',
  group: 'Pieces',
  needs: 'severalArtboards',
  /** How the two stand together, each way in each colouring as well. Every length is a share of the wordmark's height. */
  settings: z.object({
    arrangements: z.array(z.enum(ARRANGEMENTS)).min(1).max(ARRANGEMENTS.length),
    gap,
    clearSpace,
    emblemHeight,
    align,
    naming: z.string().min(1).max(300).default('{lockup}'),
    colourings: z.array(z.enum(VARIANT_KEYS)).max(VARIANT_KEYS.length).default([]),
    /** Which of the two is the emblem; without it, the one whose sides are nearer to each other. */
    emblemId: z.string().max(64).optional(),
    meetings: measuredMeetings,
  }),
  nothing: 'There is nothing to make',
  run: (doc, { selection }, { arrangements, naming, colourings, emblemId, meetings, ...options }) => {
    const chosen = chosenArtboards(doc, selection);
    if (chosen.length !== 2)
      refuse('lockup.two', `${chosen.length} artboards are selected`, {
        where: 'ids',
        accepted: 'two: an emblem and a wordmark',
      });
    const [one, other] = chosen;
    if (emblemId !== undefined && emblemId !== one.id && emblemId !== other.id)
      refuse('lockup.emblem', 'the emblem is none of the two', { where: 'emblemId', accepted: 'one that is selected' });
    const [emblem, wordmark] =
      emblemId === undefined ? emblemFirst([one, other]) : emblemId === one.id ? [one, other] : [other, one];
    const scratch = new ProjectDocument(doc.all());
    const puts: Artboard[] = [];
    const add = (artboards: readonly Artboard[]) => {
      puts.push(...artboards);
      scratch.apply({ puts: [...artboards], removes: [] });
    };
    const ways = new Set(arrangements);
    const inOrder = ARRANGEMENTS.filter((each) => ways.has(each));
    add(made(doc, emblem, wordmark, inOrder, options, naming));
    for (const lockup of [...puts])
      add(variantsOf(scratch, lockup, { keys: colourings, meetings, naming: '{source}-{variant}' }));
    return {
      label: `make ${count(puts.length, 'lockup')}`,
      puts,
      removes: [],
      selected: puts.map(({ id }) => id),
    };
  },
});
