import * as z from 'zod';
import { ungroup as ungrouped } from '../../arrange/layers';
import { outermost } from '../../arrange/outermost';
import { defineAct } from '../act';

export const ungroup = defineAct({
  name: 'ungroup',
  title: 'Ungroup',
  group: 'Layers',
  needs: 'groups',
  settings: z.object({}),
  nothing: 'No group is selected',
  run: (doc, { selection }) => {
    const groups = outermost(doc, selection).filter((layer) => layer.tag === 'g');
    const changes = groups.map(({ id }) => ungrouped(doc, id));
    return {
      label: changes.length === 1 ? changes[0].label : `ungroup ${changes.length} groups`,
      puts: changes.flatMap(({ puts }) => puts),
      removes: changes.flatMap(({ removes }) => removes),
      selected: groups.flatMap(({ id }) => doc.children(id).map((child) => child.id)),
    };
  },
});
