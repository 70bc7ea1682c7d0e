import * as z from 'zod';
import { sliceOfArtboards } from '../../arrange/slices';
import { defineAct } from '../act';
import { chosenArtboards } from '../doing/chosen';
import { startingSpecs } from '../outputs/starting-specs';

export const sliceArtboards = defineAct({
  name: 'slice-artboards',
  title: 'One page of the selected artboards',
  group: 'Pieces',
  needs: 'severalArtboards',
  settings: z.object({}),
  nothing: 'There is nothing to slice',
  run: (doc, { selection }) => {
    const slice = sliceOfArtboards(doc, chosenArtboards(doc, selection), startingSpecs(doc));
    return { label: `slice ${slice.name}`, puts: [slice], removes: [], selected: [slice.id] };
  },
});
