import * as z from 'zod';
import { artboardToSlice, sliceToArtboard } from '../../arrange/slices';
import { refuse } from '../../basics/problem';
import { defineAct } from '../act';
import { chosenPieces, nameOfChosen } from '../doing/chosen';

export const convert = defineAct({
  name: 'convert',
  title: 'Slice to artboard, artboard to slice',
  group: 'Pieces',
  needs: 'pieces',
  settings: z.object({}),
  nothing: 'There is nothing to convert',
  /** Each keeps its id, so what names it still does. */
  run: (doc, { selection }) => ({
    label: `convert ${nameOfChosen(doc, selection)}`,
    puts: chosenPieces(doc, selection).map((piece) => {
      if (piece.kind === 'slice') return sliceToArtboard(doc, piece);
      if (piece.kind === 'artboard') return artboardToSlice(doc, piece);
      return refuse('convert.edition', `${piece.name} is an edition, which stands for its artboard`, {
        accepted: 'artboards and slices',
      });
    }),
    removes: [],
  }),
});
