import * as z from 'zod';
import { recordId, settingsRecord } from '../../document/records';
import { defineAct } from '../act';
import { differing } from '../editions/differing';
import { specOf } from '../outputs/output-of';

const { naming, folders, letterCase, numberDigits, gridPx } = settingsRecord.shape;

export const setProject = defineAct({
  name: 'set-project',
  title: 'Settings of the project',
  group: 'Files',
  needs: 'nothing',
  /** How files are named, the grid that is drawn on, the spec of new pieces; what is not said stays. */
  settings: z.object({
    naming: naming.unwrap().optional(),
    folders: folders.unwrap().optional(),
    letterCase: letterCase.unwrap().optional(),
    numberDigits: numberDigits.unwrap().optional(),
    gridPx: gridPx.unwrap().optional(),
    defaultSpecId: recordId.nullable().optional(),
  }),
  nothing: 'It is so already',
  run: (doc, _intent, said) => {
    const { defaultSpecId, gridPx: grid } = said;
    const label = defaultSpecId
      ? `${specOf(doc, defaultSpecId).name} for new pieces`
      : grid !== undefined
        ? 'change the grid'
        : 'change how files are named';
    return { label, puts: differing(doc, [{ ...doc.settings, ...said }]), removes: [] };
  },
});
