import * as z from 'zod';
import { refuse } from '../../basics/problem';
import { recordId } from '../../document/records';
import { layerTitle } from '../../document/titles';
import { defineAct } from '../act';

export const attachDifferences = defineAct({
  name: 'attach-differences',
  title: 'Attach lost differences to a layer',
  group: 'Pieces',
  needs: 'nothing',
  /** What all editions hold for a layer that is gone goes to another layer, and what they hold for that one stays. */
  settings: z.object({ from: recordId, to: recordId }),
  nothing: 'No edition differs there',
  run: (doc, _intent, { from, to }) => {
    const layer = doc.find('layer', to) ?? refuse('attach.gone', 'there is no such layer', { where: 'to' });
    const editions = doc.list('edition').filter(({ overrides }) => overrides[from]?.was !== undefined);
    return {
      label: `attach differences to ${layerTitle(layer)}`,
      puts: editions.map((edition) => {
        const { [from]: lost, ...overrides } = edition.overrides;
        const { was: _, ...held } = lost;
        return { ...edition, overrides: { ...overrides, [to]: { ...held, ...overrides[to] } } };
      }),
      removes: [],
    };
  },
});
