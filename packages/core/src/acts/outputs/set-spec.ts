import * as z from 'zod';
import { recordId, recordName, specRecord } from '../../document/records';
import { defineAct } from '../act';
import { differing } from '../editions/differing';
import { specOf } from './output-of';

const { about, drawnAtScale, letterCase } = specRecord.shape;
const LABELS = {
  name: 'rename spec',
  about: 'what is said of',
  drawnAtScale: 'drawing scale of',
  letterCase: 'letters of',
};

export const setSpec = defineAct({
  name: 'set-spec',
  title: 'Change a spec',
  group: 'Files',
  needs: 'nothing',
  /** What is not said stays. */
  settings: z.object({
    specId: recordId,
    name: recordName.optional(),
    about: about.unwrap().optional(),
    drawnAtScale: drawnAtScale.unwrap().optional(),
    letterCase: letterCase.unwrap().optional(),
  }),
  nothing: 'It is so already',
  run: (doc, _intent, { specId, ...said }) => {
    const spec = specOf(doc, specId);
    const [what] = Object.keys(said) as (keyof typeof LABELS)[];
    const label = `${what ? LABELS[what] : 'change'} ${spec.name}`;
    return { label, puts: differing(doc, [{ ...spec, ...said }]), removes: [] };
  },
});
