import * as z from 'zod';
import { recordName } from '../../document/records';
import { defineAct } from '../act';
import { chosenPieces } from '../doing/chosen';

export const renamePiece = defineAct({
  name: 'rename-piece',
  title: 'Rename a piece',
  group: 'Pieces',
  needs: 'piece',
  settings: z.object({ name: recordName }),
  nothing: 'It is called so already',
  run: (doc, { selection }, { name }) => {
    const [piece] = chosenPieces(doc, selection);
    const puts = piece.name === name ? [] : [{ ...piece, name }];
    return { label: `rename ${piece.name}`, puts, removes: [] };
  },
});
