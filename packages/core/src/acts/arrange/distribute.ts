import * as z from 'zod';
import { distribute as distributed } from '../../arrange/align';
import { defineAct } from '../act';
import { nameOfChosen } from '../doing/chosen';
import { movedAsSeen } from '../doing/seen';

export const distribute = defineAct({
  name: 'distribute',
  title: 'Equal gaps',
  group: 'Arrange',
  needs: 'several',
  settings: z.object({ axis: z.enum(['across', 'down']) }),
  nothing: 'The gaps are equal already, or there are fewer than three things to share them between',
  run: (doc, intent, { axis }) => ({
    label: `distribute ${nameOfChosen(doc, intent.selection)} ${axis}`,
    puts: movedAsSeen(doc, intent, intent.selection, (seen) => distributed(seen, intent.selection, axis, intent.carry)),
    removes: [],
  }),
});
