import * as z from 'zod';
import { count } from '../../basics/words';
import { recordId } from '../../document/records';
import { choicesOn, combinationCount, combinations, makeEditions, namingOf } from '../../editions/make';
import { defineAct } from '../act';
import { oneArtboard, withRoomForEditions } from './for-editions';

export const combineEditions = defineAct({
  name: 'combine-editions',
  title: 'Editions of all combinations',
  group: 'Pieces',
  needs: 'artboards',
  settings: z.object({
    /** Groups of which one layer shows in each edition; of those that have none to choose from, nothing is combined. */
    groups: z.array(recordId).max(100),
    /** The name of a group in braces stands for its layer; `{base}` and `{n}` are the artboard and a count. */
    naming: z.string().max(300).optional(),
  }),
  nothing: 'No group is chosen whose layers could take turns',
  run: (doc, { selection }, { groups, naming }) => {
    const artboard = oneArtboard(doc, selection);
    const choices = choicesOn(doc, artboard).filter(({ group }) => groups.includes(group.id));
    withRoomForEditions(doc, artboard, combinationCount(choices));
    const drafts = combinations(doc, artboard, choices, naming ?? namingOf(choices));
    return {
      label: `make ${count(drafts.length, 'edition')} of ${artboard.name}`,
      puts: makeEditions(doc, artboard, drafts),
      removes: [],
    };
  },
});
