import * as z from 'zod';
import { count } from '../../basics/words';
import { recordId } from '../../document/records';
import { defineAct } from '../act';
import { specOf } from './output-of';
import { meantBy, swapped } from './spec-followers';

export const followSpec = defineAct({
  name: 'follow-spec',
  title: 'Use a spec, or stop using it',
  group: 'Files',
  needs: 'nothing',
  /** The selected pieces, or all. With `instead`, only those that follow that spec, which they leave. */
  settings: z.object({ specId: recordId, on: z.boolean().default(true), instead: recordId.optional() }),
  nothing: 'They use it so already',
  run(doc, { selection }, { specId, on, instead }) {
    const spec = specOf(doc, specId);
    const pieces = meantBy(doc, selection);
    if (instead !== undefined) {
      const old = specOf(doc, instead);
      const puts = old === spec ? [] : swapped(doc, pieces, old.id, spec.id);
      return { label: `${spec.name} instead of ${old.name}`, puts, removes: [] };
    }
    const puts = pieces
      .filter(({ specIds }) => specIds.includes(specId) !== on)
      .map((piece) => ({
        ...piece,
        specIds: on ? [...piece.specIds, specId] : piece.specIds.filter((id) => id !== specId),
      }));
    const who = count(puts.length, 'piece');
    const verb = puts.length === 1 ? ['follows', 'no longer follows'] : ['follow', 'no longer follow'];
    return { label: `${who} ${verb[on ? 0 : 1]} ${spec.name}`, puts, removes: [] };
  },
});
