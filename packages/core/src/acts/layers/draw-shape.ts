import * as z from 'zod';
import { newShape, SHAPE_KINDS } from '../../arrange/shapes';
import { COORDINATE_LIMIT } from '../../document/records';
import { defineAct } from '../act';

const place = z.number().min(-COORDINATE_LIMIT).max(COORDINATE_LIMIT);
const side = z.number().min(0).max(COORDINATE_LIMIT);
const paint = z.string().max(100);

export const drawShape = defineAct({
  name: 'draw-shape',
  title: 'A new shape',
  group: 'Layers',
  needs: 'nothing',
  /** In px of the plane. A line goes from the upper left to the lower right corner, or up when `rising`. */
  settings: z.object({
    shape: z.enum(SHAPE_KINDS),
    x: place,
    y: place,
    width: side,
    height: side,
    rising: z.boolean().default(false),
    fill: paint.default('#171b1c'),
    stroke: paint.default('none'),
    strokeWidth: z.number().min(0).max(1000).default(2),
    /** Of a rectangle's corners. */
    radiusPx: z.number().min(0).max(10_000).default(0),
    /** Of a polygon. */
    corners: z.number().int().min(3).max(60).default(6),
  }),
  nothing: 'There is nothing to draw',
  run: (doc, _intent, { shape, x, y, width, height, rising, ...look }) => {
    const layer = newShape(doc, shape, { x, y, width, height }, look, rising);
    return { label: `draw ${shape}`, puts: [layer], removes: [], selected: [layer.id] };
  },
});
