import * as z from 'zod';
import { trimToArtwork as trimmed } from '../../arrange/artboards';
import { defineAct } from '../act';
import { chosenArtboards, nameOfChosen } from '../doing/chosen';

export const trimToArtwork = defineAct({
  name: 'trim-to-artwork',
  title: 'Trim to artwork',
  group: 'Pieces',
  needs: 'artboards',
  settings: z.object({ marginPx: z.number().min(0).max(10_000).default(0) }),
  nothing: 'Nothing to trim: the artboard fits its artwork, or there is none on it',
  run: (doc, { selection }, { marginPx }) => {
    const own = chosenArtboards(doc, selection).filter((artboard) => !artboard.follows);
    const ids = own.map(({ id }) => id);
    return { label: `trim ${nameOfChosen(doc, ids)}`, puts: trimmed(doc, own, marginPx), removes: [] };
  },
});
