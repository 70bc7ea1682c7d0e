import * as z from 'zod';
import { type Layer, type LayerHold, layerHold } from '../../document/records';
import { defineAct } from '../act';
import { chosenLayers } from '../doing/chosen';
import { differing } from '../editions/differing';

const { x, y } = layerHold.shape;

export const holdTo = defineAct({
  name: 'hold-to',
  title: 'What layers hold to',
  group: 'Layers',
  needs: 'layers',
  /** What they keep their distance to when their artboard is resized; null for nothing, what is not said stays. */
  settings: z.object({ x: x.nullable(), y: y.nullable() }),
  nothing: 'They hold so already',
  run: (doc, { selection }, said) => {
    const puts = chosenLayers(doc, selection).map(({ hold: before, ...layer }): Layer => {
      const hold: LayerHold = { ...before };
      for (const axis of ['x', 'y'] as const) if (said[axis] === null) delete hold[axis];
      if (said.x) hold.x = said.x;
      if (said.y) hold.y = said.y;
      return Object.keys(hold).length > 0 ? { ...layer, hold } : layer;
    });
    return { label: 'what layers hold to', puts: differing(doc, puts), removes: [] };
  },
});
