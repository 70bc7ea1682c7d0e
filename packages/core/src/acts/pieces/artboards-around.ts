import * as z from 'zod';
import { artboardsAround as around } from '../../arrange/artboards';
import { inPieceOrder, PIECE_ORDERS } from '../../arrange/piece-order';
import { defineAct } from '../act';
import { chosenLayers, nameOfChosen } from '../doing/chosen';
import { startingSpecs } from '../outputs/starting-specs';

export const artboardsAround = defineAct({
  name: 'artboards-around',
  title: 'An artboard around each selected layer',
  group: 'Pieces',
  needs: 'layers',
  settings: z.object({
    marginPx: z.number().min(0).max(10_000).default(0),
    square: z.boolean().default(false),
    equal: z.boolean().default(false),
    order: z.enum(PIECE_ORDERS).default('reading'),
  }),
  nothing: 'These layers draw nothing, so there is nothing to put an artboard around',
  run: (doc, { selection }, { order, ...options }) => {
    const ids = inPieceOrder(doc, chosenLayers(doc, selection), order).map(({ id }) => id);
    const puts = around(doc, ids, options, startingSpecs(doc));
    return {
      label: `artboards around ${nameOfChosen(doc, selection)}`,
      puts,
      removes: [],
      selected: puts.map(({ id }) => id),
    };
  },
});
