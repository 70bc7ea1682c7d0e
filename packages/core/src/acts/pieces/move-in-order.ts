import * as z from 'zod';
import { placePiece, shiftPiece } from '../../arrange/piece-order';
import { recordId } from '../../document/records';
import { defineAct } from '../act';
import { chosenPieces } from '../doing/chosen';

export const moveInOrder = defineAct({
  name: 'move-in-order',
  title: 'Move a piece in the order',
  group: 'Pieces',
  needs: 'piece',
  /** By so many places, or beside another piece of its kind. */
  settings: z.union([
    z.strictObject({ by: z.number().int().min(-100_000).max(100_000) }),
    z.strictObject({ beside: recordId, side: z.enum(['before', 'after']) }),
  ]),
  nothing: 'It is there already',
  run: (doc, { selection }, said) => {
    const [piece] = chosenPieces(doc, selection);
    const puts = 'by' in said ? shiftPiece(doc, piece, said.by) : placePiece(doc, piece, said.beside, said.side);
    return { label: `move ${piece.name} in the order`, puts, removes: [] };
  },
});
