import * as z from 'zod';
import { resizeArtboard } from '../../arrange/hold';
import { cutFrom } from '../../arrange/slices';
import { refuse } from '../../basics/problem';
import { COORDINATE_LIMIT, type ProjectRecord } from '../../document/records';
import { sliceRegion } from '../../pieces/pieces';
import { regionOf } from '../../pieces/placements';
import { defineAct } from '../act';
import { chosenPieces } from '../doing/chosen';

const place = z.number().min(-COORDINATE_LIMIT).max(COORDINATE_LIMIT).optional();
const side = z.number().positive().max(COORDINATE_LIMIT).optional();

export const setRect = defineAct({
  name: 'set-rect',
  title: 'Place and size of a piece',
  group: 'Pieces',
  needs: 'pieces',
  /** In px of the plane; what is not said stays. Layers that hold to an artboard's edges go along. */
  settings: z.object({ x: place, y: place, width: side, height: side }),
  nothing: 'All have that place and size already',
  run: (doc, { selection }, fields) => {
    const chosen = chosenPieces(doc, selection);
    const puts = chosen.flatMap((piece): ProjectRecord[] => {
      if (piece.kind === 'artboard') {
        const rect = { ...regionOf(piece), ...fields };
        const same = Object.entries(regionOf(piece)).every(
          ([name, value]) => rect[name as keyof typeof rect] === value,
        );
        return same ? [] : resizeArtboard(doc, piece, rect);
      }
      const region = piece.kind === 'slice' ? sliceRegion(doc, piece) : '';
      if (piece.kind === 'edition' || typeof region === 'string')
        return refuse('rect.none', `${piece.name} has no place of its own`, {
          accepted: 'artboards, and slices of a region',
        });
      // The numbers of a drawn region are those within its margin; what followed a layer is cut from where it stood.
      return piece.source.kind === 'region'
        ? [{ ...piece, source: { ...piece.source, ...fields } }]
        : [cutFrom(piece, { ...region, ...fields })];
    });
    return { label: `resize ${chosen.length === 1 ? chosen[0].name : `${chosen.length} pieces`}`, puts, removes: [] };
  },
});
