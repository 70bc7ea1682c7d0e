import * as z from 'zod';
import { REFERENCES, resizeTo, strokesKept } from '../../arrange/transform';
import { COORDINATE_LIMIT } from '../../document/records';
import { defineAct } from '../act';
import { nameOfChosen } from '../doing/chosen';
import { seenBox, shapedAsSeen } from '../doing/seen';

const side = z.number().min(0).max(COORDINATE_LIMIT).optional();

export const resize = defineAct({
  name: 'resize',
  title: 'Resize layers',
  group: 'Arrange',
  needs: 'layers',
  /** Sides in px; one that is not said keeps the shape. Strokes are scaled along, or look as before. */
  settings: z.object({
    widthPx: side,
    heightPx: side,
    around: z.enum(REFERENCES).default('c'),
    strokes: z.enum(['scaled', 'kept']).default('scaled'),
  }),
  nothing: 'What is selected is locked, or has that size already',
  run: (doc, intent, { widthPx, heightPx, around, strokes }) => {
    const box = seenBox(doc, intent);
    const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
    const width = widthPx ?? (heightPx === undefined || h === 0 ? w : (w * heightPx) / h);
    const height = heightPx ?? (widthPx === undefined || w === 0 ? h : (h * widthPx) / w);
    const label = `resize ${nameOfChosen(doc, intent.selection)}`;
    if (width === w && height === h) return { label, puts: [], removes: [] };
    const made = shapedAsSeen(doc, intent.shown, intent.selection, resizeTo(box, width, height, around));
    const even = w > 0 && h > 0 && Math.abs(width / w - height / h) < 1e-9;
    const puts = strokes === 'kept' && even ? strokesKept(doc, made, width / w) : made;
    return { label, puts, removes: [] };
  },
});
