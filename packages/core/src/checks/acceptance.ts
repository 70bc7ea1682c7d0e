import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import type { Acceptance } from '../document/records';
import type { Finding } from './check';

/** What a finding says of what, as one string: while it stays the same, so does its acceptance. */
export const subjectOf = ({
  check,
  pieceId,
  outputId = '',
  message,
}: Pick<Finding, 'check' | 'pieceId' | 'outputId' | 'message'>): string =>
  [check, pieceId, outputId, message].join('\n');

/** The record that says why a finding is all right. */
export const acceptanceOf = (
  { check, pieceId, outputId, message }: Pick<Finding, 'check' | 'pieceId' | 'outputId' | 'message'>,
  reason: string,
): Acceptance => ({
  id: newId(),
  kind: 'acceptance',
  check,
  pieceId,
  ...(outputId && { outputId }),
  message,
  reason: reason.trim() || 'as it should be',
});

/** Findings, those that somebody accepted marked with the reason. An error cannot be accepted: it holds the export up. */
export function withAcceptances(doc: ProjectDocument, findings: readonly Finding[]): Finding[] {
  const list = doc.list('acceptance');
  if (list.length === 0) return [...findings];
  const reasons = new Map(list.map((acceptance) => [subjectOf(acceptance), acceptance.reason]));
  return findings.map((finding) => {
    const accepted = finding.severity === 'error' ? undefined : reasons.get(subjectOf(finding));
    return accepted === undefined ? finding : { ...finding, accepted };
  });
}
