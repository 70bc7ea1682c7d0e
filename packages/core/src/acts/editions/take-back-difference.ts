import * as z from 'zod';
import { takeBack } from '../../editions/overrides';
import { defineAct } from '../act';
import { differing } from './differing';
import { differenceOf, editionWith } from './edition-named';

export const takeBackDifference = defineAct({
  name: 'take-back-difference',
  title: 'Take a difference of an edition back',
  group: 'Layers',
  needs: 'nothing',
  settings: z.object(differenceOf),
  nothing: 'It is as the base there',
  run: (doc, _intent, { editionId, layerId, field }) => {
    const edition = editionWith(doc, editionId, layerId);
    const puts = differing(doc, [takeBack(edition, layerId, field)]);
    return { label: `take a difference of ${edition.name} back`, puts, removes: [] };
  },
});
