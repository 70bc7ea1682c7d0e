import { pieceRecord } from '../pieces/pieces';
import type { Check } from './check';

export const nothingInside: Check = {
  name: 'nothing-inside',
  plural: 'have nothing inside',
  about: 'Nothing visible lies in a piece that becomes files.',
  example: 'An artboard whose only layer is hidden.',
  look: ({ piece, leaves, files }) =>
    files.length > 0 && leaves.length === 0 && !piece.problem
      ? [{ severity: 'warning', message: 'nothing is in it', mend: 'Switch it off' }]
      : [],
  mend({ pieceId }, { doc }) {
    const record = pieceRecord(doc, pieceId);
    return record?.on ? { label: `switch off ${record.name}`, puts: [{ ...record, on: false }], removes: [] } : null;
  },
};
