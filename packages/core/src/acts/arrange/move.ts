import * as z from 'zod';
import { moveArtboards, movedSlice } from '../../arrange/move';
import { outermost } from '../../arrange/outermost';
import { transformLayers } from '../../arrange/transform';
import type { ProjectDocument } from '../../document/document';
import { COORDINATE_LIMIT, type ProjectRecord } from '../../document/records';
import { translate } from '../../geometry/matrix';
import { defineAct, type Intent } from '../act';
import { chosenArtboards, chosenSlices, nameOfChosen } from '../doing/chosen';
import { movedAsSeen } from '../doing/seen';

const step = z.number().min(-COORDINATE_LIMIT).max(COORDINATE_LIMIT);

/**
 * Artboards, slices and layers moved by dx, dy px: artboards with what lies on them when artwork is carried, layers in
 * the base or only in the edition that changes go to.
 */
export function moved(doc: ProjectDocument, intent: Intent, dx: number, dy: number): ProjectRecord[] {
  const { selection, carry } = intent;
  const boards = moveArtboards(doc, chosenArtboards(doc, selection), dx, dy, carry);
  const along = new Set(boards.map((record) => record.id));
  const layers = outermost(doc, selection)
    .filter((layer) => !layer.locked && !along.has(layer.id))
    .map((layer) => layer.id);
  return [
    ...boards,
    ...movedAsSeen(doc, intent, layers, (seen) => transformLayers(seen, layers, translate(dx, dy))),
    ...chosenSlices(doc, selection).flatMap((slice) => movedSlice(slice, dx, dy)),
  ];
}

export const move = defineAct({
  name: 'move',
  title: 'Move by px',
  group: 'Arrange',
  needs: 'anything',
  settings: z.object({ dx: step.default(0), dy: step.default(0) }),
  nothing: 'Nothing there can be moved: it is locked, or follows what it was cut from',
  run: (doc, intent, { dx, dy }) => ({
    label: `move ${nameOfChosen(doc, intent.selection)}`,
    puts: dx || dy ? moved(doc, intent, dx, dy) : [],
    removes: [],
  }),
});
