import * as z from 'zod';
import { hexColour } from '../../document/records';
import { defineAct } from '../act';
import { chosenArtboards, nameOfPieces } from '../doing/chosen';
import { differing } from '../editions/differing';

export const setBackground = defineAct({
  name: 'set-background',
  title: 'Background of artboards',
  group: 'Pieces',
  needs: 'artboards',
  /** Null is transparent. `use`: whether files have it, or it is only looked at on; what is not said stays. */
  settings: z.object({
    background: hexColour.nullable().optional(),
    use: z.enum(['painted', 'shown']).optional(),
  }),
  nothing: 'They have that background already',
  run: (doc, { selection }, { background, use }) => {
    const artboards = chosenArtboards(doc, selection);
    const puts = artboards.map((artboard) => ({
      ...artboard,
      ...(background === undefined ? {} : { background }),
      ...(use ? { backgroundUse: use } : {}),
    }));
    const name = nameOfPieces(artboards);
    return { label: `background of ${name}`, puts: differing(doc, puts), removes: [] };
  },
});
