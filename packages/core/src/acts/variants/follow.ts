import * as z from 'zod';
import { same } from '../../basics/same';
import { recolourRule, recordId } from '../../document/records';
import { follow as followed } from '../../variants/following';
import { defineAct } from '../act';
import { chosenArtboards } from '../doing/chosen';

export const follow = defineAct({
  name: 'follow',
  title: 'Follow another artboard',
  group: 'Pieces',
  needs: 'artboards',
  /** Whose artwork is shown, and by which rule it is recoloured; without one, as it was. */
  settings: z.object({ sourceId: recordId, rule: recolourRule.optional() }),
  nothing: 'They follow it already',
  run: (doc, { selection }, { sourceId, rule }) => {
    const made = chosenArtboards(doc, selection)
      .filter(({ follows }) => follows?.artboardId !== sourceId || (rule && !same(rule, follows.rule)))
      .map((artboard) => followed(doc, artboard, sourceId, rule ?? artboard.follows?.rule ?? { kind: 'asDrawn' }));
    const [first = { label: 'follow' }] = made;
    return {
      label: made.length > 1 ? `${made.length} artboards follow another` : first.label,
      puts: made.flatMap(({ puts }) => puts),
      removes: [...new Set(made.flatMap(({ removes }) => removes))],
    };
  },
});
