import * as z from 'zod';
import { REFERENCES, referencePoint, rotateAbout } from '../../arrange/transform';
import { defineAct } from '../act';
import { nameOfChosen } from '../doing/chosen';
import { seenBox, shapedAsSeen } from '../doing/seen';

export const turn = defineAct({
  name: 'turn',
  title: 'Turn by degrees',
  group: 'Arrange',
  needs: 'layers',
  /** Clockwise on screen, around a point of the box. */
  settings: z.object({ degrees: z.number().min(-3600).max(3600), around: z.enum(REFERENCES).default('c') }),
  nothing: 'What is selected is locked, or the turn is a whole one',
  run: (doc, intent, { degrees, around }) => {
    const { x, y } = referencePoint(seenBox(doc, intent), around);
    return {
      label: `turn ${nameOfChosen(doc, intent.selection)} by ${degrees}°`,
      puts: degrees % 360 === 0 ? [] : shapedAsSeen(doc, intent.shown, intent.selection, rotateAbout(x, y, degrees)),
      removes: [],
    };
  },
});
