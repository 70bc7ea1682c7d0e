import { wholePixels } from '../arrange/artboards';
import { printNumber } from '../geometry/matrix';
import type { Check } from './check';

export const offGrid: Check = {
  name: 'off-grid',
  plural: 'lie between pixels',
  about: 'A piece starts or ends between pixels, so its files look soft.',
  example: 'An artboard at x 41.25.',
  look({ piece: { region, record } }) {
    if (record.kind === 'edition' || (record.kind === 'slice' && record.source.kind !== 'region')) return [];
    const sides = [
      ['starts at x', region.x],
      ['starts at y', region.y],
      ['ends at x', region.x + region.width],
      ['ends at y', region.y + region.height],
    ] as const;
    const off = sides.find(([, value]) => Math.abs(value - Math.round(value)) > 1e-6);
    return off
      ? [
          {
            severity: 'warning',
            message: `${off[0]} ${printNumber(off[1], 3)}, between pixels`,
            ...(record.kind === 'artboard' && { mend: 'Whole pixels' }),
          },
        ]
      : [];
  },
  mend({ pieceId }, { doc }) {
    const artboard = doc.find('artboard', pieceId);
    const puts = artboard ? wholePixels([artboard]) : [];
    return puts.length > 0 ? { label: `whole pixels for ${puts[0].name}`, puts, removes: [] } : null;
  },
};
