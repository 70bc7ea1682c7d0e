import * as z from 'zod';
import { acceptanceOf, subjectOf } from '../../checks/acceptance';
import { acceptanceRecord } from '../../document/records';
import { defineAct } from '../act';

const { check, pieceId, outputId, message, reason } = acceptanceRecord.shape;
/** A finding as the checks say it. */
export const finding = z.object({ check, pieceId, outputId, message });

export const acceptFindings = defineAct({
  name: 'accept-findings',
  title: 'Accept findings',
  group: 'Files',
  needs: 'nothing',
  /** As the checks say them, and why they are all right; each holds until what it says changes. */
  settings: z.object({ findings: z.array(finding).min(1).max(20_000), reason: reason.default('as it should be') }),
  nothing: 'They are accepted already',
  run: (doc, _intent, { findings, reason: why }) => {
    const before = new Map(doc.list('acceptance').map((each) => [subjectOf(each), each.reason]));
    const puts = findings
      .filter((each) => before.get(subjectOf(each)) !== why)
      .map((each) => acceptanceRecord.parse(acceptanceOf(each, why)));
    return {
      label: findings.length === 1 ? 'accept a finding' : `accept ${findings.length} findings`,
      puts,
      removes: [],
    };
  },
});
