import * as z from 'zod';
import { newId } from '../../document/ids';
import { orderBetween } from '../../document/order';
import { outputRecord, recordId } from '../../document/records';
import { outputSettings } from '../../formats';
import { sizeRule } from '../../geometry/sizes';
import { unlikeOthers } from '../../specs/vary-output';
import { defineAct } from '../act';
import { mayHold, outputOf } from './output-of';

export const duplicateOutput = defineAct({
  name: 'duplicate-output',
  title: 'Duplicate an output',
  group: 'Files',
  needs: 'nothing',
  /** A copy right behind, with what is said otherwise; its files have names of their own. */
  settings: z.object({
    outputId: recordId,
    size: sizeRule.optional(),
    suffix: z.string().max(100).optional(),
    settings: outputSettings.optional(),
  }),
  nothing: 'There is nothing to copy',
  run: (doc, _intent, { outputId, ...said }) => {
    const { output, siblings, at } = outputOf(doc, outputId);
    mayHold(siblings.length + 1);
    const order = orderBetween(output.order, siblings[at + 1]?.order ?? null);
    const copy = unlikeOthers(outputRecord.parse({ ...output, ...said, id: newId(), order }), siblings);
    return { label: 'duplicate an output', puts: [copy], removes: [] };
  },
});
