import * as z from 'zod';
import { givenToBase } from '../../editions/overrides';
import { defineAct } from '../act';
import { differenceOf, editionWith } from './edition-named';

const { editionId, layerId } = differenceOf;

export const giveToBase = defineAct({
  name: 'give-to-base',
  title: 'Give a difference of an edition to its base',
  group: 'Layers',
  needs: 'nothing',
  settings: z.object({ editionId, layerId }),
  nothing: 'A base has no tint, and its layer has to be there',
  run: (doc, _intent, said) =>
    givenToBase(doc, editionWith(doc, said.editionId, said.layerId), said.layerId) ?? {
      label: 'give a difference to the base',
      puts: [],
      removes: [],
    },
});
