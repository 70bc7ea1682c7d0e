import * as z from 'zod';
import { mirrorAbout } from '../../arrange/transform';
import { defineAct } from '../act';
import { nameOfChosen } from '../doing/chosen';
import { seenBox, shapedAsSeen } from '../doing/seen';

export const mirror = defineAct({
  name: 'mirror',
  title: 'Mirror',
  group: 'Arrange',
  needs: 'layers',
  settings: z.object({ across: z.enum(['horizontally', 'vertically']) }),
  nothing: 'What is selected is locked',
  run: (doc, intent, { across }) => {
    const { minX, minY, maxX, maxY } = seenBox(doc, intent);
    return {
      label: `mirror ${nameOfChosen(doc, intent.selection)} ${across}`,
      puts: shapedAsSeen(
        doc,
        intent.shown,
        intent.selection,
        mirrorAbout((minX + maxX) / 2, (minY + maxY) / 2, across),
      ),
      removes: [],
    };
  },
});
