import { printNumber } from '../geometry/matrix';
import type { Check } from './check';

const isMultiple = (value: number, of: number) => Math.abs(value / of - Math.round(value / of)) < 1e-6;

export const offMultiple: Check = {
  name: 'off-multiple',
  plural: 'are no multiple of the grid',
  about: 'The size of an artboard is no multiple of the grid that the project is drawn on.',
  example: 'An artboard of 24 × 23 px on a grid of 4.',
  look({ piece: { record } }, { doc }) {
    const { gridPx } = doc.settings;
    if (record.kind !== 'artboard' || record.follows || gridPx <= 1) return [];
    const { width, height } = record;
    if (isMultiple(width, gridPx) && isMultiple(height, gridPx)) return [];
    return [
      {
        severity: 'warning',
        message: `${printNumber(width, 3)} × ${printNumber(height, 3)} is no multiple of ${printNumber(gridPx)}`,
        mend: 'Widen to the grid',
      },
    ];
  },
  mend({ pieceId }, { doc }) {
    const artboard = doc.find('artboard', pieceId);
    if (!artboard) return null;
    const { gridPx } = doc.settings;
    const up = (value: number) => Math.ceil(value / gridPx - 1e-6) * gridPx;
    return {
      label: `widen ${artboard.name} to the grid`,
      puts: [{ ...artboard, width: up(artboard.width), height: up(artboard.height) }],
      removes: [],
    };
  },
};
