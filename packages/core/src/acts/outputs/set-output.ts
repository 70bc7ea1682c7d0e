import * as z from 'zod';
import { outputRecord, recordId } from '../../document/records';
import { outputSettings } from '../../formats';
import { sizeRule } from '../../geometry/sizes';
import { outputTitle } from '../../plan/output-words';
import { defineAct } from '../act';
import { differing } from '../editions/differing';
import { outputOf } from './output-of';

const { suffix, folder, recolour, background, room, square } = outputRecord.shape;

export const setOutput = defineAct({
  name: 'set-output',
  title: 'Change an output',
  group: 'Files',
  needs: 'nothing',
  /** What is not said stays; `settings` are those of a format, whole. */
  settings: z.object({
    outputId: recordId,
    on: z.boolean().optional(),
    size: sizeRule.optional(),
    background: background.unwrap().optional(),
    room: room.unwrap().optional(),
    square: square.unwrap().optional(),
    suffix: suffix.unwrap().optional(),
    folder: folder.unwrap().optional(),
    recolour: recolour.unwrap().optional(),
    settings: outputSettings.optional(),
  }),
  nothing: 'It is so already',
  run: (doc, _intent, { outputId, ...said }) => {
    const { output } = outputOf(doc, outputId);
    const title = outputTitle(output);
    const label = said.on === undefined ? `change ${title}` : `switch ${title} ${said.on ? 'on' : 'off'}`;
    return { label, puts: differing(doc, [outputRecord.parse({ ...output, ...said })]), removes: [] };
  },
});
