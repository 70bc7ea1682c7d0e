import * as z from 'zod';
import { centreArtwork as centred } from '../../arrange/artboards';
import { defineAct } from '../act';
import { chosenArtboards, nameOfChosen } from '../doing/chosen';

export const centreArtwork = defineAct({
  name: 'centre-artwork',
  title: 'Centre artwork on its artboard',
  group: 'Pieces',
  needs: 'artboards',
  settings: z.object({}),
  nothing: 'The artwork is in the middle already, or there is none',
  run: (doc, { selection }) => {
    const own = chosenArtboards(doc, selection).filter((artboard) => !artboard.follows);
    const ids = own.map(({ id }) => id);
    return { label: `centre artwork on ${nameOfChosen(doc, ids)}`, puts: centred(doc, own), removes: [] };
  },
});
