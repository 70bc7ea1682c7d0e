import * as z from 'zod';
import { broughtToSize } from '../../arrange/bring-to-size';
import { count } from '../../basics/words';
import { COORDINATE_LIMIT } from '../../document/records';
import { defineAct } from '../act';
import { chosenArtboards } from '../doing/chosen';

export const bringToSize = defineAct({
  name: 'bring-to-size',
  title: 'Scale artboards to one size',
  group: 'Pieces',
  needs: 'artboards',
  /** Of the longer side of each, in px; what lies on them is scaled along, and several stand in rows then. */
  settings: z.object({ longestPx: z.number().min(0.01).max(COORDINATE_LIMIT) }),
  nothing: 'They have that size already',
  run: (doc, { selection }, { longestPx }) => {
    const artboards = chosenArtboards(doc, selection);
    return {
      label: `scale ${count(artboards.length, 'artboard')} to ${longestPx} px`,
      puts: broughtToSize(doc, artboards, longestPx),
      removes: [],
    };
  },
});
