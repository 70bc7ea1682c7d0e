import { z } from 'zod';
import { refuse } from '../basics/problem';
import { count } from '../basics/words';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Output, outputRecord, recordId } from '../document/records';
import { MOST_WORDS, outputsInWords } from '../specs/outputs-in-words';
import { unlikeOthers } from '../specs/vary-output';
import { defineAct } from './act';
import { specToAddTo } from './add-output';
import { mayHold, outputsOfSpec } from './output-of';

export const sayOutputs = defineAct({
  name: 'outputs-in-words',
  title: 'Outputs in words',
  group: 'Files',
  needs: 'nothing',
  /** `words` as `outputsInWords` reads them, for the last spec unless another is said; `instead` takes its others out. */
  settings: z.object({
    words: z.string().max(MOST_WORDS),
    specId: recordId.optional(),
    instead: z.boolean().optional(),
  }),
  nothing: 'There is nothing to add',
  run: (doc, _intent, { words, specId: asked, instead }) => {
    const said = outputsInWords(words);
    if (typeof said === 'string')
      return refuse('outputs.words', said, { accepted: 'words such as “png 16 32 64, jpeg 512 on #0c6a53, svg”' });
    const { specId, puts } = specToAddTo(doc, asked);
    const siblings = outputsOfSpec(doc, specId);
    const taken: Output[] = instead ? [] : [...siblings];
    mayHold(taken.length + said.length);
    const orders = ordersAfter(lastOrder(siblings), said.length);
    for (const [i, fields] of said.entries()) {
      const output = unlikeOthers(
        outputRecord.parse({ id: newId(), kind: 'output', specId, order: orders[i], ...fields }),
        taken,
      );
      taken.push(output);
      puts.push(output);
    }
    return {
      label: instead ? `make ${count(said.length, 'output')} instead` : `add ${count(said.length, 'output')}`,
      puts,
      removes: instead ? siblings.map(({ id }) => id) : [],
    };
  },
});
