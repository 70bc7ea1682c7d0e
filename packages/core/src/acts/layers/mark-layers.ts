import * as z from 'zod';
import { defineAct } from '../act';
import { chosenLayers, nameOfChosen } from '../doing/chosen';
import { differing } from '../editions/differing';

export const markLayers = defineAct({
  name: 'mark-layers',
  title: 'Lock layers, or keep them for the Bench',
  group: 'Layers',
  needs: 'layers',
  /** A locked layer is not picked or moved; one for the Bench only is in no file. */
  settings: z.object({ locked: z.boolean().optional(), benchOnly: z.boolean().optional() }),
  nothing: 'They are so already',
  run: (doc, { selection }, { locked, benchOnly }) => {
    const puts = chosenLayers(doc, selection).map((layer) => ({
      ...layer,
      locked: locked ?? layer.locked,
      benchOnly: benchOnly ?? layer.benchOnly,
    }));
    const what = locked === undefined ? 'bench only:' : locked ? 'lock' : 'unlock';
    return { label: `${what} ${nameOfChosen(doc, selection)}`, puts: differing(doc, puts), removes: [] };
  },
});
