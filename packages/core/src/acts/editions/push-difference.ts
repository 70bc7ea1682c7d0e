import * as z from 'zod';
import { pushToBase } from '../../editions/overrides';
import { defineAct } from '../act';
import { differenceOf, editionWith } from './edition-named';

const { editionId, layerId } = differenceOf;

export const pushDifference = defineAct({
  name: 'push-difference',
  title: 'Push a difference of an edition to the base',
  group: 'Layers',
  needs: 'nothing',
  settings: z.object({ editionId, layerId }),
  nothing: 'A base has no tint, and its layer has to be there',
  run: (doc, _intent, said) =>
    pushToBase(doc, editionWith(doc, said.editionId, said.layerId), said.layerId) ?? {
      label: 'push a difference',
      puts: [],
      removes: [],
    },
});
