import * as z from 'zod';
import { ownGrid, wholeStrokes } from '../../edges';
import { defineAct } from '../act';
import { chosenArtboards, nameOfPieces } from '../doing/chosen';

export const wholeStrokeWidths = defineAct({
  name: 'whole-strokes',
  title: 'Make stroke widths whole px',
  group: 'Pieces',
  needs: 'artboards',
  /** The width of the files at which strokes are whole, in px; of each artboard itself where none is said. */
  settings: z.object({ widthPx: z.number().int().min(1).max(4096).optional() }),
  nothing: 'Every stroke has a whole width already, or is thinner than half a px',
  run: (doc, { selection }, { widthPx }) => {
    const artboards = chosenArtboards(doc, selection).filter(({ follows }) => !follows);
    return {
      label: `whole stroke widths for ${nameOfPieces(artboards)}`,
      puts: artboards.flatMap((artboard) => wholeStrokes(doc, artboard, ownGrid(artboard, widthPx))),
      removes: [],
    };
  },
});
