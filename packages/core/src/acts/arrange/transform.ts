import * as z from 'zod';
import { outermost } from '../../arrange/outermost';
import { matrix } from '../../geometry/matrix';
import { defineAct } from '../act';
import { nameOfChosen } from '../doing/chosen';
import { shapedAsSeen } from '../doing/seen';

export const transform = defineAct({
  name: 'transform',
  title: 'Transform layers',
  group: 'Arrange',
  needs: 'layers',
  /** A matrix as SVG has it, which acts on px of the plane; what is said of it is for people who undo it. */
  settings: z.object({ matrix, verb: z.enum(['transform', 'resize', 'turn']).default('transform') }),
  nothing: 'What is selected is locked, or stays as it is',
  run: (doc, { selection, shown }, { matrix: onPlane, verb }) => ({
    label: `${verb} ${nameOfChosen(doc, selection)}`,
    puts: shapedAsSeen(
      doc,
      shown,
      outermost(doc, selection).map(({ id }) => id),
      onPlane,
    ),
    removes: [],
  }),
});
