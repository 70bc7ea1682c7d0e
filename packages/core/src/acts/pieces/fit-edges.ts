import * as z from 'zod';
import { fittedEdges, ownGrid } from '../../edges';
import { defineAct } from '../act';
import { chosenArtboards, nameOfPieces } from '../doing/chosen';

export const fitEdges = defineAct({
  name: 'fit-edges',
  title: 'Fit edges to pixels',
  group: 'Pieces',
  needs: 'artboards',
  settings: z.object({
    /** The width of the files that are to be crisp, in px; of each artboard itself where none is said. */
    widthPx: z.number().int().min(1).max(4096).optional(),
    /** Whether strokes and stems get widths of whole px, too. */
    widths: z.enum(['whole', 'kept']).default('whole'),
  }),
  nothing: 'There is nothing to fit: no upright or level edge lies between pixels, or none can go to one',
  run: (doc, { selection }, { widthPx, widths }) => {
    const artboards = chosenArtboards(doc, selection).filter(({ follows }) => !follows);
    return {
      label: `fit edges of ${nameOfPieces(artboards)}`,
      puts: artboards.flatMap(
        (artboard) => fittedEdges(doc, artboard, ownGrid(artboard, widthPx), widths)?.layers ?? [],
      ),
      removes: [],
    };
  },
});
