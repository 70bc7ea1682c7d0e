import * as z from 'zod';
import { layOutInRows } from '../../arrange/rows';
import { defineAct } from '../act';
import { chosenArtboards } from '../doing/chosen';

export const rows = defineAct({
  name: 'rows',
  title: 'Lay out in rows',
  group: 'Pieces',
  needs: 'severalArtboards',
  settings: z.object({
    columns: z.number().int().min(1).max(10_000),
    gapPx: z.number().min(0).max(100_000).default(16),
    by: z.enum(['number', 'name', 'size', 'place']).default('number'),
    renumber: z.boolean().default(false),
  }),
  nothing: 'They stand so already',
  run: (doc, { selection }, options) => {
    const artboards = chosenArtboards(doc, selection);
    return {
      label: `lay out ${artboards.length} artboards in rows`,
      puts: layOutInRows(doc, artboards, options),
      removes: [],
    };
  },
});
