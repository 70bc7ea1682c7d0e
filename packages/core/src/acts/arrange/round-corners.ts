import * as z from 'zod';
import { refuse } from '../../basics/problem';
import { defineAct } from '../act';
import { chosenLayers } from '../doing/chosen';
import { differing } from '../editions/differing';

export const roundCorners = defineAct({
  name: 'round-corners',
  title: 'Corners of rectangles',
  group: 'Layers',
  needs: 'layers',
  /** In units of the rectangle. */
  settings: z.object({ radius: z.number().min(0).max(10_000) }),
  nothing: 'They are so already',
  run: (doc, { selection }, { radius }) => {
    const rectangles = chosenLayers(doc, selection).filter(({ tag }) => tag === 'rect');
    if (rectangles.length === 0)
      refuse('act.rectangle', 'no rectangle is selected', { where: 'ids', accepted: 'a rectangle' });
    const puts = rectangles.map((layer) => {
      const { rx: _rx, ry: _ry, ...attrs } = layer.attrs;
      return { ...layer, attrs: radius > 0 ? { ...attrs, rx: String(radius) } : attrs };
    });
    return { label: `corners of ${rectangles[0].name || 'a rectangle'}`, puts: differing(doc, puts), removes: [] };
  },
});
