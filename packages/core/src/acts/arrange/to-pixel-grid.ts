import * as z from 'zod';
import { toPixelGrid as onGrid } from '../../arrange/align';
import { defineAct } from '../act';
import { nameOfChosen } from '../doing/chosen';
import { movedAsSeen } from '../doing/seen';

export const toPixelGrid = defineAct({
  name: 'to-pixel-grid',
  title: 'Move to the pixel grid',
  group: 'Arrange',
  needs: 'anything',
  settings: z.object({}),
  nothing: 'All is on the pixel grid already, or is locked',
  run: (doc, intent) => ({
    label: `${nameOfChosen(doc, intent.selection)} to the pixel grid`,
    puts: movedAsSeen(doc, intent, intent.selection, (seen) => onGrid(seen, intent.selection)),
    removes: [],
  }),
});
