import * as z from 'zod';
import { refuse } from '../../basics/problem';
import { sliceShape } from '../../document/records';
import { defineAct } from '../act';
import { chosenSlices, nameOfPieces } from '../doing/chosen';
import { differing } from '../editions/differing';

export const setSlice = defineAct({
  name: 'set-slice',
  title: 'Margin and shape of slices',
  group: 'Pieces',
  needs: 'pieces',
  /** The margin in px; what lies outside the shape is transparent. */
  settings: z.object({
    margin: z.number().min(-10_000).max(10_000).optional(),
    square: z.boolean().optional(),
    wholePx: z.boolean().optional(),
    shape: sliceShape.optional(),
  }),
  nothing: 'They are cut so already',
  run: (doc, { selection }, said) => {
    const slices = chosenSlices(doc, selection);
    if (slices.length === 0) refuse('act.slice', 'no slice is selected', { where: 'ids', accepted: 'a slice' });
    const puts = slices.map((slice) => ({ ...slice, ...said }));
    const name = nameOfPieces(slices);
    const what = said.margin !== undefined ? 'margin of' : said.shape ? 'shape of' : 'cut of';
    return { label: `${what} ${name}`, puts: differing(doc, puts), removes: [] };
  },
});
