import * as z from 'zod';
import { refuse } from '../../basics/problem';
import { hexColour } from '../../document/records';
import { withOverrides } from '../../editions/overrides';
import { defineAct } from '../act';
import { chosenLayers, nameOfChosen } from '../doing/chosen';
import { changedEdition } from '../doing/seen';
import { differing } from './differing';

export const setDifference = defineAct({
  name: 'set-difference',
  title: 'Tint or fade layers in an edition',
  group: 'Layers',
  needs: 'layers',
  /** In the edition that is shown alone; a tint of null is the base's own colours, the opacity is a share of the base's. */
  settings: z.object({ tint: hexColour.nullable().optional(), opacity: z.number().min(0).max(1).optional() }),
  nothing: 'They are so already',
  run: (doc, { selection, shown }, { tint, opacity }) => {
    const ids = chosenLayers(doc, selection).map(({ id }) => id);
    const edition = changedEdition(doc, { shown, changes: 'edition' }, ids);
    if (!edition)
      return refuse('act.edition', 'no edition is shown that these layers are in', {
        where: 'editionId',
        accepted: 'an edition of their artboard',
      });
    const put = withOverrides(doc, edition, ids, ({ tint: held, ...before }) => {
      const next = tint === undefined ? held : (tint ?? undefined);
      return { ...before, ...(next && { tint: next }), ...(opacity !== undefined && { opacity }) };
    });
    const what = tint === undefined ? 'opacity of' : 'tint';
    const label = `${what} ${nameOfChosen(doc, selection)} in ${edition.name}`;
    return { label, puts: differing(doc, [put]), removes: [] };
  },
});
