import * as z from 'zod';
import { count } from '../../basics/words';
import { recordId } from '../../document/records';
import { copyDifference } from '../../editions/overrides';
import { defineAct } from '../act';
import { differing } from './differing';
import { differenceOf, editionWith } from './edition-named';

export const giveDifference = defineAct({
  name: 'give-difference',
  title: 'Give a difference to other editions',
  group: 'Layers',
  needs: 'nothing',
  /** To those editions of the same artboard, or to all of them. */
  settings: z.object({ ...differenceOf, to: z.array(recordId).max(20_000).optional() }),
  nothing: 'They have it already',
  run: (doc, _intent, { editionId, layerId, field, to }) => {
    const edition = editionWith(doc, editionId, layerId);
    const wanted = to && new Set(to);
    const others = doc
      .list('edition')
      .filter(({ id, artboardId }) => artboardId === edition.artboardId && (!wanted || wanted.has(id)));
    const puts = differing(doc, copyDifference(doc, edition, layerId, field, others));
    return { label: `give a difference to ${count(puts.length, 'edition')}`, puts, removes: [] };
  },
});
