import { z } from 'zod';
import { changeColour as changed } from '../arrange/project-colours';
import { hexColour } from '../document/records';
import { defineAct } from './act';

export const changeColour = defineAct({
  name: 'change-colour',
  title: 'Change a colour everywhere',
  group: 'Layers',
  needs: 'nothing',
  settings: z.object({ from: hexColour, to: hexColour }),
  nothing: 'Nothing in the project has that colour',
  run: (doc, _intent, { from, to }) => changed(doc, from.toLowerCase(), to.toLowerCase()),
});
