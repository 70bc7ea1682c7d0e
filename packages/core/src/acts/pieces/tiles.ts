import * as z from 'zod';
import { cutIntoTiles, MAX_TILES, tilesOf } from '../../arrange/tiles';
import { refuse } from '../../basics/problem';
import { pieces } from '../../pieces/pieces';
import { defineAct } from '../act';

const common = {
  gapPx: z.number().min(0).max(100_000).default(0),
  naming: z.string().max(300).default('{name}-{row}-{column}'),
  /** Whether the piece itself makes files from now on. */
  keepWhole: z.boolean().default(true),
  /** What becomes of the tiles it was cut into before: those at the same row and column go on and the others go, or all stay. */
  earlier: z.enum(['replace', 'keep']).default('keep'),
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
  run: (doc, { selection }, { keepWhole, earlier, ...options }) => {
    const piece = pieces(doc).find(({ id }) => selection.has(id));
    if (!piece || piece.problem)
      return refuse('tiles.nowhere', `${piece?.name ?? 'that'} has no region to cut`, {
        accepted: 'a piece with a region',
      });
    const { tiles, left } = cutIntoTiles(doc, piece, options, earlier === 'replace' ? tilesOf(doc, piece.id) : []);
    return {
      label: `cut ${piece.name} into ${tiles.length} tiles`,
      puts: [...tiles, ...(keepWhole ? [] : [{ ...piece.record, on: false }])],
      removes: left.map(({ id }) => id),
      selected: tiles.map(({ id }) => id),
    };
  },
});
