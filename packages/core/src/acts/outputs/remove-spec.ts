import * as z from 'zod';
import { type ProjectRecord, recordId } from '../../document/records';
import { defineAct } from '../act';
import { outputsOfSpec, specOf } from './output-of';
import { allFollowers } from './spec-followers';

export const removeSpec = defineAct({
  name: 'remove-spec',
  title: 'Remove a spec',
  group: 'Files',
  needs: 'nothing',
  settings: z.object({ specId: recordId }),
  nothing: 'There is nothing to remove',
  run(doc, _intent, { specId }) {
    const spec = specOf(doc, specId);
    const puts: ProjectRecord[] = allFollowers(doc)
      .filter(({ specIds }) => specIds.includes(specId))
      .map((piece) => ({ ...piece, specIds: piece.specIds.filter((id) => id !== specId) }));
    if (doc.settings.defaultSpecId === specId) puts.push({ ...doc.settings, defaultSpecId: null });
    return {
      label: `remove spec ${spec.name}`,
      puts,
      removes: [specId, ...outputsOfSpec(doc, specId).map(({ id }) => id)],
    };
  },
});
