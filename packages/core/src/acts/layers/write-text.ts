import * as z from 'zod';
import { newText } from '../../arrange/shapes';
import { COORDINATE_LIMIT, MAX_TEXT } from '../../document/records';
import { defineAct } from '../act';

const place = z.number().min(-COORDINATE_LIMIT).max(COORDINATE_LIMIT);

export const writeText = defineAct({
  name: 'write-text',
  title: 'A new text',
  group: 'Layers',
  needs: 'nothing',
  /** x, y is where its first line stands, in px of the plane. */
  settings: z.object({
    words: z.string().max(MAX_TEXT).regex(/\S/, 'a letter or more'),
    x: place,
    y: place,
    family: z.string().min(1).max(200).default('Schibsted Grotesk'),
    weight: z.number().int().min(1).max(1000).default(400),
    sizePx: z.number().min(0.5).max(2000).default(24),
    fill: z.string().max(100).default('#171b1c'),
  }),
  nothing: 'There is nothing to write',
  run: (doc, _intent, { words, x, y, ...look }) => {
    const layer = newText(doc, words, x, y, look);
    return { label: 'new text', puts: [layer], removes: [], selected: [layer.id] };
  },
});
