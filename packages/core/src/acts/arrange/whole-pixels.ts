import * as z from 'zod';
import { wholePixels as whole } from '../../arrange/artboards';
import { defineAct } from '../act';
import { chosenArtboards, nameOfChosen } from '../doing/chosen';

export const wholePixels = defineAct({
  name: 'whole-pixels',
  title: 'Whole pixels',
  group: 'Pieces',
  needs: 'artboards',
  settings: z.object({}),
  nothing: 'All are on whole pixels',
  run: (doc, { selection }) => {
    const puts = whole(chosenArtboards(doc, selection));
    return { label: `whole pixels for ${nameOfChosen(doc, selection)}`, puts, removes: [] };
  },
});
