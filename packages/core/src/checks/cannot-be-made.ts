import { lostInWords } from '../pieces/lost';
import { pieceRecord } from '../pieces/pieces';
import type { Check } from './check';
import { leaveOut } from './leave-out';

export const cannotBeMade: Check = {
  name: 'cannot-be-made',
  plural: 'cannot be made',
  about: 'A file is larger than one may be, or its piece has nothing to show.',
  example: 'A slice whose layer was deleted; a PNG 100,000 px wide.',
  look({ piece, files }) {
    if (piece.problem)
      return [{ severity: 'error', message: piece.problem, mend: piece.on ? 'Switch it off' : undefined }];
    // That is told by a check of its own, once for the piece.
    const lost = lostInWords(piece.record);
    return files
      .filter((file) => file.problem && file.problem !== lost)
      .map((file) => ({
        severity: 'error' as const,
        outputId: file.outputId,
        message: file.problem as string,
        mend: 'Leave that file out',
      }));
  },
  mend(finding, { doc }) {
    if (finding.outputId) return leaveOut(finding, doc);
    const record = pieceRecord(doc, finding.pieceId);
    return record ? { label: `switch off ${record.name}`, puts: [{ ...record, on: false }], removes: [] } : null;
  },
};
