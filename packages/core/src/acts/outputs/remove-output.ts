import * as z from 'zod';
import { recordId } from '../../document/records';
import { defineAct } from '../act';
import { outputOf } from './output-of';

export const removeOutput = defineAct({
  name: 'remove-output',
  title: 'Remove an output',
  group: 'Files',
  needs: 'nothing',
  settings: z.object({ outputId: recordId }),
  nothing: 'There is nothing to remove',
  run: (doc, _intent, { outputId }) => ({
    label: 'remove an output',
    puts: [],
    removes: [outputOf(doc, outputId).output.id],
  }),
});
