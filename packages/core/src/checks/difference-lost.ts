import { lostDifferences, lostInWords } from '../pieces/lost';
import { pieceRecord } from '../pieces/pieces';
import type { Check } from './check';

export const differenceLost: Check = {
  name: 'difference-lost',
  plural: 'differ in layers that are gone',
  about:
    'An edition differs from its base in a layer that went when the artwork was replaced, and would silently be the base there.',
  example: 'An edition with other words, whose text is not in the drawing that came back.',
  look({ piece }) {
    const message = lostInWords(piece.record);
    return message ? [{ severity: 'error', message, mend: 'Take them out' }] : [];
  },
  mend({ pieceId }, { doc }) {
    const edition = pieceRecord(doc, pieceId);
    if (edition?.kind !== 'edition') return null;
    const overrides = { ...edition.overrides };
    for (const { layerId } of lostDifferences(edition)) delete overrides[layerId];
    return { label: `take lost differences out of ${edition.name}`, puts: [{ ...edition, overrides }], removes: [] };
  },
};
