import * as z from 'zod';
import { orderBetween } from '../../document/order';
import { recordId } from '../../document/records';
import { defineAct } from '../act';
import { outputOf } from './output-of';

export const shiftOutput = defineAct({
  name: 'shift-output',
  title: 'Move an output left or right',
  group: 'Files',
  needs: 'nothing',
  settings: z.object({ outputId: recordId, to: z.enum(['left', 'right']) }),
  nothing: 'It is at the end already',
  run: (doc, _intent, { outputId, to }) => {
    const { output, siblings, at } = outputOf(doc, outputId);
    const [before, after] = to === 'left' ? [siblings[at - 2], siblings[at - 1]] : [siblings[at + 1], siblings[at + 2]];
    const stays = to === 'left' ? !after : !before;
    const order = orderBetween(before?.order ?? null, after?.order ?? null);
    return { label: 'reorder outputs', puts: stays ? [] : [{ ...output, order }], removes: [] };
  },
});
