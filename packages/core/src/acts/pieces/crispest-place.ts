import * as z from 'zod';
import { crisperPlace, movedTo, ownGrid } from '../../edges';
import { defineAct } from '../act';
import { chosenArtboards, nameOfPieces } from '../doing/chosen';

export const crispestPlace = defineAct({
  name: 'crispest-place',
  title: 'Move drawings to their crispest place',
  group: 'Pieces',
  needs: 'artboards',
  /** The width of the files that are to be crisp, in px; of each artboard itself where none is said. */
  settings: z.object({ widthPx: z.number().int().min(1).max(4096).optional() }),
  nothing: 'Every drawing lies as crisp as it can by moving it',
  run: (doc, { selection }, { widthPx }) => {
    const artboards = chosenArtboards(doc, selection).filter(({ follows }) => !follows);
    return {
      label: `crispest place for ${nameOfPieces(artboards)}`,
      puts: artboards.flatMap((artboard) => {
        const place = crisperPlace(doc, artboard, ownGrid(artboard, widthPx));
        return place ? movedTo(doc, place) : [];
      }),
      removes: [],
    };
  },
});
