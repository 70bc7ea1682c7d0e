import { centreArtwork } from '../arrange/artboards';
import { centreOfMass } from '../artwork/bounds/mass';
import { printNumber } from '../geometry/matrix';
import type { Check } from './check';

/** Share of a side by which the middle of what is painted may be off before it is worth a word. */
const NOTICEABLE = 0.12;
/** Larger pieces are layouts, not icons. */
const LARGEST_ICON_PX = 128;

export const offCentre: Check = {
  name: 'off-centre',
  plural: 'carry their weight off the middle',
  about:
    'The middle of what is painted, by area, is well off the middle of a small artboard. Often meant, sometimes not.',
  example: 'A dot near the corner of an icon.',
  look({ piece: { record, region }, leaves }, { doc }) {
    if (record.kind !== 'artboard' || record.follows || Math.max(region.width, region.height) > LARGEST_ICON_PX)
      return [];
    const middle = centreOfMass(doc, leaves);
    if (!middle) return [];
    const dx = middle.x - region.x - region.width / 2;
    const dy = middle.y - region.y - region.height / 2;
    const across = Math.abs(dx) / region.width;
    const down = Math.abs(dy) / region.height;
    if (Math.max(across, down) < NOTICEABLE) return [];
    const words =
      across > down
        ? `${printNumber(Math.abs(dx), 1)} px ${dx < 0 ? 'left' : 'right'} of`
        : `${printNumber(Math.abs(dy), 1)} px ${dy < 0 ? 'above' : 'below'}`;
    return [{ severity: 'hint', message: `its weight lies ${words} the middle`, mend: 'Centre artwork' }];
  },
  mend({ pieceId }, { doc }) {
    const artboard = doc.find('artboard', pieceId);
    const puts = artboard ? centreArtwork(doc, [artboard]) : [];
    return artboard && puts.length > 0 ? { label: `centre artwork on ${artboard.name}`, puts, removes: [] } : null;
  },
};
