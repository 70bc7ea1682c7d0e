import * as z from 'zod';
import { align as aligned, EDGES } from '../../arrange/align';
import { defineAct } from '../act';
import { nameOfChosen } from '../doing/chosen';
import { movedAsSeen } from '../doing/seen';

export const align = defineAct({
  name: 'align',
  title: 'Align by an edge',
  group: 'Arrange',
  needs: 'anything',
  settings: z.object({ edge: z.enum(EDGES), to: z.enum(['selection', 'artboard', 'grid']).default('selection') }),
  nothing: 'All stands so already, is locked, or follows what it was cut from',
  run: (doc, intent, { edge, to }) => ({
    label: `align ${nameOfChosen(doc, intent.selection)}: ${edge}`,
    puts: movedAsSeen(doc, intent, intent.selection, (seen) => aligned(seen, intent.selection, edge, to, intent.carry)),
    removes: [],
  }),
});
