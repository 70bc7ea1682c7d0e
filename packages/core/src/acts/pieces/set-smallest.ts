import * as z from 'zod';
import { smallestWidth } from '../../document/records';
import { smallestOf } from '../../pieces/smallest';
import { defineAct } from '../act';
import { chosenArtboards, nameOfPieces } from '../doing/chosen';
import { differing } from '../editions/differing';

const { px, mm } = smallestWidth.shape;

export const setSmallest = defineAct({
  name: 'set-smallest',
  title: 'Smallest width of artboards',
  group: 'Pieces',
  needs: 'artboards',
  /** On screens in px, in print in mm; null for any, what is not said stays. What follows them has it too. */
  settings: z.object({ px: px.nullable(), mm: mm.nullable() }),
  nothing: 'It is so already',
  run: (doc, { selection }, said) => {
    const artboards = chosenArtboards(doc, selection);
    const puts = artboards.map((before) => {
      const { smallest: _, ...artboard } = before;
      const smallest = smallestOf(doc, before);
      const wide = said.px === undefined ? smallest?.px : (said.px ?? undefined);
      const printed = said.mm === undefined ? smallest?.mm : (said.mm ?? undefined);
      const next = { ...(wide !== undefined && { px: wide }), ...(printed !== undefined && { mm: printed }) };
      return Object.keys(next).length > 0 ? { ...artboard, smallest: next } : artboard;
    });
    const name = nameOfPieces(artboards);
    return { label: `smallest width of ${name}`, puts: differing(doc, puts), removes: [] };
  },
});
