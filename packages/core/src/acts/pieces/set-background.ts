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
  /** Null is transparent. */
  settings: z.object({ background: hexColour.nullable() }),
  nothing: 'They have that background already',
  run: (doc, { selection }, { background }) => {
    const artboards = chosenArtboards(doc, selection);
    const puts = artboards.map((artboard) => ({ ...artboard, background }));
    const name = nameOfPieces(artboards);
    return { label: `background of ${name}`, puts: differing(doc, puts), removes: [] };
  },
});
