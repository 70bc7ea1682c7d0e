import * as z from 'zod';
import { refuse } from '../../basics/problem';
import type { ProjectDocument } from '../../document/document';
import { newId } from '../../document/ids';
import { lastOrder, ordersAfter } from '../../document/order';
import { type Output, type ProjectRecord, recordId, type Spec, specRecord } from '../../document/records';
import { recordsOfSpecFile, specFile } from '../../specs/spec-file';
import { recordsOfLibrarySpec, SPEC_LIBRARY } from '../../specs/spec-library';
import { defineAct } from '../act';
import { outputsOfSpec, specOf } from './output-of';
import { allFollowers, meantBy, swapped } from './spec-followers';

export const addSpec = defineAct({
  name: 'add-spec',
  title: 'Add a spec',
  group: 'Files',
  needs: 'nothing',
  /**
   * A ready-made one by its key, one that was saved, or an empty one, which nobody follows yet. The selected pieces
   * follow it, or all; with `instead`, those that follow that spec, in place of it, and a spec that nobody follows
   * then is gone.
   */
  settings: z.union([
    z.object({ ready: z.string().max(100), instead: recordId.optional() }),
    z.object({ saved: specFile, instead: recordId.optional() }),
    z.object({ empty: z.literal(true) }),
  ]),
  nothing: 'There is nothing to add',
  run(doc, { selection }, said) {
    if ('empty' in said) {
      const specs = doc.list('spec');
      const spec = specRecord.parse({
        id: newId(),
        kind: 'spec',
        order: ordersAfter(lastOrder(specs), 1)[0],
        name: `Spec ${specs.length + 1}`,
      });
      return { label: 'add a spec', puts: [spec], removes: [] };
    }
    const { spec, outputs } = 'ready' in said ? readyMade(said.ready, doc) : recordsOfSpecFile(said.saved, doc);
    const label = `add spec ${spec.name}`;
    const pieces = meantBy(doc, selection);
    const old = said.instead !== undefined && specOf(doc, said.instead);
    if (!old) {
      const first: ProjectRecord[] = doc.list('spec').length === 0 ? [{ ...doc.settings, defaultSpecId: spec.id }] : [];
      const puts = pieces.map((piece) => ({ ...piece, specIds: [...piece.specIds, spec.id] }));
      return { label, puts: [spec, ...outputs, ...first, ...puts], removes: [] };
    }
    const puts = swapped(doc, pieces, old.id, spec.id);
    const moved = new Set(puts.map(({ id }) => id));
    const isLeft = allFollowers(doc).some(({ id, specIds }) => specIds.includes(old.id) && !moved.has(id));
    const settings: ProjectRecord[] =
      !isLeft && doc.settings.defaultSpecId === old.id ? [{ ...doc.settings, defaultSpecId: spec.id }] : [];
    return {
      label: `${spec.name} instead of ${old.name}`,
      puts: [spec, ...outputs, ...settings, ...puts],
      removes: isLeft ? [] : [old.id, ...outputsOfSpec(doc, old.id).map(({ id }) => id)],
    };
  },
});

function readyMade(key: string, doc: ProjectDocument): { spec: Spec; outputs: Output[] } {
  if (!SPEC_LIBRARY.some((entry) => entry.key === key))
    refuse('spec.unknown', `there is no ready-made spec "${key}"`, {
      accepted: SPEC_LIBRARY.map((entry) => entry.key).join(', '),
    });
  return recordsOfLibrarySpec(key, doc);
}
