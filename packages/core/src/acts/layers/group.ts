import * as z from 'zod';
import { groupLayers } from '../../arrange/layers';
import { defineAct } from '../act';

export const group = defineAct({
  name: 'group',
  title: 'Group',
  group: 'Layers',
  needs: 'layers',
  settings: z.object({}),
  nothing: 'There is nothing to group',
  run: (doc, { selection }) => {
    const { change, groupId } = groupLayers(doc, selection);
    return { ...change, selected: [groupId] };
  },
});
