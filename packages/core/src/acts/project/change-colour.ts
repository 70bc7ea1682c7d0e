import * as z from 'zod';
import { changeColour as changed } from '../../arrange/project-colours';
import { hexColour } from '../../document/records';
import { defineAct } from '../act';

export const changeColour = defineAct({
  name: 'change-colour',
  title: 'Change a colour',
  group: 'Layers',
  needs: 'nothing',
  settings: z.object({ from: hexColour, to: hexColour, within: z.enum(['project', 'selection']).default('project') }),
  nothing: 'Nothing there has that colour',
  run: (doc, { selection }, { from, to, within }) =>
    changed(doc, from.toLowerCase(), to.toLowerCase(), within === 'selection' ? selection : undefined),
});
