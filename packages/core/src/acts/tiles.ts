import { z } from 'zod';
import { cutIntoTiles, MAX_TILES } from '../arrange/tiles';
import { refuse } from '../basics/problem';
import { pieces } from '../pieces/pieces';
import { defineAct } from './act';

const common = {
  gapPx: z.number().min(0).max(100_000).default(0),
  naming: z.string().max(300).default('{name}-{row}-{column}'),
  /** Whether the piece itself makes files from now on. */
  keepWhole: z.boolean().default(true),
};
const tileCount = z.number().int().min(1).max(MAX_TILES);
const tileSide = z.number().positive().max(1_000_000);

export const tiles = defineAct({
  name: 'tiles',
  title: 'Cut into tiles',
  group: 'Pieces',
  needs: 'piece',
  settings: z.union([
    z.object({ columns: tileCount, rows: tileCount, ...common }),
    z.object({ tileWidthPx: tileSide, tileHeightPx: tileSide, ...common }),
  ]),
  nothing: 'There is nothing to cut',
  run: (doc, { selection }, { keepWhole, ...options }) => {
    const piece = pieces(doc).find(({ id }) => selection.has(id));
    if (!piece || piece.problem)
      return refuse('tiles.nowhere', `${piece?.name ?? 'that'} has no region to cut`, {
        accepted: 'a piece with a region',
      });
    const made = cutIntoTiles(doc, piece.region, piece.name, options, piece.specIds);
    return {
      label: `cut ${piece.name} into ${made.length} tiles`,
      puts: [...made, ...(keepWhole ? [] : [{ ...piece.record, on: false }])],
      removes: [],
      selected: made.map(({ id }) => id),
    };
  },
});
