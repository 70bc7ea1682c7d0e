import * as z from 'zod';
import { withOverrides } from '../../editions/overrides';
import { defineAct } from '../act';
import { chosenLayers, nameOfChosen } from '../doing/chosen';
import { changedEdition } from '../doing/seen';

export const show = defineAct({
  name: 'show',
  title: 'Show or hide layers',
  group: 'Layers',
  needs: 'layers',
  settings: z.object({ shown: z.boolean() }),
  nothing: 'All is so already',
  run: (doc, intent, { shown }) => {
    const layers = chosenLayers(doc, intent.selection);
    const ids = layers.map((layer) => layer.id);
    const edition = changedEdition(doc, intent, ids);
    const verb = shown ? 'show' : 'hide';
    if (edition)
      return {
        label: `${verb} in ${edition.name}`,
        puts: [withOverrides(doc, edition, ids, (before) => ({ ...before, shown }))],
        removes: [],
      };
    return {
      label: `${verb} ${nameOfChosen(doc, ids)}`,
      puts: layers.filter((layer) => layer.shown !== shown).map((layer) => ({ ...layer, shown })),
      removes: [],
    };
  },
});
