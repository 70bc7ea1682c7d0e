import type { ProjectDocument } from '../document/document';
import type { Change } from '../document/edits';
import { pieceRecord } from '../pieces/pieces';
import type { Finding } from './check';

/** The mend that leaves out the file that a finding is about; null when it is left out, or there is none. */
export function leaveOut({ pieceId, outputId }: Finding, doc: ProjectDocument): Change | null {
  const record = pieceRecord(doc, pieceId);
  if (!record || outputId === undefined || record.offOutputIds.includes(outputId)) return null;
  return {
    label: `leave a file of ${record.name} out`,
    puts: [{ ...record, offOutputIds: [...record.offOutputIds, outputId] }],
    removes: [],
  };
}
