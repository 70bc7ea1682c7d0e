import * as z from 'zod';
import { sliceOfEverything } from '../../arrange/slices';
import { recordName } from '../../document/records';
import { defineAct } from '../act';
import { startingSpecs } from '../outputs/starting-specs';

export const sliceEverything = defineAct({
  name: 'slice-everything',
  title: 'A slice of everything',
  group: 'Pieces',
  needs: 'nothing',
  settings: z.object({
    name: recordName.default('everything'),
    to: z.enum(['artwork', 'artboards']).default('artwork'),
  }),
  nothing: 'There is nothing to slice',
  run: (doc, _intent, { name, to }) => {
    const slice = sliceOfEverything(doc, name, to, startingSpecs(doc));
    return { label: `slice ${slice.name}`, puts: [slice], removes: [], selected: [slice.id] };
  },
});
