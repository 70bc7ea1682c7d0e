import * as z from 'zod';
import { inOrder } from '../../arrange/rows';
import { renumbered } from '../../arrange/slices';
import type { ProjectDocument } from '../../document/document';
import type { Slice } from '../../document/records';
import { boundsOf } from '../../geometry/matrix';
import { inReadingOrder } from '../../geometry/reading-order';
import { sliceRegion } from '../../pieces/pieces';
import { defineAct } from '../act';
import { chosenArtboards, chosenSlices, nameOfChosen } from '../doing/chosen';

function slicesInOrder(doc: ProjectDocument, slices: readonly Slice[], by: 'name' | 'place'): Slice[] {
  if (by === 'name') return [...slices].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  return inReadingOrder(slices, (slice) => {
    const region = sliceRegion(doc, slice);
    return typeof region === 'string' ? null : boundsOf(region);
  });
}

export const number = defineAct({
  name: 'number',
  title: 'Number by name or by place',
  group: 'Pieces',
  needs: 'several',
  settings: z.object({ by: z.enum(['name', 'place']) }),
  nothing: 'They are numbered so already',
  /** Artboards among themselves and slices among themselves; others keep their numbers. */
  run: (doc, { selection }, { by }) => ({
    label: `number ${nameOfChosen(doc, selection)} by ${by}`,
    puts: [
      ...renumbered(doc.list('artboard'), inOrder(chosenArtboards(doc, selection), by)),
      ...renumbered(doc.list('slice'), slicesInOrder(doc, chosenSlices(doc, selection), by)),
    ],
    removes: [],
  }),
});
