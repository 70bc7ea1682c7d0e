import * as z from 'zod';
import { defineAct } from '../act';
import { chosenPieces, nameOfChosen } from '../doing/chosen';

export const switchPieces = defineAct({
  name: 'switch-pieces',
  title: 'Switch pieces on or off',
  group: 'Files',
  needs: 'pieces',
  settings: z.object({ on: z.boolean() }),
  nothing: 'They are so already',
  run: (doc, { selection }, { on }) => {
    const chosen = chosenPieces(doc, selection);
    const ids = chosen.map(({ id }) => id);
    return {
      label: `switch ${on ? 'on' : 'off'} ${nameOfChosen(doc, ids)}`,
      puts: chosen.filter((piece) => piece.on !== on).map((piece) => ({ ...piece, on })),
      removes: [],
    };
  },
});
