import * as z from 'zod';
import { reorderLayer } from '../../arrange/layers';
import { refuse } from '../../basics/problem';
import { layerTitle } from '../../document/titles';
import { defineAct } from '../act';
import { chosenLayers } from '../doing/chosen';

const WORDS = { front: 'to the front', back: 'to the back', forward: 'forward', backward: 'backward' } as const;

export const reorder = defineAct({
  name: 'reorder',
  title: 'Bring forward or backward',
  group: 'Layers',
  needs: 'layers',
  settings: z.object({ to: z.enum(['front', 'back', 'forward', 'backward']) }),
  nothing: 'It is there already',
  run: (doc, { selection }, { to }) => {
    const layers = chosenLayers(doc, selection);
    if (layers.length > 1)
      refuse('reorder.several', 'several layers at once have no one place to go', {
        accepted: 'one layer, or a group',
      });
    const [layer] = layers;
    return { label: `bring ${layerTitle(layer)} ${WORDS[to]}`, puts: reorderLayer(doc, layer, to), removes: [] };
  },
});
