import * as z from 'zod';
import { moveInTree as moved } from '../../arrange/tree-moves';
import { recordId } from '../../document/records';
import { layerTitle } from '../../document/titles';
import { defineAct } from '../act';
import { nameOfChosen } from '../doing/chosen';
import { differing } from '../editions/differing';

export const moveInTree = defineAct({
  name: 'move-in-tree',
  title: 'Move layers in the tree',
  group: 'Layers',
  needs: 'layers',
  /** Into a group, or `root`; right in front of one that is in it, or behind all with null. Each keeps its place on the plane. */
  settings: z.object({ into: recordId, inFrontOf: recordId.nullable() }),
  nothing: 'They are there already',
  run: (doc, { selection }, { into, inFrontOf }) => {
    const home = doc.find('layer', into);
    const puts = moved(doc, selection, into, inFrontOf);
    const name = nameOfChosen(doc, selection);
    const parents = new Set([...selection].map((id) => doc.find('layer', id)?.parentId));
    const label = home && !parents.has(into) ? `put ${name} into ${layerTitle(home)}` : `move ${name} in the tree`;
    return { label, puts: differing(doc, puts), removes: [] };
  },
});
