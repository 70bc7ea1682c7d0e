import * as z from 'zod';
import { subjectOf } from '../../checks/acceptance';
import { defineAct } from '../act';
import { finding } from './accept-findings';

export const lookAgain = defineAct({
  name: 'look-again',
  title: 'Look at accepted findings again',
  group: 'Files',
  needs: 'nothing',
  settings: z.object({ findings: z.array(finding).min(1).max(20_000) }),
  nothing: 'None of them was accepted',
  run: (doc, _intent, { findings }) => {
    const meant = new Set(findings.map(subjectOf));
    const removes = doc.list('acceptance').flatMap((each) => (meant.has(subjectOf(each)) ? [each.id] : []));
    return { label: 'look at a finding again', puts: [], removes };
  },
});
