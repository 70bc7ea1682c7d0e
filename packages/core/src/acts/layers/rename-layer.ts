import * as z from 'zod';
import { layerRecord } from '../../document/records';
import { layerTitle, renamedLayer } from '../../document/titles';
import { defineAct } from '../act';
import { chosenLayers } from '../doing/chosen';
import { differing } from '../editions/differing';

export const renameLayer = defineAct({
  name: 'rename-layer',
  title: 'Rename a layer',
  group: 'Layers',
  needs: 'layer',
  /** What its drawing calls it is kept, so that the drawing's next version is known by it. */
  settings: z.object({ name: z.string().trim().max(300) }),
  nothing: 'It is called so already',
  run: (doc, { selection }, { name }) => {
    const [layer] = chosenLayers(doc, selection);
    const puts = layer.name === name ? [] : [layerRecord.parse(renamedLayer(layer, name))];
    return { label: `rename ${layerTitle(layer)}`, puts: differing(doc, puts), removes: [] };
  },
});
